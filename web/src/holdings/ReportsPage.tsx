import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, raw, type Schemas } from '../api/client';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { Table } from '../shell/Table';
import { tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { HoldingsTabs } from './HoldingsTabs';

/** Reports that were given out, and whether one is still what it was. */
export function ReportsPage() {
  const made = useQuery({
    queryKey: ['reports-made'],
    queryFn: () => answer(api.GET('/api/reports-made')),
  });
  const check = useAct(async (what: File | number): Promise<Schemas['CheckView']> => {
    if (typeof what === 'number') {
      return answer(
        api.POST('/api/reports-made/{number}/check', { params: { path: { number: what } } }),
      );
    }
    const response = await raw('/api/reports-made/check', {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: what,
    });
    return response.json();
  });
  return (
    <>
      <HoldingsTabs />
      <header>
        <PageHeading>{words.made.title}</PageHeading>
        <span className="dim">{words.made.help}</span>
      </header>
      <div className="split wide">
        <section aria-label={words.made.made}>
          {made.error && <Failure error={made.error} again={() => made.refetch()} />}
          {made.isPending && <Loading what={words.made.made} />}
          {made.data?.length === 0 && <Empty title={words.made.none}>{words.made.noneHelp}</Empty>}
          {made.data !== undefined && made.data.length > 0 && (
            <div className="scroll">
              <Table>
                <caption className="visually-hidden">{words.made.made}</caption>
                <thead>
                  <tr>
                    <th>{words.made.number}</th>
                    <th>{words.made.name}</th>
                    <th>{words.made.by}</th>
                    <th>{words.made.at}</th>
                    <th>{words.made.asOf}</th>
                    <th className="num">{words.made.position}</th>
                    <th className="num">{words.made.lines}</th>
                    <th>
                      <span className="visually-hidden">{words.made.check}</span>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {made.data.map((one) => (
                    <tr key={one.number}>
                      <td className="mono">{one.number}</td>
                      <td>
                        {one.name} <span className="dim small">{one.format}</span>
                      </td>
                      <td>{one.by?.displayed}</td>
                      <td className="nowrap" title={one.at}>
                        {tellTime(one.at)}
                      </td>
                      <td className="nowrap" title={one.asOf}>
                        {tellTime(one.asOf)}
                      </td>
                      <td className="num mono">{one.position}</td>
                      <td className="num mono">
                        {one.lines === null ? words.made.broken : words.count(one.lines)}
                      </td>
                      <td>
                        <Button
                          variant="link"
                          aria-label={words.made.checkOf(one.number)}
                          disabled={check.isPending}
                          onClick={() => check.mutate(one.number)}
                        >
                          {words.made.check}
                        </Button>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            </div>
          )}
        </section>
        <aside className="margin" aria-label={words.made.outcome}>
          <Form.Group controlId="report-file">
            <Form.Label>{words.made.file}</Form.Label>
            <Form.Control
              type="file"
              disabled={check.isPending}
              onChange={(event) => {
                const file = (event.target as HTMLInputElement).files?.[0];
                if (file !== undefined) {
                  check.mutate(file);
                }
              }}
            />
            <Form.Text>{words.made.fileHelp}</Form.Text>
          </Form.Group>
          <div role="status">
            {check.isPending && <p>{words.made.checking}</p>}
            {check.data !== undefined && <Outcome of={check.data} />}
          </div>
          <ProblemNote error={check.error} />
        </aside>
      </div>
    </>
  );
}

function Outcome({ of }: { of: Schemas['CheckView'] }) {
  if (of.report === null) {
    return <div className="note loss">{words.made.unknown}</div>;
  }
  const wrong = !of.ledger || of.facts === 'no' || of.file === false;
  // Where neither the file nor the facts were compared, nothing is shown yet.
  const good = !wrong && (of.file === true || of.facts === 'yes');
  return (
    <>
      <h2>
        {words.made.of(of.report.number)} <span className="dim">{of.report.name}</span>
      </h2>
      <div className={good ? 'note calm' : wrong ? 'note loss' : 'note wait'}>
        <b>{good ? words.made.good : wrong ? words.made.wrong : words.made.open}</b>{' '}
        {words.made.covers}
      </div>
      <ul className="plain">
        {of.file !== null && <li>{of.file ? words.made.fileSame : words.made.fileOther}</li>}
        <li>
          {of.ledger
            ? words.made.ledgerSame(of.report.position)
            : words.made.ledgerOther(of.report.position)}{' '}
          <DeskLink className="small" to={`/desk/ledger/${of.report.position}`}>
            {words.made.entry}
          </DeskLink>
        </li>
        <li>
          {of.facts === 'yes'
            ? words.made.factsSame(of.linesNow)
            : of.facts === 'no'
              ? words.made.factsOther(of.report.lines ?? 0, of.linesNow)
              : words.made.factsUnknown}
        </li>
      </ul>
    </>
  );
}
