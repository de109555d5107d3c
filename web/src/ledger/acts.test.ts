import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { words } from '../words/en';

/** The acts that the Java code names; those that only look are never written to the ledger. */
function named(folder: string): string[] {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.java'))
    .flatMap((file) => [
      ...readFileSync(join(folder, file), 'utf8').matchAll(
        /(?:Act\.of\(|new Act\(|decided\(|Owners\.set\(\s*\w+, \w+,|String ACT =)[^;"]{0,60}"([a-z]+[.-][a-z.-]+)"(?: : "([a-z.-]+)")?/g,
      ),
    ])
    .flatMap((found) => [found[1] ?? '', found[2] ?? ''])
    .filter((act) => act !== '' && !act.endsWith('.look'));
}

describe('the ledger', () => {
  it('has plain words for every act', () => {
    const acts = [
      ...named(join(__dirname, '../../../core/src/main/java')),
      ...named(join(__dirname, '../../../server/src/main/java')),
    ];
    expect(acts).toContain('access.give');
    expect(acts).toContain('sign-ins.seal');
    expect(acts).toContain('account.feed-end');
    expect(acts.filter((act) => words.ledger.acts[act] === undefined)).toEqual([]);
  });
});
