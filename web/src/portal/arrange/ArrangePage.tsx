import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, api, type Schemas } from '../../api/client';
import { Edits } from '../../drafts/Edits';
import { DraftsHere } from '../../drafts/ensuring';
import { useOpenDraft } from '../../drafts/gathering';
import { useAddress } from '../../shell/addresses';
import { useLens } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { useSession } from '../../shell/session';
import { Failure, Loading, ProblemNote } from '../../shell/states';
import { dayIn, tellDay } from '../../shell/times';
import { useAct } from '../../shell/useAct';
import { words } from '../../words/en';
import { CollectionDialog } from '../CollectionDialog';
import { PortalTabs } from '../PortalTabs';
import { AllTiles } from './AllTiles';
import { CollectionMargin } from './CollectionMargin';
import { FrontPageDialog } from './FrontPageDialog';
import { Outline } from './Outline';
import { PageMargin } from './PageMargin';
import { Preview, usePreview } from './Preview';
import { TileMargin } from './TileMargin';
import { Tools, useUndoKeys } from './Tools';
import {
  moveCollection,
  movePage,
  movesTo,
  moveTiles,
  takingOut,
  useArranging,
} from './useArranging';
import { useCarry } from './useCarry';

type Curated = Schemas['CuratedView'];

/** Arranging the portal: what there is, a true rendering of it, and what explains it. */
export function ArrangePage() {
  const { asOf } = useLens();
  const { zone } = useSession();
  const [get] = useAddress();
  const open = useOpenDraft();
  const draft = get('before') === '' && asOf === undefined ? open?.id : undefined;
  const curated = useQuery({
    queryKey: ['curated', asOf, draft],
    queryFn: () => answer(api.GET('/api/portal', { params: { query: { asOf, draft } } })),
    placeholderData: keepPreviousData,
  });
  if (curated.error) {
    return <Failure error={curated.error} again={() => curated.refetch()} />;
  }
  if (curated.data === undefined) {
    return <Loading what={words.curate.title} lines={12} />;
  }
  return (
    <DraftsHere value={words.arrange.draftName(tellDay(dayIn(zone, new Date())))}>
      <Whole curated={curated.data} draft={draft} />
    </DraftsHere>
  );
}

