import { DEFAULT_SOUND_GROUPS, ipaOf, isVowel, maybeArpabet, maybeSymbolsOfIpa, PHONEMES } from '../index.js';

/** The 39 phonemes as listed by the CMU Pronouncing Dictionary, version 0.7b (cmudict-0.7b.phones). */
const CMU_PHONES = 'AA AE AH AO AW AY B CH D DH EH ER EY F G HH IH IY JH K L M N NG OW OY P R S SH T TH UH UW V W Y Z ZH'.split(' ');
const CMU_VOWELS = 'AA AE AH AO AW AY EH ER EY IH IY OW OY UH UW'.split(' ');

/** IPA letters by ARPAbet, after Handbook of the International Phonetic Association (1999), American English. From memory. */
const IPA_CHART: Readonly<Record<string, string>> = {
  DH: 'ð',
  TH: 'θ',
  SH: 'ʃ',
  ZH: 'ʒ',
  CH: 'tʃ',
  JH: 'dʒ',
  NG: 'ŋ',
  Y: 'j',
  AE: 'æ',
  AO: 'ɔ',
  UH: 'ʊ',
  IH: 'ɪ',
  EY: 'eɪ',
  OY: 'ɔɪ',
  R: 'ɹ',
};

describe('phonemes', () => {
  it('are the 39 of the CMU Pronouncing Dictionary', () => {
    expect(PHONEMES.map((phoneme) => phoneme.symbol).sort()).toEqual([...CMU_PHONES].sort());
    expect(CMU_PHONES.filter(isVowel)).toEqual(CMU_VOWELS);
  });

  it('belong to exactly one default sound group each', () => {
    for (const symbol of CMU_PHONES) expect(DEFAULT_SOUND_GROUPS.filter((group) => group.phonemes.includes(symbol))).toHaveLength(1);
    expect(DEFAULT_SOUND_GROUPS).toHaveLength(13);
  });

  it('carry their IPA letters', () => {
    for (const [symbol, ipa] of Object.entries(IPA_CHART)) expect(ipaOf(symbol)).toBe(ipa);
  });

  it('go to IPA and back', () => {
    for (const { symbol, ipa } of PHONEMES) expect(maybeSymbolsOfIpa(ipa)!.map((found) => found.symbol)).toEqual([symbol]);
  });

  it.each([
    ['ˈpɛlɪkən', 'P EH1 L IH0 K AH0 N'],
    ['ɡəˈɹɑːʒ', 'G AH0 R AA1 ZH'],
    ['ˈbɹæmbəɫ', 'B R AE1 M B AH0 L'],
    ['t͡ʃ', 'CH'],
  ])('reads %s', (ipa, expected) => {
    expect(
      maybeSymbolsOfIpa(ipa)!
        .map(({ symbol, stress }) => symbol + (stress ?? ''))
        .join(' '),
    ).toBe(expected);
  });

  it('says no to letters it does not know', () => {
    expect(maybeSymbolsOfIpa('p5q')).toBeUndefined();
    expect(maybeArpabet('QX')).toBeUndefined();
    expect(maybeArpabet('ay1')).toEqual({ symbol: 'AY', stress: 1 });
    expect(maybeArpabet('ax')).toEqual({ symbol: 'AH' });
  });

  it('each name a word whose letters are marked', () => {
    for (const { example } of PHONEMES) expect(example).toMatch(/^[a-z]*\*[a-z]+\*[a-z]*$/);
  });
});
