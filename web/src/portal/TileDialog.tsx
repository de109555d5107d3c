import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { PickPicture } from '../pictures/PickPicture';
import { ActDialog } from '../shell/ActDialog';
import { useStale } from '../shell/stale';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

const NOTHING: Schemas['TileForm'] = {
  name: '',
  line: '',
  picture: '',
  hue: '',
  application: '',
  needs: [],
};

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
  const face = (from: Schemas['CuratedTile']): Schemas['TileForm'] => ({
    name: from.name,
    line: from.line,
    picture: from.picture,
    hue: from.hue,
    application: from.app.id,
    needs: from.needs.map((need) => need.id),
  });
  const [wanted, setWanted] = useState<Schemas['TileForm']>(
    tile === undefined
      ? {
          name: page.app.name,
          line: page.line,
          picture: page.app.picture,
          hue: page.app.hue,
          application: page.app.id,
          needs: page.entitlements.map((role) => role.id),
        }
      : face(tile),
  );
  const stale = useStale({
    now: tile === undefined ? NOTHING : face(tile),
    wanted,
    onChange: setWanted,
    labels: words.curate.tileParts,
    tell: (part, value) =>
      part === 'needs'
        ? page.entitlements
            .filter((role) => value.includes(role.id))
            .map((role) => role.name)
            .join(', ')
        : String(value),
  });
  const [key] = useState(repeatKey);
  const save = useAct(
    () =>
      tile === undefined
        ? answer(
            api.POST('/api/tiles', {
              params: { header: { 'Idempotency-Key': key } },
              body: wanted,
            }),
          )
        : answer(
            api.PUT('/api/tiles/{id}', {
              params: { path: { id: tile.id } },
              body: { base: stale.base, wanted },
            }),
          ),
    onClose,
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      title={tile === undefined ? words.curate.makeTileFor(page.app.name) : tile.name}
      act={tile === undefined ? words.curate.makeTile : words.attributes.save}
      stale={stale}
      disabled={save.isPending}
      error={save.error}
      fields={['name', 'line', 'needs']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <TextField
        id="tile-name"
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
        {wanted.needs.length === 0 && <p className="small dim">{words.curate.needsNothing}</p>}
        {wrong('needs') !== undefined && (
          <div className="invalid-feedback" role="alert">
            {wrong('needs')}
          </div>
        )}
      </fieldset>
    </ActDialog>
  );
}
