import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { answer, api, repeatKey, type Schemas } from '../api/client';
import { PortalFrame } from '../portal/PortalFrame';
import { DropFile } from '../shell/DropFile';
import { saveCsv } from '../shell/download';
import { PageHeading } from '../shell/PageHeading';
import { ProblemNote } from '../shell/states';
import { tellDay } from '../shell/times';
import { words } from '../words/en';

const COLUMNS = ['person', 'entitlement', 'last day', 'reason'];

/** How many are sent in one go: few enough that one sees it go on. */
const AT_ONCE = 50;

/** How many lines are shown before one asks for more. */
const SHOWN = 200;

type Line = Schemas['SheetLine'];

/** What became of a line; nothing where it was not sent yet. */
type Fate = { sent: boolean; why: string };

/** Asking for many by a CSV file: read first, sent when it was seen what each line comes to. */
export function AskManyPage() {
  const [lines, setLines] = useState<Line[]>();
  const [file, setFile] = useState(0);
  const read = useMutation({
    mutationFn: (chosen: File) =>
      answer(
        api.POST('/api/requests/sheet', {
          headers: { 'Content-Type': 'application/octet-stream' },
          // The file is the body as it is.
          bodySerializer: () => chosen,
          body: chosen,
        } as never),
      ) as Promise<Schemas['SheetView']>,
    onSuccess: (sheet) => {
      setLines(sheet.lines);
      setFile(file + 1);
    },
  });
  return (
    <PortalFrame>
      <PageHeading>{words.requests.many}</PageHeading>
      <p className="dim">{words.requests.manyHelp}</p>
      <p className="dim small">
        {words.requests.manyColumns}{' '}
        <Button variant="link" size="sm" onClick={() => saveCsv('ask-for-many', [COLUMNS])}>
          {words.requests.manyTemplate}
        </Button>
      </p>
      <DropFile
        title={read.isPending ? words.requests.manyReading : words.requests.manyDrop}
        choose={lines === undefined ? words.requests.manyChoose : words.requests.manyOther}
        busy={read.isPending}
        onFile={(chosen) => read.mutate(chosen)}
      />
      <ProblemNote error={read.error} />
      {lines !== undefined && <Sheet key={file} lines={lines} />}
    </PortalFrame>
  );
}

function Sheet({ lines }: { lines: Line[] }) {
  const queries = useQueryClient();
  const good = lines.filter((line) => line.wrong.length === 0);
  const [key] = useState(repeatKey);
  const [fates, setFates] = useState<ReadonlyMap<number, Fate>>(new Map());
  const send = useMutation({
    mutationFn: async () => {
      // What was sent before the line was lost is not sent again; its key would make it harmless.
      for (let from = fates.size; from < good.length; from += AT_ONCE) {
        const some = good.slice(from, from + AT_ONCE);
        const sent = await answer(
          api.POST('/api/requests/many', {
            params: { header: { 'Idempotency-Key': `${key}-${from}` } },
            body: {
              requests: some.map((line) => ({
                person: line.person?.id ?? null,
                entitlement: line.entitlement?.id ?? '',
                until: line.until,
                reason: line.reason,
                answers: line.answers,
              })),
            },
          }),
        );
        setFates((before) => {
          const after = new Map(before);
          some.forEach((line, at) => {
            const problems = sent.lines[at]?.problems ?? [];
            after.set(line.line, {
              sent: problems.length === 0,
              why: problems.map((problem) => problem.sentence).join(' '),
            });
          });
          return after;
        });
      }
    },
    onSettled: async () => {
      await queries.invalidateQueries({ queryKey: ['my'] });
      await queries.invalidateQueries({ queryKey: ['askable'] });
    },
  });
  const sent = [...fates.values()].filter((fate) => fate.sent).length;
  const left = good.length - fates.size;
  return (
    <>
      <p aria-live="polite">
        {good.length === 0
          ? words.requests.manyNone
          : send.isPending
            ? words.requests.manySending(fates.size, good.length)
            : left === 0
              ? words.requests.manyDone(sent)
              : words.requests.manyGood(good.length, lines.length)}{' '}
        {left === 0 && good.length > 0 && <Link to="/requests">{words.portal.requests}</Link>}
      </p>
      <ProblemNote error={send.error} />
      {left > 0 && (
        <p>
          <Button disabled={send.isPending} onClick={() => send.mutate()}>
            {fates.size === 0
              ? words.requests.sendMany(good.length)
              : words.requests.manyGoOn(left)}
          </Button>
        </p>
      )}
      <Lines lines={lines} fates={fates} />
    </>
  );
}

/** What is wrong stands first. */
function Lines({ lines, fates }: { lines: Line[]; fates: ReadonlyMap<number, Fate> }) {
  const [limit, setLimit] = useState(SHOWN);
  const order = [...lines].sort(
    (a, b) => Number(a.wrong.length === 0) - Number(b.wrong.length === 0) || a.line - b.line,
  );
  return (
    <>
      <table className="plain">
        <caption className="visually-hidden">{words.requests.manyLines}</caption>
        <thead>
          <tr>
            <th scope="col">{words.requests.manyLine}</th>
            <th scope="col">{words.requests.manyPerson}</th>
            <th scope="col">{words.requests.manyEntitlement}</th>
            <th scope="col">{words.requests.manyUntil}</th>
            <th scope="col">{words.requests.manyReason}</th>
            <th scope="col">{words.requests.manyState}</th>
          </tr>
        </thead>
        <tbody>
          {order.slice(0, limit).map((line) => (
            <tr key={line.line}>
              <td className="num" data-head={words.requests.manyLine}>
                {line.line}
              </td>
              <td data-head={words.requests.manyPerson}>
                {line.person?.name ?? line.wantedPerson}
              </td>
              <td data-head={words.requests.manyEntitlement}>
                {line.entitlement?.title ?? line.wantedEntitlement}
              </td>
              <td data-head={words.requests.manyUntil}>
                {line.until !== null
                  ? tellDay(line.until)
                  : // A day that could not be read is not "no end".
                    line.wrong.length === 0
                    ? words.shell.noEnd
                    : ''}
              </td>
              <td data-head={words.requests.manyReason}>{line.reason}</td>
              <td data-head={words.requests.manyState}>
                <State line={line} fate={fates.get(line.line)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {order.length > limit && (
        <p className="bar room-above-more">
          <Button variant="outline-primary" onClick={() => setLimit(limit + SHOWN)}>
            {words.requests.more(order.length - limit)}
          </Button>
        </p>
      )}
    </>
  );
}

function State({ line, fate }: { line: Line; fate: Fate | undefined }) {
  const why = fate === undefined ? line.wrong.join(' ') : fate.why;
  if (why !== '') {
    return <span className="wrong">{why}</span>;
  }
  return fate?.sent === true ? (
    <span className="tag calm">{words.requests.manySent}</span>
  ) : (
    <span className="dim">{words.requests.manyWillSend}</span>
  );
}
