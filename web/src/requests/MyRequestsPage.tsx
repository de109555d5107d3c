import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { answer, api, type Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { MyComplaints } from '../portal/MyComplaints';
import { PortalFrame } from '../portal/PortalFrame';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { lastDay, tellDate, tellDay } from '../shell/times';
import { MySuggestions } from '../suggestions/MySuggestions';
import { words } from '../words/en';
import { Answered } from './forms/Answered';
import { Steps } from './Steps';
import { Thread, useThread, WaitsForAnswer } from './Thread';

const TAGS: Record<string, string> = {
  waiting: 'wait',
  asked_back: 'wait',
  given: 'calm',
  refused: 'loss',
};

/** Where one's own requests stand. */
export function MyRequestsPage() {
  const mine = useQuery({
    queryKey: ['my', 'requests'],
    queryFn: () => answer(api.GET('/api/my/requests')),
  });
  return (
    <PortalFrame>
      <PageHeading>{words.portal.requests}</PageHeading>
      {mine.error ? (
        <Failure error={mine.error} again={() => mine.refetch()} />
      ) : mine.data === undefined ? (
        <Loading what={words.portal.requests} />
      ) : mine.data.requests.length === 0 ? (
        <Empty
          title={words.requests.none}
          action={
            <Link className="btn btn-primary" to="/ask">
              {words.portal.ask}
            </Link>
          }
        >
          {words.requests.noneHelp}
        </Empty>
      ) : (
        mine.data.requests.map((request) => <Mine key={request.id} request={request} />)
      )}
      <MySuggestions />
      <MyComplaints />
    </PortalFrame>
  );
}

function Mine({ request }: { request: Schemas['RequestView'] }) {
  const { zone, signed } = useSession();
  const own = request.person.id === signed.person;
  const queries = useQueryClient();
  const open = request.stage === 'waiting' || request.stage === 'asked_back';
  const over = !open && request.stage !== 'given';
  const [wanted, setWanted] = useState(false);
  // What was said while the page is open comes in sight as well.
  const talks = wanted || (open && request.messages > 0);
  const place = useRef<HTMLElement>(null);
  // An email leads to one of them by its number; it is not there yet when the browser looks for it.
  useEffect(() => {
    if (window.location.hash === `#${request.number}`) {
      place.current?.scrollIntoView?.();
    }
  }, [request.number]);
  const thread = useThread(['my', 'requests', request.id], request.id, talks);
  const withdraw = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/requests/{id}/withdraw', { params: { path: { id: request.id } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['my'] }),
  });
  return (
    <article
      ref={place}
      className="sheet mine"
      id={request.number}
      aria-labelledby={`r-${request.id}`}
    >
      <header>
        <Picture
          name={request.entitlement.app.picture}
          hue={request.entitlement.app.hue}
          size={34}
        />
        <h2 id={`r-${request.id}`}>{request.entitlement.title}</h2>
        <span className={`tag ${TAGS[request.stage] ?? ''}`}>
          {words.requests.stages[request.stage]}
        </span>
        <span className="mono dim">{request.number}</span>
        <span className="dim small" title={request.asked}>
          {tellDate(request.asked)}
        </span>
      </header>
      {request.person.id !== request.asker.id && (
        <p>
          {own
            ? words.requests.askedByOther(request.asker.name)
            : words.requests.askedForOther(request.person.name)}
        </p>
      )}
      <p className="said">“{request.reason}”</p>
      <Answered answers={request.answers} />
      {thread.data !== undefined && <WaitsForAnswer id={request.id} thread={thread.data} />}
      <Steps steps={request.steps} since={request.from} own={own} />
      <p className="dim small">
        {request.endedEarly
          ? words.requests.endedEarly
          : request.stage === 'given' && request.ends !== null
            ? (new Date(request.ends).getTime() < Date.now()
                ? words.requests.ended
                : words.requests.endsItself)(tellDay(lastDay(zone, request.ends)))
            : open && request.lapses !== null
              ? words.requests.lapses(tellDate(request.lapses))
              : ''}
        {open &&
          request.lastDay !== null &&
          ` ${words.requests.askedUntil(tellDay(request.lastDay))}`}
      </p>
      {talks && <Thread id={request.id} thread={thread} />}
      {(open || over || request.messages > 0) && (
        <div className="bar">
          {open && (
            <Button
              variant="outline-primary"
              size="sm"
              disabled={withdraw.isPending}
              onClick={() => withdraw.mutate()}
            >
              {words.requests.withdraw}
            </Button>
          )}
          {!talks && (open || request.messages > 0) && (
            <Button variant="link" size="sm" onClick={() => setWanted(true)}>
              {request.messages === 0
                ? words.requests.write
                : words.requests.messages(request.messages)}
            </Button>
          )}
          {over && (
            <Link
              className="small"
              to={`/ask/${request.entitlement.id}${own ? '' : `?for=${request.person.id}`}`}
            >
              {words.requests.askAgain}
            </Link>
          )}
        </div>
      )}
      <ProblemNote error={withdraw.error} />
    </article>
  );
}
