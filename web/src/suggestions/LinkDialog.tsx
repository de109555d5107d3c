import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { answer, api, Problem, type Schemas } from '../api/client';
import { PickPicture } from '../pictures/PickPicture';
import { Dialog } from '../shell/Dialog';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { words } from '../words/portal';

type OwnLink = Omit<Schemas['OwnLinkView'], 'allowed'>;

/** A link that only its person sees: made, changed or taken away. */
export function LinkDialog({
  link,
  isNew,
  maySuggest,
  onClose,
}: {
  link: OwnLink;
  isNew: boolean;
  /** Whether the app could be suggested instead. */
  maySuggest: boolean;
  onClose: () => void;
}) {
  const [wanted, setWanted] = useState(link);
  const path = { params: { path: { id: link.id } } };
  const { id, ...form } = wanted;
  const save = useAct(
    () => answer(api.PUT('/api/my/links/{id}', { ...path, body: form })),
    onClose,
  );
  const remove = useAct(() => answer(api.DELETE('/api/my/links/{id}', path)), onClose);
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  const refused =
    save.error instanceof Problem &&
    save.error.view.problems.some((one) => ['link.none', 'link.not-approved'].includes(one.code));
  return (
    <Dialog
      title={isNew ? words.suggestions.newLink : words.suggestions.changeLink}
      act={isNew ? words.suggestions.keepLink : words.suggestions.save}
      disabled={save.isPending || remove.isPending}
      error={save.error ?? remove.error}
      fields={['name', 'address']}
      onAct={() => save.mutate()}
      onClose={onClose}
      beside={
        !isNew && (
          <Button
            variant="outline-danger"
            className="start"
            disabled={remove.isPending}
            onClick={() => remove.mutate()}
          >
            {words.portal.removeLink}
          </Button>
        )
      }
    >
      <p className="dim small">{words.suggestions.onlyYou}</p>
      <TextField
        id="link-name"
        label={words.suggestions.name}
        value={wanted.name}
        onChange={(name) => setWanted({ ...wanted, name })}
        wrong={wrong('name')}
        dir="auto"
      />
      <TextField
        id="link-address"
        label={words.suggestions.address}
        type="url"
        inputMode="url"
        autoCapitalize="none"
        spellCheck={false}
        placeholder="https://"
        value={wanted.address}
        onChange={(address) => setWanted({ ...wanted, address })}
        wrong={wrong('address')}
      />
      {refused && maySuggest && (
        <p>
          <Link
            to={`/suggest?name=${encodeURIComponent(wanted.name)}&address=${encodeURIComponent(wanted.address)}#suggest`}
            onClick={onClose}
          >
            {words.suggestions.suggestInstead}
          </Link>
        </p>
      )}
      <PickPicture
        picture={wanted.picture}
        hue={wanted.hue}
        onChange={(picture, hue) => setWanted({ ...wanted, picture, hue })}
      />
    </Dialog>
  );
}

/** A link that is not there yet; its id is made here, so that sending it twice keeps one. */
export function newLink(of?: Partial<OwnLink>): OwnLink {
  return {
    id: crypto.randomUUID(),
    name: '',
    address: '',
    picture: 'signpost',
    hue: 'slate',
    ...of,
  };
}
