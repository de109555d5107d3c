import { useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, raw, type Schemas } from '../api/client';
import { useAddress } from '../shell/addresses';
import { DateInput } from '../shell/DateInput';
import { save } from '../shell/download';
import { FindField } from '../shell/FindField';
import { DeskLink, useLens } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { useFresh } from '../shell/PasswordAgain';
import { useSession } from '../shell/session';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { Table } from '../shell/Table';
import { isDay, tellTime } from '../shell/times';
import { words } from '../words/en';

const PAGE = 50;

type Act = Schemas['EntryLine']['act'];

/** What can be asked for. */
const ACTS = Object.keys(words.ledger.acts) as Act[];

/** What an act is about: each name once, and whoever did it only where nothing else is named. */
function about(line: Schemas['EntryLine']): string {
  const names = [...new Set(line.objects.map((object) => object.name))];
  const others = names.filter((name) => name !== line.actorName);
  return (others.length === 0 ? names : others).join(', ');
}

/** The record of all acts, newest first. */
export function LedgerPage() {
  const [get, set] = useAddress();
  const { has } = useSession();
  const { day } = useLens();
  const fresh = useFresh();
  const find = useDeferredValue(get('find'));
  const act = ACTS.find((one) => one === get('act'));
  const from = isDay(get('from')) ? get('from') : undefined;
  const until = isDay(get('until')) ? get('until') : undefined;
  const entries = useInfiniteQuery({
    queryKey: ['ledger', find, act, from, until],
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) =>
      answer(
        api.GET('/api/ledger', {
          params: {
            query: { find, act, from, until, before: pageParam, limit: PAGE },
          },
        }),
      ),
    getNextPageParam: (last) =>
      last.lines.length < PAGE ? undefined : last.lines[last.lines.length - 1]?.position,
  });
  const check = useMutation({ mutationFn: () => answer(api.POST('/api/ledger/check')) });
  const take = useMutation({
    mutationFn: () =>
      fresh(async () => {
        const response = await raw('/api/ledger/export', { method: 'POST' });
        const name = /filename="([^"]+)"/.exec(response.headers.get('Content-Disposition') ?? '');
        save(name?.[1] ?? 'ledger.jsonl', await response.blob());
      }),
  });
  const key = useMutation({
    mutationFn: async () => {
      const response = await raw('/api/ledger/key', { method: 'GET' });
      save('ledger-key.pem', await response.blob());
    },
  });
  const lines = entries.data?.pages.flatMap((page) => page.lines) ?? [];
  const first = entries.data?.pages[0];
  return (
    <>
      <header>
        <PageHeading>{words.ledger.title}</PageHeading>
        <span className="dim">{first !== undefined && words.ledger.total(first.position)}</span>
        <span className="grow" />
        <Button variant="outline-primary" disabled={check.isPending} onClick={() => check.mutate()}>
          {words.ledger.check}
        </Button>
        {has('ledger.export') && (
          <Button variant="outline-primary" disabled={take.isPending} onClick={() => take.mutate()}>
            {words.ledger.export}
          </Button>
        )}
        <Button variant="outline-primary" onClick={() => key.mutate()}>
          {words.ledger.key}
        </Button>
      </header>
      {day !== undefined && <p className="dim">{words.shell.noPast}</p>}
      {first?.limited && <p className="dim small">{words.shell.limited}</p>}
      <search className="bar">
        <FindField label={words.ledger.find} className="broad" />
        <Form.Select
          className="middling"
          aria-label={words.ledger.act}
          value={act ?? ''}
          onChange={(event) => set({ act: event.target.value })}
        >
          <option value="">{words.ledger.anyAct}</option>
          {ACTS.map((one) => (
            <option key={one} value={one}>
              {words.ledger.acts[one]}
            </option>
          ))}
        </Form.Select>
        <label htmlFor="ledger-from">{words.ledger.fromDay}</label>
        <DateInput
          named={words.ledger.fromDay}
          id="ledger-from"
          value={get('from')}
          onChange={(day) => set({ from: day })}
        />
        <label htmlFor="ledger-until">{words.ledger.untilDay}</label>
        <DateInput
          named={words.ledger.untilDay}
          id="ledger-until"
          value={get('until')}
          onChange={(day) => set({ until: day })}
        />
      </search>
      <div role="status">
        {check.isPending && words.ledger.checking}
        {check.data !== undefined && (
          <div className={check.data.why === null ? 'note calm' : 'note loss'}>
            {check.data.why === null
              ? words.ledger.intact(check.data.entries, check.data.erased)
              : check.data.broken === null
                ? words.ledger.differs(check.data.entries, check.data.why)
                : words.ledger.broken(check.data.broken, check.data.why)}
          </div>
        )}
      </div>
      <ProblemNote error={check.error ?? take.error ?? key.error} />
      {entries.error ? (
        <Failure error={entries.error} again={() => entries.refetch()} />
      ) : entries.data === undefined ? (
        <Loading what={words.ledger.title} lines={12} />
      ) : lines.length === 0 ? (
        <Empty title={words.ledger.nothing} />
      ) : (
        <div className="scroll">
          <Table>
            <thead>
              <tr>
                <th scope="col" className="num">
                  {words.ledger.position}
                </th>
                <th scope="col">{words.ledger.when}</th>
                <th scope="col">{words.ledger.who}</th>
                <th scope="col">{words.ledger.act}</th>
                <th scope="col">{words.ledger.what}</th>
                <th scope="col">{words.ledger.why}</th>
                <th scope="col" className="num">
                  {words.ledger.changes}
                </th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line) => (
                <tr key={line.position}>
                  <td className="num">
                    <DeskLink to={`/desk/ledger/${line.position}`}>{line.position}</DeskLink>
                  </td>
                  <td className="nowrap" title={line.instant}>
                    {tellTime(line.instant)}
                  </td>
                  <td className="nowrap">
                    {words.ledger.actors[line.actorName] ?? line.actorName}
                  </td>
                  <td className="act">{words.ledger.acts[line.act]}</td>
                  <td className="about">
                    {about(line)}
                    {line.objectsTotal > line.objects.length && (
                      <span className="dim">
                        {' '}
                        {words.ledger.others(line.objectsTotal - line.objects.length)}
                      </span>
                    )}
                  </td>
                  <td>{line.reason}</td>
                  <td className={line.changes === 0 ? 'num dim' : 'num'}>
                    {words.count(line.changes)}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          {entries.hasNextPage && (
            <div className="bar room-above">
              <Button
                variant="outline-primary"
                disabled={entries.isFetchingNextPage}
                onClick={() => entries.fetchNextPage()}
              >
                {words.ledger.older}
              </Button>
            </div>
          )}
        </div>
      )}
    </>
  );
}
