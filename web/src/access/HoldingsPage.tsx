import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useParams } from 'react-router';
import { DepartureDialog } from '../departures/DepartureDialog';
import { DirectoryTabs } from '../directory/Tabs';
import { Drafted } from '../drafts/Drafted';
import { PersonUse } from '../holdings/UsePage';
import { useAddress } from '../shell/addresses';
import { DeskLink, useLens } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { words } from '../words/en';
import { HoldingMargin, PersonHoldings, usePersonHoldings } from './PersonHoldings';

/** What one person holds, for those who may not see the whole record too. */
export function HoldingsPage() {
  const id = useParams().id ?? '';
  const [get] = useAddress();
  const { has, signed } = useSession();
  const { day } = useLens();
  const holdings = usePersonHoldings(id);
  const [departing, setDeparting] = useState(false);
  const person = holdings.data?.person;
  const chosen = get('holding') || holdings.data?.held[0]?.entitlement.id || '';
  return (
    <>
      {has('people.read') && <DirectoryTabs />}
      <header>
        <PageHeading
          title={
            person === undefined ? undefined : `${person.familyFirst} · ${words.access.holdings}`
          }
        >
          {person?.familyFirst ?? words.access.holdings}
        </PageHeading>
        {person !== undefined && (
          <span className="dim">
            {[person.title, person.unit, person.site].filter(Boolean).join(', ')}
          </span>
        )}
        {has('people.read') && (
          <DeskLink className="small" to={`/desk/people/${id}`}>
            {words.access.record}
          </DeskLink>
        )}
        <span className="grow" />
        {holdings.data?.mayDepart && (
          <Button variant="outline-danger" onClick={() => setDeparting(true)}>
            {words.departures.begin}
          </Button>
        )}
      </header>
      <Drafted of={id} />
      <div className="split">
        <div className="stacked">
          <PersonHoldings id={id} />
          {(has('use.read') || signed.person === id) && day === undefined && <PersonUse id={id} />}
        </div>
        <aside className="margin" aria-label={words.access.why}>
          {chosen === '' ? (
            <p className="dim">{words.access.chooseOne}</p>
          ) : (
            <HoldingMargin person={id} entitlement={chosen} />
          )}
        </aside>
      </div>
      {departing && person !== undefined && (
        <DepartureDialog id={id} name={person.displayed} onClose={() => setDeparting(false)} />
      )}
    </>
  );
}
