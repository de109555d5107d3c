import Form from 'react-bootstrap/Form';
import type { Schemas } from '../api/client';
import { PickPicture } from '../pictures/PickPicture';
import { TextField } from '../shell/TextField';
import { words } from '../words/en';

export type Profile = Schemas['ProfileForm'];
export type Role = Schemas['RoleForm'];
export type Weight = Profile['weight'];

export const NEW_PROFILE: Profile = {
  name: '',
  line: '',
  picture: 'notebook',
  hue: 'slate',
  weight: 'LIGHT',
  contact: '',
  nicknames: [],
};

export const NEW_ROLE: Role = { name: '', line: '', weight: 'LIGHT', requestable: true };

export function weightOf(word: string): Weight {
  return word.toUpperCase() as Weight;
}

export function PickWeight({
  id,
  label,
  weight,
  onChange,
}: {
  id: string;
  label: string;
  weight: Weight;
  onChange: (weight: Weight) => void;
}) {
  return (
    <Form.Group className="field" controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Select value={weight} onChange={(event) => onChange(event.target.value as Weight)}>
        {(['LIGHT', 'MIDDLING', 'HEAVY'] as const).map((one) => (
          <option key={one} value={one}>
            {words.access.weights[one.toLowerCase()]}: {words.access.weightHelp[one.toLowerCase()]}
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
      <PickWeight
        id="app-weight"
        label={words.apps.weight}
        weight={value.weight}
        onChange={(weight) => onChange({ ...value, weight })}
      />
      <TextField
        id="app-contact"
        label={words.apps.contact}
        value={value.contact}
        onChange={(contact) => onChange({ ...value, contact })}
        wrong={wrong('contact')}
      />
      <TextField
        id="app-nicknames"
        label={words.apps.nicknames}
        help={words.apps.nicknamesHelp}
        value={value.nicknames.join(', ')}
        onChange={(text) => onChange({ ...value, nicknames: text === '' ? [] : text.split(/, ?/) })}
        wrong={wrong('nicknames')}
      />
    </>
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
        label={words.apps.roleName}
        value={value.name}
        onChange={(name) => onChange({ ...value, name })}
        wrong={wrong('roles')}
      />
      <TextField
        id={`${id}-line`}
        label={words.apps.roleLine}
        value={value.line}
        onChange={(line) => onChange({ ...value, line })}
      />
      <PickWeight
        id={`${id}-weight`}
        label={words.apps.roleWeight}
        weight={value.weight}
        onChange={(weight) => onChange({ ...value, weight })}
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
