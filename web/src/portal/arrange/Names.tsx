import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { answer, api } from '../../api/client';
import { DeskLink } from '../../shell/lens';
import { Loading, ProblemNote } from '../../shell/states';
import { words } from '../../words/en';

/** The names behind a count. */
export function Names({
  collection,
  draft,
  opens,
  tile,
  title,
  onClose,
}: {
  collection: string;
  draft: string | undefined;
  opens: string | undefined;
  tile: string | undefined;
  title: string;
  onClose: () => void;
}) {
  const names = useQuery({
    queryKey: ['curated', 'names', collection, draft, opens, tile],
    queryFn: () =>
      answer(
        api.GET('/api/collections/{id}/people', {
          params: { path: { id: collection }, query: { opens, tile, draft } },
        }),
      ),
  });
  return (
    <section className="sheet names" aria-label={title}>
      <div className="bar">
        <b>{title}</b>
        <span className="grow" />
        <Button size="sm" variant="link" onClick={onClose}>
          {words.arrange.close}
        </Button>
      </div>
      <ProblemNote error={names.error} />
      {names.data === undefined ? (
        <Loading what={title} lines={3} />
      ) : (
        <>
          <ul className="plain small">
            {names.data.lines.map((person) => (
              <li key={person.id}>
                <DeskLink to={`/desk/people/${person.id}`}>{person.familyFirst}</DeskLink>{' '}
                <span className="dim">{person.unit}</span>
              </li>
            ))}
          </ul>
          {names.data.total > names.data.lines.length && (
            <p className="small dim">
              {words.arrange.notNamed(
                names.data.total - names.data.lines.length,
                names.data.total - names.data.seen,
              )}
            </p>
          )}
        </>
      )}
    </section>
  );
}
