import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api } from '../api/client';
import { DepartureDialog } from '../departures/DepartureDialog';
import { OwnedList } from '../departures/OwnedList';
import { DeskLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { Failure, Loading } from '../shell/states';
import { lastDay, tellDay } from '../shell/times';
import { words } from '../words/en';

/** Someone whose last day is near: what ends by itself, and what stays without anyone for it. */
export function LeavingCase({ id }: { id: string }) {
  const { zone } = useSession();
  const [running, setRunning] = useState(false);
  const found = useQuery({
    queryKey: ['case', 'leaving', id],
    queryFn: () => answer(api.GET('/api/docket/leaving/{id}', { params: { path: { id } } })),
  });
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.docket.case} />;
  }
  const { who, at, holdings, lone } = found.data;
  return (
    <>
      <header>
        <div className="dim small">{words.docket.leavingKind}</div>
        <h2 className="title">{words.docket.leaves(who.displayed)}</h2>
        <p className="said" title={at}>
          {words.docket.leavesAt(tellDay(lastDay(zone, at)))}
        </p>
      </header>
      <div className="evidence">
        <section className="sheet">
          <h3>{words.docket.byItself}</h3>
          <p>{words.docket.endsAll(holdings)}</p>
          <DeskLink to={`/desk/people/${id}/holdings`}>{words.docket.seeHoldings}</DeskLink>
        </section>
        <section className="sheet">
          <h3>{words.departures.lone}</h3>
          {lone.length === 0 ? (
            <p className="dim">{words.departures.noLone}</p>
          ) : (
            <OwnedList things={lone} owner={id} />
          )}
        </section>
      </div>
      <div className="decide sheet">
        <Button variant="outline-danger" onClick={() => setRunning(true)}>
          {words.departures.early}
        </Button>
      </div>
      {running && (
        <DepartureDialog id={id} name={who.displayed} onClose={() => setRunning(false)} />
      )}
    </>
  );
}
