/** The rooms of `core`: none needs another that needs it back, and none needs the interface, the server or Node. */
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';

const ROOT = __dirname;

function filesOf(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return name === 'testing' ? [] : filesOf(path);
    return path.endsWith('.ts') && !path.endsWith('.test.ts') ? [path] : [];
  });
}

const roomOf = (path: string): string => relative(ROOT, path).split('/')[0]!;

/** What each file brings in: files of ours by their paths, packages by their names. */
const imports = filesOf(ROOT).flatMap((file) =>
  [...readFileSync(file, 'utf8').matchAll(/from '([^']+)'/g)].map(([, from]) => ({ file, from: from! })),
);

it('no room needs one that needs it back, by however many others', () => {
  const needs = new Map<string, Set<string>>();
  for (const { file, from } of imports) {
    const [room, other] = [roomOf(file), from.startsWith('.') ? roomOf(normalize(join(dirname(file), from))) : ''];
    if (other && other !== room && !other.endsWith('.js') && !room.endsWith('.ts'))
      needs.set(room, (needs.get(room) ?? new Set()).add(other));
  }
  expect(needs.size).toBeGreaterThan(8);
  const reached = (room: string, seen = new Set<string>()): Set<string> => {
    for (const next of needs.get(room) ?? []) if (!seen.has(next)) reached(next, seen.add(next));
    return seen;
  };
  expect([...needs.keys()].filter((room) => reached(room).has(room))).toEqual([]);
});

it('nothing of the interface, the server or Node is needed', () => {
  const packages = new Set(imports.filter(({ from }) => !from.startsWith('.')).map(({ from }) => from));
  expect([...packages].filter((name) => /^(node:|react|@nestjs|@mikro-orm|zustand|@zest-jaw)/.test(name))).toEqual([]);
});
