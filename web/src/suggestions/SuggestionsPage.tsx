import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { AppsTabs } from '../apps/AppsTabs';
import { EditOwners } from '../directory/EditOwners';
import { type Chosen, PickThings } from '../directory/groups/PickThings';
import { ActDialog } from '../drafts/ActDialog';
import { PickPicture } from '../pictures/PickPicture';
import { Picture } from '../pictures/Picture';
import {
  type Audience,
  AudienceFields,
  audienceOf,
  NOBODY,
  sent,
  tellAudience,
} from '../portal/AudienceFields';
import { useAddress } from '../shell/addresses';
import { fitting, indexed } from '../shell/fitting';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { useStale } from '../shell/stale';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { tellDate } from '../shell/times';
import { useAct } from '../shell/useAct';
import { useEdited } from '../shell/useUnsent';
import { words } from '../words/en';
import { ApprovedBar } from './ApprovedBar';

type Page = Schemas['SuggestionsPage'];
type Listing = Schemas['KeptListing'];
type Rule = {
  audience: Audience;
  links: Schemas['SelfServiceLineForm']['links'];
  suggest: boolean;
};

const LINKS = ['NOTHING', 'APPROVED', 'ANYTHING'] as const;

/** Who may keep links and suggest apps, the approved list, and what was accepted this week. */
export function SuggestionsPage() {
  const [get] = useAddress();
  const [listing, setListing] = useState<Listing | 'new'>();
  const [rules, setRules] = useState(false);
  const found = useQuery({
    queryKey: ['self-service'],
    queryFn: () => answer(api.GET('/api/self-service')),
  });
  if (found.error) {
    return <Failure error={found.error} again={() => found.refetch()} />;
  }
  if (found.data === undefined) {
    return <Loading what={words.suggestions.title} />;
  }
  const page = found.data;
  const text = get('find');
  const category = get('kind');
  const index = indexed(
    page.listings,
    (one) => one.name,
    (one) => [one.line, one.category, one.address],
  );
  const shown = (text.trim() === '' ? page.listings : fitting(index, text)).filter(
    (one) => category === '' || one.category === category,
  );
  const kinds = [...new Set(page.listings.map((one) => one.category))].sort();
  return (
    <>
      <AppsTabs />
      <header>
        <PageHeading>{words.suggestions.title}</PageHeading>
      </header>
      <div className="split">
        <div>
          <section className="part" aria-labelledby="listings">
            <div className="head">
              <h2 id="listings">{words.suggestions.approved}</h2>
              {page.mayEdit && (
                <Button size="sm" onClick={() => setListing('new')}>
                  {words.suggestions.newListing}
                </Button>
              )}
            </div>
            <ApprovedBar categories={kinds.map((kind) => [kind, kind])} found={shown.length} />
            {page.listings.length === 0 ? (
              <Empty title={words.suggestions.noList}>{words.suggestions.noListHelp}</Empty>
            ) : shown.length === 0 ? (
              <Empty title={words.suggestions.noneFits} />
            ) : (
              <ul className="plain listings">
                {shown.map((one) => (
                  <Kept key={one.id} listing={one} onEdit={() => setListing(one)} />
                ))}
              </ul>
            )}
          </section>
        </div>
        <aside className="margin" aria-label={words.suggestions.policy}>
          <h2>{words.suggestions.policy}</h2>
          <Policy page={page} />
          {page.mayEdit && (
            <Button size="sm" variant="outline-primary" onClick={() => setRules(true)}>
              {words.suggestions.changePolicy}
            </Button>
          )}
          <h3 className="room-above-more">{words.suggestions.acceptedLately}</h3>
          <LetIn page={page} />
        </aside>
      </div>
      {listing !== undefined && (
        <ListingDialog
          listing={listing === 'new' ? undefined : listing}
          mayEnd={page.mayEdit}
          onClose={() => setListing(undefined)}
        />
      )}
      {rules && <PolicyDialog rules={page.rules} onClose={() => setRules(false)} />}
    </>
  );
}

