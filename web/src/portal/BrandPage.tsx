import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, type Schemas } from '../api/client';
import { Drafted } from '../drafts/Drafted';
import { useOpenDraft } from '../drafts/gathering';
import { Picture, Uploaded } from '../pictures/Picture';
import { UploadPicture } from '../pictures/UploadPicture';
import { KeptNote } from '../shell/KeptNote';
import { PageHeading } from '../shell/PageHeading';
import { useStale } from '../shell/stale';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useEdited } from '../shell/useUnsent';
import { words } from '../words/en';
import { contrast } from './contrast';
import { PortalTabs } from './PortalTabs';

type Brand = Schemas['BrandForm'];

/** The organisation's name, mark and colour, and what is said where people sign in. */
export function BrandPage() {
  const open = useOpenDraft();
  const draft = open?.id;
  const brand = useQuery({
    queryKey: ['brand', draft],
    queryFn: () => answer(api.GET('/api/brand', { params: { query: { draft } } })),
  });
  return (
    <>
      <PortalTabs />
      <header>
        <PageHeading>{words.brand.title}</PageHeading>
      </header>
      <Drafted acts={/^PORTAL_BRAND/} />
      {brand.error ? (
        <Failure error={brand.error} again={() => brand.refetch()} />
      ) : brand.data === undefined ? (
        <Loading what={words.brand.title} lines={8} />
      ) : (
        <Edit page={brand.data} draft={open?.name} />
      )}
    </>
  );
}

