/** A reading made again: what it would change is told by phrase, and taken by phrase or whole. */
import fc from 'fast-check';
import {
  applyPatch,
  inkWords,
  offeredChanges,
  SCENE_KIND,
  takeOffered,
  takeReading,
  type Patch,
  type Reading,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, testPatch } from '../testing/testPatch.js';

const CLIP = 'clip1';
type Line = readonly (readonly [text: string, from: number, to: number, symbols: string])[];
/** In frames of 2000 samples: two phrases. */
const LINE: Line = [
  ['wet', 2, 8, 'W EH T'],
  ['stamp', 8, 18, 'S T AE M P'],
  ['thank', 30, 36, 'TH AE K'],
];

function reading(line: Line): Reading {
  return {
    sampleRate: 48_000,
    durationSamples: 96_000,
    words: line.map(([text, from, to]) => ({ text, from: from * 2000, to: to * 2000, confidence: 0.7 })),
    phonemes: line.flatMap(([, from, to, symbols], word) =>
      symbols.split(' ').map((symbol, index, all) => ({
        symbol,
        from: Math.round((from + ((to - from) * index) / all.length) * 2000),
        to: Math.round((from + ((to - from) * (index + 1)) / all.length) * 2000),
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
  return applyPatch(SCENE_KIND, bare, takeReading(bare, CLIP, reading(LINE), ids) as Patch);
}
const texts = (document: SceneDocument): string => document.words.map(({ text, fromSample }) => `${text} ${fromSample / 2000}`).join(', ');

const ANEW = reading([
  ['wet', 2, 8, 'W EH T'],
  ['stomp', 8, 18, 'S T AA M P'],
  ['thank', 31, 36, 'TH AE K'],
]);

it('counts words and sounds that would be others, and how far what stays would move', () => {
  const { phrases, newWords, newSounds } = offeredChanges(scene(), CLIP, ANEW)!;
  expect(phrases.map(({ text, words, sounds, moved, furthest }) => ({ text, words, sounds, moved, furthest }))).toEqual([
    // One word goes and one comes; so do their vowels.
    { text: 'wet stomp', words: 2, sounds: 2, moved: 0, furthest: 0 },
    { text: 'thank', words: 0, sounds: 0, moved: 4, furthest: 2000 },
  ]);
  expect([...newWords]).toEqual([1, 2]);
  expect(newSounds.size).toBe(4);
});

it('says nothing where nothing would change, nor where the recording is another', () => {
  expect(offeredChanges(scene(), CLIP, reading(LINE))!.phrases).toEqual([]);
  expect(offeredChanges(scene(), CLIP, { ...ANEW, durationSamples: 90_000 })).toBeUndefined();
  expect(offeredChanges(scene(), 'gone', ANEW)).toBeUndefined();
});

it('takes one phrase and leaves the other as it was, then the other', () => {
  const before = scene();
  const [first, second] = offeredChanges(before, CLIP, ANEW)!.phrases;
  const one = testPatch(before, takeOffered(before, CLIP, ANEW, second, ids));
  expect(texts(one)).toBe('wet 2, stamp 8, thank 31');
  expect(offeredChanges(one, CLIP, ANEW)!.phrases).toHaveLength(1);
  const both = testPatch(one, takeOffered(one, CLIP, ANEW, first, ids));
  expect(texts(both)).toBe('wet 2, stomp 8, thank 31');
  expect(offeredChanges(both, CLIP, ANEW)!.phrases).toEqual([]);
});

it('never offers to change what is ink', () => {
  const before = scene();
  const inked = testPatch(before, inkWords(before, { clip: CLIP, ids: before.words.map(({ id }) => id), inked: true }, ids));
  expect(offeredChanges(inked, CLIP, ANEW)!.phrases).toEqual([]);
});

it('offers nothing once all of it is taken, whatever was read', () => {
  const anyLine = fc
    .array(fc.tuple(fc.constantFrom('wet', 'stamp', 'thank', 'so'), fc.integer({ min: 1, max: 6 }), fc.integer({ min: 0, max: 8 })), {
      maxLength: 5,
    })
    .map((words) => {
      let at = 0;
      return words.flatMap(([text, length, gap]): Line[number][] => {
        const from = at + gap;
        at = from + length;
        return at <= 48 ? [[text, from, at, text === 'so' ? 'S OW' : 'W EH T']] : [];
      });
    });
  fc.assert(
    fc.property(anyLine, anyLine, (was, is) => {
      const bare = emptyScene(48);
      const before = applyPatch(SCENE_KIND, bare, takeReading(bare, CLIP, reading(was), ids) as Patch);
      const anew = reading(is);
      const after = applyPatch(SCENE_KIND, before, takeOffered(before, CLIP, anew, undefined, ids) as Patch);
      expect(offeredChanges(after, CLIP, anew)!.phrases).toEqual([]);
      // Phrase by phrase it comes to the same words.
      let now = before;
      for (let turn = 0; turn < 12; turn++) {
        const [phrase] = offeredChanges(now, CLIP, anew)!.phrases;
        if (!phrase) break;
        now = applyPatch(SCENE_KIND, now, takeOffered(now, CLIP, anew, phrase, ids) as Patch);
      }
      expect(texts(now)).toBe(texts(after));
    }),
  );
});
