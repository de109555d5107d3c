import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { EditOwners } from '../directory/EditOwners';
import { ActDialog } from '../drafts/ActDialog';
import { useEnsureDraft } from '../drafts/ensuring';
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
  NOBODY,
  sent,
  tellAudience,
} from './AudienceFields';

type Collection = Schemas['CollectionView'];
/** The parts of a collection that this form changes. */
type Parts = { name: string; line: string; audience: Audience };

function partsOf(collection: Collection | undefined): Parts {
  return {
    name: collection?.name ?? '',
    line: collection?.line ?? '',
    audience: collection === undefined ? NOBODY : audienceOf(collection.audience),
  };
}

/** Making a collection, or changing its name, its line, who sees it and who cares for it. */
export function CollectionDialog({
  collection,
  onClose,
  onMade,
}: {
  collection?: Collection;
  onClose: () => void;
  /** Where it was made: its id. */
  onMade?: (id: string) => void;
}) {
  const before = partsOf(collection);
  const { ensure } = useEnsureDraft();
  const edited = useEdited(`collection ${collection?.id ?? 'new'}`, before);
  const { wanted, setWanted } = edited;
  const [ending, setEnding] = useState(false);
  const [key] = useState(repeatKey);
  const stale = useStale<Parts>({
    now: before,
    wanted,
    onChange: setWanted,
    kept: edited,
    labels: words.curate.collectionParts,
    tell: (part, value) => (part === 'audience' ? tellAudience(value as Audience) : String(value)),
  });
  const curates = collection === undefined || collection.mayCurate;
  const save = useAct(
    async () => {
      const face = { name: wanted.name.trim(), line: wanted.line.trim() };
      if (collection === undefined) {
        const made = await answer(
          api.POST('/api/collections', {
            params: { header: { 'Idempotency-Key': key } },
            body: { face, audience: sent(wanted.audience) },
          }),
        );
        onMade?.(made.result);
        return;
      }
      const path = { id: collection.id };
      if (face.name !== stale.base.name || face.line !== stale.base.line) {
        await answer(
          api.PUT('/api/collections/{id}/face', {
            params: { path },
            body: { base: { name: stale.base.name, line: stale.base.line }, wanted: face },
          }),
        );
      }
      if (curates && JSON.stringify(wanted.audience) !== JSON.stringify(stale.base.audience)) {
        await answer(
          api.PUT('/api/collections/{id}/audience', {
            params: { path },
            body: { base: sent(stale.base.audience), wanted: sent(wanted.audience) },
          }),
        );
      }
    },
    () => {
      edited.sent();
      onClose();
    },
  );
  const end = useAct(async () => {
    await ensure();
    await answer(
      api.DELETE('/api/collections/{id}', { params: { path: { id: collection?.id ?? '' } } }),
    );
  }, onClose);
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      large
      title={collection?.name ?? words.curate.makeCollection}
      act={collection === undefined ? words.curate.makeIt : words.attributes.save}
      stale={stale}
      kept={edited}
      disabled={save.isPending}
      error={save.error}
      fields={['name', 'line', 'audience', 'filter']}
      onAct={() => save.mutate()}
      onClose={onClose}
      below={
        <>
          {collection?.mayCurate && (
            <>
              <h3>{words.groups.owners}</h3>
              <EditOwners
                owners={collection.owners}
                may
                none={words.curate.noOwner}
                save={(was, owners) =>
                  answer(
                    api.PUT('/api/collections/{id}/owners', {
                      params: { path: { id: collection.id } },
                      body: { base: was, owners },
                    }),
                  )
                }
              />
            </>
          )}
          <ProblemNote error={end.error} />
        </>
      }
      beside={
        collection?.mayCurate && (
          <Button
            variant="outline-danger"
            className="to-start"
            disabled={end.isPending}
            onClick={() => (ending ? end.mutate() : setEnding(true))}
          >
            {ending
              ? words.curate.endReally(collection.name, collection.places.length)
              : words.curate.end}
          </Button>
        )
      }
    >
      <TextField
        id="collection-name"
        required
        label={words.curate.name}
        value={wanted.name}
        onChange={(name) => setWanted({ ...wanted, name })}
        wrong={wrong('name')}
      />
      <TextField
        id="collection-line"
        label={words.curate.line}
        value={wanted.line}
        onChange={(line) => setWanted({ ...wanted, line })}
        wrong={wrong('line')}
      />
      {curates && (
        <AudienceFields
          name="audience"
          legend={words.curate.audience}
          value={wanted.audience}
          onChange={(audience) => setWanted({ ...wanted, audience })}
          help={words.curate.showsOnly}
          wrong={wrong('audience') ?? wrong('filter')}
        />
      )}
    </ActDialog>
  );
}
