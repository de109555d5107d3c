import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { Link, useNavigate } from 'react-router';
import { AcceptDialog, type Pair } from '../access/rules/AcceptDialog';
import { answer, api, type Schemas } from '../api/client';
import { allRows, saveCsv } from '../shell/download';
import { type Column, RowsTable } from '../shell/RowsTable';
import { useSession } from '../shell/session';
import { Table } from '../shell/Table';
import { dayIn, lastDay, tellDay, tellShortDay, tellTime } from '../shell/times';
import { words } from '../words/en';

type Moment = Schemas['MomentView'];
type Row = Schemas['RowView'];
type Sign = keyof typeof words.drafts.signs;

/** What opens behind a count. */
type Behind = { at: string | undefined; sign: string; row?: Row };

const CARDS: [keyof Schemas['Counts'], Sign, string][] = [
  ['gain', 'gain', 'gain'],
  ['lose', 'lose', 'loss'],
  ['keep', 'keep', ''],
  ['more', 'more', ''],
  ['less', 'less', ''],
];

const LATER_CARDS: [keyof Schemas['Counts'], Sign, string][] = [
  ['ends', 'ends', 'loss'],
  ['back', 'back', 'gain'],
  ['last', 'last', 'loss'],
  ['moved', 'moved', ''],
  ['met', 'met', ''],
];

/** What exactly a draft would do: one moment at a time, every count with the list behind it. */
export function Sheet({
  draft,
  view,
  at,
  onMoment,
}: {
  draft: string;
  view: Schemas['ConsequencesView'];
  at: number;
  onMoment: (index: number) => void;
}) {
  const { zone } = useSession();
  const [behind, setBehind] = useState<Behind>();
  const moment = view.moments[at];
  const later = view.moments.filter((_, index) => index !== at);
  return (
    <section className="consequences" aria-labelledby="consequences">
      <header>
        <h2 id="consequences">{words.drafts.consequences}</h2>
        <span className="dim small" title={view.at}>
          {words.drafts.exact(view.people, tellTime(view.at))}
        </span>
        <span className="grow" />
        {view.moments.length > 1 && (
          <fieldset className="moments">
            <legend className="visually-hidden">{words.drafts.moments}</legend>
            {view.moments.map((one, index) => (
              <button
                key={one.at}
                type="button"
                aria-pressed={index === at}
                title={one.at}
                onClick={() => onMoment(index)}
              >
                {one.publishing
                  ? words.drafts.atPublishing
                  : tellShortDay(dayIn(zone, new Date(one.at)))}
              </button>
            ))}
          </fieldset>
        )}
      </header>
      {moment === undefined ? (
        <p className="sheet">{words.drafts.nothingMoves}</p>
      ) : (
        <>
          <div className="figures">
            {[
              // Who gains and who loses is always told; the rest where there is any.
              ...CARDS.filter(([key], index) => index < 2 || moment.counts[key] > 0),
              ...LATER_CARDS.filter(([key]) => moment.counts[key] > 0),
            ].map(([key, sign, look]) => (
              <button
                key={key}
                type="button"
                disabled={moment.counts[key] === 0}
                onClick={() => setBehind({ at: then(moment), sign })}
              >
                <b className={moment.counts[key] === 0 ? '' : look}>
                  {words.drafts.figure(sign, moment.counts[key])}
                </b>{' '}
                <span>{words.drafts.cards[sign](moment.counts[key])}</span>
              </button>
            ))}
            <div>
              <b className={moment.counts.conflicts > 0 ? 'loss' : ''}>
                {words.count(moment.counts.conflicts)}
              </b>{' '}
              <span>{words.drafts.newConflicts(moment.counts.conflicts)}</span>
            </div>
          </div>
          <Conflicts moment={moment} />
          <Rows
            moment={moment}
            onOpen={(row) => setBehind({ at: then(moment), sign: row.sign, row })}
          />
          {moment.more > 0 && <p className="dim">{words.drafts.moreRows(moment.more)}</p>}
        </>
      )}
      {moment?.publishing && later.length > 0 && (
        <div className="sheet small">
          <b>{words.drafts.later}</b>{' '}
          {later.slice(0, 6).map((one, index) => (
            <span key={one.at}>
              {index > 0 && ' · '}
              <button
                type="button"
                className="btn btn-link"
                onClick={() => onMoment(view.moments.indexOf(one))}
              >
                {tellDay(dayIn(zone, new Date(one.at)))}
              </button>{' '}
              {inShort(one)}
            </span>
          ))}
          {later.length > 6 && ` · ${words.drafts.moreMoments(later.length - 6)}`}
        </div>
      )}
      {view.cut && <p className="dim small">{words.drafts.cut}</p>}
      {behind !== undefined && (
        <People draft={draft} behind={behind} onClose={() => setBehind(undefined)} />
      )}
    </section>
  );
}

