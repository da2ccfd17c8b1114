import fc from 'fast-check';
import { articulationOf, AT_REST, DEFAULT_SOUND_GROUPS, FEATURES, lookDistance, meanArticulation, PHONEMES } from '../index.js';

describe('what is seen of a sound', () => {
  it('is between 0 and 1 for every phoneme', () => {
    for (const { symbol } of PHONEMES)
      for (const feature of FEATURES) {
        expect(articulationOf(symbol)[feature]).toBeGreaterThanOrEqual(0);
        expect(articulationOf(symbol)[feature]).toBeLessThanOrEqual(1);
      }
  });

  it('follows the vowel quadrilateral: the jaw by height, rounding and spreading apart (the chart of the IPA, 2020)', () => {
    const jaw = (symbol: string): number => articulationOf(symbol).jaw;
    // Front vowels from close to open, then back ones.
    const front = ['IY', 'IH', 'EH', 'AE'].map(jaw);
    const back = ['UW', 'UH', 'AO', 'AA'].map(jaw);
    for (const column of [front, back]) expect([...column].sort((a, b) => a - b)).toEqual(column);
    for (const rounded of ['UW', 'UH', 'AO', 'OW', 'W'])
      expect(articulationOf(rounded).round).toBeGreaterThan(articulationOf(rounded).spread);
    for (const spread of ['IY', 'IH', 'EH']) expect(articulationOf(spread).round).toBe(0);
  });

  it('follows the places of consonants: bilabials press, labiodentals bite, dentals put the tongue out (the chart of the IPA, 2020)', () => {
    const withMost = (feature: 'press' | 'bite' | 'tongue'): string[] =>
      PHONEMES.map(({ symbol }) => symbol).filter((symbol) => articulationOf(symbol)[feature] === 1);
    expect(withMost('press')).toEqual(['B', 'M', 'P']);
    expect(withMost('bite')).toEqual(['F', 'V']);
    expect(withMost('tongue')).toEqual(['DH', 'TH']);
  });

  it('is as far from one to another as back, and from itself not at all', () => {
    fc.assert(
      fc.property(fc.nat(PHONEMES.length - 1), fc.nat(PHONEMES.length - 1), (a, b) => {
        const [one, other] = [articulationOf(PHONEMES[a]!.symbol), articulationOf(PHONEMES[b]!.symbol)];
        expect(lookDistance(one, other)).toBeCloseTo(lookDistance(other, one), 12);
        expect(lookDistance(one, one)).toBe(0);
      }),
    );
  });

  it('is nearest to the mean of its own group for nearly every phoneme', () => {
    const groups = DEFAULT_SOUND_GROUPS.filter((group) => group.phonemes.length > 0);
    const means = groups.map((group) => meanArticulation(group.phonemes.map(articulationOf)));
    const own = PHONEMES.filter(({ symbol }) => {
      const distances = means.map((mean) => lookDistance(articulationOf(symbol), mean));
      return groups[distances.indexOf(Math.min(...distances))]!.phonemes.includes(symbol);
    });
    expect(own.length).toBeGreaterThanOrEqual(34);
    expect(lookDistance(articulationOf('AA'), articulationOf('M'))).toBeCloseTo(1, 1);
    expect(lookDistance(articulationOf('M'), AT_REST)).toBeLessThan(lookDistance(articulationOf('EH'), AT_REST));
  });
});
