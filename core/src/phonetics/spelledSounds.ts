/** Sounds as one writes them down by ear: in plain spelling, in IPA or in ARPAbet. */
import { maybeSymbolsOfIpa } from './ipa.js';
import { maybeArpabet, type StressedSymbol } from './phonemes.js';

/** Sounds in plain spelling. Vowels by their commonest English reading (common practice, no source). */
export const SPELLINGS: Readonly<Record<string, string>> = {
  ee: 'IY',
  ea: 'IY',
  ih: 'IH',
  eh: 'EH',
  ay: 'EY',
  ai: 'EY',
  ah: 'AA',
  aah: 'AA',
  aw: 'AO',
  oh: 'OW',
  ow: 'OW',
  oo: 'UW',
  ooh: 'UW',
  ou: 'UW',
  uh: 'AH',
  er: 'ER',
  ur: 'ER',
  qu: 'W',
  wh: 'W',
  mm: 'M',
  mmm: 'M',
  ff: 'F',
  ss: 'S',
  ll: 'L',
  rr: 'R',
  th: 'TH',
  sh: 'SH',
  ch: 'CH',
  j: 'JH',
  ck: 'K',
  ng: 'NG',
  c: 'K',
  x: 'K',
  q: 'W',
  a: 'AE',
  e: 'EH',
  i: 'IH',
  o: 'OW',
  u: 'UW',
};

/** Letters that only IPA has. */
const IPA_LETTER = /[ɑæʌəɔɛɪʊθðʃʒŋɹɝɚɡˈˌː]/;

/**
 * The sounds of something heard: `ee`, `mm`, `sh` in plain spelling, `/ʃiː/` or `ʃ` in IPA,
 * `SH IY` in capitals as ARPAbet; undefined for anything else, which is a word.
 *
 * @example maybeHeardSounds('sh') // [{ symbol: 'SH' }]
 */
export function maybeHeardSounds(text: string): StressedSymbol[] | undefined {
  const heard = text.trim();
  const bare = heard.replace(/^[/[]|[/\]]$/g, '');
  if (bare !== heard || IPA_LETTER.test(heard)) {
    const symbols = maybeSymbolsOfIpa(bare);
    return symbols && symbols.length > 0 ? symbols : undefined;
  }
  const spelled = SPELLINGS[heard.toLowerCase()];
  // Capitals are ARPAbet where they can be: AH is the vowel of "hut", ah the one of "father".
  const tokens = heard === heard.toUpperCase() ? heard.split(/\s+/).map(maybeArpabet) : [];
  if (tokens.length > 0 && tokens.every((token) => token !== undefined)) return tokens as StressedSymbol[];
  if (spelled) return [{ symbol: spelled }];
  return /^[bdfghklmnprstvwyz]$/i.test(heard) ? [maybeArpabet(heard === 'h' ? 'HH' : heard.toUpperCase())!] : undefined;
}
