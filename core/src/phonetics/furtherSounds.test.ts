/**
 * Sounds that English lacks: their names as the chart of the International Phonetic Association (2020) gives them, from
 * memory; what they look like; and how a word that has them is read.
 */
import {
  ALL_SOUNDS,
  articulationByPlace,
  articulationOf,
  arpabetOf,
  assembleReading,
  DEFAULT_SOUND_GROUPS,
  FURTHER_SOUNDS,
  lookDistance,
  maybeGroupOfPhoneme,
  maybeOwnGroup,
  maybePhoneme,
  maybeSounds,
  maybeSymbolsOfIpa,
  nameOfSound,
  nearestEnglish,
  PHONEMES,
} from '../index.js';

it.each([
  ['y', 'close front rounded vowel'],
  ['ø', 'close-mid front rounded vowel'],
  ['œ', 'open-mid front rounded vowel'],
  ['ɯ', 'close back unrounded vowel'],
  ['ɑ̃', 'open back unrounded nasal vowel'],
  ['ɔ̃', 'open-mid back rounded nasal vowel'],
  ['ʁ', 'voiced uvular fricative'],
  ['x', 'voiceless velar fricative'],
  ['ç', 'voiceless palatal fricative'],
  ['ɬ', 'voiceless alveolar lateral fricative'],
  ['ɲ', 'voiced palatal nasal'],
  ['ʎ', 'voiced palatal lateral approximant'],
  ['ɥ', 'voiced labial–palatal approximant'],
  ['rr', 'voiced alveolar trill'],
  ['ʙ', 'voiced bilabial trill'],
  ['ʘ', 'bilabial click'],
  ['ǁ', 'alveolar lateral click'],
])('%s is the %s', (symbol, name) => {
  expect(nameOfSound(symbol)).toBe(name);
});

it('are read from IPA as themselves, composed or not, and written as IPA', () => {
  expect(maybeSymbolsOfIpa('ʁyn')).toEqual([{ symbol: 'ʁ' }, { symbol: 'y', stress: 0 }, { symbol: 'N' }]);
  for (const { symbol, ipa } of FURTHER_SOUNDS) {
    const written = symbol === 'rr' ? 'rr' : ipa;
    for (const form of ['NFC', 'NFD'] as const)
      expect(maybeSymbolsOfIpa(written.normalize(form))?.map((one) => one.symbol)).toEqual([symbol]);
    expect(maybePhoneme(symbol)).toBeDefined();
    expect(maybePhoneme(nearestEnglish(symbol))!.symbol).toMatch(/^[A-Z]{1,2}$/);
  }
  // A plain r is the English one.
  expect(maybeSymbolsOfIpa('rɛd')?.map(({ symbol }) => symbol)).toEqual(['R', 'EH', 'D']);
  expect(arpabetOf([{ symbol: 'L' }, { symbol: 'y', stress: 1 }])).toMatch(/^\/.*y.*\/$/);
  expect(maybeSounds(arpabetOf([{ symbol: 'L' }, { symbol: 'y', stress: 1 }]))?.map(({ symbol }) => symbol)).toEqual(['L', 'y']);
});

it('are placed among the groups by what is seen of them, and stay where they are put', () => {
  const groupOf = (symbol: string): string => maybeGroupOfPhoneme(DEFAULT_SOUND_GROUPS, symbol)!.id;
  // Rounded vowels with rounded ones, lips that meet with lips that meet, the back of the mouth with k and h.
  expect(['y', 'ø', 'ɔ̃', 'ɥ'].map(groupOf)).toEqual(['pucker', 'ring', 'ring', 'pucker']);
  expect(['ʙ', 'ʘ', 'β'].map(groupOf)).toEqual(['press', 'press', 'press']);
  expect(['ʁ', 'x', 'χ'].map(groupOf)).toEqual(['back', 'back', 'back']);
  expect(groupOf('ɑ̃')).toBe('drop');
  expect(maybeOwnGroup(DEFAULT_SOUND_GROUPS, 'y')).toBeUndefined();
  const moved = DEFAULT_SOUND_GROUPS.map((group) => (group.id === 'spread' ? { ...group, phonemes: [...group.phonemes, 'y'] } : group));
  expect(maybeGroupOfPhoneme(moved, 'y')!.id).toBe('spread');
  // A sound of English that is in no group is in none.
  const without = DEFAULT_SOUND_GROUPS.map((group) => ({ ...group, phonemes: group.phonemes.filter((symbol) => symbol !== 'UW') }));
  expect(maybeGroupOfPhoneme(without, 'UW')).toBeUndefined();
});

it('what a place shows agrees with what is said of the sounds of English', () => {
  const away = PHONEMES.map(({ symbol }) => lookDistance(articulationByPlace(symbol), articulationOf(symbol)));
  const at = (share: number): number => [...away].sort((a, b) => a - b)[Math.floor(share * away.length)]!;
  // The distance of an open jaw from pressed lips is 1.
  expect(at(0.5)).toBeLessThan(0.1);
  expect(at(0.9)).toBeLessThan(0.3);
  for (const { symbol } of ALL_SOUNDS)
    expect(Object.values(articulationByPlace(symbol)).every((value) => value >= 0 && value <= 1)).toBe(true);
});

it('come back as they were written where the recogniser found the nearest it has', () => {
  const heard = (symbols: readonly string[]) => ({
    text: '/ʁyn/',
    confidence: 1,
    ways: [['ʁ', 'y', 'N']],
    phonemes: symbols.map((symbol, index) => ({ symbol, fromSeconds: index * 0.1, toSeconds: (index + 1) * 0.1, confidence: 1 })),
  });
  const read = (symbols: readonly string[]): string[] =>
    assembleReading([heard(symbols)], 48_000, (symbol) => symbol, []).phonemes.map(({ symbol }) => symbol);
  expect(read(['HH', 'UW', 'N'])).toEqual(['ʁ', 'y', 'N']);
  expect(read(['HH', 'IY', 'N'])).toEqual(['HH', 'IY', 'N']);
});
