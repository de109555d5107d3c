import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, api, Problem, repeatKey } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { type Manner, useForesight } from '../drafts/foresight';
import { DeskLink } from '../shell/lens';
import { Failure, Loading } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import type { Asked, Shape } from './asked';
import type { Names } from './cells';
import { marked } from './cells';

/** Ends what is marked as far as it stands on grants of these people's own, and says what stays. */
export function EndMarked({
  asked,
  shape,
  mark,
  unused,
  onClose,
}: {
  asked: Asked;
  shape: Shape;
  mark: Names;
  /** Only what is not used. */
  unused: boolean;
  onClose: () => void;
}) {
  const [reason, setReason] = useState('');
  const [key] = useState(repeatKey);
  const endings = useQuery({
    queryKey: ['holdings-endings', asked, shape, mark, unused],
    queryFn: () =>
      answer(
        api.GET('/api/holdings/endings', {
          params: { query: { ...asked, ...shape, open: undefined, ...marked(mark), unused } },
        }),
      ),
    retry: false,
  });
  const grants = endings.data?.grants ?? [];
  const send = (why: string, manner: Manner) =>
    answer(
      api.POST('/api/grants/end', {
        params: { header: { 'Idempotency-Key': key } },
        headers: manner,
        body: { grants, memberships: [], reason: why },
      }),
    );
  const foresight = useForesight(
    ['end-marked', grants],
    (manner) => send(words.access.ahead, manner),
    grants.length > 0,
  );
  const end = useAct(() => send(reason, foresight.agreed), onClose);
  const ends = endings.data?.ends ?? 0;
  return (
    <ActDialog
      gathers
      danger
      title={unused ? words.holdings.endUnusedTitle : words.holdings.endTitle}
      act={words.holdings.end(ends)}
      foresight={foresight}
      disabled={grants.length === 0 || end.isPending}
      error={end.error}
      fields={['reason']}
      onAct={() => end.mutate()}
      onClose={onClose}
    >
      {endings.error && <Failure error={endings.error} again={() => endings.refetch()} />}
      {endings.isPending && <Loading what={words.holdings.margin} lines={3} />}
      {endings.data !== undefined && (
        <>
          <p>
            {words.holdings.ends(ends)}
            {endings.data.stays.length + endings.data.more > 0 &&
              ` ${words.holdings.stays(endings.data.stays.length + endings.data.more)}`}
          </p>
          {endings.data.stays.length > 0 && (
            <ul className="plain small">
              {endings.data.stays.map((one) => (
                <li key={one.person.id + one.entitlement.id}>
                  {one.person.familyFirst}, {one.entitlement.title}: {words.holdings.standsOn}{' '}
                  {one.group === null ? (
                    <code>{one.on}</code>
                  ) : (
                    <DeskLink to={`/desk/groups/${one.group}`}>{one.on}</DeskLink>
                  )}
                </li>
              ))}
              {endings.data.more > 0 && (
                <li className="dim">{words.holdings.andMore(endings.data.more)}</li>
              )}
            </ul>
          )}
        </>
      )}
      <TextField
        id="end-marked-reason"
        label={words.groups.why}
        value={reason}
        onChange={setReason}
        wrong={end.error instanceof Problem ? end.error.field('reason') : undefined}
      />
    </ActDialog>
  );
}
