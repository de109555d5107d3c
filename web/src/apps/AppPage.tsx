import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useParams } from 'react-router';
import { SensitivityTag } from '../access/SensitivityTag';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { EditOwners } from '../directory/EditOwners';
import { ActDialog } from '../drafts/ActDialog';
import { Drafted } from '../drafts/Drafted';
import { type Manner, useForesight } from '../drafts/foresight';
import { Picture } from '../pictures/Picture';
import { TileDialog } from '../portal/TileDialog';
import { Head } from '../shell/Head';
import { KeptNote } from '../shell/KeptNote';
import { DeskLink, useLens } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { useSettled } from '../shell/settled';
import { useStale } from '../shell/stale';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { Table } from '../shell/Table';
import { TextField } from '../shell/TextField';
import { tellDate } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useEdited, useTyped } from '../shell/useUnsent';
import { words } from '../words/en';
import {
  NEW_ROLE,
  type Profile,
  ProfileFields,
  type Role,
  RoleFields,
  sensitivityOf,
} from './AppForms';
import { StateTag } from './AppsPage';

type Page = Schemas['AppPage'];
type State = Schemas['SetState']['state'];

/** An application: its entitlements, its way in, who answers for it. */
export function AppPage() {
  const id = useParams().id ?? '';
  const { asOf } = useLens();
  const page = useQuery({
    queryKey: ['app', id, asOf],
    queryFn: () => answer(api.GET('/api/apps/{id}', { params: { path: { id }, query: { asOf } } })),
  });
  if (page.error) {
    return <Failure error={page.error} again={() => page.refetch()} />;
  }
  if (page.data === undefined) {
    return <Loading what={words.apps.title} lines={12} />;
  }
  return <Whole page={page.data} />;
}

function profileOf(page: Page): Profile {
  return {
    name: page.app.name,
    line: page.line,
    picture: page.app.picture,
    hue: page.app.hue,
    sensitivity: sensitivityOf(page.sensitivity),
    contact: page.contact,
    nicknames: page.nicknames,
  };
}

