import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useParams } from 'react-router';
import { answer, api, type Schemas } from '../../api/client';
import { Drafted } from '../../drafts/Drafted';
import { type Figure, Head } from '../../shell/Head';
import { DeskLink, useLens } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { Failure, Loading } from '../../shell/states';
import { words } from '../../words/en';
import { EditOwners } from '../EditOwners';
import { DirectoryTabs } from '../Tabs';
import { AddMembers } from './AddMembers';
import { FilterPart } from './GroupFilter';
import { Members } from './Members';
import { RenameOrEnd } from './RenameOrEnd';
import { type Leaving, TakeOutDialog } from './TakeOutDialog';

type Group = Schemas['GroupPage'];

export function GroupPage() {
  const id = useParams().id ?? '';
  const { asOf } = useLens();
  const page = useQuery({
    queryKey: ['group', id, asOf],
    queryFn: () =>
      answer(api.GET('/api/groups/{id}', { params: { path: { id }, query: { asOf } } })),
  });
  return (
    <>
      <DirectoryTabs />
      {page.error ? (
        <Failure error={page.error} again={() => page.refetch()} />
      ) : page.data === undefined ? (
        <Loading what={words.groups.title} lines={12} />
      ) : (
        <Whole group={page.data} />
      )}
    </>
  );
}

function Whole({ group }: { group: Group }) {
  return (
    <>
      <Head
        kind={words.groups.one}
        heading={<PageHeading>{group.name}</PageHeading>}
        lead={
          group.source === null
            ? words.groups.formLines[group.form]
            : words.groups.mirrored(group.source)
        }
        figures={figuresOf(group)}
      />
      <Drafted of={group.id} />
      <div className="split">
        <div className="column">
          {group.filter !== null && <FilterPart group={group} filter={group.filter} />}
          {group.mayFill && <AddMembers group={group} />}
          <Members group={group} />
        </div>
        <aside className="margin" aria-label={group.name}>
          <h3>{words.groups.nested}</h3>
          <NestedGroups group={group} />
          <h3>{words.groups.parents}</h3>
          {group.parents.length === 0 ? (
            <p className="dim">{words.groups.noParents}</p>
          ) : (
            <ul className="plain">
              {group.parents.map((parent) => (
                <li key={parent.id}>
                  <DeskLink to={`/desk/groups/${parent.id}`}>{parent.name}</DeskLink>
                </li>
              ))}
            </ul>
          )}
          <h3>{words.groups.owners}</h3>
          <EditOwners
            owners={group.owners}
            may={group.mayEdit}
            none={words.groups.noOwners}
            save={(base, owners) =>
              answer(
                api.PUT('/api/groups/{id}/owners', {
                  params: { path: { id: group.id } },
                  body: { base, owners },
                }),
              )
            }
          />
          {group.mandates.length > 0 && (
            <>
              <h3>{words.groups.leadsTo}</h3>
              <p>{group.mandates.join(', ')}</p>
            </>
          )}
          {group.mayEdit && <RenameOrEnd group={group} />}
        </aside>
      </div>
    </>
  );
}

function figuresOf(group: Group): Figure[] {
  return [
    { n: words.count(group.people), of: words.groups.figures.people(group.people) },
    ...(group.departed > 0
      ? [{ n: words.count(group.departed), of: words.groups.figures.departed }]
      : []),
    ...(group.unreached > 0
      ? [{ n: words.count(group.unreached), of: words.groups.figures.unreached }]
      : []),
  ];
}

function NestedGroups({ group }: { group: Group }) {
  const [taking, setTaking] = useState<Leaving>();
  if (group.groups.length === 0) {
    return <p className="dim">{words.groups.noNested}</p>;
  }
  return (
    <>
      <ul className="plain">
        {group.groups.map((nested) => (
          <li key={nested.id}>
            <DeskLink to={`/desk/groups/${nested.id}`}>{nested.name}</DeskLink>{' '}
            <span className="dim small">
              {words.groups.people(nested.people)}, {words.groups.forms[nested.form]}
            </span>{' '}
            {group.mayFill && (
              <Button
                variant="link"
                className="small"
                aria-label={words.groups.take(nested.name)}
                onClick={() => setTaking({ kind: 'group', id: nested.id, name: nested.name })}
              >
                {words.groups.takeOut}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {taking !== undefined && (
        <TakeOutDialog group={group} member={taking} onClose={() => setTaking(undefined)} />
      )}
    </>
  );
}
