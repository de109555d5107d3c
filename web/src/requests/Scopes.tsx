import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Schemas } from '../api/client';
import { AppsTabs } from '../apps/AppsTabs';
import { PickThings } from '../directory/groups/PickThings';
import { ActDialog } from '../drafts/ActDialog';
import { Drafted } from '../drafts/Drafted';
import { type Manner, useForesight } from '../drafts/foresight';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Failure, Loading } from '../shell/states';
import { Table } from '../shell/Table';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

type Line = Pick<Schemas['RouteLine'], 'scope' | 'app' | 'entitlement' | 'set' | 'entitlements'>;

/** What a route or a form is for, as a heading. */
export function scopeName(line: Pick<Line, 'scope' | 'app' | 'entitlement'>): string {
  return (
    line.entitlement?.title ??
    line.app?.name ??
    words.routes.scopes[line.scope] ??
    words.routes.title
  );
}

/** The list with one thing moved by a place; as it is where there is none. */
export function moved<T>(all: T[], from: number, by: 1 | -1): T[] {
  const next = [...all];
  const [one] = next.splice(from, 1);
  if (one !== undefined) {
    next.splice(from + by, 0, one);
  }
  return next;
}

/** What is set for everything, by sensitivity, and where something has its own. */
export function ScopesPage<L extends Line>({
  path,
  acts,
  title,
  help,
  what,
  another,
  lines,
  error,
  again,
  told,
}: {
  /** Where one of them is: {@code /desk/routes}. */
  path: string;
  /** The acts that change them. */
  acts: RegExp;
  title: string;
  help: string;
  /** What a line tells. */
  what: string;
  another: string;
  lines: L[] | undefined;
  error: unknown;
  again: () => void;
  told: (line: L) => string;
}) {
  const navigate = useNavigate();
  if (error !== null && error !== undefined) {
    return <Failure error={error} again={again} />;
  }
  return (
    <>
      <AppsTabs />
      <header>
        <PageHeading>{title}</PageHeading>
        <span className="dim">{help}</span>
      </header>
      <Drafted acts={acts} />
      {lines === undefined ? (
        <Loading what={title} />
      ) : (
        <>
          <Table className="lines" aria-label={title}>
            <thead>
              <tr>
                <th scope="col">{words.routes.forWhat}</th>
                <th scope="col">{what}</th>
                <th scope="col" className="num">
                  {words.routes.entitlements}
                </th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line) => (
                <tr key={line.scope}>
                  <td>
                    <DeskLink to={`${path}/${line.scope}`}>{scopeName(line)}</DeskLink>
                  </td>
                  <td>
                    {line.set || line.scope === 'all' ? (
                      told(line)
                    ) : (
                      <span className="dim">{words.routes.asAll}</span>
                    )}
                  </td>
                  <td className="num">{words.count(line.entitlements)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
          <section className="part room-above">
            <PickThings
              entitlements
              label={another}
              chosen={[]}
              onChange={([one]) => navigate(`${path}/entitlement:${one?.id}`)}
            />
          </section>
        </>
      )}
    </>
  );
}

/** Ends what a scope has of its own, with the reason. */
export function ClearDialog({
  name,
  title,
  act,
  send,
  onClose,
  children,
}: {
  /** Which one, apart from all others. */
  name: string;
  title: string;
  act: string;
  send: (reason: string, manner: Manner) => Promise<Schemas['Receipt']>;
  onClose: () => void;
  children: ReactNode;
}) {
  const [reason, setReason] = useState('');
  const foresight = useForesight(
    ['clear', name],
    (manner) => send(words.access.ahead, manner),
    true,
  );
  const clear = useAct(() => send(reason, foresight.agreed), onClose);
  return (
    <ActDialog
      gathers
      danger
      title={title}
      act={act}
      foresight={foresight}
      disabled={clear.isPending}
      error={clear.error}
      onAct={() => clear.mutate()}
      onClose={onClose}
    >
      {children}
      <TextField
        id="clear-reason"
        label={words.groups.why}
        maxLength={500}
        value={reason}
        onChange={setReason}
      />
    </ActDialog>
  );
}
