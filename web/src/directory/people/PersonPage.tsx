import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useParams } from 'react-router';
import {
  HoldingMargin,
  heldFigures,
  PersonHoldings,
  usePersonHoldings,
} from '../../access/PersonHoldings';
import { answer, api, Problem, repeatKey, type Schemas } from '../../api/client';
import { DepartureDialog } from '../../departures/DepartureDialog';
import { ActDialog } from '../../drafts/ActDialog';
import { Drafted } from '../../drafts/Drafted';
import { PersonUse } from '../../holdings/UseOverTimePage';
import { ChangeLines } from '../../ledger/ChangeLines';
import { Deputies } from '../../requests/Deputies';
import { useAddress } from '../../shell/addresses';
import { Head } from '../../shell/Head';
import { DeskLink, useLens } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { useSession } from '../../shell/session';
import { Failure, Loading, ProblemNote } from '../../shell/states';
import { TextField } from '../../shell/TextField';
import { tellDate, tellDay, tellTime } from '../../shell/times';
import { useAct } from '../../shell/useAct';
import { words } from '../../words/en';
import { PickThings } from '../groups/PickThings';
import { DirectoryTabs } from '../Tabs';
import { AttributeList, GroupChains, StatusTag } from './PersonParts';

export function PersonPage() {
  const id = useParams().id ?? '';
  const { asOf } = useLens();
  const page = useQuery({
    queryKey: ['person', id, asOf],
    queryFn: () =>
      answer(api.GET('/api/people/{id}', { params: { path: { id }, query: { asOf } } })),
  });
  return (
    <>
      <DirectoryTabs />
      {page.error ? (
        <Failure error={page.error} again={() => page.refetch()} />
      ) : page.data === undefined ? (
        <Loading what={words.people.title} lines={12} />
      ) : (
        <Whole page={page.data} past={asOf !== undefined} />
      )}
    </>
  );
}

function Whole({ page, past }: { page: Schemas['PersonPage']; past: boolean }) {
  const { person } = page;
  const [get, set] = useAddress();
  const { has } = useSession();
  const [departing, setDeparting] = useState(false);
  const holdings = usePersonHoldings(person.id);
  const seen =
    holdings.data !== undefined ||
    !(holdings.error instanceof Problem && holdings.error.view.status === 404);
  const chosen = get('holding');
  const value = (name: string) =>
    person.attributes
      .find((one) => one.name === name)
      ?.values.map((one) => one.text)
      .join(', ') ?? '';
  return (
    <>
      <Head
        kind={
          <>
            {words.people.one}
            {person.sources[0] !== undefined && (
              <>
                {' · '}
                <span className="mono">{person.sources[0].key}</span>
              </>
            )}
          </>
        }
        heading={<PageHeading>{person.displayed}</PageHeading>}
        lead={
          <>
            {words.people.does(value('title'), value('unit'), value('site'))}{' '}
            <StatusTag status={person.status} />{' '}
            <span className="dim small">
              <span title={person.since}>{words.people.since(tellDate(person.since))}</span>
              {person.stated !== null &&
                `; ${words.people.stated(person.status, tellDay(person.stated))}`}
              {person.until !== null &&
                person.next !== null &&
                `; ${words.people.follows(words.people.statuses[person.next] ?? person.next, tellDate(person.until))}`}
            </span>
          </>
        }
        figures={holdings.data === undefined ? [] : heldFigures(holdings.data.held)}
      />
      <Drafted of={person.id} />
      <div className="split">
        <div className="parts">
          {seen && <PersonHoldings id={person.id} />}
          <section className="part" aria-labelledby="person-data">
            <h2 id="person-data">{words.people.onRecord}</h2>
            <AttributeList person={person} />
          </section>
          <section className="part" aria-labelledby="person-groups">
            <h2 id="person-groups">{words.people.groups}</h2>
            <p className="dim small">{words.people.groupsHelp}</p>
            <GroupChains groups={person.groups} linked none={words.people.noGroups} />
          </section>
          {has('requests.step-in') && !past && person.status !== 'departed' && (
            <Deputies
              person={person.id}
              name={person.displayed}
              pick={(label, chosen, onChange) => (
                <PickThings label={label} chosen={chosen} onChange={onChange} />
              )}
            />
          )}
          {has('use.read') && !past && <PersonUse id={person.id} />}
          <History id={person.id} />
        </div>
        <aside className="margin" aria-label={person.displayed}>
          {chosen !== '' && (
            <>
              <Button variant="link" onClick={() => set({ holding: '' })}>
                {words.access.closeWhy}
              </Button>
              <HoldingMargin person={person.id} entitlement={chosen} />
            </>
          )}
          <Facts person={person} account={page.account} />
          <h3>{words.people.source}</h3>
          {person.sources.length === 0 ? (
            <p>{person.erased ? words.people.wasErased : words.people.byHand}</p>
          ) : (
            <ul className="plain">
              {person.sources.map((source) => (
                <li key={source.id + source.key}>
                  {words.people.sourceLine(source.name, source.key)}
                  <div className="dim small">{words.people.since(tellDate(source.since))}</div>
                </li>
              ))}
            </ul>
          )}
          {person.leads > 0 && <p className="room-above">{words.people.leads(person.leads)}</p>}
          {person.status === 'departed' && (has('departures.run') || has('ledger.read')) && (
            <SlipLink id={person.id} />
          )}
          {!past && !person.erased && (
            <Account page={page}>
              {holdings.data?.mayDepart && (
                <Button variant="outline-danger" onClick={() => setDeparting(true)}>
                  {words.departures.begin}
                </Button>
              )}
            </Account>
          )}
        </aside>
      </div>
      {departing && (
        <DepartureDialog
          id={person.id}
          name={person.displayed}
          onClose={() => setDeparting(false)}
        />
      )}
    </>
  );
}

