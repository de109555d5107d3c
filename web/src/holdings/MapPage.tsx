import { useCallback, useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { SignKey } from '../access/Grounds';
import { useAddress } from '../shell/addresses';
import { useDeskAddress, useLens } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { words } from '../words/en';
import { AskedBar, Pick, useChoices } from './Asking';
import { addressOf, type Told, toldOf, UNUSED_DAYS, useAsked, useShape } from './asked';
import { CellsTable } from './CellsTable';
import { type Known, type Names, type Piece, type RowHead, spread } from './cells';
import { HoldingsTabs } from './HoldingsTabs';
import { MapGrid, type Placed, type Sizes } from './MapGrid';
import { MarkMargin } from './MarkMargin';

const MOST_MARKED = 500;

/** Who holds what: units by entitlements, or whatever rows and columns are wanted. */
export function MapPage() {
  const [get, set] = useAddress();
  const { zone } = useSession();
  const { day } = useLens();
  const address = useDeskAddress();
  const navigate = useNavigate();
  const asked = useAsked();
  const shape = useShape();
  const choices = useChoices();
  const [sizes, setSizes] = useState<Sizes>();
  const laid = JSON.stringify([asked, shape]);
  const [placed, setPlaced] = useState<Placed>();
  const told = toldOf(asked);
  const table = get('view') === 'table';
  const rows = shape.rows ?? 'unit';
  const attributes: [string, string][] = (choices.data?.attributes ?? []).map((one) => [
    one.name,
    one.label.toLowerCase(),
  ]);
  const mark: Names = {
    keys: get('keys') === '' && get('row') === '' ? undefined : get('keys').split('\n'),
    person: get('who') || undefined,
    columns: get('cols') === '' ? undefined : get('cols').split(','),
  };
  const settle = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(settle.current), []);
  // What is set later must not take back what was set meanwhile.
  const setNow = useRef(set);
  setNow.current = set;
  const onSizes = useCallback((next: Sizes) => setSizes(next), []);

  /** What is marked is kept in the address by its names, a moment after the last key. */
  const onMark = (next: Placed, known: Known) => {
    setPlaced(next);
    clearTimeout(settle.current);
    settle.current = setTimeout(() => setNow.current(named(next.piece, known, sizes)), 120);
  };
  const onOpen = (head: RowHead, next: Piece | undefined, known: Known) => {
    clearTimeout(settle.current);
    if (head.kind === 'person') {
      navigate(address(`/desk/people/${head.id}/holdings`));
      return;
    }
    const open = get('open') === '' ? [] : get('open').split('\n');
    const opened = head.open
      ? open.filter((key) => key !== head.key && !key.startsWith(`${head.key}\t`))
      : [...open, head.key];
    set({ ...named(next, known, sizes), open: opened.join('\n') });
  };
  const relaid = (changes: Record<string, string>) => {
    set({ ...changes, open: '', keys: '', row: '', who: '', cols: '' });
  };

  return (
    <>
      <HoldingsTabs />
      <header>
        <PageHeading>{words.holdings.title}</PageHeading>
        {sizes !== undefined && (
          <span className="dim" role="status">
            {words.holdings.sizes(sizes.people, sizes.columns, sizes.held, told)}
          </span>
        )}
        <span className="grow" />
        <Button variant="outline-primary" onClick={() => set({ view: table ? '' : 'table' })}>
          {table ? words.holdings.asMap : words.holdings.asTable}
        </Button>
      </header>
      <AskedBar>
        <Pick
          label={words.holdings.rows}
          value={rows}
          choices={attributes}
          onPick={(value) => relaid({ rows: value === 'unit' ? '' : value })}
        />
        <Pick
          label={words.holdings.under}
          value={shape.under ?? ''}
          choices={[['', words.holdings.people], ...attributes.filter(([name]) => name !== rows)]}
          onPick={(value) => relaid({ under: value })}
        />
        <Pick
          label={words.holdings.columns}
          value={shape.columns ?? 'application'}
          choices={[
            ['application', words.holdings.byApp],
            ['sensitivity', words.holdings.bySensitivity],
            ['state', words.holdings.byState],
          ]}
          onPick={(value) => relaid({ columns: value === 'application' ? '' : value })}
        />
        <Pick
          label={words.holdings.order}
          value={shape.order ?? 'name'}
          choices={[
            ['name', words.holdings.byName],
            ['size', words.holdings.bySize],
            ['likeness', words.holdings.byLikeness],
          ]}
          onPick={(value) => relaid({ order: value === 'name' ? '' : value })}
        />
        {choices.data?.looksAtUse && day === undefined && told === 'shares' && (
          <Pick
            label={words.holdings.unused}
            value={String(asked.days ?? UNUSED_DAYS)}
            choices={[30, 60, 90, 180].map((days) => [String(days), words.holdings.days(days)])}
            onPick={(value) => set({ days: value === '90' ? '' : value })}
          />
        )}
      </AskedBar>
      <div className="split wide">
        <div className="map-work">
          {table ? (
            <CellsTable asked={asked} shape={shape} />
          ) : (
            <>
              <MapGrid
                asked={asked}
                shape={shape}
                laid={laid}
                placed={placed}
                onMark={onMark}
                onOpen={onOpen}
                onSizes={onSizes}
                marked={mark}
                corner={[rows, shape.under]
                  .filter(Boolean)
                  .map((name) => attributes.find(([one]) => one === name)?.[1] ?? name)
                  .join(', ')}
              />
              <Key told={told} days={asked.days ?? UNUSED_DAYS} opened={shape.open !== undefined} />
            </>
          )}
        </div>
        <aside className="margin" aria-label={words.holdings.margin}>
          <MarkMargin
            asked={asked}
            shape={shape}
            mark={mark}
            query={addressOf('/desk/queries/new', asked, zone)}
          />
        </aside>
      </div>
    </>
  );
}

