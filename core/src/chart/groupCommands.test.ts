/** The map under the hand: every change keeps each sound in one group, and is turned round. */
import fc from 'fast-check';
import {
  addGroup,
  applyPatch,
  changeGroup,
  CHART_KIND,
  checkChart,
  freeGroup,
  invertPatch,
  isRefusal,
  DEFAULT_RULES,
  mergeGroups,
  moveSounds,
  PHONEMES,
  removeDrawingOfGroup,
  removeGroup,
  setDiphthong,
  setDrawingOfGroup,
  starterChart,
  type ChartDocument,
  type Patch,
  type Refusal,
} from '../index.js';
import { shapesOf } from '../keying/shapes.js';
import { countedIds } from '../testing/testPatch.js';

const ids = countedIds('g');
const starter = starterChart('Test', 'brush');
/** Its groups by themselves: none looks at its neighbours. */
const chart: ChartDocument = { ...starter, groups: starter.groups.map(({ follows: _, rounds: __, ...group }) => group) };
/** The chart after a patch, which is turned round to the byte. */
function after(before: ChartDocument, patch: Patch | Refusal): ChartDocument {
  if (isRefusal(patch)) throw new Error(patch.refusal);
  const made = applyPatch(CHART_KIND, before, JSON.parse(JSON.stringify(patch)) as Patch);
  expect(checkChart(made)).toEqual([]);
  const back = applyPatch(CHART_KIND, made, invertPatch(patch, 'back'));
  expect(new Set(back.groups.map((group) => JSON.stringify(group)))).toEqual(new Set(before.groups.map((group) => JSON.stringify(group))));
  expect(back.drawings).toEqual(before.drawings);
  return made;
}
const soundsOf = (one: ChartDocument, id: string): readonly string[] => one.groups.find((group) => group.id === id)!.phonemes;
const refusal = (result: Patch | Refusal): string => (isRefusal(result) ? result.refusal : 'not refused');

it('moves sounds from one group to another, or out of all', () => {
  const moved = after(chart, moveSounds(chart, ['R', 'ER'], 'ring', ids));
  expect(soundsOf(moved, 'ring')).toEqual(['AO', 'OW', 'OY', 'R', 'ER']);
  expect(soundsOf(moved, 'pucker')).toEqual(['UW', 'UH', 'W']);
  expect(soundsOf(after(chart, moveSounds(chart, ['HH'], null, ids)), 'back')).toEqual(['K', 'G', 'NG']);
  expect(refusal(moveSounds(chart, ['R'], 'rest', ids))).toContain('plays silence');
  expect(refusal(moveSounds(chart, ['UW'], 'pucker', ids))).toContain('already');
});

it('makes a group in one’s own words of sounds that leave theirs, changes, merges and removes it', () => {
  const made = after(chart, addGroup(chart, { name: ' Grr ', phonemes: ['R', 'ER'], colour: '#112233' }, ids));
  const own = made.groups.find(({ name }) => name === 'Grr')!;
  expect(own.phonemes).toEqual(['R', 'ER']);
  const must = after(made, changeGroup(made, own.id, { must: true, follows: true, name: 'Growl' }, ids));
  expect(must.groups.find(({ id }) => id === own.id)).toMatchObject({ name: 'Growl', must: true, follows: true });
  expect('follows' in after(must, changeGroup(must, own.id, { follows: false }, ids)).groups.find(({ id }) => id === own.id)!).toBe(false);
  const merged = after(must, mergeGroups(must, own.id, 'pucker', ids));
  expect(soundsOf(merged, 'pucker')).toEqual(['UW', 'UH', 'W', 'R', 'ER']);
  const removed = after(chart, removeGroup(chart, 'lift', ids));
  expect(removed.drawings.find(({ id }) => id === 'lift')!.groups).toEqual([]);
  expect(refusal(addGroup(chart, { name: 'press', colour: '#112233' }, ids))).toContain('“Press” already');
  expect(refusal(removeGroup(chart, 'rest', ids))).toContain('needs it');
  expect(refusal(mergeGroups(chart, 'press', 'rest', ids))).toContain('stays by itself');
});

