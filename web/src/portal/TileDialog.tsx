import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { PickPicture } from '../pictures/PickPicture';
import { useStale } from '../shell/stale';
import { ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useEdited } from '../shell/useUnsent';
import { words } from '../words/en';
import {
  type Audience,
  AudienceFields,
  audienceOf,
  EVERYONE,
  sent,
  tellAudience,
} from './AudienceFields';
import { DayField } from './DayField';

/** A tile as it is edited: what it is sent as, with the names of its audience. */
type Parts = Omit<Schemas['TileForm'], 'audience'> & { audience: Audience };

const NOTHING: Parts = {
  name: '',
  line: '',
  picture: '',
  hue: '',
  application: '',
  needs: [],
  address: '',
  contact: '',
  apart: false,
  audience: EVERYONE,
  from: null,
  until: null,
};

function partsOf(from: Schemas['CuratedTile']): Parts {
  return {
    name: from.name,
    line: from.line,
    picture: from.picture,
    hue: from.hue,
    application: from.app.id,
    needs: from.needs.map((need) => need.id),
    address: from.address,
    contact: from.contact,
    apart: from.apart,
    audience: audienceOf(from.audience),
    from: from.from,
    until: from.until,
  };
}

function form(parts: Parts): Schemas['TileForm'] {
  return { ...parts, audience: sent(parts.audience) };
}

/** Making a tile for an application, or changing one. */
export function TileDialog({
  app,
  tile,
  onClose,
}: {
  app: Schemas['AppPage'] | string;
  tile?: Schemas['CuratedTile'];
  onClose: () => void;
}) {
  const id = typeof app === 'string' ? app : app.app.id;
  const found = useQuery({
    queryKey: ['app', id, undefined],
    queryFn: () => answer(api.GET('/api/apps/{id}', { params: { path: { id } } })),
    enabled: typeof app === 'string',
  });
  const page = typeof app === 'string' ? found.data : app;
  return page === undefined ? null : <TileForm page={page} tile={tile} onClose={onClose} />;
}

function TileForm({
  page,
  tile,
  onClose,
}: {
  page: Schemas['AppPage'];
  tile?: Schemas['CuratedTile'];
  onClose: () => void;
}) {
  const edited = useEdited(
    tile === undefined ? `tile of ${page.app.id}` : `tile ${tile.id}`,
    tile === undefined ? NOTHING : partsOf(tile),
    tile === undefined
      ? {
          ...NOTHING,
          name: page.app.name,
          line: page.line,
          picture: page.app.picture,
          hue: page.app.hue,
          application: page.app.id,
          needs: page.entitlements.map((role) => role.id),
        }
      : partsOf(tile),
  );
  const { wanted, setWanted } = edited;
  const stale = useStale<Parts>({
    now: tile === undefined ? NOTHING : partsOf(tile),
    wanted,
    onChange: setWanted,
    kept: edited,
    labels: words.curate.tileParts,
    tell: (part, value) =>
      part === 'needs'
        ? page.entitlements
            .filter((role) => (value as string[]).includes(role.id))
            .map((role) => role.name)
            .join(', ')
        : part === 'audience'
          ? tellAudience(value as Audience)
          : String(value ?? ''),
  });
  const [key] = useState(repeatKey);
  const save = useAct(
    async () => {
      await (tile === undefined
        ? answer(
            api.POST('/api/tiles', {
              params: { header: { 'Idempotency-Key': key } },
              body: form(wanted),
            }),
          )
        : answer(
            api.PUT('/api/tiles/{id}', {
              params: { path: { id: tile.id } },
              body: { base: form(stale.base), wanted: form(wanted) },
            }),
          ));
    },
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
      large
      title={tile === undefined ? words.curate.makeTileFor(page.app.name) : tile.name}
      act={tile === undefined ? words.curate.makeTile : words.attributes.save}
      stale={stale}
      kept={edited}
      disabled={save.isPending}
      error={save.error}
      fields={['name', 'line', 'needs', 'address', 'contact', 'until', 'picture', 'audience']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <TextField
        id="tile-name"
        required
        label={words.curate.tileName}
        value={wanted.name}
        onChange={(name) => setWanted({ ...wanted, name })}
        wrong={wrong('name')}
      />
      <TextField
        id="tile-line"
        label={words.curate.tileLine}
        value={wanted.line}
        onChange={(line) => setWanted({ ...wanted, line })}
        wrong={wrong('line')}
      />
      <PickPicture
        picture={wanted.picture}
        hue={wanted.hue}
        own
        wrong={wrong('picture')}
        onChange={(picture, hue) => setWanted({ ...wanted, picture, hue })}
      />
      <fieldset className="field">
        <legend>{words.curate.needs}</legend>
        {page.entitlements.map((role) => (
          <Form.Check
            key={role.id}
            type="checkbox"
            id={`need-${role.id}`}
            label={`${role.name} (${words.access.holders(role.holders)})`}
            checked={wanted.needs.includes(role.id)}
            onChange={(event) =>
              setWanted({
                ...wanted,
                needs: event.target.checked
                  ? [...wanted.needs, role.id]
                  : wanted.needs.filter((one) => one !== role.id),
              })
            }
          />
        ))}

        {wrong('needs') !== undefined && (
          <div className="invalid-feedback" role="alert">
            {wrong('needs')}
          </div>
        )}
      </fieldset>
      {wanted.needs.length === 0 && (
        <AudienceFields
          name="tile-audience"
          legend={words.arrange.tileAudience}
          value={wanted.audience}
          onChange={(audience) => setWanted({ ...wanted, audience })}
          help={words.curate.needsNothing}
          wrong={wrong('audience') ?? wrong('filter')}
        />
      )}
      <TextField
        id="tile-address"
        label={words.arrange.tileAddress}
        value={wanted.address}
        onChange={(address) => setWanted({ ...wanted, address })}
        wrong={wrong('address')}
      />
      {wanted.address.trim() !== '' && <TryIt address={wanted.address} />}
      <TextField
        id="tile-contact"
        label={words.arrange.tileContact}
        value={wanted.contact}
        onChange={(contact) => setWanted({ ...wanted, contact })}
        wrong={wrong('contact')}
      />
      <Form.Check
        type="checkbox"
        id="tile-apart"
        label={words.arrange.tileApart}
        checked={wanted.apart}
        onChange={(event) => setWanted({ ...wanted, apart: event.target.checked })}
      />
      <div className="bar room-above">
        <DayField
          id="tile-from"
          label={words.arrange.shownFrom}
          value={wanted.from ?? null}
          onChange={(from) => setWanted({ ...wanted, from })}
        />
        <DayField
          id="tile-until"
          label={words.arrange.shownUntil}
          value={wanted.until ?? null}
          onChange={(until) => setWanted({ ...wanted, until })}
          wrong={wrong('until')}
        />
      </div>
    </ActDialog>
  );
}

/** Asks the server to fetch the address once, and tells what came back. */
function TryIt({ address }: { address: string }) {
  const tried = useMutation({
    mutationFn: () => answer(api.POST('/api/tiles/try', { body: { address } })),
  });
  return (
    <div className="field">
      <Button
        size="sm"
        variant="outline-primary"
        disabled={tried.isPending}
        onClick={() => tried.mutate()}
      >
        {tried.isPending ? words.arrange.trying : words.arrange.tryIt}
      </Button>{' '}
      <span className="small" role="status">
        {tried.data !== undefined &&
          words.arrange.tried(tried.data.status, tried.data.millis, tried.data.elsewhere)}
      </span>
      <ProblemNote error={tried.error} />
    </div>
  );
}