/** The way to the slip, where the departure was run here and not learnt from a source. */
function SlipLink({ id }: { id: string }) {
  const slip = useQuery({
    queryKey: ['departure', 'slip', id],
    queryFn: () => answer(api.GET('/api/departures/{id}', { params: { path: { id } } })),
  });
  return slip.data === undefined ? null : (
    <p>
      <DeskLink to={`/desk/departures/${id}`}>{words.departures.slip}</DeskLink>
    </p>
  );
}

/** Who somebody is, in the few lines that are wanted first. */
function Facts({ person, account }: { person: Schemas['PersonView']; account: boolean }) {
  const told = FACTS.flatMap(
    (name) => person.attributes.find((attribute) => attribute.name === name) ?? [],
  );
  return (
    <dl className="pair facts">
      {told.map((attribute) => (
        <div key={attribute.name} className="contents">
          <dt>{attribute.label}</dt>
          <dd>
            {attribute.values.map((one, index) => (
              <span key={one.text}>
                {index > 0 && ', '}
                {attribute.name === 'mail' ? (
                  <Breakable text={one.text} at="@" />
                ) : one.person === null ? (
                  one.text
                ) : (
                  <DeskLink to={`/desk/people/${one.person}`}>{one.text}</DeskLink>
                )}
              </span>
            ))}
          </dd>
        </div>
      ))}
      <dt>{words.people.account}</dt>
      <dd>{account ? words.people.hasAccount : words.people.noAccount}</dd>
    </dl>
  );
}

/** A text that may go on in the next line before a character. */
function Breakable({ text, at }: { text: string; at: string }) {
  const place = text.indexOf(at);
  return place < 1 ? (
    text
  ) : (
    <>
      {text.slice(0, place)}
      <wbr />
      {text.slice(place)}
    </>
  );
}

/** What the margin tells of somebody, in this order; the rest stands on record below. */
const FACTS = ['manager', 'employment', 'mail', 'phone', 'userName'];

