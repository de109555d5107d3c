import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { Schemas } from '../api/client';
import { PickPicture } from '../pictures/PickPicture';
import { TextField } from '../shell/TextField';
import { words } from '../words/en';

export type Profile = Schemas['ProfileForm'];
export type Role = Schemas['RoleForm'];
export type Sensitivity = Profile['sensitivity'];

export const NEW_PROFILE: Profile = {
  name: '',
  line: '',
  picture: 'notebook',
  hue: 'slate',
  sensitivity: 'LOW',
  contact: '',
  nicknames: [],
};

export const NEW_ROLE: Role = { name: '', line: '', sensitivity: 'LOW', requestable: true };

export function sensitivityOf(word: string): Sensitivity {
  return word.toUpperCase() as Sensitivity;
}

export function PickSensitivity({
  id,
  label,
  sensitivity,
  onChange,
}: {
  id: string;
  label: string;
  sensitivity: Sensitivity;
  onChange: (sensitivity: Sensitivity) => void;
}) {
  return (
    <Form.Group className="field" controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Select
        value={sensitivity}
        onChange={(event) => onChange(event.target.value as Sensitivity)}
      >
        {(['LOW', 'MEDIUM', 'HIGH'] as const).map((one) => (
          <option key={one} value={one}>
            {words.access.sensitivities[one.toLowerCase()]}:{' '}
            {words.access.sensitivityHelp[one.toLowerCase()]}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

/** What describes an application. */
export function ProfileFields({
  value,
  onChange,
  wrong,
}: {
  value: Profile;
  onChange: (value: Profile) => void;
  wrong: (field: string) => string | undefined;
}) {
  return (
    <>
      <TextField
        id="app-name"
        required
        label={words.apps.name}
        value={value.name}
        onChange={(name) => onChange({ ...value, name })}
        wrong={wrong('name')}
      />
      <TextField
        id="app-line"
        label={words.apps.line}
        value={value.line}
        onChange={(line) => onChange({ ...value, line })}
        wrong={wrong('line')}
      />
      <PickPicture
        picture={value.picture}
        hue={value.hue}
        onChange={(picture, hue) => onChange({ ...value, picture, hue })}
      />
      <PickSensitivity
        id="app-sensitivity"
        label={words.apps.sensitivity}
        sensitivity={value.sensitivity}
        onChange={(sensitivity) => onChange({ ...value, sensitivity })}
      />
      <TextField
        id="app-contact"
        label={words.apps.contact}
        value={value.contact}
        onChange={(contact) => onChange({ ...value, contact })}
        wrong={wrong('contact')}
      />
      <Nicknames
        value={value.nicknames}
        onChange={(nicknames) => onChange({ ...value, nicknames })}
        wrong={wrong('nicknames')}
      />
    </>
  );
}

function namesIn(text: string): string[] {
  return text
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '');
}

/** Names, with commas between them; what is typed stands as it is typed. */
function Nicknames({
  value,
  onChange,
  wrong,
}: {
  value: string[];
  onChange: (names: string[]) => void;
  wrong?: string;
}) {
  const told = value.join(', ');
  const [typed, setTyped] = useState(told);
  return (
    <TextField
      id="app-nicknames"
      label={words.apps.nicknames}
      help={words.apps.nicknamesHelp}
      value={namesIn(typed).join(', ') === told ? typed : told}
      onChange={(text) => {
        setTyped(text);
        onChange(namesIn(text));
      }}
      wrong={wrong}
    />
  );
}

/** What describes an entitlement. */
export function RoleFields({
  id,
  value,
  onChange,
  wrong = () => undefined,
}: {
  id: string;
  value: Role;
  onChange: (value: Role) => void;
  wrong?: (field: string) => string | undefined;
}) {
  return (
    <>
      <TextField
        id={`${id}-name`}
        required
        label={words.apps.entitlementName}
        value={value.name}
        onChange={(name) => onChange({ ...value, name })}
        wrong={wrong('roles')}
      />
      <TextField
        id={`${id}-line`}
        label={words.apps.entitlementLine}
        value={value.line}
        onChange={(line) => onChange({ ...value, line })}
      />
      <PickSensitivity
        id={`${id}-sensitivity`}
        label={words.apps.entitlementSensitivity}
        sensitivity={value.sensitivity}
        onChange={(sensitivity) => onChange({ ...value, sensitivity })}
      />
      <Form.Check
        type="checkbox"
        id={`${id}-requestable`}
        label={words.apps.requestable}
        checked={value.requestable}
        onChange={(event) => onChange({ ...value, requestable: event.target.checked })}
      />
    </>
  );
}
