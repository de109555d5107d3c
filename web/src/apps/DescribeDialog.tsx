import { answer, api, Problem, type Schemas } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { useStale } from '../shell/stale';
import { useAct } from '../shell/useAct';
import { useEdited } from '../shell/useUnsent';
import { words } from '../words/en';
import { type Profile, ProfileFields, sensitivityOf } from './AppForms';

type Page = Schemas['AppPage'];

function profileOf(page: Page): Profile {
  return {
    name: page.app.name,
    line: page.line,
    picture: page.app.picture,
    hue: page.app.hue,
    sensitivity: sensitivityOf(page.sensitivity),
    contact: page.contact,
    nicknames: page.nicknames,
  };
}

export function DescribeDialog({ page, onClose }: { page: Page; onClose: () => void }) {
  const now = profileOf(page);
  const edited = useEdited(`app ${page.app.id}`, now);
  const { wanted, setWanted } = edited;
  const stale = useStale({
    kept: edited,
    now,
    wanted,
    onChange: setWanted,
    labels: words.apps.profileParts,
  });
  const save = useAct(
    () =>
      answer(
        api.PUT('/api/apps/{id}/profile', {
          params: { path: { id: page.app.id } },
          body: { base: stale.base, wanted },
        }),
      ),
    () => {
      edited.sent();
      onClose();
    },
  );
  const wrong = (field: string) =>
    save.error instanceof Problem ? save.error.field(field) : undefined;
  return (
    <ActDialog
      gathers
      title={words.apps.describe}
      stale={stale}
      kept={edited}
      act={words.attributes.save}
      disabled={save.isPending}
      error={save.error}
      fields={['name', 'line', 'contact', 'nicknames']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <ProfileFields value={wanted} onChange={setWanted} wrong={wrong} />
    </ActDialog>
  );
}
