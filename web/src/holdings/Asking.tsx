import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api } from '../api/client';
import { FilterField, useTriedFilter } from '../directory/groups/FilterField';
import { useAddress } from '../shell/addresses';
import { useLens } from '../shell/lens';
import { useSession } from '../shell/session';
import { TextField } from '../shell/TextField';
import { dayIn, tellDay } from '../shell/times';
import { words } from '../words/en';
import { ASKED, MARKS } from './asked';

export function useChoices() {
  return useQuery({
    queryKey: ['holdings-choices'],
    queryFn: () => answer(api.GET('/api/holdings/choices')),
  });
}

/** A choice that stands in its own sentence: "rows Unit". */
export function Pick({
  label,
  value,
  choices,
  onPick,
}: {
  label: string;
  value: string;
  choices: [string, string][];
  onPick: (value: string) => void;
}) {
  return (
    <label className="pick">
      {label}{' '}
      <select value={value} onChange={(event) => onPick(event.target.value)}>
        {choices.map(([name, text]) => (
          <option key={name} value={name}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What is asked for beside rows and columns: marks, sensitivities, people, another day, a span. */
export function AskedBar({ children }: { children?: ReactNode }) {
  const [get, set] = useAddress();
  const choices = useChoices();
  const { day } = useLens();
  const { zone } = useSession();
  const [filtering, setFiltering] = useState(false);
  const where = useTriedFilter(get('where'));
  const [timing, setTiming] = useState(false);
  const only = get('only') === '' ? [] : get('only').split(',');
  const sensitivities = get('sensitivities') === '' ? [] : get('sensitivities').split(',');
  const spans = get('from') !== '' || get('against') !== '';
  const toggle = (list: string[], one: string) =>
    (list.includes(one) ? list.filter((each) => each !== one) : [...list, one]).join(',');
  const asks = ASKED.some((name) => get(name) !== '');
  return (
    <div className="asked">
      {children}
      <fieldset className="marks">
        <legend className="small dim">{words.holdings.only}</legend>
        <button
          type="button"
          aria-pressed={sensitivities.includes('high')}
          onClick={() => set({ sensitivities: toggle(sensitivities, 'high') })}
        >
          {words.holdings.high}
        </button>
        {MARKS.filter(
          (mark) =>
            !spans &&
            (day === undefined || mark === 'conflict' || mark === 'hand') &&
            (mark !== 'unused' || choices.data?.looksAtUse),
        ).map((mark) => (
          <button
            key={mark}
            type="button"
            aria-pressed={only.includes(mark)}
            onClick={() => set({ only: toggle(only, mark) })}
          >
            {words.holdings.marks[mark]}
          </button>
        ))}
      </fieldset>
      <button
        type="button"
        className="pick"
        aria-expanded={filtering}
        onClick={() => setFiltering(!filtering)}
      >
        {words.holdings.people}{' '}
        <b>{get('where') === '' ? words.holdings.everybody : (where?.words ?? get('where'))}</b>
      </button>
      <button
        type="button"
        className="pick"
        aria-expanded={timing}
        onClick={() => setTiming(!timing)}
      >
        {words.holdings.when}{' '}
        <b>
          {get('against') !== ''
            ? words.holdings.since(tellDay(get('against')))
            : get('from') !== ''
              ? words.holdings.span(tellDay(get('from')), tellDay(get('until')))
              : day === undefined
                ? words.shell.now
                : tellDay(day)}
        </b>
      </button>
      {asks && (
        <Button
          variant="link"
          onClick={() => set(Object.fromEntries(ASKED.map((name) => [name, ''])))}
        >
          {words.holdings.everything}
        </Button>
      )}
      {filtering && (
        <WhereForm
          value={get('where')}
          onSet={(where) => {
            set({ where });
            setFiltering(false);
          }}
        />
      )}
      {timing && (
        <TimesForm
          key={get('against') + get('from')}
          today={dayIn(zone, new Date())}
          onSet={(times) => {
            // Marks are of one moment.
            set(times.against + times.from === '' ? times : { ...times, only: '' });
            setTiming(false);
          }}
        />
      )}
    </div>
  );
}

function WhereForm({ value, onSet }: { value: string; onSet: (where: string) => void }) {
  const [where, setWhere] = useState(value);
  return (
    <form
      className="sheet asked-form"
      onSubmit={(event) => {
        event.preventDefault();
        onSet(where.trim());
      }}
    >
      <FilterField value={where} onChange={setWhere} />
      <div className="bar">
        <Button type="submit">{words.holdings.show}</Button>
        {value !== '' && (
          <Button variant="outline-primary" onClick={() => onSet('')}>
            {words.holdings.everybody}
          </Button>
        )}
      </div>
    </form>
  );
}

type Times = { against: string; from: string; until: string };

/** One moment, a comparison with another day, or anyone at any time of a span. */
function TimesForm({ today, onSet }: { today: string; onSet: (times: Times) => void }) {
  const [get] = useAddress();
  const { begins, zone } = useSession();
  const first = begins === null ? undefined : dayIn(zone, new Date(begins));
  const [kind, setKind] = useState(
    get('against') !== '' ? 'against' : get('from') !== '' ? 'span' : 'moment',
  );
  const [against, setAgainst] = useState(get('against'));
  const [from, setFrom] = useState(get('from'));
  const [until, setUntil] = useState(get('until'));
  const none = { against: '', from: '', until: '' };
  return (
    <form
      className="sheet asked-form"
      onSubmit={(event) => {
        event.preventDefault();
        onSet(
          kind === 'against'
            ? { ...none, against }
            : kind === 'span'
              ? { ...none, from, until }
              : none,
        );
      }}
    >
      <fieldset>
        <legend className="visually-hidden">{words.holdings.when}</legend>
        {(['moment', 'against', 'span'] as const).map((one) => (
          <Form.Check
            key={one}
            type="radio"
            name="times"
            id={`times-${one}`}
            label={words.holdings.times[one]}
            checked={kind === one}
            onChange={() => setKind(one)}
          />
        ))}
      </fieldset>
      {kind === 'moment' && <p className="small dim">{words.holdings.momentHelp}</p>}
      {kind === 'against' && (
        <TextField
          id="times-against-day"
          type="date"
          label={words.holdings.againstDay}
          required
          min={first}
          max={today}
          value={against}
          onChange={setAgainst}
        />
      )}
      {kind === 'span' && (
        <div className="bar">
          <TextField
            id="times-from"
            type="date"
            label={words.holdings.firstDay}
            required
            min={first}
            max={until || today}
            value={from}
            onChange={setFrom}
          />
          <TextField
            id="times-until"
            type="date"
            label={words.holdings.lastDay}
            required
            min={from}
            max={today}
            value={until}
            onChange={setUntil}
          />
        </div>
      )}
      <Button type="submit">{words.holdings.show}</Button>
    </form>
  );
}
