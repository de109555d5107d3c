import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { answer, api } from '../api/client';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';
import { Edits } from './Edits';
import { useOpenDraft } from './gathering';

/** What the open draft wants of a thing, or by some acts, on the page where that is done. */
export function Drafted({ of, acts }: { of?: string; acts?: RegExp }) {
  const open = useOpenDraft();
  const id = open?.id ?? '';
  const draft = useQuery({
    queryKey: ['drafts', id],
    queryFn: () => answer(api.GET('/api/drafts/{id}', { params: { path: { id } } })),
    enabled: open !== undefined && open.edits > 0,
  });
  const undo = useAct((seq: number) =>
    answer(api.DELETE('/api/drafts/{id}/edits/{seq}', { params: { path: { id, seq } } })),
  );
  const edits =
    draft.data?.edits.filter(
      (edit) => (of !== undefined && edit.objects.includes(of)) || acts?.test(edit.act),
    ) ?? [];
  if (open === undefined || edits.length === 0) {
    return null;
  }
  return (
    <section className="drafted" aria-label={words.drafts.inDraft(open.name)}>
      <Link to={`/desk/drafts/${id}`}>{words.drafts.inDraft(open.name)}</Link>
      <Edits edits={edits} editable onUndo={(seq) => undo.mutate(seq)} />
    </section>
  );
}
