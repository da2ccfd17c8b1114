/** Sounds by where they are made: names as the chart of the International Phonetic Association (2020) gives them, from memory. */
import { isRoundedVowel, isVowel, nameOfSound, PHONEMES, placeOfSound } from '../index.js';

it.each([
  ['P', 'voiceless bilabial plosive'],
  ['M', 'voiced bilabial nasal'],
  ['V', 'voiced labiodental fricative'],
  ['TH', 'voiceless dental fricative'],
  ['Z', 'voiced alveolar fricative'],
  ['L', 'voiced alveolar lateral approximant'],
  ['R', 'voiced alveolar approximant'],
  ['SH', 'voiceless postalveolar fricative'],
  ['JH', 'voiced postalveolar affricate'],
  ['Y', 'voiced palatal approximant'],
  ['W', 'voiced labial–velar approximant'],
  ['NG', 'voiced velar nasal'],
  ['HH', 'voiceless glottal fricative'],
  ['IY', 'close front unrounded vowel'],
  ['UW', 'close back rounded vowel'],
  ['EH', 'open-mid front unrounded vowel'],
  ['AE', 'near-open front unrounded vowel'],
  ['AA', 'open back unrounded vowel'],
  ['AO', 'open-mid back rounded vowel'],
  ['AH', 'open-mid back unrounded vowel'],
  ['ER', 'open-mid central unrounded vowel'],
] as const)('%s is the %s', (symbol, name) => {
  expect(nameOfSound(symbol)).toBe(name);
});

it('has a place for every sound: vowels as vowels, diphthongs from one to another', () => {
  for (const { symbol, kind } of PHONEMES) {
    const place = placeOfSound(symbol);
    expect(place.kind === 'vowel').toBe(isVowel(symbol));
    expect(place.kind === 'vowel' && place.to !== undefined).toBe(kind === 'diphthong');
  }
  expect(
    PHONEMES.map(({ symbol }) => symbol)
      .filter(isRoundedVowel)
      .sort(),
  ).toEqual(['AO', 'OW', 'OY', 'UH', 'UW']);
});
