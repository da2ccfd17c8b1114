/** Checking on the command line: what is found of planted faults, how it ends, and what is written mended. */
import type { Keyed } from '@zest-jaw/core';
import { existsSync, readFileSync } from 'node:fs';
import { recording, SENTENCES, written, zest } from './testing/zestRun.js';

jest.setTimeout(900_000);

interface Printed {
  readonly notes: readonly { kind: string; from: number; to: number; why: string; weight: number; mend: { do: string } | null }[];
  readonly mended?: number;
}
type KeyedFile = Keyed & { readonly length: number };

const keyed = JSON.parse(
  zest('key', written('checked-reading.json', zest('read', recording('slt', 1), '--script', SENTENCES[1]!).out), '--feel', 'natural').out,
) as KeyedFile;
const check = (file: KeyedFile | object, ...more: string[]): { status: number | null; said: Printed; path: string } => {
  const path = written('checked.json', JSON.stringify(file));
  const { status, out } = zest('check', path, ...more);
  return { status, said: JSON.parse(out) as Printed, path };
};
/** The first closure as the mouth before it. */
const withoutClosure = (file: KeyedFile): KeyedFile => {
  const at = file.exposures.findIndex(({ drawing, from }) => drawing === 'press' && from > 0);
  return {
    ...file,
    exposures: file.exposures.map((one, index) => (index === at ? { ...one, drawing: file.exposures[at - 1]!.drawing } : one)),
  };
};

it('ends with 0 where nothing of weight is found', () => {
  const { status, said } = check(keyed);
  expect(said.notes.filter(({ weight }) => weight > 1)).toEqual([]);
  expect(status).toBe(0);
});

it('ends with 3 on a closure that is missing, says where and why, and mends it', () => {
  const broken = withoutClosure(keyed);
  const { status, said, path } = check(broken);
  expect(status).toBe(3);
  const note = said.notes.find(({ kind }) => kind === 'closure-missing')!;
  expect(Object.keys(note)).toEqual(['kind', 'from', 'to', 'why', 'weight', 'mend']);
  expect(note).toMatchObject({ weight: 3, mend: { do: 'lay' } });
  expect(note.why).toMatch(/can be seen in frame/);
  // Beside it, and in its place with what was there kept.
  const target = written('mended.json', '');
  const beside = zest('check', path, '--mend', target);
  expect(beside.status).toBe(0);
  expect((JSON.parse(beside.out) as Printed).mended).toBeGreaterThan(0);
  const mended = JSON.parse(readFileSync(target, 'utf8')) as KeyedFile;
  expect(mended.exposures.filter(({ drawing }) => drawing === 'press').length).toBe(
    keyed.exposures.filter(({ drawing }) => drawing === 'press').length,
  );
  expect(mended.exposures.at(-1)!.to).toBe(mended.length);
  expect(JSON.parse(readFileSync(path, 'utf8'))).toEqual(broken);
  expect(zest('check', path, '--mend').status).toBe(0);
  expect(JSON.parse(readFileSync(path.replace('.json', '.before.json'), 'utf8'))).toEqual(broken);
  expect(zest('check', path).status).toBe(0);
});

it('checks a file without its sounds by what it says of its groups', () => {
  const { frameRate, length, exposures, notShown } = withoutClosure(keyed) as KeyedFile & { frameRate: object };
  const { status, said, path } = check({ frameRate, length, exposures, notShown });
  expect(status).toBe(3);
  expect(said.notes.find(({ kind }) => kind === 'closure-missing')!.why).toMatch(/^These frames are for “Press”, and “.+” is there\.$/);
  expect(zest('check', path, '--mend').status).toBe(0);
  expect(existsSync(path.replace('.json', '.before.json'))).toBe(true);
});

it('says what is wrong with a file, and how it is used', () => {
  expect(zest('check')).toMatchObject({ status: 2 });
  expect(zest('check', 'a.json', 'b.json')).toMatchObject({ status: 2 });
  const path = written('wrong.json', JSON.stringify({ ...keyed, sounds: [{ symbol: 'QQ', from: 0, to: 5 }] }));
  const { status, err } = zest('check', path);
  expect(status).toBe(1);
  expect(err).toMatch(/its sounds have “QQ”/);
  expect(zest('check', written('none.json', '{}')).status).toBe(1);
});
