/** The reading under the hand: every edit keeps it in order, is turned round, and outlives a reading. */
import fc from 'fast-check';
import {
  applyPatch,
  deleteWord,
  inkWords,
  insertTime,
  isRefusal,
  joinWords,
  moveSoundEdge,
  moveWordEdge,
  partsBesideInk,
  retypeSound,
  retypeWord,
  SCENE_KIND,
  SHORTEST_SOUND,
  slideWord,
  splitWord,
  takeReading,
  type Patch,
  type Reading,
  type Refusal,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, testPatch } from '../testing/testPatch.js';

const CLIP = 'clip1';
/** In frames of 2000 samples: two words that touch, a gap, and a third. */
const WORDS: readonly (readonly [string, number, number, readonly string[]])[] = [
  ['wet', 6, 12, ['W', 'EH', 'T']],
  ['stamp', 12, 22, ['S', 'T', 'AE', 'M', 'P']],
  ['thank', 28, 34, ['TH', 'AE', 'K']],
];

function reading(shift = 0): Reading {
  return {
    sampleRate: 48_000,
    durationSamples: 96_000,
    words: WORDS.map(([text, from, to]) => ({ text, from: from * 2000 + shift, to: to * 2000 + shift, confidence: 0.7 })),
    phonemes: WORDS.flatMap(([, from, to, symbols], word) =>
      symbols.map((symbol, index) => ({
        symbol,
        from: from * 2000 + shift + Math.round(((to - from) * 2000 * index) / symbols.length),
        to: from * 2000 + shift + Math.round(((to - from) * 2000 * (index + 1)) / symbols.length),
        confidence: 0.7,
        word,
      })),
    ),
    warnings: [],
  };
}
const ids = countedIds('n');
function scene(): SceneDocument {
  const bare = emptyScene(48);
  return applyPatch(SCENE_KIND, bare, takeReading(bare, CLIP, reading(), ids) as Patch);
}
const idOf = (document: SceneDocument, text: string): string => document.words.find((word) => word.text === text)!.id;
const soundsOf = (document: SceneDocument, text: string) => document.phonemes.filter(({ word }) => word === idOf(document, text));
const told = (document: SceneDocument): string =>
  document.words
    .map(({ text, fromSample, toSample, inked }) => `${text}${inked ? '!' : ''} ${fromSample / 2000}-${toSample / 2000}`)
    .join(', ');
const refusal = (result: Patch | Refusal): string => (isRefusal(result) ? result.refusal : 'not refused');

/** Words and sounds in order, sounds inside their words, everything inside the clip. */
function expectWhole(document: SceneDocument): void {
  const byStart = <T extends { fromSample: number }>(records: readonly T[]): T[] =>
    [...records].sort((a, b) => a.fromSample - b.fromSample);
  const sorted = byStart(document.phonemes);
  sorted.forEach((sound, index) => {
    expect(sound.toSample - sound.fromSample).toBeGreaterThanOrEqual(SHORTEST_SOUND - 1);
    if (index > 0) expect(sound.fromSample).toBeGreaterThanOrEqual(sorted[index - 1]!.toSample);
    const word = document.words.find(({ id }) => id === sound.word);
    if (!word) return;
    expect(sound.fromSample).toBeGreaterThanOrEqual(word.fromSample);
    expect(sound.toSample).toBeLessThanOrEqual(word.toSample);
  });
  byStart(document.words).forEach((word, index, words) => {
    if (index > 0) expect(word.fromSample).toBeGreaterThanOrEqual(words[index - 1]!.toSample);
    expect(word.toSample).toBeLessThanOrEqual(96_000);
  });
}

it('moves the edge between two words: both keep their sounds in proportion, and are ink', () => {
  const before = scene();
  const move = { clip: CLIP, id: idOf(before, 'wet'), edge: 'to' as const, toSample: 15 * 2000, opensGap: false };
  const after = testPatch(before, moveWordEdge(before, move, ids));
  expect(told(after)).toBe('wet! 6-15, stamp! 15-22, thank 28-34');
  expect(soundsOf(after, 'wet').map(({ fromSample }) => fromSample / 2000)).toEqual([6, 9, 12]);
  expectWhole(after);
  const gap = testPatch(before, moveWordEdge(before, { ...move, toSample: 10 * 2000, opensGap: true }, ids));
  expect(told(gap)).toBe('wet! 6-10, stamp 12-22, thank 28-34');
});

it('moves the edge between two sounds, and the ends of their words with it', () => {
  const before = scene();
  const last = soundsOf(before, 'wet')[2]!;
  const after = testPatch(
    before,
    moveSoundEdge(before, { clip: CLIP, id: last.id, edge: 'to', toSample: 12.5 * 2000, opensGap: false }, ids),
  );
  expect(told(after)).toBe('wet! 6-12.5, stamp! 12.5-22, thank 28-34');
  expectWhole(after);
});

it('slides a word as far as its neighbours', () => {
  const before = scene();
  const after = testPatch(before, slideWord(before, { clip: CLIP, id: idOf(before, 'thank'), by: -99_999 }, ids));
  expect(told(after)).toBe('wet 6-12, stamp 12-22, thank! 22-28');
  expect(refusal(slideWord(before, { clip: CLIP, id: idOf(before, 'wet'), by: 400 }, ids))).toContain('no room');
});

