import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { SensitivityTag } from '../access/SensitivityTag';
import { answer, api, Problem, repeatKey, type Schemas } from '../api/client';
import { ActDialog } from '../drafts/ActDialog';
import { DeskLink } from '../shell/lens';
import { useSession } from '../shell/session';
import { useStale } from '../shell/stale';
import { Table } from '../shell/Table';
import { useAct } from '../shell/useAct';
import { useEdited } from '../shell/useUnsent';
import { words } from '../words/en';
import { NEW_ROLE, type Role, RoleFields, sensitivityOf } from './AppForms';

type Page = Schemas['AppPage'];

export function Roles({ page }: { page: Page }) {
  const { has } = useSession();
  const [editing, setEditing] = useState<Schemas['RoleLine'] | 'new'>();
  const most = Math.max(1, ...page.entitlements.map((one) => one.holders));
  return (
    <section className="part" aria-labelledby="app-roles">
      <div className="part-head">
        <h2 id="app-roles">{words.apps.columns.entitlements}</h2>
        {has('requests.configure') && (
          <>
            <DeskLink to={`/desk/routes/application:${page.app.id}`}>{words.routes.one}</DeskLink>
            <DeskLink to={`/desk/forms/application:${page.app.id}`}>{words.forms.one}</DeskLink>
          </>
        )}
        {page.mayEdit && (
          <Button variant="outline-primary" onClick={() => setEditing('new')}>
            {words.apps.addEntitlement}
          </Button>
        )}
      </div>
      {page.entitlements.length === 0 ? (
        <p className="dim">{words.apps.noEntitlement}</p>
      ) : (
        <div className="scroll">
          <Table>
            <thead>
              <tr>
                <th>{words.apps.entitlementName}</th>
                <th>{words.apps.columns.sensitivity}</th>
                <th>{words.apps.asking}</th>
                <th>{words.apps.columns.holders}</th>
                <th className="num">{words.apps.grants}</th>
                <th>
                  <span className="visually-hidden">{words.groups.edit}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {page.entitlements.map((role) => (
                <tr key={role.id}>
                  <td>
                    <DeskLink to={`/desk/entitlements/${role.id}`}>
                      <b>{role.name}</b>
                    </DeskLink>
                    <div className="dim small">{role.line}</div>
                  </td>
                  <td>
                    <SensitivityTag sensitivity={role.sensitivity} />
                  </td>
                  <td>{role.requestable ? words.apps.mayBeAsked : words.apps.givenOnly}</td>
                  <td className="of-most">
                    <span aria-hidden="true">
                      <i style={{ width: `${(100 * role.holders) / most}%` }} />
                    </span>
                    {words.count(role.holders)}
                  </td>
                  <td className="num">{words.count(role.grants)}</td>
                  <td>
                    {page.mayEdit && (
                      <Button
                        variant="link"
                        aria-label={words.apps.changeEntitlement(role.name)}
                        onClick={() => setEditing(role)}
                      >
                        {words.groups.edit}
                      </Button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      )}
      {editing !== undefined && (
        <RoleDialog
          app={page.app.id}
          role={
            editing === 'new'
              ? undefined
              : (page.entitlements.find((one) => one.id === editing.id) ?? editing)
          }
          onClose={() => setEditing(undefined)}
        />
      )}
    </section>
  );
}

function RoleDialog({
  app,
  role,
  onClose,
}: {
  app: string;
  role?: Schemas['RoleLine'];
  onClose: () => void;
}) {
  const now: Role =
    role === undefined
      ? NEW_ROLE
      : {
          name: role.name,
          line: role.line,
          sensitivity: sensitivityOf(role.sensitivity),
          requestable: role.requestable,
        };
  const edited = useEdited(role === undefined ? `role of ${app}` : `role ${role.id}`, now);
  const { wanted, setWanted } = edited;
  const stale = useStale({
    kept: edited,
    now,
    wanted,
    onChange: setWanted,
    labels: words.apps.entitlementParts,
    tell: (_, value) => (typeof value === 'boolean' ? words.yesNo(value) : String(value)),
  });
  const [key] = useState(repeatKey);
  const save = useAct(
    () =>
      role === undefined
        ? answer(
            api.POST('/api/apps/{id}/entitlements', {
              params: { path: { id: app }, header: { 'Idempotency-Key': key } },
              body: wanted,
            }),
          )
        : answer(
            api.PUT('/api/entitlements/{id}', {
              params: { path: { id: role.id } },
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
      title={
        role === undefined ? words.apps.addEntitlement : words.apps.changeEntitlement(role.name)
      }
      act={role === undefined ? words.apps.addIt : words.attributes.save}
      stale={stale}
      kept={edited}
      disabled={save.isPending}
      error={save.error}
      fields={['roles']}
      onAct={() => save.mutate()}
      onClose={onClose}
    >
      <RoleFields id="role" value={wanted} onChange={setWanted} wrong={wrong} />
    </ActDialog>
  );
}
