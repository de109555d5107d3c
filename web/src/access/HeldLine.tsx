import { useSession } from '../shell/session';
import { lastDay, tellDate, tellDay } from '../shell/times';
import { words } from '../words/en';

const DAY = 86_400_000;

/** The years that lines of time are drawn over: from the earliest beginning to half a year from now. */
export function yearsOf(since: (string | null)[]): { from: number; to: number; years: number[] } {
  const now = Date.now();
  const first = Math.min(
    now - 365 * DAY,
    ...since.flatMap((one) => (one === null ? [] : [Date.parse(one)])),
  );
  const to = now + 183 * DAY;
  const from = first - (to - first) * 0.02;
  const years: number[] = [];
  for (
    let year = new Date(from).getUTCFullYear() + 1;
    year <= new Date(to).getUTCFullYear();
    year++
  ) {
    years.push(year);
  }
  return { from, to, years };
}

/** Since when something is held and until when, as a line of time; what is to come is dotted. */
export function HeldLine({
  since,
  until,
  unusedSince,
  range,
}: {
  since: string | null;
  until: string | null;
  /** From when on it has not been used; hatched. */
  unusedSince?: string;
  range: { from: number; to: number };
}) {
  const { zone } = useSession();
  const now = Date.now();
  const at = (time: number) =>
    `${Math.max(0, Math.min(100, (100 * (time - range.from)) / (range.to - range.from)))}%`;
  const width = (from: number, to: number) =>
    `${Math.max(0, (100 * (Math.min(to, range.to) - Math.max(from, range.from))) / (range.to - range.from))}%`;
  const end = until === null ? range.to : Date.parse(until);
  const told =
    since === null
      ? words.access.notInEffect
      : words.access.heldTime(
          tellDate(since),
          until === null ? null : tellDay(lastDay(zone, until)),
        );
  return (
    <span className="held-line" role="img" aria-label={told} title={told}>
      {since !== null && (
        <span
          className="was"
          style={{ left: at(Date.parse(since)), width: width(Date.parse(since), now) }}
        />
      )}
      {since !== null && unusedSince !== undefined && (
        <span
          className="unused"
          style={{
            left: at(Math.max(Date.parse(unusedSince), Date.parse(since))),
            width: width(Math.max(Date.parse(unusedSince), Date.parse(since)), now),
          }}
        />
      )}
      {end > now && since !== null && (
        <span className="to-come" style={{ left: at(now), width: width(now, end) }} />
      )}
      <span className="now" style={{ left: at(now) }} />
    </span>
  );
}
