import { checkReading, partOfScript, readingOfClip, takeReading, withPartRead, type Reading, type SceneDocument } from '../index.js';
import { countedIds, emptyScene, testPatch } from '../testing/testPatch.js';

/** Four words of two sounds each, a quarter of a second a word, a pause of half a second in the middle. */
const texts = ['put', 'the', 'wet', 'stamp'];
const starts = [12_000, 24_000, 60_000, 72_000];
const reading: Reading = {
  sampleRate: 48_000,
  durationSamples: 96_000,
  words: texts.map((text, index) => ({ text, from: starts[index]!, to: starts[index]! + 12_000, confidence: 0.9 })),
  phonemes: starts.flatMap((from, word) => [
    { symbol: 'P', from, to: from + 6000, confidence: 0.9, word },
    { symbol: 'AA', from: from + 6000, to: from + 12_000, confidence: 0.9, word },
  ]),
  warnings: [],
};

function scene(script: string): SceneDocument {
  const empty = emptyScene(48);
  const read = testPatch(empty, takeReading(empty, 'clip1', reading, countedIds()));
  return { ...read, clips: [{ ...read.clips[0]!, script }] };
}

describe('a part of a clip', () => {
  it('is read from the scene as it was read', () => {
    const document = scene('Put the wet stamp.');
    expect(readingOfClip(document, document.clips[0]!)).toEqual(reading);
  });

  it('has the words of the script that lie there, those that were not heard too, and reaches no other word', () => {
    const document = scene('Put the very wet old stamp here.');
    const [clip] = document.clips;
    const { script, part } = partOfScript(reading, clip!, { fromSample: 58_000, toSample: 84_000 });
    expect(script).toBe('very wet old stamp here');
    expect(part.fromSample).toBeGreaterThanOrEqual(36_000);
    expect(part.fromSample).toBeLessThan(60_000);
    expect(part.toSample).toBeLessThanOrEqual(96_000);
    expect(partOfScript(reading, clip!, { fromSample: 12_000, toSample: 20_000 }).script).toBe('Put');
  });

  it('in which nothing was read lies between the words around it, with what the script has there', () => {
    const document = scene('Put the very wet stamp.');
    const pause = partOfScript(reading, document.clips[0]!, { fromSample: 40_000, toSample: 55_000 });
    expect(pause.script).toBe('very');
    expect(pause.part.fromSample).toBeGreaterThanOrEqual(36_000);
    expect(pause.part.toSample).toBeLessThanOrEqual(60_000);
    expect(pause.part.toSample).toBeGreaterThan(pause.part.fromSample);
    const end = partOfScript(reading, document.clips[0]!, { fromSample: 90_000, toSample: 96_000 });
    expect([end.script, end.part.toSample]).toEqual(['', 96_000]);
    expect(end.part.fromSample).toBeGreaterThanOrEqual(84_000);
  });

  it('keeps what was guessed and where nobody speaks, and cuts the latter where it is read anew', () => {
    const marked: Reading = {
      ...reading,
      words: reading.words.map((word, index) => (index === 2 ? { ...word, guessed: true as const } : word)),
      notSpeech: [
        { from: 0, to: 12_000 },
        { from: 84_000, to: 96_000 },
      ],
    };
    expect(checkReading(marked)).toEqual([]);
    const empty = emptyScene(48);
    const read = testPatch(empty, takeReading(empty, 'clip1', marked, countedIds()));
    expect(readingOfClip(read, read.clips[0]!)).toEqual(marked);
    // Read again without them, both are gone from the scene.
    const again = testPatch(read, takeReading(read, 'clip1', reading, countedIds()));
    expect(readingOfClip(again, again.clips[0]!)).toEqual(reading);
    const part = withPartRead(marked, { fromSample: 6000, toSample: 60_000 }, { ...reading, words: [], phonemes: [] });
    expect(part.notSpeech).toEqual([
      { from: 0, to: 6000 },
      { from: 84_000, to: 96_000 },
    ]);
    expect(checkReading({ ...marked, notSpeech: [{ from: 5, to: 5 }] }).join()).toMatch(/notSpeech must be a list of spans/);
  });

  it('is put in its place; what lies outside stays to the sample', () => {
    const part = { fromSample: 50_000, toSample: 90_000 };
    const anew: Reading = {
      ...reading,
      words: [{ text: 'damp', from: 61_000, to: 80_000, confidence: 0.5 }],
      phonemes: [
        { symbol: 'D', from: 61_000, to: 70_000, confidence: 0.5, word: 0 },
        { symbol: 'AE', from: 70_000, to: 80_000, confidence: 0.5, word: 0 },
      ],
      warnings: ['Listen.'],
    };
    const after = withPartRead(reading, part, anew);
    expect(checkReading(after)).toEqual([]);
    expect(after.words.map((word) => word.text)).toEqual(['put', 'the', 'damp']);
    expect(after.phonemes.slice(0, 4)).toEqual(reading.phonemes.slice(0, 4));
    expect(after.phonemes.slice(4).map(({ symbol, word }) => [symbol, word])).toEqual([
      ['D', 2],
      ['AE', 2],
    ]);
    expect(after.warnings).toEqual(['Listen.']);
  });
});
