/** What a mended script says of a part of what was read. */
import fc from 'fast-check';
import { scriptOfWords } from './scriptOfWords.js';

const words = (text: string): string[] => text.split(' ').filter((word) => word !== '');
const said = (script: string, read: string, first: number, last: number): string => {
  const { from, to } = scriptOfWords(words(script), words(read), first, last);
  return words(script).slice(from, to).join(' ');
};
const READ = 'you are terribly long today my dear heron';

it.each([
  ['a word that was mended', 'you are terribly wrong today my dear heron', 0, 4, 'you are terribly wrong today'],
  ['nothing that was mended there', READ, 0, 4, 'you are terribly long today'],
  ['mended in both phrases, the first read', 'you are terribly wrong today my deer heroine', 0, 4, 'you are terribly wrong today'],
  ['mended in both phrases, the second read', 'you are terribly wrong today my deer heroine', 5, 7, 'my deer heroine'],
  [
    'the last word of the one and the first of the other',
    'you are terribly long tonight thy dear heron',
    0,
    4,
    'you are terribly long tonight',
  ],
  ['the same, the other read', 'you are terribly long tonight thy dear heron', 5, 7, 'thy dear heron'],
  ['a word put in', 'you are so terribly long today my dear heron', 0, 4, 'you are so terribly long today'],
  ['a word left out', 'you are terribly today my dear heron', 0, 4, 'you are terribly today'],
  ['a word put in at the end of a mended neighbour', 'you are terribly long to day my dear heron', 5, 7, 'my dear heron'],
  ['two words for one', 'you are terribly long to day my dear heron', 0, 4, 'you are terribly long to day'],
  ['a word nobody said, before the part', 'you are terribly long today oh my dear heron', 5, 7, 'oh my dear heron'],
  ['all of another', 'come back before the tide', 0, 7, 'come back before the tide'],
  ['nothing', '', 0, 4, ''],
])('%s', (_, script, first, last, expected) => {
  expect(said(script, READ, first, last)).toBe(expected);
});

it('of a script as it was read, says what was read', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('put', 'the', 'wet', 'stamp'), { minLength: 1, maxLength: 30 }),
      fc.nat(),
      fc.nat(),
      (read, a, b) => {
        const [first, last] = [a % read.length, b % read.length].sort((x, y) => x - y) as [number, number];
        expect(scriptOfWords(read, read, first, last)).toEqual({ from: first, to: last + 1 });
      },
    ),
  );
});

it('gives every word of a script to a part, when the parts cover what was read', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('put', 'the', 'wet', 'stamp', 'parcel'), { minLength: 2, maxLength: 20 }),
      fc.array(fc.constantFrom('put', 'a', 'wet', 'stump', 'here'), { minLength: 1, maxLength: 20 }),
      fc.nat(),
      (read, script, cut) => {
        const at = 1 + (cut % (read.length - 1));
        const [left, right] = [scriptOfWords(script, read, 0, at - 1), scriptOfWords(script, read, at, read.length - 1)];
        // At most what stands on the edge is in both, and nothing is in neither.
        expect(left.from).toBe(0);
        expect(right.to).toBe(script.length);
        expect(left.to).toBeGreaterThanOrEqual(right.from);
      },
    ),
  );
});