function Whole({ curated: told, draft }: { curated: Curated; draft: string | undefined }) {
  const [get, set] = useAddress();
  const { asOf } = useLens();
  const open = useOpenDraft();
  const [making, setMaking] = useState<'collection' | 'page'>();
  const [marked, setMarked] = useState<string[]>([]);
  const before = get('before') !== '';
  // What is shown without the draft is looked at; what is arranged goes into the draft.
  const curated = before
    ? {
        ...told,
        mayArrange: false,
        collections: told.collections.map((one) => ({
          ...one,
          mayArrange: false,
          mayCurate: false,
        })),
      }
    : told;
  const { collections, tiles, pages } = curated;
  const preview = usePreview(draft, asOf === undefined);
  const inDraft = useQuery({
    queryKey: ['drafts', open?.id],
    queryFn: () =>
      answer(api.GET('/api/drafts/{id}', { params: { path: { id: open?.id ?? '' } } })),
    enabled: open !== undefined && open.edits > 0,
  });
  const edits = open === undefined || open.edits === 0 ? [] : (inDraft.data?.edits ?? []);
  const arranging = useArranging(
    edits
      .filter((edit) => /^(TILE|COLLECTION|FRONT_PAGE|PORTAL)_/.test(edit.act))
      .map((edit) => edit.seq),
  );
  const undoEdit = useAct((seq: number) =>
    answer(
      api.DELETE('/api/drafts/{id}/edits/{seq}', { params: { path: { id: open?.id ?? '', seq } } }),
    ),
  );
  const about = (thing: string) => edits.filter((edit) => edit.objects.includes(thing));
  const editsHere = (thing: string) =>
    about(thing).length > 0 && (
      <>
        <h3>{words.arrange.editsHere}</h3>
        <Edits edits={about(thing)} editable={!before} onUndo={(seq) => undoEdit.mutate(seq)} />
      </>
    );

  const chosenCollection = collections.find((one) => one.id === get('collection'));
  const chosenTile = tiles.find((one) => one.id === get('tile'));
  const chosenPage = pages.find((one) => one.id === get('page'));
  // The collections stand as on the page that is looked at, or that the person looked at meets.
  const page =
    chosenPage ??
    pages.find((one) => one.id === preview.data?.front) ??
    pages.find((p) => p.everyones);
  const choose = (changes: Record<string, string>) => {
    setMarked([]);
    set({ collection: '', tile: '', page: '', tiles: '', ...changes });
  };
  const may = (id: string) => collections.find((one) => one.id === id)?.mayArrange ?? false;
  const placesOf = (id: string) => collections.find((one) => one.id === id)?.places ?? [];
  const sections = preview.data?.page.sections ?? [];
  const name = (id: string) =>
    tiles.find((one) => one.id === id)?.name ??
    collections.find((one) => one.id === id)?.name ??
    '';
  const carry = useCarry({
    lists: sections.flatMap((section) =>
      section.id === null || !may(section.id)
        ? []
        : [{ id: section.id, items: section.tiles.map((tile) => tile.id) }],
    ),
    marked,
    name,
    busy: arranging.pending,
    onDrop: (carried, after) => {
      const moves = movesTo(placesOf(carried.list), carried.items, after);
      const into = moveTiles(carried.list, moves);
      if (carried.list === carried.from) {
        arranging.edit(into);
      } else {
        // It keeps what it was offered as, where it comes from.
        const was = placesOf(carried.from);
        const kept = moves.map((move) => ({
          ...move,
          wanted: move.wanted && {
            ...move.wanted,
            offered: was.find((place) => place.tile === move.tile)?.offered ?? false,
          },
        }));
        arranging.edit(
          moveTiles(carried.list, kept),
          moveTiles(carried.from, takingOut(was, carried.items)),
        );
      }
      choose({ collection: carried.list });
    },
  });

  useUndoKeys(arranging);
  const mark = (collection: string, tile: string) => {
    const same = get('collection') === collection;
    const now = same ? marked : [];
    set({ collection, tile: '', page: '' });
    setMarked(now.includes(tile) ? now.filter((one) => one !== tile) : [...now, tile]);
  };
  return (
    <>
      <p id="carry-help" className="visually-hidden">
        {words.arrange.carryHelp}
      </p>
      <PortalTabs />
      <div className="arrange">
        <Outline
          curated={curated}
          page={page}
          busy={arranging.pending}
          edits={(thing) => about(thing).length}
          chosen={get('collection') || get('page')}
          onCollection={(id) => choose({ collection: id })}
          onPage={(id) => choose({ page: id })}
          onTiles={() => choose({ tiles: 'all' })}
          onMakeCollection={() => setMaking('collection')}
          onMakePage={() => setMaking('page')}
          onMoveCollection={(id, after) => {
            if (page !== undefined) {
              arranging.edit(moveCollection(page, id, after));
            }
          }}
          onMovePage={(id, after) => {
            const moved = pages.find((one) => one.id === id);
            if (moved !== undefined) {
              arranging.edit(movePage(moved, after));
            }
          }}
        />
        {asOf === undefined ? (
          <Preview
            preview={preview}
            carry={carry}
            may={may}
            chosen={{ collection: get('collection'), tile: get('tile') }}
            marked={marked}
            onTile={(collection, tile) => choose({ collection, tile })}
            onMark={mark}
            onTakeOut={(collection, tile) => {
              const gone = marked.includes(tile) ? marked : [tile];
              arranging.edit(moveTiles(collection, takingOut(placesOf(collection), gone)));
              choose({ collection });
            }}
            onCollection={(id) => choose({ collection: id })}
            tools={<Tools before={before} drafted={open !== undefined} arranging={arranging} />}
          />
        ) : (
          <section className="stage">
            <PageHeading>{words.curate.title}</PageHeading>
            <p className="dim">{words.arrange.noPreviewThen}</p>
          </section>
        )}
        <aside className="margin" aria-label={words.arrange.explained}>
          <ProblemNote error={arranging.error ?? undoEdit.error} />
          {chosenTile !== undefined ? (
            <TileMargin
              key={chosenTile.id}
              tile={chosenTile}
              collections={collections}
              may={curated.mayArrange}
              arranging={arranging}
              onCollection={(id) => choose({ collection: id })}
              onBack={() => choose({ tiles: 'all' })}
            />
          ) : chosenCollection !== undefined ? (
            <CollectionMargin
              key={chosenCollection.id}
              collection={chosenCollection}
              tiles={tiles}
              draft={draft}
              arranging={arranging}
              marked={marked}
              onMark={(tile) => mark(chosenCollection.id, tile)}
              onTile={(tile) => set({ tile })}
              editsHere={editsHere(chosenCollection.id)}
            />
          ) : chosenPage !== undefined ? (
            <PageMargin
              key={chosenPage.id}
              page={chosenPage}
              collections={collections}
              may={curated.mayArrange}
              arranging={arranging}
              editsHere={editsHere(chosenPage.id)}
            />
          ) : (
            <AllTiles tiles={tiles} onTile={(tile) => choose({ tile })} />
          )}
        </aside>
      </div>
      {making === 'collection' && (
        <CollectionDialog
          onClose={() => setMaking(undefined)}
          onMade={(id) => choose({ collection: id })}
        />
      )}
      {making === 'page' && (
        <FrontPageDialog
          onClose={() => setMaking(undefined)}
          onMade={(id, person) =>
            choose(person === undefined ? { page: id } : { page: id, person, unit: '', as: '' })
          }
        />
      )}
    </>
  );
}
