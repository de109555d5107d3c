import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import { expect, test } from 'vitest';

const SRC = 'src';
/** What every view may lean on, and what leans on no view. */
const COMMON = ['shell', 'look', 'words', 'pictures', 'api'];

function files(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((one) => {
    const path = join(folder, one.name);
    return one.isDirectory()
      ? files(path)
      : /\.tsx?$/.test(one.name) && !/\.test\.tsx?$|\.d\.ts$/.test(one.name)
        ? [path]
        : [];
  });
}

/** Each file with those that it imports, types among them; what is wanted later is not. */
function imports(): Map<string, string[]> {
  const all = files(SRC);
  return new Map(
    all.map((file) => [
      file,
      [...readFileSync(file, 'utf8').matchAll(/^(?:import|export)[^;]*? from '(\.[^']*)'/gm)]
        .map((found) => normalize(join(dirname(file), found[1] ?? '')))
        .flatMap((stem) => all.filter((one) => one === `${stem}.ts` || one === `${stem}.tsx`)),
    ]),
  );
}

const HOUSE = imports();

test('no files import each other in a circle', () => {
  const done = new Set<string>();
  const circle = (file: string, way: string[]): string[] | undefined => {
    if (way.includes(file)) {
      return [...way.slice(way.indexOf(file)), file];
    }
    if (done.has(file)) {
      return undefined;
    }
    for (const next of HOUSE.get(file) ?? []) {
      const found = circle(next, [...way, file]);
      if (found !== undefined) {
        return found;
      }
    }
    done.add(file);
    return undefined;
  };
  expect(HOUSE.size).toBeGreaterThan(100);
  for (const file of HOUSE.keys()) {
    expect(circle(file, [])).toBeUndefined();
  }
});

test('what all views share leans on none of them', () => {
  const room = (file: string) => file.split('/')[1] ?? '';
  const upwards = [...HOUSE].flatMap(([file, all]) =>
    COMMON.includes(room(file))
      ? all.filter((one) => !COMMON.includes(room(one))).map((one) => `${file} → ${one}`)
      : [],
  );
  expect(upwards).toEqual([]);
});

test('nothing but the page itself leans on the app, and nothing but the app on the desk', () => {
  const leaning = (onto: string, but: RegExp) =>
    [...HOUSE].flatMap(([file, all]) =>
      !but.test(file) && all.some((one) => one.startsWith(`${SRC}/${onto}/`)) ? [file] : [],
    );
  expect(leaning('app', /^src\/(app\/|main\.tsx)/)).toEqual([]);
  expect(leaning('desk', /^src\/(app|desk)\//)).toEqual([]);
});

test('styles on a thing itself say only what is worked out; the rest stands in the look', () => {
  const fixed = files(SRC).flatMap((file) =>
    [...readFileSync(file, 'utf8').matchAll(/style=\{\{([^{}]*)\}\}/g)]
      .map((found) => found[1] ?? '')
      .filter((style) =>
        style.split(',').every((one) => /^[^:]*: *(-?[\d.]+|'[^']*') *$/.test(one)),
      )
      .map((style) => `${file}: ${style.trim()}`),
  );
  expect(fixed).toEqual([]);
});

test('every file of styles comes into the look once', () => {
  const sheets = readdirSync(SRC, { recursive: true, encoding: 'utf8' })
    .filter((file) => /\/_[^/]+\.scss$/.test(file))
    .map((file) => normalize(join(SRC, file)));
  const taken = ['look.scss', 'desk.scss'].flatMap((entry) =>
    [...readFileSync(join(SRC, 'look', entry), 'utf8').matchAll(/@import "([^"]+)"/g)]
      .map((found) => found[1] ?? '')
      .filter((name) => !name.startsWith('bootstrap/') && name !== 'tokens')
      .map((name) =>
        normalize(join(SRC, 'look', dirname(name), `_${name.split('/').at(-1)}.scss`)),
      ),
  );
  expect(sheets.length).toBeGreaterThan(30);
  expect([...taken, join(SRC, 'look', '_tokens.scss')].sort()).toEqual(sheets.sort());
});