function Account({ page, children }: { page: Schemas['PersonPage']; children: ReactNode }) {
  const { has } = useSession();
  const { person } = page;
  const [erasing, setErasing] = useState(false);
  const departed = person.status === 'departed';
  const may = (has('people.edit') || has('signin.help')) && !departed;
  return (
    <>
      <h3>{words.holdings.do}</h3>
      {may && !page.account && (
        <AccountAct
          person={person}
          path="/api/people/{id}/invitation"
          label={words.people.invite}
          done={words.people.invited}
        />
      )}
      {may && page.account && (
        <>
          <AccountAct
            person={person}
            path="/api/people/{id}/password-reset"
            label={words.people.reset}
            done={words.people.resetSent}
          />
          <AccountAct
            person={person}
            path="/api/people/{id}/end-sessions"
            label={words.people.endSessions}
            done={words.people.sessionsEnded}
          />
        </>
      )}
      {departed && has('people.edit') && (
        <Button variant="outline-danger" onClick={() => setErasing(true)}>
          {words.people.erase}
        </Button>
      )}
      {children}
      {erasing && <EraseDialog person={person} onClose={() => setErasing(false)} />}
    </>
  );
}

type AccountPath =
  | '/api/people/{id}/invitation'
  | '/api/people/{id}/password-reset'
  | '/api/people/{id}/end-sessions';

/** A button for one act on an account; pressed again before an answer came, it is the same act. */
function AccountAct({
  person,
  path,
  label,
  done,
}: {
  person: Schemas['PersonView'];
  path: AccountPath;
  label: string;
  done: (name: string) => string;
}) {
  const [key, setKey] = useState(repeatKey);
  const act = useAct(
    () =>
      answer(
        api.POST(path, {
          params: { path: { id: person.id }, header: { 'Idempotency-Key': key } },
        }),
      ),
    () => setKey(repeatKey()),
  );
  return (
    <div className="room-below">
      <Button variant="outline-primary" disabled={act.isPending} onClick={() => act.mutate()}>
        {label}
      </Button>
      <div role="status">{act.isSuccess && done(person.displayed)}</div>
      <ProblemNote error={act.error} />
    </div>
  );
}

function EraseDialog({ person, onClose }: { person: Schemas['PersonView']; onClose: () => void }) {
  const [reason, setReason] = useState('');
  const [key] = useState(repeatKey);
  const erase = useAct(
    () =>
      answer(
        api.POST('/api/people/{id}/erasure', {
          params: { path: { id: person.id }, header: { 'Idempotency-Key': key } },
          body: { reason },
        }),
      ),
    onClose,
  );
  return (
    <ActDialog
      title={words.people.eraseTitle(person.displayed)}
      act={words.people.erase}
      danger
      disabled={erase.isPending}
      error={erase.error}
      fields={['reason']}
      onAct={() => erase.mutate()}
      onClose={onClose}
    >
      <p>{words.people.eraseHelp}</p>
      <TextField
        id="erase-reason"
        label={words.people.eraseReason}
        help={words.people.eraseReasonHelp}
        value={reason}
        onChange={setReason}
        wrong={erase.error instanceof Problem ? erase.error.field('reason') : undefined}
      />
    </ActDialog>
  );
}

function History({ id }: { id: string }) {
  const { has } = useSession();
  const history = useQuery({
    queryKey: ['history', id],
    queryFn: () => answer(api.GET('/api/people/{id}/history', { params: { path: { id } } })),
  });
  return (
    <section className="part" aria-labelledby="person-history">
      <h2 id="person-history">{words.people.history}</h2>
      {history.error ? (
        <Failure error={history.error} again={() => history.refetch()} />
      ) : history.data === undefined ? (
        <Loading what={words.people.history} lines={4} />
      ) : (
        history.data.map((line) => (
          <div key={line.position} className="act">
            <div>
              <b>{words.ledger.actors[line.actorName] ?? line.actorName}</b>{' '}
              {words.ledger.acts[line.act]}{' '}
              <span className="dim" title={line.instant}>
                {tellTime(line.instant)}
              </span>{' '}
              {has('ledger.read') && (
                <DeskLink className="small" to={`/desk/ledger/${line.position}`}>
                  {words.people.entry(line.position)}
                </DeskLink>
              )}
            </div>
            {line.reason !== null && <div className="dim">“{line.reason}”</div>}
            <ChangeLines changes={line.changes} at={line.instant} of={id} />
          </div>
        ))
      )}
    </section>
  );
}