/** A moment as it is asked for; the publishing moves on, and is none. */
function then(moment: Moment): string | undefined {
  return moment.publishing ? undefined : moment.at;
}

/** A moment in a few words. */
function inShort(moment: Moment): string {
  const keys: (keyof Schemas['Counts'])[] = [
    'gain',
    'lose',
    'ends',
    'back',
    'last',
    'more',
    'less',
    'moved',
    'met',
    'conflicts',
    'settled',
  ];
  return keys
    .filter((key) => moment.counts[key] > 0)
    .map((key) => words.drafts.counts[key](moment.counts[key]))
    .join(', ');
}

function Rows({ moment, onOpen }: { moment: Moment; onOpen: (row: Row) => void }) {
  const { zone } = useSession();
  return (
    <Table>
      <thead>
        <tr>
          <th scope="col">
            <span className="visually-hidden">{words.drafts.columns.sign}</span>
          </th>
          <th scope="col">{words.drafts.columns.what}</th>
          <th scope="col">{words.drafts.columns.who}</th>
          <th scope="col">{words.drafts.columns.because}</th>
        </tr>
      </thead>
      <tbody>
        {moment.rows.map((row) => (
          <tr key={row.sign + row.id}>
            <td>
              <SignTag sign={row.sign} />
            </td>
            <td>
              <b>{row.title}</b>
              {row.kind !== 'entitlement' && (
                <span className="dim"> {words.drafts.kinds[row.kind]}</span>
              )}
            </td>
            <td>
              <button type="button" className="btn btn-link" onClick={() => onOpen(row)}>
                {row.named.length > 0 && row.named.length === row.people
                  ? row.named.map((person) => person.familyFirst).join('; ')
                  : words.drafts.people(row.people)}
              </button>
              {row.named.length !== row.people && row.units.length > 0 && (
                <span className="dim"> {words.drafts.inUnits(row.units)}</span>
              )}
              {row.grown > 0 && (
                <div>
                  <span className="tag wait">{words.drafts.grown(row.grown)}</span>
                </div>
              )}
            </td>
            <td className="small">
              <Because seqs={row.because} />
              {(row.sign === 'lose' || row.sign === 'ends') &&
                words.drafts.afterLoss(row.idle, row.people)}
              {row.sign === 'last' && words.drafts.lastNote}
              {row.rest !== null && (
                <>
                  {words.drafts.rest(
                    row.rest.sources.map((source) => words.drafts.sources[source] ?? source),
                  )}
                  {row.rest.until !== null &&
                    ` ${words.drafts.restUntil(tellDay(lastDay(zone, row.rest.until)))}`}
                </>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

/** Breaches of separation rules that begin or end, each with its answers. */
function Conflicts({ moment }: { moment: Moment }) {
  const { has } = useSession();
  const [accepting, setAccepting] = useState<Pair>();
  if (moment.conflicts.length === 0) {
    return null;
  }
  const missing = moment.conflicts.filter((one) => one.stops).length;
  return (
    <section className="conflicts" aria-label={words.drafts.newConflicts(2)}>
      {missing > 0 && (
        <div className="note loss">
          <b>{words.drafts.answersMissing(missing)}</b> {words.drafts.answerHelp}
        </div>
      )}
      <ul className="plain sheet">
        {moment.conflicts.map((one) => (
          <li key={one.rule + one.person.id + one.one + one.other}>
            <span className={one.begins ? 'tag loss' : 'tag calm'}>
              {one.begins ? words.drafts.conflict : words.drafts.settledTag}
            </span>{' '}
            <b>{one.person.familyFirst}</b> {one.oneTitle} <b>{words.drafts.conflictWith}</b>{' '}
            {one.otherTitle}{' '}
            <span className="dim small">
              <Because seqs={one.because} />{' '}
              <Link to={`/desk/rules/${one.rule}`}>{words.drafts.meets(one.ruleName)}</Link>
            </span>
            {one.begins && (
              <div className="small answers">
                {[
                  [one.one, one.oneTitle],
                  [one.other, one.otherTitle],
                ].map(([id, title]) => (
                  <Link key={id} to={`/desk/people/${one.person.id}/holdings?holding=${id}`}>
                    {words.drafts.endOne(title ?? '')}
                  </Link>
                ))}
                {has('access.except') && (
                  <button
                    type="button"
                    className="btn btn-link small"
                    onClick={() => setAccepting(one)}
                  >
                    {words.rules.acceptOpen}
                  </button>
                )}
              </div>
            )}
          </li>
        ))}
      </ul>
      {accepting !== undefined && (
        <AcceptDialog pair={accepting} onClose={() => setAccepting(undefined)} />
      )}
    </section>
  );
}

function SignTag({ sign }: { sign: string }) {
  const look: Record<string, string> = {
    gain: 'gain',
    back: 'gain',
    lose: 'loss',
    ends: 'loss',
    last: 'loss',
  };
  return <span className={`tag ${look[sign] ?? ''}`}>{words.drafts.signs[sign as Sign]}</span>;
}

function Because({ seqs }: { seqs: number[] }) {
  if (seqs.length === 0) {
    return words.drafts.becauseDay;
  }
  return (
    <>
      {seqs.slice(0, 6).map((seq, index) => (
        <span key={seq}>
          {index > 0 && ', '}
          <a href={`#edit-${seq}`}>{words.drafts.edit(seq)}</a>
        </span>
      ))}
      {seqs.length > 6 && ` ${words.ledger.others(seqs.length - 6)}`}
    </>
  );
}

type PersonRow = Schemas['PersonRow'] & { id: string };

/** Everyone behind a count: searchable, of any length, to be taken along. */
function People({
  draft,
  behind,
  onClose,
}: {
  draft: string;
  behind: Behind;
  onClose: () => void;
}) {
  const navigate = useNavigate();
  const { zone } = useSession();
  const [find, setFind] = useState('');
  const { at, sign, row } = behind;
  const page = async (offset: number, limit: number) => {
    const people = await answer(
      api.GET('/api/drafts/{id}/consequences/people', {
        params: {
          path: { id: draft },
          query: {
            at,
            sign,
            kind: row?.kind ?? '',
            thing: row?.id,
            find,
            offset,
            limit,
          },
        },
      }),
    );
    return {
      total: people.total,
      rows: people.lines.map((line) => ({ ...line, id: line.person.id })),
    };
  };
  const title = row === undefined ? words.drafts.everyone : row.title;
  const columns: Column<PersonRow>[] = [
    {
      key: 'name',
      label: words.people.columns.name,
      width: '2fr',
      cell: (one) => one.person.familyFirst,
    },
    {
      key: 'unit',
      label: words.people.columns.unit,
      width: '1.3fr',
      cell: (one) => one.person.unit ?? '',
    },
    {
      key: 'because',
      label: words.drafts.columns.because,
      width: '1.4fr',
      cell: (one) =>
        [
          one.because.map((seq) => words.drafts.edit(seq)).join(', ') || words.drafts.becauseDay,
          one.sources.length > 0
            ? words.drafts.rest(one.sources.map((s) => words.drafts.sources[s] ?? s))
            : '',
          one.until === null ? '' : ` ${words.drafts.untilDay(tellDay(lastDay(zone, one.until)))}`,
        ].join(''),
    },
  ];
  return (
    <Modal show onHide={onClose} size="lg" aria-labelledby="behind" scrollable>
      <Modal.Body>
        <h2 id="behind">
          <SignTag sign={sign} /> {title}
        </h2>
        <div className="bar">
          <Form.Control
            type="search"
            aria-label={words.access.findHolder}
            placeholder={words.access.findHolder}
            value={find}
            onChange={(event) => setFind(event.target.value)}
          />
          <Button
            variant="outline-primary"
            onClick={async () => {
              const rows = await allRows(page);
              saveCsv(`consequences-${sign}`, [
                columns.map((column) => column.label),
                ...rows.map((one) => columns.map((column) => String(column.cell(one)))),
              ]);
            }}
          >
            {words.shell.download}
          </Button>
        </div>
        <RowsTable
          label={title}
          columns={columns}
          queryKey={['behind', draft, at, sign, row?.id, find]}
          page={page}
          onOpen={(one) => navigate(`/desk/people/${one.id}/holdings`)}
          empty={<p>{words.drafts.nobodyFits}</p>}
        />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-primary" onClick={onClose}>
          {words.shell.close}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