function Edit({ page, draft }: { page: Schemas['BrandPage']; draft: string | undefined }) {
  const edited = useEdited<Brand>('brand', page.brand);
  const { wanted, setWanted } = edited;
  const stale = useStale<Brand>({
    now: page.brand,
    wanted,
    onChange: setWanted,
    kept: edited,
    labels: words.brand.parts,
  });
  const plain = (brand: Brand): Brand => ({
    ...brand,
    name: brand.name.trim(),
    band: brand.band.trim().toLowerCase(),
    welcome: brand.welcome.trim(),
    help: brand.help.trim(),
  });
  const save = useAct(
    () => answer(api.PUT('/api/brand', { body: { base: stale.base, wanted: plain(wanted) } })),
    () => edited.sent(plain(wanted)),
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  const same = JSON.stringify(wanted) === JSON.stringify(page.brand);
  const change = (changes: Partial<Brand>) => setWanted({ ...wanted, ...changes });
  const onBand = contrast(wanted.band, '#ffffff');
  return (
    <div className="split">
      <Form
        className="sheet"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        {edited.fromBefore && <KeptNote onStartAgain={() => edited.sent(page.brand)} />}
        {stale.note}
        <TextField
          id="brand-name"
          label={words.brand.name(page.named)}
          value={wanted.name}
          onChange={(name) => change({ name })}
          wrong={wrong('name')}
        />
        <Own
          label={words.brand.mark}
          value={wanted.mark}
          onChange={(mark) => change({ mark })}
          wrong={wrong('mark')}
        />
        <Form.Group className="field" controlId="brand-band">
          <Form.Label>{words.brand.band}</Form.Label>
          <div className="bar">
            <input
              type="color"
              aria-label={words.brand.pick}
              value={onBand === undefined ? '#17504a' : wanted.band}
              onChange={(event) => change({ band: event.target.value })}
            />
            <Form.Control
              className="mono narrow"
              value={wanted.band}
              isInvalid={wrong('band') !== undefined}
              onChange={(event) => change({ band: event.target.value })}
            />
            <span
              className={`small${onBand !== undefined && onBand >= 4.5 ? '' : ' loss'}`}
              role="status"
            >
              {onBand === undefined ? words.brand.noColour : words.brand.contrast(onBand)}
            </span>
          </div>
          {wrong('band') !== undefined && (
            <div className="invalid-feedback" role="alert">
              {wrong('band')}
            </div>
          )}
        </Form.Group>
        <TextField
          id="brand-welcome"
          label={words.brand.welcome}
          value={wanted.welcome}
          onChange={(welcome) => change({ welcome })}
          wrong={wrong('welcome')}
        />
        <Own
          label={words.brand.door}
          value={wanted.door}
          onChange={(door) => change({ door })}
          wrong={wrong('door')}
        />
        <TextField
          id="brand-help"
          label={words.brand.help}
          value={wanted.help}
          onChange={(help) => change({ help })}
          wrong={wrong('help')}
        />
        <fieldset className="field">
          <legend>{words.brand.form}</legend>
          {(['tiles', 'lines', 'marks'] as const).map((form) => (
            <Form.Check
              key={form}
              type="radio"
              name="brand-form"
              id={`brand-${form}`}
              label={words.brand.forms[form]}
              checked={wanted.form === form}
              onChange={() => change({ form })}
            />
          ))}
          <Form.Check
            type="checkbox"
            id="brand-tight"
            label={words.brand.tight}
            checked={wanted.tight ?? false}
            onChange={(event) => change({ tight: event.target.checked })}
          />
        </fieldset>
        <ProblemNote
          error={save.error}
          fields={['name', 'mark', 'band', 'welcome', 'door', 'help', 'form']}
        />
        <Button type="submit" disabled={same || stale.blocked || save.isPending}>
          {draft === undefined ? words.brand.save : words.drafts.intoAct(words.brand.save)}
        </Button>
      </Form>
      <Preview brand={wanted} named={page.named} />
    </div>
  );
}

function Own({
  label,
  value,
  onChange,
  wrong,
}: {
  label: string;
  value: string;
  onChange: (picture: string) => void;
  wrong?: string;
}) {
  return (
    <fieldset className="field">
      <legend>{label}</legend>
      <div className="bar">
        {value !== '' && (
          <>
            <Uploaded word={value} size={48} />
            <Button size="sm" variant="link" onClick={() => onChange('')}>
              {words.brand.none}
            </Button>
          </>
        )}
      </div>
      <UploadPicture onDone={onChange} />
      {wrong !== undefined && (
        <div className="invalid-feedback" role="alert">
          {wrong}
        </div>
      )}
    </fieldset>
  );
}

/** What it looks like, in light and dark, before anybody sees it. */
function Preview({ brand, named }: { brand: Brand; named: string }) {
  const tiles = [
    { picture: 'calendar', hue: 'tide', name: words.brand.sample[0] },
    { picture: 'envelope', hue: 'pine', name: words.brand.sample[1] },
    { picture: 'lifebuoy', hue: 'rust', name: words.brand.sample[2] },
  ];
  return (
    <aside className="margin" aria-label={words.brand.preview}>
      <h2>{words.brand.preview}</h2>
      {(['light', 'dark'] as const).map((scheme) => (
        <div key={scheme} className={`preview brand-preview shown-${scheme}`}>
          <div className="portal inert">
            <div className="band" style={{ background: brand.band }}>
              <div className="top">
                <span className="org">
                  {brand.mark !== '' && <Uploaded word={brand.mark} size={24} />}
                  {brand.name || named}
                </span>
              </div>
            </div>
            <div className={`page form-${brand.form}${brand.tight ? ' tight' : ''}`}>
              <ul className="tiles">
                {tiles.map((tile) => (
                  <li key={tile.picture}>
                    <span className="tile">
                      <Picture name={tile.picture} hue={tile.hue} />
                      <span className="words">
                        <b>{tile.name}</b>
                      </span>
                    </span>
                  </li>
                ))}
              </ul>
            </div>
          </div>
        </div>
      ))}
      <div className="brand-door small">
        <b>{brand.name || named}</b>
        {brand.door !== '' && <Uploaded word={brand.door} size={160} />}
        <p dir="auto">{brand.welcome}</p>
        <p className="dim" dir="auto">
          {brand.help !== '' && `${words.portal.help} ${brand.help}`}
        </p>
      </div>
    </aside>
  );
}