function Kept({ listing, onEdit }: { listing: Listing; onEdit: () => void }) {
  return (
    <li>
      <Picture name={listing.picture} hue={listing.hue} size={34} />
      <div>
        <b>{listing.name}</b> <span className="tag">{listing.category}</span>
        <div className="small">{listing.line}</div>
        <div className="dim small">
          <span className="mono">{listing.address}</span>
          {' · '}
          {listing.keepers.length === 0
            ? words.suggestions.noKeeper
            : words.suggestions.keptBy(listing.keepers.map((one) => one.displayed).join(', '))}
        </div>
      </div>
      {listing.mayEdit && (
        <Button
          size="sm"
          variant="outline-primary"
          aria-label={words.suggestions.changeListing(listing.name)}
          onClick={onEdit}
        >
          {words.portal.editLink}
        </Button>
      )}
    </li>
  );
}

function Policy({ page }: { page: Page }) {
  return (
    <ol className="policy">
      {page.rules.map((rule, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rules are known by their place alone
        <li key={index}>
          <b>{tellAudience(rule.audience)}</b>
          <div className="small">
            {words.suggestions.rule[rule.links]} {words.suggestions.suggests(rule.suggest)}
          </div>
        </li>
      ))}
      <li>
        <b>{words.suggestions.everybodyElse}</b>
        <div className="small">
          {words.suggestions.rule.APPROVED} {words.suggestions.suggests(true)}
        </div>
      </li>
    </ol>
  );
}

function LetIn({ page }: { page: Page }) {
  return (
    <>
      {page.letIn.length === 0 ? (
        <p className="dim">{words.suggestions.acceptedNothing}</p>
      ) : (
        <ul className="plain">
          {page.letIn.map((one) => (
            <li key={`${one.how} ${one.name} ${one.at}`}>
              {one.app === null ? (
                one.name
              ) : (
                <DeskLink to={`/desk/apps/${one.app}`}>{one.name}</DeskLink>
              )}{' '}
              <span className="dim small" title={one.at}>
                {words.suggestions.how(one.how, one.by, one.askers)}, {tellDate(one.at)}
              </span>
            </li>
          ))}
        </ul>
      )}
      {page.waiting > 0 && (
        <p>
          <DeskLink to="/desk/docket">{words.suggestions.waiting(page.waiting)}</DeskLink>
        </p>
      )}
    </>
  );
}

type Face = Schemas['ListingForm'];

function faceOf(listing: Listing | undefined): Face {
  return listing === undefined
    ? { name: '', address: '', line: '', category: '', picture: 'signpost', hue: 'slate' }
    : {
        name: listing.name,
        address: listing.address,
        line: listing.line,
        category: listing.category,
        picture: listing.picture,
        hue: listing.hue,
      };
}

