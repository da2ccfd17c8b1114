import fc from 'fast-check';
import {
  inAccent,
  ipaOfSounds,
  isPlainAccent,
  maybeAccent,
  maybePronunciationFault,
  maybeSounds,
  PHONEMES,
  PLAIN_ACCENT,
  readPronunciations,
  waysByWord,
  writePronunciations,
  type Pronunciation,
} from '../index.js';

const sounds = (said: string): string | undefined =>
  maybeSounds(said)
    ?.map(({ symbol, stress }) => symbol + (stress ?? ''))
    .join(' ');

describe('a pronunciation', () => {
  it.each([
    ['/ˈbræmbəl/', 'B R AE1 M B AH0 L'],
    ['B R AE1 M B AH0 L', 'B R AE1 M B AH0 L'],
    ['BRAM-bul', 'B R AE1 M B AH0 L'],
    ['oh-DET', 'OW0 D EH1 T'],
    ['shee-VAWN', 'SH IY0 V AO1 N'],
    ['yah-ger', 'Y AA0 G ER0'],
  ])('%s is %s', (said, expected) => expect(sounds(said)).toBe(expected));

  it('that cannot be read is refused in a sentence', () => {
    expect(maybePronunciationFault({ word: 'bramble', said: '???' })).toMatch(/cannot be read as sounds/);
    expect(maybePronunciationFault({ word: '12', said: 'B' })).toMatch(/not one word/);
    expect(maybePronunciationFault({ word: 'long', said: Array(60).fill('AA').join(' ') })).toMatch(/60 sounds/);
  });

  it('is shown in IPA with its stress before the syllable', () => {
    const shown = (said: string): string => ipaOfSounds(maybeSounds(said)!);
    expect([shown('B R AE1 M B AH0 L'), shown('OW0 D EH1 T'), shown('P AA0 R T R IH1 JH')]).toEqual(['ˈbɹæmbʌl', 'oʊˈdɛt', 'pɑɹˈtɹɪdʒ']);
  });

  it('comes back from IPA as it went in, whatever its sounds', () => {
    const symbol = fc.constantFrom(...PHONEMES.map((phoneme) => phoneme.symbol));
    fc.assert(
      fc.property(fc.array(symbol, { minLength: 1, maxLength: 12 }), (symbols) => {
        // T SH and CH are written alike, as are D ZH and JH, and a vowel before another of its letters.
        const written = ipaOfSounds(symbols.map((one) => ({ symbol: one })));
        const read = maybeSounds(`/${written}/`)!.map((sound) => sound.symbol);
        expect(ipaOfSounds(read.map((one) => ({ symbol: one })))).toBe(written);
      }),
      { seed: 43 },
    );
  });
});

describe('a list of pronunciations', () => {
  const list = '# names\nBramble\t/ˈbræmbəl/\n\nodette  oh-DET\nbramble BRAM-bool\n';

  it('is read, and written as it can be read again', () => {
    const entries = readPronunciations(list) as readonly Pronunciation[];
    expect(entries.map((entry) => entry.word)).toEqual(['bramble', 'odette', 'bramble']);
    expect(readPronunciations(writePronunciations(entries))).toEqual(entries);
    expect(waysByWord(entries).get('bramble')).toHaveLength(2);
  });

  it('names the line that is wrong', () => {
    expect(readPronunciations('bramble')).toMatchObject({ fault: expect.stringMatching(/Line 1.*no sounds/) });
    expect(readPronunciations('# ok\nbramble 12!')).toMatchObject({ fault: expect.stringMatching(/Line 2/) });
  });
});

describe('accents', () => {
  const ways = (word: string, text: string): string[] => inAccent([word.split(' ')], maybeAccent(text)!).map((way) => way.join(' '));

  // After Wells, Accents of English (1982), from memory.
  it.each([
    ['B R AH DH ER', 'us,th-fronting', ['B R AH DH ER', 'B R AH V ER']],
    ['W AO T ER', 'flapped-t', ['W AO T ER', 'W AO D ER']],
    ['HH AE N D', 'dropped-h', ['HH AE N D', 'AE N D']],
    ['K AA R', 'non-rhotic', ['K AA R', 'K AA']],
    ['R AA K', 'non-rhotic', ['R AA K']],
    ['DH AH', 'th-fronting', ['DH AH']],
    ['B AE TH', 'gb', ['B AE TH', 'B AA TH']],
    ['G OW', 'gb', ['G OW', 'G AH UH']],
  ])('%s in %s', (word, accent, expected) => expect(ways(word, accent)).toEqual(expected));

  it('always offer the dictionary’s own way first, and never too many', () => {
    const all = maybeAccent('gb,non-rhotic,dropped-h,flapped-t,th-fronting')!;
    const found = inAccent(['HH AA R T AH TH ER'.split(' ')], all);
    expect(found[0]!.join(' ')).toBe('HH AA R T AH TH ER');
    expect(found.length).toBeLessThanOrEqual(8);
    expect(isPlainAccent(PLAIN_ACCENT)).toBe(true);
    expect(maybeAccent('us, martian')).toBeUndefined();
  });
});