function Whole({ page }: { page: Page }) {
  const [describing, setDescribing] = useState(false);
  const [making, setMaking] = useState(false);
  const grants = page.entitlements.reduce((sum, one) => sum + one.grants, 0);
  return (
    <>
      <Head
        kind={words.apps.one}
        picture={<Picture name={page.app.picture} hue={page.app.hue} size={64} />}
        heading={<PageHeading>{page.app.name}</PageHeading>}
        lead={
          <>
            {page.line} <StateTag state={page.app.state} />
          </>
        }
        figures={[
          {
            n: words.count(page.entitlements.length),
            of: words.apps.figures.entitlements(page.entitlements.length),
          },
          { n: words.count(grants), of: words.apps.figures.grants(grants) },
          ...(page.seats === null
            ? []
            : [{ n: words.count(page.seats.count ?? 0), of: words.apps.figures.seats }]),
        ]}
      />
      <Drafted of={page.app.id} />
      {page.missing.length > 0 && page.app.state === 'proposed' && (
        <div className="note wait">
          {words.apps.missing(
            page.missing.map((one) => words.apps.missingParts[one] ?? one).join(', '),
          )}
        </div>
      )}
      <div className="split">
        <div className="parts">
          <Roles page={page} />
          <section className="part" aria-labelledby="app-profile">
            <h2 id="app-profile">{words.apps.profile}</h2>
            <dl className="pair">
              <dt>{words.apps.sensitivity}</dt>
              <dd>
                <SensitivityTag sensitivity={page.sensitivity} />
              </dd>
              <dt>{words.apps.contact}</dt>
              <dd>{page.contact || <span className="dim">{words.people.none}</span>}</dd>
              <dt>{words.apps.nicknames}</dt>
              <dd>
                {page.nicknames.join(', ') || <span className="dim">{words.people.none}</span>}
              </dd>
              <dt>{words.apps.columns.state}</dt>
              <dd title={page.since}>
                {words.apps.states[page.app.state]} {words.people.since(tellDate(page.since))}
              </dd>
            </dl>
            {page.mayEdit && (
              <Button
                variant="outline-primary"
                className="room-above"
                onClick={() => setDescribing(true)}
              >
                {words.apps.describe}
              </Button>
            )}
          </section>
        </div>
        <aside className="margin" aria-label={page.app.name}>
          <h3>{words.apps.owners}</h3>
          <EditOwners
            owners={page.owners}
            may={page.mayEdit}
            none={words.apps.noOwner}
            save={(base, owners) =>
              answer(
                api.PUT('/api/apps/{id}/owners', {
                  params: { path: { id: page.app.id } },
                  body: { base, owners },
                }),
              )
            }
          />
          <h3>{words.apps.wayIn}</h3>
          <WayIn page={page} />
          <SeatsPart page={page} />
          <h3>{words.curate.tiles}</h3>
          {page.tiles.length === 0 ? (
            <p className="dim">{words.apps.noTile}</p>
          ) : (
            <ul className="plain">
              {page.tiles.map((tile) => (
                <li key={tile.id}>
                  <DeskLink to={`/desk/portal?tile=${tile.id}`}>{tile.name}</DeskLink>
                </li>
              ))}
            </ul>
          )}
          {page.mayArrange && (
            <Button
              variant="outline-primary"
              size="sm"
              className="room-above"
              onClick={() => setMaking(true)}
            >
              {words.curate.makeTile}
            </Button>
          )}
          {page.mayEdit && (
            <>
              <h3>{words.holdings.do}</h3>
              <div className="bar">
                <States page={page} />
              </div>
            </>
          )}
        </aside>
      </div>
      {describing && <DescribeDialog page={page} onClose={() => setDescribing(false)} />}
      {making && <TileDialog app={page} tile={undefined} onClose={() => setMaking(false)} />}
    </>
  );
}

const NEXT: Record<string, State[]> = {
  proposed: ['OPEN'],
  open: ['PAUSED', 'RETIRED'],
  paused: ['OPEN', 'RETIRED'],
  blocked: ['RETIRED'],
  retired: [],
};

function States({ page }: { page: Page }) {
  const [wanted, setWanted] = useState<State>();
  const settled = useSettled();
  const kept = useTyped(`state of ${page.app.id}`);
  const [reason, setReason] = kept.typed('reason', '');
  const send = (state: State, manner: Manner) =>
    answer(
      api.PUT('/api/apps/{id}/state', {
        params: { path: { id: page.app.id } },
        headers: manner,
        body: { base: page.app.state.toUpperCase() as State, state, reason },
      }),
    );
  const foresight = useForesight(
    ['app-state', page.app.id, page.app.state, wanted],
    (manner) => send(wanted ?? 'OPEN', manner),
    wanted !== undefined,
  );
  const set = useAct(
    (state: State) => send(state, foresight.agreed),
    () => {
      kept.sent();
      setWanted(undefined);
    },
    words.apps.become[(wanted ?? 'OPEN').toLowerCase()],
  );
  // Nobody holds anything of what is not open yet.
  const first = page.app.state === 'proposed';
  return (
    <>
      {(NEXT[page.app.state] ?? []).map((state) => (
        <Button
          key={state}
          variant={state === 'OPEN' ? 'primary' : 'outline-danger'}
          disabled={!settled || set.isPending || (state === 'OPEN' && page.missing.length > 0)}
          onClick={() => (first && state === 'OPEN' ? set.mutate(state) : setWanted(state))}
        >
          {words.apps.become[state.toLowerCase()]}
        </Button>
      ))}
      {wanted === undefined && <ProblemNote error={set.error} />}
      {wanted !== undefined && (
        <ActDialog
          gathers
          danger={wanted !== 'OPEN'}
          foresight={foresight}
          title={`${words.apps.become[wanted.toLowerCase()]} “${page.app.name}”`}
          act={words.apps.become[wanted.toLowerCase()] ?? ''}
          disabled={set.isPending}
          error={set.error}
          onAct={() => set.mutate(wanted)}
          onClose={() => setWanted(undefined)}
        >
          <p>{words.apps.becomeHelp[wanted.toLowerCase()]}</p>
          <TextField
            id="state-reason"
            label={words.groups.why}
            value={reason}
            onChange={setReason}
          />
        </ActDialog>
      )}
    </>
  );
}