/** What is marked, by names that stay when rows move. */
function named(
  piece: Piece | undefined,
  known: Known,
  sizes: Sizes | undefined,
): Record<string, string> {
  const nothing = { keys: '', row: '', who: '', cols: '' };
  if (piece === undefined) {
    return nothing;
  }
  const { top, bottom, left, right } = spread(piece);
  const all = top === 0 && bottom === (sizes?.rows ?? 0) - 1 && bottom > 0;
  const heads: RowHead[] = [];
  for (let row = top; row <= Math.min(bottom, top + MOST_MARKED); row++) {
    const head = known.rows.get(row);
    if (head !== undefined && head.kind !== 'rest') {
      heads.push(head);
    }
  }
  const columns: string[] = [];
  const whole = left < 0 || (left === 0 && right === (sizes?.columns ?? 0) - 1);
  for (let column = left; !whole && column <= Math.min(right, left + MOST_MARKED); column++) {
    const head = known.columns.get(column);
    if (head !== undefined) {
      columns.push(head.id);
    }
  }
  const [first] = heads;
  const cols = columns.join(',');
  if (all) {
    return { ...nothing, cols };
  }
  if (heads.length === 1 && first?.kind === 'person') {
    return { ...nothing, who: first.id ?? '', cols };
  }
  const keys = heads.filter((head) => head.kind === 'value').map((head) => head.key);
  return { ...nothing, keys: keys.join('\n'), row: keys.length > 0 ? 'yes' : '', cols };
}

function Key({ told, days, opened }: { told: Told; days: number; opened: boolean }) {
  return (
    <ul className="plain bar key small map-key">
      {told === 'span' && <li>{words.holdings.keySpan}</li>}
      {told === 'moves' && (
        <>
          <li>
            <span className="gain">+</span> {words.holdings.keyGain}
          </li>
          <li>
            <span className="loss">−</span> {words.holdings.keyLoss}
          </li>
        </>
      )}
      {told === 'shares' && (
        <>
          <li>
            <span className="share-square sample" /> {words.holdings.keyShare}
          </li>
          <li>
            <span className="share-square sample">
              <span className="left-alone" />
            </span>{' '}
            {words.holdings.keyUnused(days)}
          </li>
          <li>
            <span className="few unused mono">5</span> {words.holdings.keyFewUnused}
          </li>
          <li>
            <i className="corner sample" /> {words.holdings.keyConflict}
          </li>
          <li>
            <span className="loss">{words.holdings.keyHighSample}</span> {words.holdings.keyHigh}
          </li>
        </>
      )}
      {opened && (
        <li>
          <SignKey
            signs={[
              { by: 'person', source: 'hand' },
              { by: 'person', source: 'request' },
              { by: 'group', source: 'hand' },
              { by: 'filter', source: 'hand' },
            ]}
          />
        </li>
      )}
    </ul>
  );
}
