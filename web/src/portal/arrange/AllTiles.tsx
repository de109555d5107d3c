import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { Picture } from '../../pictures/Picture';
import { words } from '../../words/en';
import { Flags, type Tile } from './Flags';

/** All tiles, to be found by name; those that lie in no collection can be had alone. */
export function AllTiles({ tiles, onTile }: { tiles: Tile[]; onTile: (tile: string) => void }) {
  const [text, setText] = useState('');
  const [homeless, setHomeless] = useState(false);
  const wanted = text.trim().toLowerCase();
  const shown = tiles.filter(
    (tile) =>
      (wanted === '' || tile.name.toLowerCase().includes(wanted)) &&
      (!homeless || (tile.collections === 0 && tile.holders > 0)),
  );
  return (
    <>
      <h2>{words.curate.tiles}</h2>
      <p className="dim small">{words.curate.tilesHelp}</p>
      <Form.Control
        type="text"
        size="sm"
        aria-label={words.arrange.findTile}
        placeholder={words.arrange.findTile}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Form.Check
        type="checkbox"
        id="homeless"
        label={words.arrange.homelessOnly}
        checked={homeless}
        onChange={(event) => setHomeless(event.target.checked)}
      />
      <ul className="plain tile-list">
        {shown.map((tile) => (
          <li key={tile.id}>
            <button type="button" className="choose" onClick={() => onTile(tile.id)}>
              <Picture name={tile.picture} hue={tile.hue} size={24} />
              <span dir="auto">{tile.name}</span>
            </button>
            <span>
              {tile.collections === 0 && <span className="tag wait">{words.curate.nowhere}</span>}
              <Flags tile={tile} />
            </span>
            <span className="mono dim" title={words.curate.openings(tile.openings)}>
              {words.count(tile.openings)}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}
