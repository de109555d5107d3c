import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useLocation } from 'react-router';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { Picture } from '../pictures/Picture';
import { PortalFrame } from '../portal/PortalFrame';
import { useAddress } from '../shell/addresses';
import { LongField } from '../shell/LongField';
import { PageHeading } from '../shell/PageHeading';
import { Empty, Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useUnsent } from '../shell/useUnsent';
import { words } from '../words/en';
import { ApprovedBar } from './ApprovedBar';
import { LinkDialog, newLink } from './LinkDialog';
import { MySuggestions } from './MySuggestions';

/** Apps that one brings oneself: what is allowed, the approved list, and suggesting one. */
export function SuggestPage() {
  const [get] = useAddress();
  const find = get('find');
  const category = get('kind');
  const [link, setLink] = useState<ReturnType<typeof newLink>>();
  const selfService = useQuery({
    queryKey: ['my', 'self-service', find, category],
    queryFn: () =>
      answer(api.GET('/api/my/self-service', { params: { query: { find, category } } })),
    placeholderData: keepPreviousData,
  });
  const data = selfService.data;
  return (
    <PortalFrame>
      <header className="asked">
        <div>
          <PageHeading>{words.portal.add}</PageHeading>
          {data !== undefined && <p className="dim">{words.suggestions.allowed[data.links]}</p>}
        </div>
      </header>
      {selfService.error ? (
        <Failure error={selfService.error} again={() => selfService.refetch()} />
      ) : data === undefined ? (
        <Loading what={words.portal.add} />
      ) : (
        <>
          {data.links !== 'nothing' && (
            <section className="part" aria-labelledby="approved">
              <div className="head">
                <h2 id="approved">{words.suggestions.approved}</h2>
                <Button size="sm" variant="outline-primary" onClick={() => setLink(newLink())}>
                  {words.suggestions.newLink}
                </Button>
              </div>
              <ApprovedBar
                categories={data.categories.map((one) => [
                  one.category,
                  `${one.category} (${one.entries})`,
                ])}
                found={data.total}
              />
              {data.listings.length === 0 ? (
                <Empty title={words.suggestions.noneFits}>{words.suggestions.noneFitsHelp}</Empty>
              ) : (
                <ul className="plain listings">
                  {data.listings.map((one) => (
                    <Listed
                      key={one.id}
                      listing={one}
                      onKeep={() => setLink(newLink(faceOf(one)))}
                    />
                  ))}
                </ul>
              )}
            </section>
          )}
          {data.suggest && <SuggestForm name={get('name')} address={get('address')} />}
          <MySuggestions />
          {link !== undefined && (
            <LinkDialog
              link={link}
              isNew
              maySuggest={data.suggest}
              onClose={() => setLink(undefined)}
            />
          )}
        </>
      )}
    </PortalFrame>
  );
}

function faceOf({ name, address, picture, hue }: Schemas['ListingLine']) {
  return { name, address, picture, hue };
}

function Listed({ listing, onKeep }: { listing: Schemas['ListingLine']; onKeep: () => void }) {
  return (
    <li>
      <Picture name={listing.picture} hue={listing.hue} size={34} />
      <div>
        <b>{listing.name}</b> <span className="tag">{listing.category}</span>
        <div className="small">{listing.line}</div>
        <div className="dim small">
          <span className="mono">{listing.address}</span>
          {listing.keepers.length > 0 &&
            ` · ${words.suggestions.keptBy(listing.keepers.join(', '))}`}
        </div>
      </div>
      <Button
        size="sm"
        variant="outline-primary"
        aria-label={words.suggestions.keepOne(listing.name)}
        onClick={onKeep}
      >
        {words.suggestions.keepLink}
      </Button>
    </li>
  );
}

const EMPTY = { name: '', address: '', whom: '', why: '' };

/** An app that is not there yet, and why it should be. */
function SuggestForm({ name, address }: { name: string; address: string }) {
  const pointed = useLocation().hash === '#suggest';
  const form = useUnsent('suggested', EMPTY);
  const [key, setKey] = useState(repeatKey);
  const given = {
    ...form.value,
    name: form.value.name === '' ? name : form.value.name,
    address: form.value.address === '' ? address : form.value.address,
  };
  const send = useAct(
    () =>
      answer(
        api.POST('/api/my/suggestions', {
          params: { header: { 'Idempotency-Key': key } },
          body: given,
        }),
      ),
    () => {
      form.set(EMPTY);
      form.sent();
      setKey(repeatKey());
    },
  );
  const wrong = (field: string) =>
    send.error instanceof Problem ? send.error.field(field) : undefined;
  return (
    <section className="part" aria-labelledby="suggest">
      <h2 id="suggest">{words.suggestions.suggest}</h2>
      <p className="dim small">{words.suggestions.suggestHelp}</p>
      <Form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          send.mutate();
        }}
      >
        <div className="pair-of-fields">
          <TextField
            id="suggest-name"
            label={words.suggestions.appName}
            value={given.name}
            autoFocus={pointed}
            dir="auto"
            onChange={(value) => form.set({ name: value })}
            wrong={wrong('name')}
          />
          <TextField
            id="suggest-address"
            label={words.suggestions.address}
            type="url"
            inputMode="url"
            autoCapitalize="none"
            spellCheck={false}
            placeholder="https://"
            value={given.address}
            onChange={(value) => form.set({ address: value })}
            wrong={wrong('address')}
          />
        </div>
        <TextField
          id="suggest-whom"
          label={words.suggestions.whom}
          value={given.whom}
          dir="auto"
          onChange={(whom) => form.set({ whom })}
          wrong={wrong('whom')}
        />
        <LongField
          id="suggest-why"
          label={words.suggestions.why}
          value={given.why}
          onChange={(why) => form.set({ why })}
          wrong={wrong('why')}
        />
        <ProblemNote error={send.error} fields={['name', 'address', 'whom', 'why']} />
        <Button type="submit" disabled={send.isPending}>
          {words.suggestions.suggest}
        </Button>{' '}
        <span role="status">{send.data !== undefined && words.suggestions.sent}</span>
      </Form>
    </section>
  );
}
