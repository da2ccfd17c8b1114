/** What a script says. Expected readings are common practice in English, no source, unless another is named. */
import { ordinalInWords, scriptWords, yearInWords } from '../index.js';

const spoken = (script: string): string =>
  scriptWords(script)
    .map((word) => word.spoken)
    .join(' ');

describe('numbers, money, times and signs', () => {
  it.each([
    ['$3.50', 'three dollars fifty cents'],
    ['$1', 'one dollar'],
    ['£0.05', 'five pence'],
    ['€1,200', 'one thousand two hundred euros'],
    ['at 7:30', 'at seven thirty'],
    ['7:05', 'seven oh five'],
    ['12:00', "twelve o'clock"],
    ['the 3rd of 12', 'the third of twelve'],
    ['the 21st', 'the twenty first'],
    ['the 20th', 'the twentieth'],
    ['in 1984', 'in nineteen eighty four'],
    ['in 2007', 'in two thousand seven'],
    ['in 1905', 'in nineteen oh five'],
    ['the 1960s', 'the nineteen sixties'],
    ['3.14', 'three point one four'],
    ['50%', 'fifty percent'],
    ['2.5%', 'two point five percent'],
    ['#9', 'number nine'],
    ['B52', 'b fifty two'],
    ['salt & pepper', 'salt and pepper'],
    ['20°', 'twenty degrees'],
    ['1,250,016 stamps', 'one million two hundred fifty thousand sixteen stamps'],
    ['-4', 'minus four'],
    ['1250', 'twelve fifty'],
  ])('%s is said “%s”', (script, words) => expect(spoken(script)).toBe(words));

  it('ordinals and years', () => {
    expect([1, 2, 5, 9, 12, 30, 101].map((value) => ordinalInWords(value).join(' '))).toEqual([
      'first',
      'second',
      'fifth',
      'ninth',
      'twelfth',
      'thirtieth',
      'one hundred first',
    ]);
    expect([1066, 1900, 2000, 2026].map((year) => yearInWords(year).join(' '))).toEqual([
      'ten sixty six',
      'nineteen hundred',
      'two thousand',
      'twenty twenty six',
    ]);
  });
});

describe('abbreviations, contractions, hyphens', () => {
  it.each([
    ['Dr. Pelican vs. Prof. Crab', 'doctor pelican versus professor crab'],
    ['5 km', 'five kilometers'],
    ['mm, nice', 'mm nice'],
    ['e.g. herring', 'for example herring'],
    ['the U.S.A.', 'the u s a'],
    ["don't, we'll, o'clock", "don't we'll o'clock"],
    ['a well-known heron', 'a well known heron'],
    ['wait—what', 'wait what'],
    ["'Tis the tide", 'tis the tide'],
  ])('%s is said “%s”', (script, words) => expect(spoken(script)).toBe(words));
});

describe('what is not spoken', () => {
  it.each([
    ['BRAMBLE: Put it there.', 'put it there'],
    ['Odette: My parcel!\nBramble: Which one?', 'my parcel which one'],
    ['SECOND GULL (angrily): Mine!', 'mine'],
    ['[wind] {beat} <sfx> Well.', 'well'],
    ['He said: nothing.', 'he said nothing'],
    ['I told him this, plainly: no.', 'i told him this plainly no'],
    ['At 7:30 sharp', 'at seven thirty sharp'],
  ])('%s says “%s”', (script, words) => expect(spoken(script)).toBe(words));
});

describe('a script in IPA', () => {
  it('is taken for sounds, whole or word by word between slashes', () => {
    expect(scriptWords('ˈtaɪd ʃɛl', 'ipa').map((word) => word.sounds)).toEqual([
      ['T', 'AY', 'D'],
      ['SH', 'EH', 'L'],
    ]);
    const [say, word] = scriptWords('say /ˈzɔːbəl/');
    expect([say!.spoken, word!.sounds]).toEqual(['say', ['Z', 'AO', 'B', 'AH', 'L']]);
  });
});
