import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { EditOwners } from '../directory/EditOwners';
import { FilterField } from '../directory/groups/FilterField';
import { type Chosen, PickThings } from '../directory/groups/PickThings';
import { ActDialog } from '../shell/ActDialog';
import { useStale } from '../shell/stale';
import { ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

type Collection = Schemas['CollectionView'];
type Audience = Schemas['AudienceForm'];
type Seen = Pick<Schemas['SubjectView'], 'kind' | 'id' | 'name'>;

function audienceOf(everyone: boolean, chosen: Chosen[], filter: string): Audience {
  return {
    everyone,
    subjects: everyone
      ? []
      : [
          ...chosen.map(({ kind, id }) => ({ kind, id, filter: null })),
          ...(filter.trim() === '' ? [] : [{ kind: 'filter', id: null, filter: filter.trim() }]),
        ],
  };
}

function subjectOf(one: Seen): Schemas['SubjectForm'] {
  return one.kind === 'filter'
    ? { kind: 'filter', id: null, filter: one.name }
    : { kind: one.kind, id: one.id, filter: null };
}

/** The parts of a collection that this form changes. */
type Parts = { name: string; line: string; everyone: boolean; audience: Seen[] };

function partsOf(collection: Collection | undefined): Parts {
  return {
    name: collection?.name ?? '',
    line: collection?.line ?? '',
    everyone: collection?.everyone ?? false,
    audience: (collection?.audience ?? []).map(({ kind, id, name }) => ({ kind, id, name })),
  };
}

function chosenIn(audience: Seen[]): Chosen[] {
  return audience.flatMap((one): Chosen[] =>
    one.id !== null && (one.kind === 'person' || one.kind === 'group')
      ? [{ kind: one.kind, id: one.id, name: one.name }]
      : [],
  );
}

function filtersIn(audience: Seen[]): Seen[] {
  return audience.filter((one) => one.kind === 'filter');
}

/** Making a collection, or changing its name, its line, who sees it and who cares for it. */
export function CollectionDialog({
  collection,
  onClose,
}: {
  collection?: Collection;
  onClose: () => void;
}) {
  const before = partsOf(collection);
  const [name, setName] = useState(before.name);
  const [line, setLine] = useState(before.line);
  const [everyone, setEveryone] = useState(before.everyone);
  const [chosen, setChosen] = useState(() => chosenIn(before.audience));
  const [filter, setFilter] = useState(() => filtersIn(before.audience)[0]?.name ?? '');
  const [ending, setEnding] = useState(false);
  const [key] = useState(repeatKey);
  const face = { name: name.trim(), line: line.trim() };
  const [untouched, setUntouched] = useState(before.audience);
  const wanted = audienceOf(everyone, chosen, filter);
  // Further filters stay as they are.
  const further = filtersIn(untouched).slice(1);
  const audience: Audience = {
    everyone,
    subjects: everyone ? [] : [...wanted.subjects, ...further.map(subjectOf)],
  };
  const moved =
    JSON.stringify(wanted) !==
    JSON.stringify(
      audienceOf(
        before.everyone,
        chosenIn(before.audience),
        filtersIn(before.audience)[0]?.name ?? '',
      ),
    );
  const stale = useStale<Parts>({
    now: before,
    wanted: {
      ...face,
      everyone,
      audience: moved
        ? [
            ...chosen,
            ...(filter.trim() === '' ? [] : [{ kind: 'filter', id: null, name: filter.trim() }]),
            ...further,
          ]
        : untouched,
    },
    onChange: (next) => {
      setName(next.name);
      setLine(next.line);
      setEveryone(next.everyone);
      setChosen(chosenIn(next.audience));
      setFilter(filtersIn(next.audience)[0]?.name ?? '');
      setUntouched(next.audience);
    },
    labels: words.curate.collectionParts,
    tell: (_, value) =>
      typeof value === 'boolean'
        ? words.yesNo(value)
        : typeof value === 'string'
          ? value
          : value.map((one) => one.name).join(', '),
  });
  // As the server knows it, in its order.
  const base: Audience = {
    everyone: stale.base.everyone,
    subjects: stale.base.audience.map(subjectOf),
  };
  const curates = collection === undefined || collection.mayCurate;
  const save = useAct(async () => {
    if (collection === undefined) {
      return answer(
        api.POST('/api/collections', {
          params: { header: { 'Idempotency-Key': key } },
          body: { face, audience },
        }),
      );
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
    if (curates && moved) {
      await answer(
        api.PUT('/api/collections/{id}/audience', {
          params: { path },
          body: { base, wanted: audience },
        }),
      );
    }
  }, onClose);
  const end = useAct(
    () =>
      answer(
        api.DELETE('/api/collections/{id}', { params: { path: { id: collection?.id ?? '' } } }),
      ),
    onClose,
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      large
      title={collection?.name ?? words.curate.makeCollection}
      act={collection === undefined ? words.curate.makeIt : words.attributes.save}
      stale={stale}
      disabled={save.isPending}
      error={save.error}
      fields={['name', 'line']}
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
            style={{ marginRight: 'auto' }}
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
        label={words.curate.name}
        value={name}
        onChange={setName}
        wrong={wrong('name')}
      />
      <TextField
        id="collection-line"
        label={words.curate.line}
        value={line}
        onChange={setLine}
        wrong={wrong('line')}
      />
      {curates && (
        <fieldset className="field" style={{ maxWidth: 'none' }}>
          <legend>{words.curate.audience}</legend>
          <Form.Check
            type="radio"
            name="audience"
            id="audience-everyone"
            label={words.curate.everyone}
            checked={everyone}
            onChange={() => setEveryone(true)}
          />
          <Form.Check
            type="radio"
            name="audience"
            id="audience-some"
            label={words.curate.theseOnly}
            checked={!everyone}
            onChange={() => setEveryone(false)}
          />
          {!everyone && (
            <>
              <PickThings
                label={words.curate.theseNamed}
                chosen={chosen}
                onChange={setChosen}
                groups
              />
              <FilterField value={filter} onChange={setFilter} />
            </>
          )}
          <p className="small dim">{words.curate.showsOnly}</p>
        </fieldset>
      )}
    </ActDialog>
  );
}
