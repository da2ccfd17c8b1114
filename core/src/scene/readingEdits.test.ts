/** The reading under the hand: every edit keeps it in order, is turned round, and outlives a reading. */
import fc from 'fast-check';
import {
  applyPatch,
  deleteSound,
  deleteWord,
  inkWords,
  insertTime,
  insertWord,
  isRefusal,
  joinSounds,
  joinWords,
  maybeRoomAt,
  moveSoundEdge,
  moveWordEdge,
  partsBesideInk,
  placeWords,
  retypeSound,
  retypeWord,
  SCENE_KIND,
  setNotSpeech,
  setPause,
  setSpeech,
  SHORTEST_SOUND,
  slideWord,
  splitSound,
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

it('slides and stretches several words between those beside them', () => {
  const before = scene();
  const both = [idOf(before, 'wet'), idOf(before, 'stamp')];
  const place = (fromSample: number, toSample: number) => placeWords(before, { clip: CLIP, ids: both, fromSample, toSample }, ids);
  expect(told(testPatch(before, place(8 * 2000, 24 * 2000)))).toBe('wet! 8-14, stamp! 14-24, thank 28-34');
  // As far as there is room.
  expect(told(testPatch(before, place(20 * 2000, 36 * 2000)))).toBe('wet! 12-18, stamp! 18-28, thank 28-34');
  const stretched = testPatch(before, place(6 * 2000, 26 * 2000));
  expect(told(stretched)).toBe('wet! 6-13.5, stamp! 13.5-26, thank 28-34');
  expectWhole(stretched);
  expect(refusal(place(6 * 2000, 6 * 2000 + 300))).toContain('cannot be shorter');
});

it('a sound is put in, joined, and taken out; its word stays whole', () => {
  const before = scene();
  const vowel = soundsOf(before, 'wet')[1]!;
  const at = { clip: CLIP, id: vowel.id };
  const split = testPatch(before, splitSound(before, { ...at, atSample: vowel.fromSample + 1000, symbol: 'L' }, ids));
  expect(soundsOf(split, 'wet').map(({ symbol }) => symbol)).toEqual(['W', 'EH', 'L', 'T']);
  expect(soundsOf(testPatch(split, joinSounds(split, at, ids)), 'wet').map(({ symbol }) => symbol)).toEqual(['W', 'EH', 'T']);
  const out = testPatch(before, deleteSound(before, at, ids));
  expect(soundsOf(out, 'wet').map(({ symbol, toSample }) => [symbol, toSample / 2000])).toEqual([
    ['W', 10],
    ['T', 12],
  ]);
  expect(refusal(joinSounds(before, { clip: CLIP, id: soundsOf(before, 'wet')[2]!.id }, ids))).toContain('Join the words first');
});

it('a word is put in between two, where there is room, and the script says it', () => {
  const made = scene();
  const before = { ...made, clips: made.clips.map((clip) => ({ ...clip, script: '(softly) Wet stamp. Thank 2!' })) };
  const room = maybeRoomAt(before, CLIP, 24 * 2000, 12_000)!;
  expect([room.from / 2000, room.to / 2000]).toEqual([22, 28]);
  const sounds = [{ symbol: 'AA' }, { symbol: 'K' }];
  const after = testPatch(before, insertWord(before, { clip: CLIP, text: 'ock', sounds, fromSample: room.from, toSample: room.to }, ids));
  expect(told(after)).toBe('wet 6-12, stamp 12-22, ock! 22-28, thank 28-34');
  expect(after.clips[0]!.script).toBe('(softly) Wet stamp ock. Thank 2!');
  expect(maybeRoomAt(before, CLIP, 14 * 2000, 12_000)).toBeUndefined();
  expect(refusal(insertWord(before, { clip: CLIP, text: 'no', sounds, fromSample: 20_000, toSample: 30_000 }, ids))).toContain(
    '“wet” is read there',
  );
});

it('the script follows a word that is said otherwise, joined or split, and keeps its directions', () => {
  const made = scene();
  const before = { ...made, clips: made.clips.map((clip) => ({ ...clip, script: 'Take 3: [whispers] Wet, “stamp” – thank!' })) };
  const script = (document: SceneDocument): string => document.clips[0]!.script;
  const retyped = testPatch(before, retypeWord(before, { clip: CLIP, id: idOf(before, 'stamp'), text: 'stomp' }, ids));
  expect(script(retyped)).toBe('Take 3: [whispers] Wet, “stomp” – thank!');
  expect(script(testPatch(before, joinWords(before, { clip: CLIP, id: idOf(before, 'wet') }, ids)))).toBe(
    'Take 3: [whispers] wetstamp” – thank!',
  );
  expect(script(testPatch(before, splitWord(before, { clip: CLIP, id: idOf(before, 'stamp'), atSample: 17 * 2000 }, ids)))).toBe(
    'Take 3: [whispers] Wet, “st amp” – thank!',
  );
});

it('a pause cuts off what reaches into it, and what is not speech stays so when it is read again', () => {
  const before = scene();
  const pause = testPatch(before, setPause(before, { clip: CLIP, from: 11 * 2000, to: 23 * 2000 }, ids));
  expect(told(pause)).toBe('wet! 6-11, thank 28-34');
  const laugh = testPatch(before, setNotSpeech(before, { clip: CLIP, from: 12 * 2000, to: 24 * 2000, kind: 'laugh' }, ids));
  expect(told(laugh)).toBe('wet 6-12, thank 28-34');
  expect(laugh.clips[0]!.notSpeech).toEqual([{ from: 24_000, to: 48_000, kind: 'laugh', inked: true }]);
  const again = testPatch(laugh, takeReading(laugh, CLIP, { ...reading(), notSpeech: [{ from: 40_000, to: 60_000 }] }, ids));
  expect(told(again)).toBe('wet 6-12, thank 28-34');
  expect(again.clips[0]!.notSpeech).toEqual([
    { from: 24_000, to: 48_000, kind: 'laugh', inked: true },
    { from: 48_000, to: 60_000 },
  ]);
  expect(again.phonemes.filter(({ word }) => word === null).map(({ symbol }) => symbol)).toContain('AA');
  expect(partsBesideInk(laugh, laugh.clips[0]!)).toHaveLength(2);
  const speech = testPatch(again, setSpeech(again, { clip: CLIP, from: 30_000, to: 31_000 }, ids));
  expect(speech.phonemes.filter(({ word }) => word === null)).toEqual([]);
  expect(speech.clips[0]!.notSpeech).toEqual([{ from: 48_000, to: 60_000 }]);
});

it('keeps words in order and sounds inside them, whatever is done', () => {
  const anyEdit = fc.tuple(
    fc.integer({ min: 0, max: 14 }),
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
          () => splitSound(now, { clip: CLIP, id: sound.id, atSample: toSample, symbol: 'N' }, ids),
          () => joinSounds(now, { clip: CLIP, id: sound.id }, ids),
          () => deleteSound(now, { clip: CLIP, id: sound.id }, ids),
          () => setPause(now, { clip: CLIP, from: toSample, to: toSample + 9000 }, ids),
          () => setNotSpeech(now, { clip: CLIP, from: toSample, to: toSample + 9000, ...(opensGap && { kind: 'laugh' as const }) }, ids),
          () => setSpeech(now, { clip: CLIP, from: toSample, to: toSample + 9000 }, ids),
          () =>
            placeWords(
              now,
              { clip: CLIP, ids: now.words.map(({ id }) => id), fromSample: toSample - 20_000, toSample: toSample + 20_000 },
              ids,
            ),
          () => {
            const room = maybeRoomAt(now, CLIP, toSample, 9000);
            const wanted = { clip: CLIP, text: 'so', sounds: [{ symbol: 'S' }, { symbol: 'OW' }] };
            return insertWord(now, { ...wanted, fromSample: room?.from ?? toSample, toSample: room?.to ?? toSample }, ids);
          },
        ][kind]!();
        if (isRefusal(result)) continue;
        now = testPatch(now, result);
        expectWhole(now);
      }
    }),
  );
});