it('splits and joins words, takes one out, and says them otherwise', () => {
  const before = scene();
  const split = testPatch(before, splitWord(before, { clip: CLIP, id: idOf(before, 'stamp'), atSample: 17 * 2000 }, ids));
  expect(told(split)).toBe('wet 6-12, st! 12-16, amp! 16-22, thank 28-34');
  const joined = testPatch(split, joinWords(split, { clip: CLIP, id: idOf(split, 'st') }, ids));
  expect(told(joined)).toBe('wet 6-12, stamp! 12-22, thank 28-34');
  expect(soundsOf(joined, 'stamp')).toHaveLength(5);
  const out = testPatch(before, deleteWord(before, { clip: CLIP, id: idOf(before, 'stamp') }, ids));
  expect(told(out)).toBe('wet 6-12, thank 28-34');
  const symbols = ['S', 'T', 'OW', 'M', 'P'].map((symbol) => ({ symbol }));
  const retyped = testPatch(before, retypeWord(before, { clip: CLIP, id: idOf(before, 'stamp'), text: 'stomp', sounds: symbols }, ids));
  expect(soundsOf(retyped, 'stomp').map(({ symbol }) => symbol)).toEqual(['S', 'T', 'OW', 'M', 'P']);
  const sound = soundsOf(before, 'wet')[1]!;
  const other = testPatch(before, retypeSound(before, { clip: CLIP, id: sound.id, symbol: 'IH' }, ids));
  expect(soundsOf(other, 'wet')[1]).toMatchObject({ symbol: 'IH', inked: true });
  expect(refusal(retypeWord(before, { clip: CLIP, id: idOf(before, 'wet'), text: '  ' }, ids))).toContain('1 to 200 letters');
});

it('accepts a word and takes it back, which is how it was', () => {
  const before = scene();
  const accepted = testPatch(before, inkWords(before, { clip: CLIP, ids: [idOf(before, 'wet')], inked: true }, ids));
  expect(told(accepted)).toBe('wet! 6-12, stamp 12-22, thank 28-34');
  expect(testPatch(accepted, inkWords(accepted, { clip: CLIP, ids: [idOf(accepted, 'wet')], inked: false }, ids))).toEqual(before);
});

it('what a hand has set outlives every reading, whole or in part', () => {
  const before = scene();
  const id = idOf(before, 'stamp');
  const set = testPatch(before, moveWordEdge(before, { clip: CLIP, id, edge: 'to', toSample: 24 * 2000, opensGap: false }, ids));
  // Everything read again a little later: what was set stays to the sample, the rest comes anew around it.
  const again = testPatch(set, takeReading(set, CLIP, reading(1500), ids));
  expect(told(again)).toBe('wet 6.75-12, stamp! 12-24, thank 28.75-34.75');
  expectWhole(again);
  expect(soundsOf(again, 'stamp').map(({ fromSample }) => fromSample)).toEqual(soundsOf(set, 'stamp').map(({ fromSample }) => fromSample));
  // And it is not read again at all: only what lies beside it.
  expect(partsBesideInk(set, set.clips[0]!)!.map(({ fromSample, toSample }) => [fromSample / 2000, toSample / 2000])).toEqual([
    [0, 12],
    [24, 48],
  ]);
  expect(partsBesideInk(before, before.clips[0]!)).toBeUndefined();
});

it('a sound that no word explains is kept by itself', () => {
  const made = scene();
  const lone = { id: 'hum', clip: CLIP, word: null, symbol: 'M', fromSample: 46_000, toSample: 52_000, confidence: 0.5 };
  const before = { ...made, phonemes: [...made.phonemes, lone].sort((a, b) => a.fromSample - b.fromSample) };
  const set = testPatch(before, moveSoundEdge(before, { clip: CLIP, id: 'hum', edge: 'to', toSample: 53_000, opensGap: false }, ids));
  const again = testPatch(set, takeReading(set, CLIP, reading(), ids));
  expect(again.phonemes.find(({ word }) => word === null)).toMatchObject({
    symbol: 'M',
    fromSample: 46_000,
    toSample: 53_000,
    inked: true,
  });
  expect(again.words).toHaveLength(WORDS.length);
  expect(partsBesideInk(set, set.clips[0]!)).toHaveLength(2);
});

it('a clip that was once a part of another is read again beside it', () => {
  const before = scene();
  const cut = testPatch(before, insertTime(before, { frame: 25, count: 4 }, ids));
  const [first, second] = cut.clips;
  // More words than the first part has now: their ids must not be those of the other part.
  const again = testPatch(cut, takeReading(cut, first!.id, reading(), ids));
  expect(again.words.filter(({ clip }) => clip === first!.id)).toHaveLength(3);
  expect(again.words.filter(({ clip }) => clip === second!.id)).toHaveLength(1);
});

it('keeps words in order and sounds inside them, whatever is done', () => {
  const anyEdit = fc.tuple(
    fc.integer({ min: 0, max: 6 }),
    fc.nat(20),
    fc.constantFrom('from' as const, 'to' as const),
    fc.integer({ min: -5000, max: 100_000 }),
    fc.boolean(),
  );
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 8 }), (edits) => {
      let now = scene();
      for (const [kind, pick, edge, toSample, opensGap] of edits) {
        const word = now.words[pick % Math.max(1, now.words.length)];
        const sound = now.phonemes[pick % Math.max(1, now.phonemes.length)];
        if (!word || !sound) break;
        const at = { clip: CLIP, id: word.id };
        const result = [
          () => moveWordEdge(now, { ...at, edge, toSample, opensGap }, ids),
          () => moveSoundEdge(now, { clip: CLIP, id: sound.id, edge, toSample, opensGap }, ids),
          () => slideWord(now, { ...at, by: toSample - 40_000 }, ids),
          () => splitWord(now, { ...at, atSample: toSample }, ids),
          () => joinWords(now, at, ids),
          () => deleteWord(now, at, ids),
          () => retypeSound(now, { clip: CLIP, id: sound.id, symbol: 'AH' }, ids),
        ][kind]!();
        if (isRefusal(result)) continue;
        now = testPatch(now, result);
        expectWhole(now);
      }
    }),
  );
});
