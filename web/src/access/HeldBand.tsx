import { useQuery } from '@tanstack/react-query';
import { answer, api } from '../api/client';
import { useLens } from '../shell/lens';
import { tellDate } from '../shell/times';
import { words } from '../words/en';

/** A holding's history as a band over time: when it was held, from the first record to now. */
export function HeldBand({ person, entitlement }: { person: string; entitlement: string }) {
  const { asOf } = useLens();
  const times = useQuery({
    queryKey: ['held-times', person, entitlement, asOf],
    queryFn: () =>
      answer(
        api.GET('/api/people/{id}/holdings/{entitlement}/times', {
          params: { path: { id: person, entitlement }, query: { asOf } },
        }),
      ),
  });
  if (times.data === undefined) {
    return <div className="skeleton" />;
  }
  const { begins, at, times: held } = times.data;
  const first = new Date(begins).getTime();
  const whole = Math.max(1, new Date(at).getTime() - first);
  const place = (instant: string) => (200 * (new Date(instant).getTime() - first)) / whole;
  const told = held
    .map((time) =>
      words.access.heldTime(tellDate(time.from), time.until === null ? null : tellDate(time.until)),
    )
    .join('; ');
  return (
    <>
      <svg
        className="held-band"
        viewBox="0 0 200 12"
        preserveAspectRatio="none"
        role="img"
        aria-label={held.length === 0 ? words.access.neverHeld : told}
      >
        <rect x="0" y="5" width="200" height="2" className="rail" />
        {held.map((time) => {
          const from = place(time.from);
          return (
            <rect
              key={time.from}
              x={from}
              y="1"
              width={Math.max(0.8, place(time.until ?? at) - from)}
              height="10"
            >
              <title>
                {words.access.heldTime(
                  tellDate(time.from),
                  time.until === null ? null : tellDate(time.until),
                )}
              </title>
            </rect>
          );
        })}
      </svg>
      <p className="small dim band-ends">
        <span>{tellDate(begins)}</span>
        <span>{words.access.heldTimes(held.length)}</span>
        <span>{tellDate(at)}</span>
      </p>
    </>
  );
}
