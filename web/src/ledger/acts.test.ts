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

function source(file: string): string {
  return readFileSync(join(__dirname, '../../..', file), 'utf8');
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

  it('has plain words for every kind of fact', () => {
    const kinds = [
      ...source('core/src/main/java/eleutheria/core/ledger/FactJson.java').matchAll(
        /case FactKey\.\w+ k -> "([a-z-]+)";/g,
      ),
    ].map((found) => found[1] ?? '');
    expect(kinds.length).toBeGreaterThan(30);
    expect(kinds.filter((kind) => words.ledger.kinds[kind] === undefined)).toEqual([]);
  });
});

describe('a draft', () => {
  it('has a sentence for every kind of edit', () => {
    const text = source('server/src/main/java/eleutheria/server/drafts/Phrases.java');
    const told = text.slice(text.indexOf('private @Nullable Phrase phrase'));
    const things = [...told.matchAll(/-> thing\("([a-z-]+)"/g)].flatMap((found) =>
      ['new', 'changed', 'ends'].map((what) => `${what}-${found[1]}`),
    );
    const others = [...told.matchAll(/(?:timed\(\s*|[?:] )"([a-z]+(?:-[a-z]+)*)"/g)].map(
      (found) => found[1] ?? '',
    );
    expect(others).toContain('gives');
    expect(others.length).toBeGreaterThan(25);
    expect(
      // An application is retired, and never ends.
      [...things, ...others].filter(
        (kind) => kind !== 'ends-application' && words.drafts.phrases[kind] === undefined,
      ),
    ).toEqual([]);
  });
});
