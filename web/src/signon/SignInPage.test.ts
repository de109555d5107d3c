import { describe, expect, it } from 'vitest';
import { safeAddress } from './SignInPage';

describe('the wanted address', () => {
  it('is gone to only within this site', () => {
    expect(safeAddress('/desk/people?find=a')).toBe('/desk/people?find=a');
    for (const evil of [
      'https://evil.example',
      '//evil.example',
      '/\\evil.example',
      'javascript:x',
      '',
      null,
    ]) {
      expect(safeAddress(evil)).toBe('/');
    }
  });
});
