import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate, useParams } from 'react-router';
import { RulePage } from '../access/rules/RulesPage';
import { answer, api, type Schemas } from '../api/client';
import { DraftPage } from '../drafts/DraftPage';
import { Sign } from '../pictures/Picture';
import { useAddress } from '../shell/addresses';
import { isTyping } from '../shell/keys';
import { DeskLink, useDeskAddress, useLens } from '../shell/lens';
import { PageHeading, Within } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { dayIn, lastDay, tellDay, tellShortDay } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { ComplaintCase } from './ComplaintCase';
import { addressOf, bySpan, type Decided, type Fold, neighbour, wordOf } from './due';
import { LeavingCase } from './LeavingCase';
import { ParkedCase } from './ParkedCase';
import { RequestCase } from './RequestCase';
import { SuggestionCase } from './SuggestionCase';

/** What waits for a decision: left the list, right the case with its evidence. */
export function DocketPage() {
  const { kind, id } = useParams();
  const [get, set] = useAddress();
  const { zone } = useSession();
  const { day } = useLens();
  const navigate = useNavigate();
  const address = useDeskAddress();
  const all = get('all') === 'true';
  const [decided, setDecided] = useState<Decided>();
  const docket = useQuery({
    queryKey: ['docket', all],
    queryFn: () => answer(api.GET('/api/docket', { params: { query: { all } } })),
  });
  const folds = docket.data?.folds ?? [];
  const spans = bySpan(folds, zone, new Date());
  const order = spans.flatMap(([, some]) => some);
  const open = order.find((fold) =>
    fold.cases.some((one) => wordOf(one.kind) === kind && one.id === id),
  );
  const apartKind = LASTING.find((one) => wordOf(one) === kind);
  const shown = id === undefined ? order[0] : open;

  // What waits for somebody else, or is over, is not in the list; its address still shows it.
  const apart = useQuery({
    queryKey: ['case', id],
    queryFn: () => answer(api.GET('/api/requests/{id}', { params: { path: { id: id ?? '' } } })),
    enabled: kind === 'request' && docket.data !== undefined && open === undefined,
  });
  const about = shown?.cases[0];

  const go = (fold: Fold | undefined) => {
    const query = all ? '?all=true' : '';
    navigate(address(fold === undefined ? `/desk/docket${query}` : addressOf(fold) + query));
  };

  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) {
        return;
      }
      const step = { j: 1 as const, k: -1 as const }[event.key.toLowerCase()];
      const next = step === undefined ? undefined : neighbour(order, shown, step);
      if (next !== undefined) {
        go(next);
      }
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  });

  // A case is read from its head, however far down the one before was read.
  const at = shown === undefined ? undefined : addressOf(shown);
  useLayoutEffect(() => {
    if (at !== undefined) {
      window.scrollTo(0, 0);
    }
  }, [at]);

  if (docket.error) {
    return <Failure error={docket.error} again={() => docket.refetch()} />;
  }
  if (docket.data === undefined) {
    return <Loading what={words.docket.title} lines={12} />;
  }
  const following = neighbour(order, shown, 1);
  const next = following ?? neighbour(order, shown, -1);
  const onDecided = (what: Decided | undefined) => {
    setDecided(what);
    go(next);
  };
  const title =
    id === undefined
      ? undefined
      : shown !== undefined && about !== undefined
        ? headline(shown, about)
        : apart.data === undefined
          ? undefined
          : words.docket.asksFor(
              apart.data.request.asker.name,
              apart.data.request.entitlement.title,
              apart.data.request.person.id === apart.data.request.asker.id
                ? null
                : apart.data.request.person.name,
            );
  const place = shown === undefined ? 0 : order.indexOf(shown) + 1;
  return (
    <div className={id === undefined ? 'docket' : 'docket open'}>
      <section className="waiting-list" aria-label={words.docket.title}>
        <header>
          <PageHeading title={title === undefined ? undefined : `${title} · ${words.docket.title}`}>
            {words.docket.title}
          </PageHeading>
          <span role="status">
            <b>{words.docket.forYou(docket.data.forMe)}</b>
          </span>
          {docket.data.mayStepIn && (
            <button
              type="button"
              className="switch"
              aria-pressed={all}
              onClick={() => set({ all: all ? '' : 'true' })}
            >
              {words.docket.allOpen(docket.data.all)}
            </button>
          )}
          {docket.data.mayStepIn && <DeskLink to="/desk/requests">{words.figures.link}</DeskLink>}
        </header>
        {day !== undefined && <p className="dim small">{words.shell.noPast}</p>}
        {spans.map(([span, some]) => (
          <div key={span}>
            <h2 className="span">
              {words.docket.spans[span]}
              <span className="mono">
                {words.count(some.reduce((sum, fold) => sum + fold.cases.length, 0))}
              </span>
            </h2>
            <ul className="plain">
              {some.map((fold) => (
                <Line key={addressOf(fold)} fold={fold} on={fold === shown} all={all} />
              ))}
            </ul>
          </div>
        ))}
      </section>
      <Within.Provider value={true}>
        <section className="case" aria-label={words.docket.case}>
          <nav className="case-bar" aria-label={words.docket.title}>
            <DeskLink to={`/desk/docket${all ? '?all=true' : ''}`}>‹ {words.docket.title}</DeskLink>
            {place > 0 && <span className="mono">{words.docket.place(place, order.length)}</span>}
            <span className="grow" />
            {following !== undefined && (
              <DeskLink to={addressOf(following) + (all ? '?all=true' : '')}>
                {words.docket.nextCase} ›
              </DeskLink>
            )}
          </nav>
          {decided !== undefined && (
            <TakeBack
              key={decided.until}
              decided={decided}
              onOver={() => setDecided(undefined)}
              onBack={() => {
                setDecided(undefined);
                navigate(
                  address(`/desk/docket/request/${decided.ids[0]}${all ? '?all=true' : ''}`),
                );
              }}
            />
          )}
          {shown !== undefined ? (
            <Shown key={addressOf(shown)} fold={shown} onDecided={onDecided} />
          ) : apartKind === undefined || id === undefined ? (
            <Empty title={words.docket.empty}>{words.docket.emptyHelp}</Empty>
          ) : (
            // It waits for somebody else, or is over: its address still shows it.
            <Shown key={id} kind={apartKind} id={id} onDecided={onDecided} />
          )}
        </section>
      </Within.Provider>
    </div>
  );
}

