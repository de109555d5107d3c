import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api } from '../../api/client';
import { Picture } from '../../pictures/Picture';
import { DeskLink } from '../../shell/lens';
import { words } from '../../words/en';
import { tellAudience } from '../AudienceFields';
import { TileDialog } from '../TileDialog';
import { type Collection, days, type Tile } from './Flags';
import { type Arranging, movesTo, moveTiles } from './useArranging';

/** What can be known and done about a tile. */
export function TileMargin({
  tile,
  collections,
  may,
  arranging,
  onCollection,
  onBack,
}: {
  tile: Tile;
  collections: Collection[];
  may: boolean;
  arranging: Arranging;
  onCollection: (id: string) => void;
  onBack: () => void;
}) {
  const [editing, setEditing] = useState(false);
  const [ending, setEnding] = useState(false);
  const lying = collections.filter((one) => one.places.some((place) => place.tile === tile.id));
  const open = collections.filter((one) => one.mayArrange && !lying.includes(one));
  return (
    <>
      <Button variant="link" size="sm" onClick={onBack}>
        {words.curate.allTiles}
      </Button>
      <div className="bar room-above room-below">
        <Picture name={tile.picture} hue={tile.hue} />
        <div>
          <h2 className="flush" dir="auto">
            {tile.name}
          </h2>
          <span className="dim small" dir="auto">
            {tile.line}
          </span>
        </div>
      </div>
      {tile.flags.map((flag) => (
        <div key={flag} className="note wait small">
          {words.arrange.flagsLong[flag]?.(tile.app.name) ?? flag}
        </div>
      ))}
      <dl className="pair">
        <dt>{words.curate.app}</dt>
        <dd>
          <DeskLink to={`/desk/apps/${tile.app.id}`}>{tile.app.name}</DeskLink>
          <div className="mono small wrap">{tile.leads}</div>
        </dd>
        <dt>{words.curate.needs}</dt>
        <dd>
          {tile.needs.length === 0
            ? words.arrange.needsNothing(tellAudience(tile.audience))
            : tile.needs.map((need, index) => (
                <span key={need.id}>
                  {index > 0 && words.requests.or}
                  <DeskLink to={`/desk/entitlements/${need.id}`}>{need.name}</DeskLink>
                </span>
              ))}
        </dd>
        <dt>{words.curate.canOpen}</dt>
        <dd>{words.groups.people(tile.holders)}</dd>
        {(tile.from !== null || tile.until !== null) && (
          <>
            <dt>{words.arrange.shown}</dt>
            <dd>{days(tile)}</dd>
          </>
        )}
        <dt>{words.curate.opened}</dt>
        <dd>{words.curate.openings(tile.openings)}</dd>
        <dt>{words.curate.liesIn}</dt>
        <dd>
          {lying.length === 0
            ? words.curate.nowhereLong
            : lying.map((one, index) => (
                <span key={one.id}>
                  {index > 0 && ', '}
                  <button
                    type="button"
                    className="btn btn-link"
                    onClick={() => onCollection(one.id)}
                  >
                    {one.name}
                  </button>
                </span>
              ))}
        </dd>
        <dt>{words.curate.address}</dt>
        <dd>
          <code className="wrap">/go/{tile.id}</code>
        </dd>
      </dl>
      {open.length > 0 && (
        <Form.Select
          size="sm"
          aria-label={words.arrange.putInto(tile.name)}
          value=""
          disabled={arranging.pending}
          onChange={(event) => {
            const into = open.find((one) => one.id === event.target.value);
            if (into !== undefined) {
              arranging.edit(
                moveTiles(
                  into.id,
                  movesTo(into.places, [tile.id], into.places.at(-1)?.tile ?? null, false),
                ),
              );
            }
          }}
        >
          <option value="">{words.arrange.putIntoOne}</option>
          {open.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </Form.Select>
      )}
      {may && (
        <div className="bar room-above">
          <Button variant="outline-primary" size="sm" onClick={() => setEditing(true)}>
            {words.curate.changeTile}
          </Button>
          <Button
            variant="outline-danger"
            size="sm"
            disabled={arranging.pending}
            onClick={() => {
              if (ending) {
                arranging.edit(() =>
                  answer(api.DELETE('/api/tiles/{id}', { params: { path: { id: tile.id } } })),
                );
                onBack();
              } else {
                setEnding(true);
              }
            }}
          >
            {ending ? words.curate.endTileReally(tile.name, lying.length) : words.curate.endTile}
          </Button>
        </div>
      )}
      {editing && <TileDialog app={tile.app.id} tile={tile} onClose={() => setEditing(false)} />}
    </>
  );
}
