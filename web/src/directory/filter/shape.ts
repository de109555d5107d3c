import type { Schemas } from '../../api/client';
import { UNREADABLE } from '../../shell/times';

/** A filter in parts, as the server reads it (ShapeView). */
export type Shape = Schemas['ShapeView'];

export type Attribute = Pick<Schemas['AttributeLine'], 'name' | 'label' | 'type'> & {
  /** The values there are, where they are known. */
  options?: string[];
};

/** What one line can say of an attribute; "empty" is no operator of its own. */
export const SAYINGS: Record<string, string[]> = {
  text: ['eq', 'not-eq', 'sw', 'ew', 'co', 'present', 'empty'],
  number: ['eq', 'not-eq', 'gt', 'ge', 'lt', 'le', 'present', 'empty'],
  day: ['eq', 'not-eq', 'gt', 'ge', 'lt', 'le', 'present', 'empty'],
  yesno: ['eq', 'present', 'empty'],
  // A person is named by an id, which is written as text alone.
  person: ['present', 'empty'],
};

export function line(attribute: string, operator: string, values: string[]): Shape {
  return { kind: 'line', parts: [], attribute, operator, values };
}

/** A condition that waits for its value. */
export function begun(attributes: Attribute[]): Shape {
  const first = attributes.find((one) => one.type !== 'person');
  return line(first?.name ?? '', 'eq', []);
}

export function group(kind: 'all' | 'any' | 'except', parts: Shape[]): Shape {
  return { kind, parts, attribute: null, operator: null, values: [] };
}

export function present(attribute: string): Shape {
  return { kind: 'present', parts: [], attribute, operator: null, values: [] };
}

/** What a part says of an attribute, as one choice; undefined for a group of parts. */
export function sayingOf(shape: Shape): { attribute: string; saying: string } | undefined {
  if (shape.kind === 'present') {
    return { attribute: shape.attribute ?? '', saying: 'present' };
  }
  if (shape.kind === 'line') {
    return { attribute: shape.attribute ?? '', saying: shape.operator ?? 'eq' };
  }
  const inner = shape.kind === 'except' ? shape.parts[0] : undefined;
  if (inner?.kind === 'present') {
    return { attribute: inner.attribute ?? '', saying: 'empty' };
  }
  return inner?.kind === 'line' && inner.operator === 'eq'
    ? { attribute: inner.attribute ?? '', saying: 'not-eq' }
    : undefined;
}

/** The values that a line compares with, also of a denied one. */
export function valuesOf(shape: Shape): string[] {
  return shape.kind === 'line' ? shape.values : (shape.parts[0]?.values ?? []);
}

/** A line that says this. */
export function saying(attribute: string, wanted: string, values: string[]): Shape {
  switch (wanted) {
    case 'present':
      return present(attribute);
    case 'empty':
      return group('except', [present(attribute)]);
    case 'not-eq':
      return group('except', [line(attribute, 'eq', values)]);
    case 'eq':
      return line(attribute, 'eq', values);
    default:
      return line(attribute, wanted, values.slice(0, 1));
  }
}

/** Whether nothing is missing in a part. */
export function isWhole(shape: Shape): boolean {
  return shape.kind === 'line'
    ? shape.attribute !== '' &&
        shape.values.length > 0 &&
        shape.values.every((one) => one !== '' && one !== UNREADABLE)
    : shape.kind === 'present'
      ? shape.attribute !== ''
      : shape.parts.length > 0 && shape.parts.some(isWhole);
}

/** In the syntax of RFC 7644, without what is not complete yet. */
export function textOf(shape: Shape, typeOf: (attribute: string) => string): string {
  const told = (part: Shape, within?: 'all' | 'any'): string => {
    switch (part.kind) {
      case 'present':
        return `${part.attribute} pr`;
      case 'line': {
        const plain = /^(number|yesno)$/.test(typeOf(part.attribute ?? ''));
        const all = part.values.map(
          (value) => `${part.attribute} ${part.operator} ${plain ? value : JSON.stringify(value)}`,
        );
        return all.length > 1 && within === 'all' ? `(${all.join(' or ')})` : all.join(' or ');
      }
      case 'except': {
        const inner = part.parts.filter(isWhole);
        return `not (${told(inner.length === 1 && inner[0] !== undefined ? inner[0] : group('all', inner))})`;
      }
      default: {
        const kind = part.kind as 'all' | 'any';
        const whole = part.parts.filter(isWhole);
        const joined = whole
          .map((one) => told(one, whole.length > 1 ? kind : within))
          .join(kind === 'all' ? ' and ' : ' or ');
        return within !== undefined && within !== kind && whole.length > 1 ? `(${joined})` : joined;
      }
    }
  };
  return isWhole(shape) ? told(shape) : '';
}
