import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useParams } from 'react-router';
import { answer, api, type Schemas } from '../api/client';
import { DirectoryTabs } from '../directory/Tabs';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { Failure, Loading } from '../shell/states';
import { tellTime } from '../shell/times';
import { words } from '../words/en';
import { OwnedList } from './OwnedList';

/** The slip of a departure: every step, and what stays without effect. */
export function SlipPage() {
  const id = useParams().id ?? '';
  const { has } = useSession();
  const slip = useQuery({
    queryKey: ['departure', 'slip', id],
    queryFn: () => answer(api.GET('/api/departures/{id}', { params: { path: { id } } })),
  });
  if (slip.error) {
    return <Failure error={slip.error} again={() => slip.refetch()} />;
  }
  if (slip.data === undefined) {
    return <Loading what={words.departures.slip} />;
  }
  const { person, at, by, position } = slip.data;
  return (
    <>
      {has('people.read') && <DirectoryTabs />}
      <header>
        <PageHeading>{words.departures.slipOf(person.displayed)}</PageHeading>
        {at !== null && (
          <span className="dim" title={at}>
            {words.departures.done(tellTime(at), by)}
          </span>
        )}
        {position !== null && has('ledger.read') && (
          <DeskLink className="small" to={`/desk/ledger/${position}`}>
            {words.people.entry(position)}
          </DeskLink>
        )}
        {has('people.read') && (
          <DeskLink className="small" to={`/desk/people/${person.id}`}>
            {person.familyFirst}
          </DeskLink>
        )}
      </header>
      <div className="sheet">
        <SlipLines slip={slip.data} />
      </div>
    </>
  );
}

/** What a departure comes to, part by part. */
export function SlipLines({
  slip,
  heading = 'h2',
  ahead = false,
}: {
  slip: Schemas['SlipView'];
  heading?: 'h2' | 'h3';
  /** Whether what is lost is foreseen beside it, and need not be told here. */
  ahead?: boolean;
}) {
  const done = slip.at !== null;
  return (
    <div className="slip">
      {!ahead && (
        <Part
          heading={heading}
          title={words.departures.lost(slip.lost.length, done)}
          items={slip.lost}
        />
      )}
      <Part
        heading={heading}
        title={words.departures.grants(slip.grants.length, done)}
        items={slip.grants}
      />
      <Part
        heading={heading}
        title={words.departures.memberships(slip.memberships.length, done)}
        items={slip.memberships.map((group) => group.name)}
      />
      <Part
        heading={heading}
        title={words.departures.mandates(slip.mandates.length, done)}
        items={slip.mandates}
      />
      {(slip.requests > 0 || slip.sessions > 0) && (
        <p>
          {slip.requests > 0 && `${words.departures.requests(slip.requests, done)} `}
          {slip.sessions > 0 && words.departures.sessions(slip.sessions)}
        </p>
      )}
      <Part
        heading={heading}
        title={words.departures.idle}
        items={[
          ...slip.mirrored.map((group) => words.departures.mirrored(group.name)),
          ...slip.byFilter.map((group) => words.departures.byFilter(group.name)),
        ]}
      />
      {slip.filterGrants.length > 0 && (
        <p>{words.departures.filterGrants(slip.filterGrants.join(', '))}</p>
      )}
      {slip.lone.length > 0 && (
        <Part heading={heading} title={words.departures.lone}>
          <OwnedList things={slip.lone} />
        </Part>
      )}
    </div>
  );
}

function Part({
  heading: Heading,
  title,
  items = [],
  children,
}: {
  heading: 'h2' | 'h3';
  title: string;
  items?: string[];
  children?: ReactNode;
}) {
  if (items.length === 0 && children === undefined) {
    return null;
  }
  return (
    <section>
      <Heading>{title}</Heading>
      {children ?? (
        <ul className="named">
          {items.map((item, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the same title may stand twice
            <li key={index}>{item}</li>
          ))}
        </ul>
      )}
    </section>
  );
}
