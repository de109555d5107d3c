import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { SIGNED } from '../testing/page';
import { forget, isOwn, keepFront, keptFront, setOwn } from './ownDevice';

const AT = new Date('2026-03-02T08:00:00Z');

function view(person: string): Schemas['FrontView'] {
  return { session: { ...SIGNED, signed: { ...SIGNED.signed, person } }, page: null };
}

describe('what stays in a browser', () => {
  it('is nothing on a device that nobody has called their own', () => {
    keepFront(view('oda'), AT);
    expect(localStorage.length).toBe(0);
    expect(keptFront()).toBeUndefined();
  });

  it('is the last front page on a device of one’s own', () => {
    setOwn('oda', true);
    keepFront(view('oda'), AT);
    expect(keptFront()?.at).toBe(AT.toISOString());
    expect(isOwn('lena')).toBe(false);
  });

  it('is gone when it is forgotten, or when somebody else signs in', () => {
    setOwn('oda', true);
    keepFront(view('oda'), AT);
    keepFront(view('lena'), AT);
    expect(keptFront()).toBeUndefined();
    expect(localStorage.length).toBe(0);
    setOwn('oda', true);
    keepFront(view('oda'), AT);
    forget();
    expect(localStorage.length).toBe(0);
  });

  it('is nothing that cannot be read', () => {
    setOwn('oda', true);
    localStorage.setItem('eleutheria-front', '{');
    expect(keptFront()).toBeUndefined();
  });
});
