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
export function ComplaintCase({ id, onDecided }: { id: string; onDecided: () => void }) {
  const found = useQuery({
    queryKey: ['case', 'complaint', id],
    queryFn: () => answer(api.GET('/api/complaints/{id}', { params: { path: { id } } })),
  });
  const form = useUnsent(`answer ${id}`, { text: '' });
  const send = useAct(
    () =>
      answer(
        api.POST('/api/complaints/{id}/answer', {
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
  const { complaint, who, app, contact, reach, earlier, mayAnswer } = found.data;
  const open = complaint.answeredAt === null;
  return (
    <>
      <header>
        <div className="dim small">
          {words.complaints.kind} · <span className="mono">{complaint.number}</span>
        </div>
        <h2 className="title">
          <Picture name={app.picture} hue={app.hue} size={34} />{' '}
          {words.complaints.about(complaint.tile)}
        </h2>
        <p className="said" dir="auto">
          “{complaint.text}”
        </p>
        <p className="dim small" title={complaint.at}>
          {who.displayed}
          {[who.unit, who.site].filter(Boolean).map((one) => ` · ${one}`)} ·{' '}
          {tellTime(complaint.at)}
        </p>
      </header>
      <div className="evidence">
        <section className="part">
          <h3>{words.complaints.whomItTouches}</h3>
          <p>{words.complaints.reach(reach)}</p>
          {contact !== '' && <p>{words.portal.call(contact)}</p>}
          <DeskLink to={`/desk/apps/${app.id}`}>{app.name}</DeskLink>
        </section>
        <section className="part">
          <h3>{words.complaints.earlier}</h3>
          {earlier.length === 0 ? (
            <p className="dim">{words.complaints.noneEarlier}</p>
          ) : (
            <ul className="plain">
              {earlier.map((one) => (
                <li key={one.id}>
                  <span className="mono dim">{one.number}</span>{' '}
                  <span dir="auto">“{one.text}”</span>{' '}
                  <span className="tag">
                    {words.complaints.states[one.answeredAt === null ? 'waits' : 'answered']}
                  </span>
                </li>
              ))}
            </ul>
          )}
        </section>
      </div>
      {!open ? (
        <p className="note calm">
          {words.complaints.said(
            complaint.answeredBy ?? '',
            tellTime(complaint.answeredAt ?? complaint.at),
          )}{' '}
          <span dir="auto">“{complaint.answer}”</span>
        </p>
      ) : (
        mayAnswer && (
          <div className="decide sheet">
            <LongField
              id="complaint-answer"
              label={words.complaints.answer(who.displayed)}
              rows={3}
              value={form.value.text}
              onChange={(text) => form.set({ text })}
              wrong={send.error instanceof Problem ? send.error.field('text') : undefined}
            />
            <ProblemNote error={send.error} fields={['text']} />
            <div className="bar">
              <Button disabled={send.isPending} onClick={() => send.mutate()}>
                {words.complaints.answerAct}
              </Button>
            </div>
          </div>
        )
      )}
    </>
  );
}
