import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { answer, api, type Schemas } from '../api/client';
import { ProblemNote } from '../shell/states';
import { tellDate } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

/** Problems that one has reported, and what was said to them. */
export function MyReports() {
  const mine = useQuery({
    queryKey: ['my', 'requests', 'reports'],
    queryFn: () => answer(api.GET('/api/my/reports')),
  });
  const all = mine.data?.reports ?? [];
  return all.length === 0 ? null : (
    <section aria-labelledby="my-reports">
      <h2 id="my-reports">{words.reports.mine}</h2>
      {all.map((one) => (
        <Mine key={one.id} report={one} />
      ))}
    </section>
  );
}

function Mine({ report }: { report: Schemas['ReportView'] }) {
  const takeBack = useAct(() =>
    answer(
      api.POST('/api/reports/{id}/answer', {
        params: { path: { id: report.id } },
        body: { text: '' },
      }),
    ),
  );
  const state = report.takenBack ? 'taken back' : report.answeredAt === null ? 'waits' : 'answered';
  return (
    <article className="sheet mine" aria-labelledby={`t-${report.id}`}>
      <header>
        <h3 id={`t-${report.id}`} dir="auto">
          {report.tile}
        </h3>
        <span className={`tag ${state === 'waits' ? 'wait' : state === 'answered' ? 'calm' : ''}`}>
          {words.reports.states[state]}
        </span>
        <span className="mono dim">{report.number}</span>
        <span className="dim small" title={report.at}>
          {tellDate(report.at)}
        </span>
      </header>
      <p className="said" dir="auto">
        “{report.text}”
      </p>
      {state === 'answered' && (
        <p>
          {words.reports.said(report.answeredBy ?? '', tellDate(report.answeredAt ?? report.at))}{' '}
          <span className="said" dir="auto">
            “{report.answer}”
          </span>
        </p>
      )}
      {state === 'waits' && (
        <Button
          size="sm"
          variant="outline-primary"
          disabled={takeBack.isPending}
          onClick={() => takeBack.mutate()}
        >
          {words.reports.takeBack}
        </Button>
      )}
      <ProblemNote error={takeBack.error} />
    </article>
  );
}