function ListingDialog({
  listing,
  mayEnd,
  onClose,
}: {
  listing: Listing | undefined;
  mayEnd: boolean;
  onClose: () => void;
}) {
  const before = faceOf(listing);
  const edited = useEdited(`listing ${listing?.id ?? 'new'}`, before);
  const { wanted, setWanted } = edited;
  const [keepers, setKeepers] = useState<Chosen[]>([]);
  const [key] = useState(repeatKey);
  const stale = useStale<Face>({
    now: before,
    wanted,
    onChange: setWanted,
    kept: edited,
    labels: words.suggestions.parts,
    tell: (_, value) => String(value),
  });
  const save = useAct(
    () =>
      listing === undefined
        ? answer(
            api.POST('/api/approved-list', {
              params: { header: { 'Idempotency-Key': key } },
              body: { listing: wanted, keepers: keepers.map((one) => one.id) },
            }),
          )
        : answer(
            api.PUT('/api/approved-list/{id}', {
              params: { path: { id: listing.id } },
              body: { base: stale.base, wanted },
            }),
          ),
    () => {
      edited.sent();
      onClose();
    },
  );
  const end = useAct(
    () =>
      answer(
        api.DELETE('/api/approved-list/{id}', { params: { path: { id: listing?.id ?? '' } } }),
      ),
    onClose,
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  const field = (name: keyof Face) => ({
    id: `listing-${name}`,
    label: words.suggestions.parts[name],
    value: wanted[name],
    onChange: (value: string) => setWanted({ ...wanted, [name]: value }),
    wrong: wrong(name),
  });
  return (
    <ActDialog
      large
      title={listing?.name ?? words.suggestions.newListing}
      act={listing === undefined ? words.suggestions.newListing : words.attributes.save}
      stale={stale}
      kept={edited}
      disabled={save.isPending}
      error={save.error ?? end.error}
      fields={['name', 'address', 'line', 'category']}
      onAct={() => save.mutate()}
      onClose={onClose}
      beside={
        listing !== undefined && (
          <Button
            variant="outline-danger"
            className="start"
            disabled={end.isPending}
            onClick={() => end.mutate()}
          >
            {words.suggestions.unlist}
          </Button>
        )
      }
      below={
        listing !== undefined && mayEnd ? (
          <>
            <h3>{words.suggestions.keepers}</h3>
            <EditOwners
              owners={listing.keepers}
              may
              none={words.suggestions.noKeeper}
              save={(base, all) =>
                answer(
                  api.PUT('/api/approved-list/{id}/owners', {
                    params: { path: { id: listing.id } },
                    body: { base, wanted: all },
                  }),
                )
              }
            />
          </>
        ) : undefined
      }
    >
      <TextField {...field('name')} />
      <TextField {...field('address')} help={words.suggestions.addressHelp} />
      <TextField {...field('line')} />
      <TextField {...field('category')} list="categories" />
      <PickPicture
        picture={wanted.picture}
        hue={wanted.hue}
        onChange={(picture, hue) => setWanted({ ...wanted, picture, hue })}
      />
      {listing === undefined && (
        <PickThings label={words.suggestions.keepers} chosen={keepers} onChange={setKeepers} />
      )}
    </ActDialog>
  );
}

function PolicyDialog({ rules, onClose }: { rules: Page['rules']; onClose: () => void }) {
  const before: Rule[] = rules.map((rule) => ({ ...rule, audience: audienceOf(rule.audience) }));
  const edited = useEdited('rules on selfService', before);
  const { base, wanted, setWanted } = edited;
  const form = (all: Rule[]) => all.map((rule) => ({ ...rule, audience: sent(rule.audience) }));
  const save = useAct(
    () =>
      answer(
        api.PUT('/api/self-service/lines', { body: { base: form(base), wanted: form(wanted) } }),
      ),
    () => {
      edited.sent();
      onClose();
    },
  );
  const change = (place: number, rule: Partial<Rule>) =>
    setWanted(wanted.map((one, index) => (index === place ? { ...one, ...rule } : one)));
  const swap = (place: number) => {
    const next = [...wanted];
    next.splice(place - 1, 2, ...wanted.slice(place - 1, place + 1).reverse());
    setWanted(next);
  };
  return (
    <ActDialog
      large
      title={words.suggestions.policy}
      kept={edited}
      act={words.attributes.save}
      disabled={save.isPending}
      error={null}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <p className="dim small">{words.suggestions.policyHelp}</p>
      {wanted.map((rule, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rules are known by their place alone
        <fieldset key={place} className="sheet">
          <legend>{words.suggestions.ruleNumber(place + 1)}</legend>
          <AudienceFields
            name={`rule-${place}`}
            legend={words.suggestions.for}
            value={rule.audience}
            onChange={(audience) => change(place, { audience })}
          />
          <Form.Select
            aria-label={words.suggestions.links}
            value={rule.links}
            onChange={(event) => change(place, { links: event.target.value as Rule['links'] })}
          >
            {LINKS.map((one) => (
              <option key={one} value={one}>
                {words.suggestions.rule[one]}
              </option>
            ))}
          </Form.Select>
          <Form.Check
            type="checkbox"
            id={`rule-${place}-suggest`}
            label={words.suggestions.maySuggest}
            checked={rule.suggest}
            onChange={(event) => change(place, { suggest: event.target.checked })}
          />
          <div className="bar">
            {place > 0 && (
              <Button size="sm" variant="outline-primary" onClick={() => swap(place)}>
                {words.suggestions.earlier}
              </Button>
            )}
            <Button
              size="sm"
              variant="outline-danger"
              onClick={() => setWanted(wanted.filter((_, index) => index !== place))}
            >
              {words.suggestions.dropRule}
            </Button>
          </div>
        </fieldset>
      ))}
      <Button
        variant="outline-primary"
        onClick={() =>
          setWanted([...wanted, { audience: NOBODY, links: 'NOTHING', suggest: true }])
        }
      >
        {words.suggestions.addRule}
      </Button>
      <ProblemNote error={save.error} />
    </ActDialog>
  );
}