it('chooses drawings of a group by hand, which is ink until it is let go', () => {
  const chosen = after(chart, setDrawingOfGroup(chart, { group: 'lift', drawing: 'tip' }, ids));
  expect(chosen.drawings.filter(({ groups }) => groups.includes('lift')).map(({ id }) => id)).toEqual(['tip']);
  expect(chosen.groups.find(({ id }) => id === 'lift')).toMatchObject({ inked: true });
  const two = after(chosen, setDrawingOfGroup(chosen, { group: 'lift', drawing: 'mid', beside: true }, ids));
  expect(two.drawings.filter(({ groups }) => groups.includes('lift')).map(({ id }) => id)).toEqual(['tip', 'mid']);
  expect(after(two, removeDrawingOfGroup(two, 'lift', 'tip', ids)).drawings.filter(({ groups }) => groups.includes('lift'))).toHaveLength(
    1,
  );
  expect('inked' in after(two, freeGroup(two, 'lift', ids)).groups.find(({ id }) => id === 'lift')!).toBe(false);
});

it('keeps every sound in one group at most, whatever is done', () => {
  const symbols = PHONEMES.map(({ symbol }) => symbol);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(5), fc.nat(40), fc.nat(40), fc.subarray(symbols, { maxLength: 4 })), { maxLength: 8 }),
      (edits) => {
        let now = chart;
        for (const [kind, a, b, some] of edits) {
          const [one, other] = [now.groups[a % now.groups.length]!.id, now.groups[b % now.groups.length]!.id];
          const result = [
            () => moveSounds(now, some, one, ids),
            () => addGroup(now, { name: `Own ${a}`, phonemes: some, colour: '#abcdef' }, ids),
            () => mergeGroups(now, one, other, ids),
            () => removeGroup(now, one, ids),
            () => setDrawingOfGroup(now, { group: one, drawing: now.drawings[b % now.drawings.length]!.id, beside: a % 2 === 0 }, ids),
            () => moveSounds(now, some, null, ids),
          ][kind]!();
          if (!isRefusal(result)) now = after(now, result);
        }
      },
    ),
  );
});

it('r, l, h and schwa look like the vowel after them where their group says so; rounded vowels round what comes before', () => {
  const rules = { holdFrames: 1, leadFrames: 0, strict: false, anticipationFrames: 0 };
  const sounds = ['HH', 'UW'].map((symbol, index) => ({
    symbol,
    from: 24_000 + index * 30_000,
    to: 54_000 + index * 30_000,
  }));
  const shown = (one: ChartDocument): string[] =>
    shapesOf({ sounds, frameRate: { num: 24, den: 1 }, lengthFrames: 72, chart: one, rules: { ...DEFAULT_RULES, ...rules } })
      .filter(({ sounds: plays }) => plays.includes(0))
      .map(({ drawing }) => drawing);
  expect(shown(chart)).toEqual(['back']);
  expect(shown(after(chart, changeGroup(chart, 'back', { follows: true }, ids)))).toEqual(['pucker']);
  expect(shown(after(chart, changeGroup(chart, 'pucker', { rounds: true }, ids)))).toEqual(['pucker']);
});

it('a diphthong stays one shape, or begins and ends as one says; a group that is gone says nothing', () => {
  const job = (one: ChartDocument) => ({
    sounds: [{ symbol: 'AY', stress: 1 as const, from: 24_000, to: 60_000 }],
    frameRate: { num: 24, den: 1 },
    lengthFrames: 48,
    chart: one,
    rules: DEFAULT_RULES,
  });
  const shown = (one: ChartDocument): string[] =>
    shapesOf(job(one))
      .filter(({ sounds }) => sounds.includes(0))
      .map(({ group }) => group);
  expect(shown(chart)).toEqual(['drop', 'spread']);
  expect(shown(after(chart, setDiphthong(chart, { symbol: 'AY', second: null }, ids)))).toEqual(['drop']);
  const other = after(chart, setDiphthong(chart, { symbol: 'AY', first: 'mid', second: 'teeth' }, ids));
  expect(shown(other)).toEqual(['mid', 'teeth']);
  expect(shown(after(other, removeGroup(other, 'teeth', ids)))).toEqual(['mid', 'spread']);
  expect(after(other, setDiphthong(other, { symbol: 'AY' }, ids))).toEqual(chart);
});
