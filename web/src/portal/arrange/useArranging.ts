import { useState } from 'react';
import { answer, api, type Schemas } from '../../api/client';
import { useEnsureDraft } from '../../drafts/ensuring';
import { useOpenDraft } from '../../drafts/gathering';
import { useAct } from '../../shell/useAct';

type Receipt = Schemas['Receipt'];
type Command = () => Promise<Receipt>;

/** What was done here, and how to do it again. */
type Done = { commands: Command[]; edits: number[] };

/**
 * Everything that is arranged goes into the open draft; the first edit opens one.
 *
 * @param newest the newest edit of the open draft that is about the portal, however it was made
 */
export function useArranging(newest: number | undefined) {
  const open = useOpenDraft();
  const { ensure } = useEnsureDraft();
  const [done, setDone] = useState<Done[]>([]);
  const [undone, setUndone] = useState<Done[]>([]);
  const run = async (commands: Command[]): Promise<Done> => {
    await ensure();
    const edits: number[] = [];
    for (const command of commands) {
      const { edit } = await command();
      if (edit !== null && edit > 0) {
        edits.push(edit);
      }
    }
    return { commands, edits };
  };
  const act = useAct(run, (one) => {
    setDone((before) => [...before, one]);
    setUndone([]);
  });
  const undo = useAct(async () => {
    const last = done.at(-1);
    if (open === undefined) {
      return;
    }
    if (last === undefined || (newest !== undefined && newest > Math.max(...last.edits))) {
      // It was made in a form: it can be taken out, and made again there.
      if (newest !== undefined) {
        await answer(
          api.DELETE('/api/drafts/{id}/edits/{seq}', {
            params: { path: { id: open.id, seq: newest } },
          }),
        );
      }
      return;
    }
    for (const seq of [...last.edits].reverse()) {
      await answer(
        api.DELETE('/api/drafts/{id}/edits/{seq}', { params: { path: { id: open.id, seq } } }),
      );
    }
    setDone(done.slice(0, -1));
    setUndone([...undone, last]);
  });
  const redo = useAct(async () => {
    const last = undone.at(-1);
    if (last !== undefined) {
      const again = await run(last.commands);
      setUndone(undone.slice(0, -1));
      setDone([...done, again]);
    }
  });
  const pending = act.isPending || undo.isPending || redo.isPending;
  return {
    edit: (...commands: Command[]) => act.mutate(commands),
    error: act.error ?? undo.error ?? redo.error,
    pending,
    undo: (done.length === 0 && newest === undefined) || pending ? undefined : () => undo.mutate(),
    redo: undone.length === 0 || pending ? undefined : () => redo.mutate(),
  };
}

export type Arranging = ReturnType<typeof useArranging>;

// ---- what is sent

type Place = Schemas['PlaceView'];

/** Puts tiles behind another, one behind the other. */
export function movesTo(
  places: Place[],
  tiles: readonly string[],
  after: string | null,
  offered?: boolean,
): Schemas['TileMove'][] {
  let last = after;
  return tiles.map((tile) => {
    const place = places.find((one) => one.tile === tile);
    const move = {
      tile,
      base: baseOf(place),
      wanted: { after: last, offered: offered ?? place?.offered ?? false },
    };
    last = tile;
    return move;
  });
}

function baseOf(place: Place | undefined) {
  return place === undefined ? null : { rank: place.rank, offered: place.offered };
}

export function takingOut(places: Place[], tiles: readonly string[]): Schemas['TileMove'][] {
  return places
    .filter((place) => tiles.includes(place.tile))
    .map((place) => ({ tile: place.tile, base: baseOf(place), wanted: null }));
}

/** Where a tile stands is left alone, and only whether it is offered changes. */
export function offering(places: Place[], tile: string, offered: boolean): Schemas['TileMove'][] {
  const at = places.findIndex((place) => place.tile === tile);
  return movesTo(places, [tile], places[at - 1]?.tile ?? null, offered);
}

export function moveTiles(collection: string, moves: Schemas['TileMove'][]): Command {
  return () =>
    answer(
      api.PUT('/api/collections/{id}/tiles', {
        params: { path: { id: collection } },
        body: { moves },
      }),
    );
}
