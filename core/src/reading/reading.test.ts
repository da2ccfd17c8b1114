import {
  arpabetSymbol,
  assembleReading,
  boundaryErrors,
  checkReading,
  matchSymbols,
  numberInWords,
  scriptWords,
  shareWithin,
} from '../index.js';
import { readingOf } from '../testing/testPatch.js';

describe('the words of a script', () => {
  it.each([
    ['Please put the wet stamp beside the blue parcel.', 'please put the wet stamp beside the blue parcel'],
    ['(sighs) Well, [turns away] no!', 'well no'],
    ['A long-eared, half—asleep owl', 'a long eared half asleep owl'],
    ['Mrs Pelican mailed 5 pies', 'missus pelican mailed five pies'],
    ['1,250 stamps', 'one thousand two hundred fifty stamps'],
    ["‘It’s Odette's,’ he said", "it's odette's he said"],
    ['  \n ', ''],
    ['(only a direction)', ''],
    ['…?!', ''],
  ])('%p says %p', (script, spoken) => {
    expect(
      scriptWords(script)
        .map((word) => word.spoken)
        .join(' '),
    ).toBe(spoken);
  });

  it('keep the text they are shown by', () => {
    expect(scriptWords("Odette's “parcel”!").map((word) => word.text)).toEqual(["Odette's", 'parcel']);
  });

  it('part French elisions', () => {
    expect(scriptWords("L'hiver, aujourd'hui", 'fr').map((word) => word.spoken)).toContain("l'");
  });

  it('spell numbers', () => {
    expect(numberInWords(0)).toEqual(['zero']);
    expect(numberInWords(21).join(' ')).toBe('twenty one');
    expect(numberInWords(1_000_016).join(' ')).toBe('one million sixteen');
  });
});

describe('assembling a reading', () => {
  const phoneme = (symbol: string, fromSeconds: number, toSeconds: number) => ({ symbol, fromSeconds, toSeconds, confidence: 0.9 });

  it('turns seconds into samples, keeps stress apart, leaves silence out', () => {
    const reading = assembleReading(
      [
        { text: 'tide', confidence: 0.8, phonemes: [phoneme('T', 0.1, 0.2), phoneme('AY1', 0.2, 0.35), phoneme('D', 0.35, 0.4)] },
        { text: null, confidence: 0.5, phonemes: [phoneme('SIL', 0.4, 0.6), phoneme('AH', 0.6, 0.7)] },
      ],
      48_000,
      arpabetSymbol,
      [],
    );
    expect(reading.words).toEqual([{ text: 'tide', from: 4800, to: 19_200, confidence: 0.8 }]);
    expect(reading.phonemes.map(({ symbol, stress, word }) => [symbol, stress, word])).toEqual([
      ['T', undefined, 0],
      ['AY', 1, 0],
      ['D', undefined, 0],
      ['AH', undefined, null],
    ]);
    expect(checkReading(reading)).toEqual([]);
  });

  it('lets nothing end after the recording, and no word be empty', () => {
    const reading = assembleReading(
      [
        { text: 'late', confidence: 1, phonemes: [phoneme('L', 0.9, 1.2)] },
        { text: 'gone', confidence: 1, phonemes: [phoneme('G', 1.2, 1.4)] },
      ],
      48_000,
      arpabetSymbol,
      [],
    );
    expect(reading.phonemes).toHaveLength(1);
    expect(reading.phonemes[0]!.to).toBe(48_000);
    expect(reading.words.map((word) => word.text)).toEqual(['late']);
  });
});

describe('checkReading', () => {
  const good = readingOf(['P', 'AA'], 4000, 48_000);
  it.each<[string, unknown, RegExp]>([
    ['nothing', null, /not a reading/],
    ['another rate', { ...good, sampleRate: 44_100 }, /must count 48000/],
    ['a stress digit', { ...good, phonemes: [{ ...good.phonemes[0], symbol: 'AA1' }] }, /AA1/],
    ['a sound that ends before it starts', { ...good, phonemes: [{ ...good.phonemes[0], to: 0 }] }, /start before it ends/],
    ['an overlap', { ...good, phonemes: [good.phonemes[1], good.phonemes[0]] }, /not before the one before it/],
    ['a sound past the end', { ...good, durationSamples: 5000 }, /ends after the recording/],
    ['a word that is not there', { ...good, phonemes: [{ ...good.phonemes[0], word: 7 }] }, /word 7/],
  ])('names %s', (_, candidate, message) => expect(checkReading(candidate).join(' ')).toMatch(message));
  it('finds nothing in a sound reading', () => expect(checkReading(good)).toEqual([]));
});

describe('boundary errors', () => {
  it('match by least edits and compare the starts', () => {
    expect(matchSymbols(['P', 'L', 'IY'], ['P', 'IY', 'Z'])).toEqual([
      [0, 0],
      [2, 1],
    ]);
    const errors = boundaryErrors(
      [
        { symbol: 'P', fromSeconds: 0.1 },
        { symbol: 'IY', fromSeconds: 0.25 },
      ],
      [
        { symbol: 'P', fromSeconds: 0.11 },
        { symbol: 'IY', fromSeconds: 0.2 },
      ],
    );
    expect(shareWithin(errors, 0.02)).toBe(0.5);
    expect(shareWithin(errors, 0.05)).toBe(1);
  });
});
