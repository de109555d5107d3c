import { DayPicker } from 'react-day-picker';
import { dates } from '../words/locale';
import { words } from '../words/portal';

/** A day of ISO 8601 as the browser's own, and back; neither has a time. */
function own(day: string): Date {
  const [year = 1, month = 1, date = 1] = day.split('-').map(Number);
  return new Date(year, month - 1, date);
}

function iso(day: Date): string {
  const two = (n: number) => String(n).padStart(2, '0');
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}

/** On which day the reader's week begins; Monday where the browser does not say. */
function firstOfWeek(): 0 | 1 | 6 {
  const locale = new Intl.Locale(dates({}).resolvedOptions().locale) as Intl.Locale & {
    getWeekInfo?: () => { firstDay: number };
  };
  const first = locale.getWeekInfo?.().firstDay ?? 1;
  return first === 7 ? 0 : first === 6 ? 6 : 1;
}

/** A month to choose a day from. Arrows move, Page up and Page down turn the month. */
export default function Calendar({
  value,
  today,
  min,
  max,
  onChoose,
}: {
  value: string | undefined;
  today: string;
  min?: string;
  max?: string;
  onChoose: (day: string) => void;
}) {
  const selected = value === undefined ? undefined : own(value);
  const nearest = [max, min].reduce<string>(
    (day, edge) => (edge !== undefined && (edge === max ? edge < day : edge > day) ? edge : day),
    value ?? today,
  );
  return (
    <DayPicker
      mode="single"
      required
      autoFocus
      showOutsideDays
      weekStartsOn={firstOfWeek()}
      selected={selected}
      today={own(today)}
      defaultMonth={own(nearest)}
      startMonth={min === undefined ? undefined : own(min)}
      endMonth={max === undefined ? undefined : own(max)}
      disabled={[
        ...(min === undefined ? [] : [{ before: own(min) }]),
        ...(max === undefined ? [] : [{ after: own(max) }]),
      ]}
      formatters={{
        formatCaption: (month) => dates({ month: 'long', year: 'numeric' }).format(month),
        formatWeekdayName: (day) => dates({ weekday: 'short' }).format(day),
      }}
      labels={{
        labelGrid: (month) => dates({ month: 'long', year: 'numeric' }).format(month),
        labelDayButton: (day) =>
          dates({ weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' }).format(day),
        labelWeekday: (day) => dates({ weekday: 'long' }).format(day),
        labelNav: () => '',
        labelPrevious: () => words.shell.monthBefore,
        labelNext: () => words.shell.monthAfter,
      }}
      onSelect={(day) => onChoose(iso(day))}
    />
  );
}