type Kind = Schemas['CaseLine']['kind'];

const SIGNS: Record<Kind, string> = {
  REQUEST: 'asks',
  LEAVING: 'leaves',
  DRAFT: 'notebook',
  RULE: 'barricade',
  SUGGESTION: 'handshake',
  COMPLAINT: 'megaphone',
  LEDGER: 'barricade',
  PARKED: 'wrench',
};

/** What is still shown by its address when it is not on the docket, or not any more. */
const LASTING: Kind[] = ['REQUEST', 'DRAFT', 'SUGGESTION', 'COMPLAINT'];

/** A case with its evidence, each kind in its own way. */
function Shown({
  fold,
  kind = fold?.cases[0]?.kind,
  id = fold?.cases[0]?.id ?? '',
  onDecided,
}: {
  fold?: Fold;
  kind?: Kind;
  id?: string;
  onDecided: (what: Decided | undefined) => void;
}): ReactNode {
  const over = () => onDecided(undefined);
  switch (kind) {
    case 'REQUEST':
      return (
        <RequestCase fold={fold} id={fold === undefined ? id : undefined} onDecided={onDecided} />
      );
    case 'DRAFT':
      return <DraftPage id={id} />;
    case 'RULE':
      return (
        <div>
          <RulePage id={id} />
        </div>
      );
    case 'SUGGESTION':
      return <SuggestionCase id={id} onDecided={over} />;
    case 'COMPLAINT':
      return <ComplaintCase id={id} onDecided={over} />;
    case 'LEDGER': {
      const found = fold?.cases[0];
      return found?.kind === 'LEDGER' ? <LedgerCase found={found} /> : null;
    }
    case 'PARKED':
      return <ParkedCase id={id} onDecided={over} />;
    case 'LEAVING':
      return <LeavingCase id={id} />;
    case undefined:
      return null;
  }
}

/** What the check of the ledger found, and what to do about it. */
function LedgerCase({ found }: { found: Schemas['DifferingLine'] }) {
  return (
    <>
      <h2 className="title">{words.docket.ledgerDiffers}</h2>
      <p>{found.why}</p>
      <p className="dim">{words.docket.ledgerHelp(found.entries)}</p>
      <DeskLink to="/desk/ledger">{words.docket.toLedger}</DeskLink>
    </>
  );
}

/** What the tray may cover at the foot of the page, in pixels. */
const TRAY = 48;

function Line({ fold, on, all }: { fold: Fold; on: boolean; all: boolean }) {
  const { zone } = useSession();
  const place = useRef<HTMLLIElement>(null);
  useEffect(() => {
    const list = place.current?.closest('.waiting-list');
    if (on && place.current && list) {
      const [line, seen] = [place.current.getBoundingClientRect(), list.getBoundingClientRect()];
      const foot = Math.min(seen.bottom, window.innerHeight - TRAY);
      list.scrollTop += Math.min(0, line.top - seen.top) || Math.max(0, line.bottom - foot);
    }
  }, [on]);
  const first = fold.cases[0];
  if (first === undefined) {
    return null;
  }
  return (
    <li ref={place} className={on ? 'on' : undefined}>
      <DeskLink
        to={addressOf(fold) + (all ? '?all=true' : '')}
        aria-current={on ? 'true' : undefined}
      >
        <Sign name={SIGNS[first.kind]} />
        <span className="head">
          <b>{headline(fold, first)}</b>
          {fold.cases.length > 1 ? (
            <span className="tag">{words.docket.alike(fold.cases.length)}</span>
          ) : first.kind === 'REQUEST' && first.askedBack ? (
            <span className="tag wait">{words.docket.askedBack}</span>
          ) : (
            <Due at={fold.due} zone={zone} kind={first.kind} />
          )}
        </span>
        <span className="sub">{subline(fold, first)}</span>
      </DeskLink>
    </li>
  );
}

