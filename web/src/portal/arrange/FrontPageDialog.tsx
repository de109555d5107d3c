import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../../api/client';
import { ActDialog } from '../../drafts/ActDialog';
import { useEnsureDraft } from '../../drafts/ensuring';
import { useStale } from '../../shell/stale';
import { ProblemNote } from '../../shell/states';
import { TextField } from '../../shell/TextField';
import { useAct } from '../../shell/useAct';
import { useEdited } from '../../shell/useUnsent';
import { words } from '../../words/en';
import {
  type Audience,
  AudienceFields,
  audienceOf,
  NOBODY,
  sent,
  someoneOf,
  tellAudience,
} from '../AudienceFields';
import { DayField } from '../DayField';

type Page = Schemas['FrontPageView'];

type Wave = { audience: Audience; from: string | null };

type Parts = {
  name: string;
  only: boolean;
  audience: Audience;
  waves: Wave[];
  notice: { text: string; from: string | null; until: string | null };
};

function partsOf(page: Page | undefined): Parts {
  return {
    name: page?.name ?? '',
    only: page?.only ?? false,
    audience: page === undefined ? NOBODY : audienceOf(page.audience),
    waves: (page?.waves ?? []).map(({ audience, from }) => ({
      audience: audienceOf(audience),
      from,
    })),
    notice: page?.notice ?? { text: '', from: null, until: null },
  };
}

function form(parts: Parts): Schemas['FrontPageForm'] {
  return {
    name: parts.name.trim(),
    only: parts.only,
    audience: sent(parts.audience),
    waves: parts.waves.map(({ audience, from }) => ({ audience: sent(audience), from })),
    notice: parts.notice.text.trim() === '' ? null : parts.notice,
  };
}

/** Making a front page, or saying anew who meets it, what it tells, and in which waves it comes. */
export function FrontPageDialog({
  page,
  onClose,
  onMade,
}: {
  page?: Page;
  onClose: () => void;
  /** Where it was made: its id, and somebody it is for. */
  onMade?: (id: string, person: string | undefined) => void;
}) {
  const { ensure } = useEnsureDraft();
  const edited = useEdited(`front page ${page?.id ?? 'new'}`, partsOf(page));
  const { wanted, setWanted } = edited;
  const [ending, setEnding] = useState(false);
  const [key] = useState(repeatKey);
  const everyones = page?.everyones ?? false;
  const stale = useStale<Parts>({
    now: partsOf(page),
    wanted,
    onChange: setWanted,
    kept: edited,
    labels: words.arrange.pageParts,
    tell: (part, value) => {
      switch (part) {
        case 'audience':
          return tellAudience(value as Audience);
        case 'waves':
          return (value as Wave[])
            .map((wave) => words.arrange.wave(tellAudience(wave.audience), wave.from ?? ''))
            .join('; ');
        case 'notice':
          return (value as Parts['notice']).text;
        default:
          return String(value);
      }
    },
  });
  const save = useAct(
    async () => {
      if (page === undefined) {
        const made = await answer(
          api.POST('/api/front-pages', {
            params: { header: { 'Idempotency-Key': key } },
            body: form(wanted),
          }),
        );
        onMade?.(made.result, await someoneOf(wanted.audience));
        return;
      }
      await answer(
        api.PUT('/api/front-pages/{id}', {
          params: { path: { id: page.id } },
          body: { base: form(stale.base), wanted: form(wanted) },
        }),
      );
    },
    () => {
      edited.sent();
      onClose();
    },
  );
  const end = useAct(async () => {
    await ensure();
    await answer(api.DELETE('/api/front-pages/{id}', { params: { path: { id: page?.id ?? '' } } }));
  }, onClose);
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  const setWave = (index: number, wave: Wave | null) =>
    setWanted({
      ...wanted,
      waves: wanted.waves.flatMap((one, at) =>
        at !== index ? [one] : wave === null ? [] : [wave],
      ),
    });
  return (
    <ActDialog
      gathers
      large
      title={
        page === undefined
          ? words.arrange.makePage
          : everyones
            ? words.arrange.everyonesPage
            : page.name
      }
      act={page === undefined ? words.curate.makeIt : words.attributes.save}
      stale={stale}
      kept={edited}
      disabled={save.isPending}
      error={save.error}
      fields={['name', 'audience', 'filter', 'firstDays', 'notice', 'noticeUntil', 'waves']}
      onAct={() => save.mutate()}
      onClose={onClose}
      below={<ProblemNote error={end.error} />}
      beside={
        page !== undefined &&
        !everyones && (
          <Button
            variant="outline-danger"
            className="to-start"
            disabled={end.isPending}
            onClick={() => (ending ? end.mutate() : setEnding(true))}
          >
            {ending ? words.arrange.endPageReally(page.name, page.people) : words.curate.end}
          </Button>
        )
      }
    >
      {!everyones && (
        <TextField
          id="page-name"
          required
          label={words.curate.name}
          value={wanted.name}
          onChange={(name) => setWanted({ ...wanted, name })}
          wrong={wrong('name')}
        />
      )}
      {everyones ? (
        <p className="dim">{words.arrange.everyonesHelp}</p>
      ) : (
        <AudienceFields
          name="page-audience"
          legend={words.arrange.pageAudience}
          value={wanted.audience}
          onChange={(audience) => setWanted({ ...wanted, audience })}
          wrong={wrong('audience') ?? wrong('filter') ?? wrong('firstDays')}
        />
      )}
      <Form.Check
        type="checkbox"
        id="page-only"
        label={words.arrange.only}
        checked={wanted.only}
        onChange={(event) => setWanted({ ...wanted, only: event.target.checked })}
      />
      <TextField
        id="page-notice"
        label={words.arrange.notice}
        value={wanted.notice.text}
        onChange={(text) => setWanted({ ...wanted, notice: { ...wanted.notice, text } })}
        wrong={wrong('notice')}
      />
      {wanted.notice.text.trim() !== '' && (
        <div className="bar">
          <DayField
            id="notice-from"
            label={words.arrange.noticeFrom}
            value={wanted.notice.from}
            onChange={(from) => setWanted({ ...wanted, notice: { ...wanted.notice, from } })}
          />
          <DayField
            id="notice-until"
            label={words.arrange.noticeUntil}
            value={wanted.notice.until}
            onChange={(until) => setWanted({ ...wanted, notice: { ...wanted.notice, until } })}
            wrong={wrong('noticeUntil')}
          />
        </div>
      )}
      {!everyones && (
        <fieldset className="field full">
          <legend>{words.arrange.waves}</legend>
          <p className="small dim">{words.arrange.wavesHelp}</p>
          {wanted.waves.map((wave, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a wave is its place in the list
            <div key={index} className="wave">
              <AudienceFields
                name={`wave-${index}`}
                legend={words.arrange.waveNumber(index + 1)}
                value={wave.audience}
                onChange={(audience) => setWave(index, { ...wave, audience })}
              />
              <div className="bar">
                <DayField
                  id={`wave-${index}-from`}
                  label={words.arrange.waveFrom}
                  value={wave.from}
                  onChange={(from) => setWave(index, { ...wave, from })}
                />
                <Button variant="outline-danger" size="sm" onClick={() => setWave(index, null)}>
                  {words.groups.takeOut}
                </Button>
              </div>
            </div>
          ))}
          <Button
            variant="outline-primary"
            size="sm"
            onClick={() =>
              setWanted({ ...wanted, waves: [...wanted.waves, { audience: NOBODY, from: null }] })
            }
          >
            {words.arrange.addWave}
          </Button>
        </fieldset>
      )}
    </ActDialog>
  );
}
