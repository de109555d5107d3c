import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api, Problem, type Schemas } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { useStale } from '../shell/stale';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useEdited } from '../shell/useUnsent';
import { words } from '../words/en';

type Page = Schemas['AppPage'];

/** What is paid for: how many seats, and what one costs a month. */
export function SeatsPart({ page }: { page: Page }) {
  const [editing, setEditing] = useState(false);
  return (
    <>
      <h3>{words.apps.seats}</h3>
      <p className={page.seats === null ? 'dim' : undefined}>
        {page.seats === null
          ? words.apps.noSeats
          : words.apps.seatsTold(page.seats.count, tellPrice(page.seats))}
      </p>
      {page.mayEdit && (
        <Button variant="outline-primary" size="sm" onClick={() => setEditing(true)}>
          {words.apps.setSeats}
        </Button>
      )}
      {editing && <SeatsDialog page={page} onClose={() => setEditing(false)} />}
    </>
  );
}

function tellPrice({ price, currency }: Schemas['SeatsForm']): string {
  return `${(price / 100).toFixed(2)} ${currency}`;
}

type SeatsTyped = { count: string; price: string; currency: string };

function typed(seats: Schemas['SeatsForm'] | null): SeatsTyped {
  return seats === null
    ? { count: '', price: '', currency: '' }
    : {
        count: String(seats.count),
        price: (seats.price / 100).toFixed(2),
        currency: seats.currency,
      };
}

/** As the server takes it; nothing typed stands for nothing on record. */
function seatsOf({ count, price, currency }: SeatsTyped): Schemas['SeatsForm'] | null {
  return count.trim() === '' && price.trim() === ''
    ? null
    : {
        count: Number(count),
        price: Math.round(Number(price.replace(',', '.')) * 100),
        currency: currency.trim().toUpperCase(),
      };
}

function SeatsDialog({ page, onClose }: { page: Page; onClose: () => void }) {
  const edited = useEdited(`seats of ${page.app.id}`, typed(page.seats));
  const { wanted: form, setWanted: setForm } = edited;
  const stale = useStale({
    now: typed(page.seats),
    wanted: form,
    onChange: setForm,
    kept: edited,
    labels: {
      count: words.apps.seatCount,
      price: words.apps.seatPrice,
      currency: words.apps.currency,
    },
    tell: (_, value) => value,
  });
  const save = useAct(
    () =>
      answer(
        api.PUT('/api/apps/{id}/seats', {
          params: { path: { id: page.app.id } },
          body: { base: seatsOf(stale.base), wanted: seatsOf(form) },
        }),
      ),
    () => {
      edited.sent();
      onClose();
    },
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      title={words.apps.seatsTitle(page.app.name)}
      act={words.apps.setSeats}
      stale={stale}
      kept={edited}
      disabled={save.isPending}
      error={save.error}
      fields={['count', 'price', 'currency']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <TextField
        id="seat-count"
        type="number"
        label={words.apps.seatCount}
        value={form.count}
        onChange={(count) => setForm({ ...form, count })}
        wrong={wrong('count')}
      />
      <TextField
        id="seat-price"
        label={words.apps.seatPrice}
        value={form.price}
        onChange={(price) => setForm({ ...form, price })}
        wrong={wrong('price')}
      />
      <TextField
        id="seat-currency"
        label={words.apps.currency}
        value={form.currency}
        onChange={(currency) => setForm({ ...form, currency })}
        wrong={wrong('currency')}
      />
    </ActDialog>
  );
}
