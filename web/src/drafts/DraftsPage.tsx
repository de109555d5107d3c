import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { PageHeading } from '../shell/PageHeading';
import { Empty } from '../shell/states';
import { Table } from '../shell/Table';
import { tellTime } from '../shell/times';
import { words } from '../words/en';
import { useTray } from './gathering';
import { OpenDraft } from './Tray';

/** All drafts that the reader holds, and those that colleagues share. */
export function DraftsPage() {
  const tray = useTray();
  const [opening, setOpening] = useState(false);
  if (tray === undefined) {
    return <Empty title={words.drafts.noPower} />;
  }
  return (
    <>
      <header>
        <PageHeading>{words.drafts.title}</PageHeading>
        <span className="dim">{words.drafts.help}</span>
        <span className="grow" />
        <Button onClick={() => setOpening(true)}>{words.drafts.open}</Button>
      </header>
      {tray.mine.length === 0 && tray.shared.length === 0 ? (
        <Empty title={words.drafts.none}>{words.drafts.noneHelp}</Empty>
      ) : (
        <>
          <List title={words.drafts.mine} drafts={tray.mine} />
          <List title={words.drafts.ofColleagues} drafts={tray.shared} />
        </>
      )}
      {opening && <OpenDraft onClose={() => setOpening(false)} />}
    </>
  );
}

function List({ title, drafts }: { title: string; drafts: Schemas['DraftLine'][] }) {
  if (drafts.length === 0) {
    return null;
  }
  return (
    <section>
      <h2>{title}</h2>
      <Table className="lines" aria-label={title}>
        <thead>
          <tr>
            <th scope="col">{words.drafts.name}</th>
            <th scope="col">{words.drafts.stage}</th>
            <th scope="col">{words.drafts.holder}</th>
            <th scope="col">{words.drafts.opened}</th>
          </tr>
        </thead>
        <tbody>
          {drafts.map((draft) => (
            <tr key={draft.id}>
              <td>
                <Link to={`/desk/drafts/${draft.id}`}>{draft.name}</Link>{' '}
                <span className="dim">{words.drafts.edits(draft.edits)}</span>
              </td>
              <td>
                {words.drafts.stages[draft.stage]}
                {draft.publishAt !== null && ` ${tellTime(draft.publishAt)}`}
              </td>
              <td>{draft.holder.familyFirst}</td>
              <td>{tellTime(draft.openedAt)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
