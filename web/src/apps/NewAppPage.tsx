import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useNavigate } from 'react-router';
import { answer, api, Problem, repeatKey } from '../api/client';
import { type Chosen, PickThings } from '../directory/groups/PickThings';
import { placeOf, useOpenDraft } from '../drafts/gathering';
import { KeptNote } from '../shell/KeptNote';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { useAct } from '../shell/useAct';
import { useTyped } from '../shell/useUnsent';
import { words } from '../words/en';
import { NEW_PROFILE, NEW_ROLE, ProfileFields, type Role, RoleFields } from './AppForms';

type Keyed = { key: string; role: Role };
const fresh = (): Keyed => ({ key: repeatKey(), role: NEW_ROLE });

/** SelfService in an application with everything that it needs to be opened. */
export function NewAppPage() {
  const navigate = useNavigate();
  const draft = useOpenDraft();
  const { typed, sent, fromBefore } = useTyped('new app');
  const [first] = useState(() => [fresh()]);
  const [profile, setProfile] = typed('profile', NEW_PROFILE);
  const [address, setAddress] = typed('address', '');
  const [owners, setOwners] = typed<Chosen[]>('owners', []);
  const [roles, setRoles] = typed<Keyed[]>('roles', first);
  const [key] = useState(repeatKey);
  const propose = useAct(
    () =>
      answer(
        api.POST('/api/apps', {
          params: { header: { 'Idempotency-Key': key } },
          body: {
            profile,
            address: address === '' ? null : address,
            owners: owners.map((owner) => owner.id),
            entitlements: roles
              .map(({ role }) => role)
              .filter((role) => role.name.trim() !== '' || role.line.trim() !== ''),
          },
        }),
      ),
    (receipt) => {
      sent();
      navigate(placeOf(receipt, draft?.id, `/desk/apps/${receipt.result}`));
    },
  );
  const wrong = (field: string) =>
    propose.error instanceof Problem ? propose.error.field(field) : undefined;
  return (
    <>
      <header>
        <PageHeading>{words.apps.addApp}</PageHeading>
        <span className="dim">{words.apps.addAppHelp}</span>
        {fromBefore && <KeptNote onStartAgain={sent} />}
      </header>
      <Form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          propose.mutate();
        }}
      >
        <div className="pages">
          <section className="sheet" aria-labelledby="new-app">
            <h2 id="new-app">{words.apps.profile}</h2>
            <ProfileFields value={profile} onChange={setProfile} wrong={wrong} />
          </section>
          <div>
            <section className="sheet" aria-labelledby="new-way">
              <h2 id="new-way">{words.apps.wayIn}</h2>
              <TextField
                id="app-address"
                label={words.apps.address}
                type="url"
                placeholder="https://"
                value={address}
                onChange={setAddress}
                wrong={wrong('address')}
              />
              <PickThings label={words.apps.owners} chosen={owners} onChange={setOwners} />
              {wrong('owners') !== undefined && (
                <div className="invalid-feedback" role="alert">
                  {wrong('owners')}
                </div>
              )}
            </section>
            {roles.map(({ key: of, role }, index) => (
              <fieldset key={of} className="sheet">
                <legend>{words.apps.role(index + 1)}</legend>
                <RoleFields
                  id={`role-${index}`}
                  value={role}
                  onChange={(next) =>
                    setRoles(roles.map((one) => (one.key === of ? { key: of, role: next } : one)))
                  }
                  wrong={index === 0 ? wrong : undefined}
                />
              </fieldset>
            ))}
            <Button variant="outline-primary" onClick={() => setRoles([...roles, fresh()])}>
              {words.apps.moreEntitlements}
            </Button>
          </div>
        </div>
        <ProblemNote
          error={propose.error}
          fields={['name', 'line', 'contact', 'nicknames', 'address', 'owners', 'roles']}
        />
        <div className="bar at-hand sheet">
          <Button type="submit" disabled={propose.isPending}>
            {words.apps.propose}
          </Button>
          <DeskLink className="btn btn-outline-primary" to="/desk/apps">
            {words.shell.cancel}
          </DeskLink>
        </div>
      </Form>
    </>
  );
}