function Roles({ page }: { page: Page }) {
  const [editing, setEditing] = useState<Schemas['RoleLine'] | 'new'>();
  const most = Math.max(1, ...page.entitlements.map((one) => one.holders));
  return (
    <section className="part" aria-labelledby="app-roles">
      <div className="part-head">
        <h2 id="app-roles">{words.apps.columns.entitlements}</h2>
        {page.mayEdit && (
          <Button variant="outline-primary" onClick={() => setEditing('new')}>
            {words.apps.addEntitlement}
          </Button>
        )}
      </div>
      {page.entitlements.length === 0 ? (
        <p className="dim">{words.apps.noEntitlement}</p>
      ) : (
        <div className="scroll">
          <Table>
            <thead>
              <tr>
                <th>{words.apps.entitlementName}</th>
                <th>{words.apps.columns.sensitivity}</th>
                <th>{words.apps.asking}</th>
                <th>{words.apps.columns.holders}</th>
                <th className="num">{words.apps.grants}</th>
                <th>
                  <span className="visually-hidden">{words.groups.edit}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {page.entitlements.map((role) => (
                <tr key={role.id}>
                  <td>
                    <DeskLink to={`/desk/entitlements/${role.id}`}>
                      <b>{role.name}</b>
                    </DeskLink>
                    <div className="dim small">{role.line}</div>
                  </td>
                  <td>
                    <SensitivityTag sensitivity={role.sensitivity} />
                  </td>
                  <td>{role.requestable ? words.apps.mayBeAsked : words.apps.givenOnly}</td>
                  <td className="of-most">
                    <span aria-hidden="true">
                      <i style={{ width: `${(100 * role.holders) / most}%` }} />
                    </span>
                    {words.count(role.holders)}
                  </td>
                  <td className="num">{words.count(role.grants)}</td>
                  <td>
                    {page.mayEdit && (
                      <Button
                        variant="link"
                        aria-label={words.apps.changeEntitlement(role.name)}
                        onClick={() => setEditing(role)}
                      >
                        {words.groups.edit}
                      </Button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      )}
      {editing !== undefined && (
        <RoleDialog
          app={page.app.id}
          role={
            editing === 'new'
              ? undefined
              : (page.entitlements.find((one) => one.id === editing.id) ?? editing)
          }
          onClose={() => setEditing(undefined)}
        />
      )}
    </section>
  );
}

function RoleDialog({
  app,
  role,
  onClose,
}: {
  app: string;
  role?: Schemas['RoleLine'];
  onClose: () => void;
}) {
  const now: Role =
    role === undefined
      ? NEW_ROLE
      : {
          name: role.name,
          line: role.line,
          sensitivity: sensitivityOf(role.sensitivity),
          requestable: role.requestable,
        };
  const edited = useEdited(role === undefined ? `role of ${app}` : `role ${role.id}`, now);
  const { wanted, setWanted } = edited;
  const stale = useStale({
    kept: edited,
    now,
    wanted,
    onChange: setWanted,
    labels: words.apps.entitlementParts,
    tell: (_, value) => (typeof value === 'boolean' ? words.yesNo(value) : String(value)),
  });
  const [key] = useState(repeatKey);
  const save = useAct(
    () =>
      role === undefined
        ? answer(
            api.POST('/api/apps/{id}/entitlements', {
              params: { path: { id: app }, header: { 'Idempotency-Key': key } },
              body: wanted,
            }),
          )
        : answer(
            api.PUT('/api/entitlements/{id}', {
              params: { path: { id: role.id } },
              body: { base: stale.base, wanted },
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
      title={
        role === undefined ? words.apps.addEntitlement : words.apps.changeEntitlement(role.name)
      }
      act={role === undefined ? words.apps.addIt : words.attributes.save}
      stale={stale}
      kept={edited}
      disabled={save.isPending}
      error={save.error}
      fields={['roles']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <RoleFields id="role" value={wanted} onChange={setWanted} wrong={wrong} />
    </ActDialog>
  );
}

function DescribeDialog({ page, onClose }: { page: Page; onClose: () => void }) {
  const now = profileOf(page);
  const edited = useEdited(`app ${page.app.id}`, now);
  const { wanted, setWanted } = edited;
  const stale = useStale({
    kept: edited,
    now,
    wanted,
    onChange: setWanted,
    labels: words.apps.profileParts,
  });
  const save = useAct(
    () =>
      answer(
        api.PUT('/api/apps/{id}/profile', {
          params: { path: { id: page.app.id } },
          body: { base: stale.base, wanted },
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
      title={words.apps.describe}
      stale={stale}
      kept={edited}
      act={words.attributes.save}
      disabled={save.isPending}
      error={save.error}
      fields={['name', 'line', 'contact', 'nicknames']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <ProfileFields value={wanted} onChange={setWanted} wrong={wrong} />
    </ActDialog>
  );
}

function WayIn({ page }: { page: Page }) {
  const [editing, setEditing] = useState(false);
  if (editing) {
    return <WayInForm page={page} onClose={() => setEditing(false)} />;
  }
  return (
    <>
      {page.address === null ? (
        <p className="dim">{words.apps.noWayIn}</p>
      ) : (
        <p>
          {words.apps.link}
          <br />
          <code>{page.address}</code>
        </p>
      )}
      {page.maySetWayIn && (
        <Button variant="outline-primary" size="sm" onClick={() => setEditing(true)}>
          {words.apps.setLink}
        </Button>
      )}
    </>
  );
}

function WayInForm({ page, onClose }: { page: Page; onClose: () => void }) {
  const now = { address: page.address };
  const edited = useEdited(`way in of ${page.app.id}`, now, {
    address: page.address ?? 'https://',
  });
  const address = edited.wanted.address ?? '';
  const setAddress = (next: string) => edited.setWanted({ address: next });
  const stale = useStale({
    now,
    wanted: edited.wanted,
    onChange: edited.setWanted,
    kept: edited,
    labels: { address: words.apps.address },
    tell: (_, value) => value ?? '',
  });
  const save = useAct(
    () =>
      answer(
        api.PUT('/api/apps/{id}/link', {
          params: { path: { id: page.app.id } },
          body: { base: stale.base.address, address },
        }),
      ),
    () => {
      edited.sent();
      onClose();
    },
  );
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      {edited.fromBefore && <KeptNote onStartAgain={() => edited.sent()} />}
      {stale.note}
      <TextField
        id="link-address"
        label={words.apps.address}
        type="url"
        value={address}
        onChange={setAddress}
        wrong={save.error instanceof Problem ? save.error.field('address') : undefined}
      />
      <ProblemNote error={save.error} fields={['address']} />
      <div className="bar">
        <Button type="submit" size="sm" disabled={stale.blocked || save.isPending}>
          {words.attributes.save}
        </Button>
        <Button variant="outline-primary" size="sm" onClick={onClose}>
          {words.shell.cancel}
        </Button>
      </div>
    </Form>
  );
}

/** What is paid for: how many seats, and what one costs a month. */
function SeatsPart({ page }: { page: Page }) {
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