function headline(fold: Fold, first: Schemas['CaseLine']): string {
  switch (first.kind) {
    case 'LEDGER':
      return words.docket.ledgerDiffers;
    case 'PARKED':
      return words.parked.tasks[first.task] ?? words.parked.kind;
    case 'LEAVING':
      return words.docket.leaves(first.who.displayed);
    case 'REQUEST':
      return fold.cases.length === 1
        ? first.asker === null
          ? words.docket.asks(first.who.displayed, first.what.app.name)
          : words.docket.askedFor(first.who.displayed, first.what.app.name)
        : fold.cases.some((one) => one.kind === 'REQUEST' && one.asker !== null)
          ? words.docket.manyFor(fold.cases.length, first.what.app.name)
          : words.docket.manyAsk(fold.cases.length, first.what.app.name);
    case 'DRAFT':
    case 'RULE':
    case 'SUGGESTION':
    case 'COMPLAINT':
      return first.name;
  }
}

function subline(fold: Fold, first: Schemas['CaseLine']): string {
  switch (first.kind) {
    case 'SUGGESTION':
      return fold.cases.length === 1
        ? words.docket.suggests(first.who.displayed)
        : words.docket.manySuggest(fold.cases.length);
    case 'LEDGER':
      return words.docket.checkedUpTo(first.entries);
    case 'COMPLAINT':
      return words.docket.reported(first.who.displayed);
    case 'RULE':
      return words.docket.breached(first.people);
    case 'DRAFT':
      return first.stage === 'held'
        ? words.docket.holdsItself
        : words.docket.asksYes(first.who.displayed);
    case 'LEAVING':
      return words.docket.endsWith(first.holdings, first.lone);
    case 'PARKED':
      return words.parked.line(first.who?.displayed ?? '', first.attempts);
    case 'REQUEST':
      return [
        ...(first.asker === null || fold.cases.length > 1
          ? []
          : [words.docket.askedBy(first.asker)]),
        ...(first.behalf === null ? [] : [words.requests.forWhom(first.behalf)]),
        first.what.name,
        first.until === null ? words.access.noEnd : words.access.until(tellDay(first.until)),
        fold.cases.length === 1
          ? [first.who.unit, first.who.site].filter(Boolean).join(', ')
          : words.docket.sameForm,
      ].join(' · ');
  }
}

function Due({ at, zone, kind }: { at: string; zone: string; kind: Kind }) {
  const day = lastDay(zone, at);
  const today = day === dayIn(zone, new Date());
  const past = new Date(at).getTime() < Date.now();
  const when = today ? words.docket.today : tellShortDay(day);
  return (
    <span className={`tag ${past ? 'loss' : today ? 'wait' : ''}`} title={at}>
      {kind === 'LEAVING'
        ? words.docket.ends(when)
        : kind === 'PARKED'
          ? words.docket.failed(when)
          : words.docket.by(when)}
    </span>
  );
}

function TakeBack({
  decided,
  onOver,
  onBack,
}: {
  decided: Decided;
  onOver: () => void;
  onBack: () => void;
}) {
  const [left, setLeft] = useState(() => Math.ceil((decided.until - Date.now()) / 1000));
  const over = useRef(onOver);
  over.current = onOver;
  useEffect(() => {
    const timer = setInterval(() => {
      const now = Math.ceil((decided.until - Date.now()) / 1000);
      setLeft(now);
      if (now <= 0) {
        over.current();
      }
    }, 250);
    return () => clearInterval(timer);
  }, [decided]);
  const back = useAct(
    async () => {
      const { lines } = await answer(
        api.POST('/api/requests/take-backs', { body: { requests: decided.ids } }),
      );
      const wrong = lines.find((line) => line.problems.length > 0);
      if (wrong !== undefined) {
        throw new Error(wrong.problems.map((one) => one.sentence).join(' '));
      }
    },
    onBack,
    words.docket.takeBack,
  );
  return (
    <div className="note calm taken" role="status">
      {decided.sentence}{' '}
      <Button variant="link" disabled={back.isPending} onClick={() => back.mutate()}>
        {words.docket.takeBack}
      </Button>{' '}
      <span className="dim small" aria-hidden>
        {words.docket.left(Math.max(0, left))}
      </span>
      <ProblemNote error={back.error} />
    </div>
  );
}
