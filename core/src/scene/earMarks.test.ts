/** Marking by ear: writing down, moving, merging, and the reading it makes. */
import fc from 'fast-check';
import {
  applyPatch,
  checkReading,
  isRefusal,
  maybeHeardSounds,
  mergeEarMarks,
  moveEarMark,
  putEarMark,
  readingOfMarks,
  removeEarMark,
  SCENE_KIND,
  SILENCE_MARK,
  takeReading,
  wordsOfMarks,
  type Patch,
  type Reading,
  type SceneDocument,
  type StressedSymbol,
} from '../index.js';
import { countedIds, emptyScene, testPatch } from '../testing/testPatch.js';

const who = 'bramble';

function marked(entries: readonly (readonly [number, string])[], lengthFrames = 48): SceneDocument {
  const ids = countedIds('m');
  return entries.reduce(
    (scene, [frame, text]) => testPatch(scene, putEarMark(scene, { characterId: who, frame, text }, ids)),
    emptyScene(lengthFrames),
  );
}

const texts = (scene: SceneDocument): (readonly [number, string])[] => scene.marks.map(({ frame, text }) => [frame, text] as const);
const idAt = (scene: SceneDocument, frame: number): string => scene.marks.find((mark) => mark.frame === frame)!.id;

describe('what is heard', () => {
  it.each<[string, string | undefined]>([
    ['ee', 'IY'],
    ['mm', 'M'],
    ['sh', 'SH'],
    ['SH IY', 'SH IY'],
    ['AH0', 'AH'],
    ['ah', 'AA'],
    ['/ʃiː/', 'SH IY'],
    ['ʃ', 'SH'],
    ['[θ]', 'TH'],
    ['h', 'HH'],
    ['p', 'P'],
    ['parcel', undefined],
    ['Mrs', undefined],
  ])('“%s” is %s', (text, symbols) =>
    expect(
      maybeHeardSounds(text)
        ?.map((sound) => sound.symbol)
        .join(' '),
    ).toBe(symbols),
  );
});

describe('ear marks', () => {
  it('are written down in order, and over one another at a frame', () => {
    expect(
      texts(
        marked([
          [12, 'mm'],
          [4, 'oh'],
          [12, ' ee '],
        ]),
      ),
    ).toEqual([
      [4, 'oh'],
      [12, 'ee'],
    ]);
    expect(texts(marked([[3, '--']]))).toEqual([[3, SILENCE_MARK]]);
  });

  it('move between their neighbours and no further', () => {
    const scene = marked([
      [4, 'a'],
      [10, 'b'],
      [20, 'c'],
    ]);
    expect(texts(testPatch(scene, moveEarMark(scene, idAt(scene, 10), 99, countedIds())))[1]).toEqual([19, 'b']);
    expect(texts(testPatch(scene, moveEarMark(scene, idAt(scene, 10), -5, countedIds())))[1]).toEqual([5, 'b']);
    expect((moveEarMark(scene, idAt(scene, 10), 10, countedIds()) as Patch).ops).toEqual([]);
  });

  it('are merged with the next, and removed', () => {
    const scene = marked([
      [4, 'par'],
      [10, 'cel'],
    ]);
    expect(texts(testPatch(scene, mergeEarMarks(scene, idAt(scene, 4), countedIds())))).toEqual([[4, 'parcel']]);
    expect(texts(testPatch(scene, removeEarMark(scene, idAt(scene, 4), countedIds())))).toEqual([[10, 'cel']]);
    expect(mergeEarMarks(scene, idAt(scene, 10), countedIds())).toHaveProperty('refusal');
  });

  it.each([
    [{ frame: 3, text: '  ' }, /Type what you hear/],
    [{ frame: 99, text: 'ee' }, /outside the scene/],
    [{ frame: 1.5, text: 'ee' }, /outside the scene/],
  ])('refuse %j', (change, message) =>
    expect(putEarMark(emptyScene(), { characterId: who, ...change }, countedIds())).toEqual({ refusal: expect.stringMatching(message) }),
  );
});

describe('a reading of ear marks', () => {
  const said: ReadonlyMap<string, readonly StressedSymbol[]> = new Map([['bay', [{ symbol: 'B' }, { symbol: 'EY', stress: 1 }]]]);
  const readingOf = (scene: SceneDocument): Reading => {
    const reading = readingOfMarks(scene, scene.clips[0]!, said);
    if (isRefusal(reading)) throw new Error(reading.refusal);
    expect(checkReading(reading)).toEqual([]);
    return reading;
  };

  it('has sounds and words where they were marked, each until the next; vowels twice as long as consonants', () => {
    const scene = marked([
      [6, 'mm'],
      [9, 'bay'],
      [18, '–'],
      [24, 'oo'],
    ]);
    expect(wordsOfMarks(scene, who)).toEqual(['bay']);
    const { words, phonemes, warnings } = readingOf(scene);
    expect(warnings).toEqual([]);
    expect(words).toMatchObject([{ text: 'bay', from: 18_000, to: 36_000, confidence: 1 }]);
    expect(phonemes.map(({ symbol, from, to, word }) => [symbol, from, to, word])).toEqual([
      ['M', 12_000, 18_000, null],
      ['B', 18_000, 24_000, 0],
      ['EY', 24_000, 36_000, 0],
      ['UW', 48_000, 48_000 + 16_800, null],
    ]);
    // And it is taken by the scene like one the recogniser made.
    const taken = applyPatch(SCENE_KIND, scene, takeReading(scene, 'clip1', readingOf(scene), countedIds('t')) as Patch);
    expect(taken.phonemes).toHaveLength(4);
    expect(taken.marks).toEqual(scene.marks);
  });

  it('leaves out what cannot be pronounced, with a warning, and says when nothing is left', () => {
    expect(
      readingOf(
        marked([
          [2, 'ee'],
          [6, 'xqz'],
        ]),
      ).warnings,
    ).toEqual([expect.stringMatching(/“xqz” could not be pronounced/)]);
    const none = emptyScene();
    expect(readingOfMarks(none, none.clips[0]!, said)).toEqual({ refusal: expect.stringMatching(/no ear marks/) });
  });

  it('is a reading by every rule, whatever is marked wherever', () => {
    const entry = fc.tuple(fc.nat(47), fc.constantFrom('ee', 'mm', 'bay', '–', 'SH IY', 'ʃ', 'what'));
    fc.assert(
      fc.property(fc.array(entry, { minLength: 1, maxLength: 20 }), (entries) => {
        const scene = marked(entries);
        const reading = readingOfMarks(scene, scene.clips[0]!, said);
        if (!isRefusal(reading)) expect(checkReading(reading)).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
});
