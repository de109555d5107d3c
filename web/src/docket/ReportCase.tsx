import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { answer, api, Problem } from '../api/client';
import { Picture } from '../pictures/Picture';
import { LongField } from '../shell/LongField';
import { DeskLink } from '../shell/lens';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/en';

/** A problem with a tile: what was said, who meets it, and the answer. */
export function ReportCase({ id, onDecided }: { id: string; onDecided: () => void }) {
  const found = useQuery({
    queryKey: ['case', 'report', id],
    queryFn: () => answer(api.GET('/api/reports/{id}', { params: { path: { id } } })),
  });
  const form = useUnsent(`answer ${id}`, { text: '' });
  const send = useAct(
    () =>
      answer(
        api.POST('/api/reports/{id}/answer', {
          params: { path: { id } },
          body: { text: form.value.text },
        }),
      ),
    () => {
      form.sent();
      onDecided();
    },
  );
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.docket.case} />;
  }
  const { report, who, app, contact, reach, earlier, mayAnswer } = found.data;
  const open = report.answeredAt === null;
  return (
    <>
      <header>
        <div className="dim small">
          {words.reports.kind} · <span className="mono">{report.number}</span>
        </div>
        <h2 className="title">
          <Picture name={app.picture} hue={app.hue} size={34} /> {words.reports.about(report.tile)}
        </h2>
        <p className="said" dir="auto">
          “{report.text}”
        </p>
        <p className="dim small" title={report.at}>
          {who.displayed}
          {[who.unit, who.site].filter(Boolean).map((one) => ` · ${one}`)} · {tellTime(report.at)}
        </p>
      </header>
      <div className="evidence">
        <section className="sheet">
          <h3>{words.reports.whomItTouches}</h3>
          <p>{words.reports.reach(reach)}</p>
          {contact !== '' && <p>{words.portal.call(contact)}</p>}
          <DeskLink to={`/desk/apps/${app.id}`}>{app.name}</DeskLink>
        </section>
        <section className="sheet">
          <h3>{words.reports.earlier}</h3>
          {earlier.length === 0 ? (
            <p className="dim">{words.reports.noneEarlier}</p>
          ) : (
            <ul className="plain">
              {earlier.map((one) => (
                <li key={one.id}>
                  <span className="mono dim">{one.number}</span>{' '}
                  <span dir="auto">“{one.text}”</span>{' '}
                  <span className="tag">
                    {words.reports.states[one.answeredAt === null ? 'waits' : 'answered']}
                  </span>
                </li>
              ))}
            </ul>
          )}
        </section>
      </div>
      {!open ? (
        <p className="note calm">
          {words.reports.said(report.answeredBy ?? '', tellTime(report.answeredAt ?? report.at))}{' '}
          <span dir="auto">“{report.answer}”</span>
        </p>
      ) : (
        mayAnswer && (
          <div className="decide sheet">
            <LongField
              id="report-answer"
              label={words.reports.answer(who.displayed)}
              rows={3}
              value={form.value.text}
              onChange={(text) => form.set({ text })}
              wrong={send.error instanceof Problem ? send.error.field('text') : undefined}
            />
            <ProblemNote error={send.error} fields={['text']} />
            <div className="bar">
              <Button disabled={send.isPending} onClick={() => send.mutate()}>
                {words.reports.answerAct}
              </Button>
            </div>
          </div>
        )
      )}
    </>
  );
}
