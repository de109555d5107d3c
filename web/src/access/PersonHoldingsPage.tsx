import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useParams } from 'react-router';
import { DepartureDialog } from '../departures/DepartureDialog';
import { DirectoryTabs } from '../directory/Tabs';
import { Drafted } from '../drafts/Drafted';
import { PersonUse } from '../holdings/UseOverTimePage';
import { useAddress } from '../shell/addresses';
import { Head } from '../shell/Head';
import { DeskLink, useLens } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { words } from '../words/en';
import { HoldingMargin, heldFigures, PersonHoldings, usePersonHoldings } from './PersonHoldings';

/** What one person holds, for those who may not see the whole record too. */
export function PersonHoldingsPage() {
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
      <Head
        kind={words.people.one}
        heading={
          <PageHeading
            title={
              person === undefined ? undefined : `${person.displayed} · ${words.access.holdings}`
            }
          >
            {person?.displayed ?? words.access.holdings}
          </PageHeading>
        }
        lead={
          person !== undefined && (
            <>
              {words.people.does(person.title ?? '', person.unit ?? '', person.site ?? '')}{' '}
              {has('people.read') && (
                <DeskLink className="small" to={`/desk/people/${id}`}>
                  {words.access.record}
                </DeskLink>
              )}
            </>
          )
        }
        figures={holdings.data === undefined ? [] : heldFigures(holdings.data.held)}
      />
      <Drafted of={id} />
      <div className="split">
        <div className="parts">
          <PersonHoldings id={id} />
          {(has('use.read') || signed.person === id) && day === undefined && <PersonUse id={id} />}
        </div>
        <aside className="margin" aria-label={words.access.why}>
          {chosen === '' ? (
            <p className="dim">{words.access.chooseOne}</p>
          ) : (
            <HoldingMargin person={id} entitlement={chosen} />
          )}
          {holdings.data?.mayDepart && (
            <>
              <h3>{words.holdings.do}</h3>
              <Button variant="outline-danger" onClick={() => setDeparting(true)}>
                {words.departures.begin}
              </Button>
            </>
          )}
        </aside>
      </div>
      {departing && person !== undefined && (
        <DepartureDialog id={id} name={person.displayed} onClose={() => setDeparting(false)} />
      )}
    </>
  );
}
