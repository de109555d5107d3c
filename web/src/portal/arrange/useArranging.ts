import { useState } from 'react';
import { answer, api, type Schemas } from '../../api/client';
import { useEnsureDraft } from '../../drafts/ensuring';
import { useOpenDraft } from '../../drafts/gathering';
import { useAct } from '../../shell/useAct';

type Receipt = Schemas['Receipt'];
type Command = () => Promise<Receipt>;

/** What was done here, in which draft, and how to do it again. */
type Done = { draft: string | undefined; commands: Command[]; edits: number[] };

/**
 * Everything that is arranged goes into the open draft; the first edit opens one.
 *
 * @param seqs the edits of the open draft that are about the portal, however they were made
 */
export function useArranging(seqs: readonly number[]) {
  const open = useOpenDraft();
  const { ensure } = useEnsureDraft();
  const [all, setAll] = useState<Done[]>([]);
  const [taken, setTaken] = useState<Done[]>([]);
  // What was published, or removed from the draft elsewhere, is not undone here.
  const done = all.filter(
    (one) => one.draft === open?.id && one.edits.some((seq) => seqs.includes(seq)),
  );
  const undone = taken.filter((one) => one.draft === open?.id);
  const newest = seqs.length === 0 ? undefined : Math.max(...seqs);
  const run = async (commands: Command[]): Promise<Done> => {
    const draft = await ensure();
    const edits: number[] = [];
    for (const command of commands) {
      const { edit } = await command();
      if (edit !== null && edit > 0) {
        edits.push(edit);
      }
    }
    return { draft, commands, edits };
  };
  const act = useAct(run, (one) => {
    if (one.edits.length > 0) {
      setAll((before) => [...before, one]);
      setTaken([]);
    }
  });
  const undo = useAct(async () => {
    const last = done.at(-1);
    if (open === undefined || newest === undefined) {
      return;
    }
    // What was made in a form is removed on its own; it can be made again there.
    const mine = last?.edits.includes(newest) === true;
    const gone = mine ? last.edits.filter((seq) => seqs.includes(seq)) : [newest];
    for (const seq of [...gone].reverse()) {
      await answer(
        api.DELETE('/api/drafts/{id}/edits/{seq}', { params: { path: { id: open.id, seq } } }),
      );
    }
    if (mine) {
      setAll(all.filter((one) => one !== last));
      setTaken([...undone, last]);
    }
  });
  const redo = useAct(async () => {
    const last = undone.at(-1);
    if (last !== undefined) {
      const again = await run(last.commands);
      setTaken(undone.slice(0, -1));
      setAll([...all, again]);
    }
  });
  const pending = act.isPending || undo.isPending || redo.isPending;
  return {
    edit: (...commands: Command[]) => act.mutate(commands),
    error: act.error ?? undo.error ?? redo.error,
    pending,
    undo: newest === undefined || pending ? undefined : () => undo.mutate(),
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

type Page = Schemas['CuratedView']['pages'][number];

/** Puts a collection after another on a front page; null for the first place. */
export function moveCollection(page: Page, id: string, after: string | null): Command {
  // What follows by name is named as far as it stands before what is moved.
  const at = after === null ? 0 : page.order.indexOf(after) + 1;
  const ahead = page.order
    .slice(0, at)
    .filter((one) => one !== id && !page.named.some((each) => each.id === one));
  const moves = [
    ...ahead.map((one) => ({
      collection: one,
      base: null,
      off: false,
      after: page.order[page.order.indexOf(one) - 1] ?? null,
    })),
    {
      collection: id,
      base: page.named.find((each) => each.id === id)?.rank ?? null,
      off: false,
      after,
    },
  ];
  return () =>
    answer(
      api.PUT('/api/front-pages/{id}/collections', {
        params: { path: { id: page.id } },
        body: { moves },
      }),
    );
}

/** Puts a front page after another; null for the first place. */
export function movePage(page: Page, after: string | null): Command {
  return () =>
    answer(
      api.PUT('/api/front-pages/{id}/place', {
        params: { path: { id: page.id } },
        body: { base: page.rank, after },
      }),
    );
}
