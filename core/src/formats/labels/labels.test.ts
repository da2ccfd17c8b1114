/** Labels in and out: what their descriptions show, round trips, and files that are not what they say. */
import fc from 'fast-check';
import SrtParser from 'srt-parser-2';
import { WebVTTParser } from 'webvtt-parser';
import {
  givenLabels,
  guessedTiers,
  isLabelFault,
  LABEL_KINDS,
  maybeLabelKind,
  maybeSoundOfLabel,
  readingOfLabels,
  readLabels,
  scriptOfLines,
  textOfLabels,
  writeLabels,
  type LabelTier,
  type Reading,
} from '../../index.js';

const tiersOf = (result: ReturnType<typeof readLabels>): readonly LabelTier[] => {
  if (isLabelFault(result)) throw new Error(`${result.line}: ${result.sentence}`);
  return result;
};

/** As the manual page “TextGrid file formats” shows one, from memory; and the same short. */
const LONG = `File type = "ooTextFile"
Object class = "TextGrid"

xmin = 0
xmax = 2.3
tiers? <exists>
size = 3
item []:
    item [1]:
        class = "IntervalTier"
        name = "Mary"
        xmin = 0
        xmax = 2.3
        intervals: size = 2
        intervals [1]:
            xmin = 0
            xmax = 0.9
            text = "say ""shell"""   ! a remark
        intervals [2]:
            xmin = 0.9
            xmax = 2.3
            text = ""
    item [2]:
        class = "IntervalTier"
        name = "phones"
        xmin = 0
        xmax = 2.3
        intervals: size = 1
        intervals [1]:
            xmin = 0.25
            xmax = 0.5
            text = "SH"
    item [3]:
        class = "TextTier"
        name = "bell"
        xmin = 0
        xmax = 2.3
        points: size = 1
        points [1]:
            number = 1
            mark = "ding"
`;
const SHORT = `File type = "ooTextFile"
Object class = "TextGrid"

0
2.3
<exists>
3
"IntervalTier"
"Mary"
0
2.3
2
0
0.9
"say ""shell"""
0.9
2.3
""
"IntervalTier"
"phones"
0
2.3
1
0.25
0.5
"SH"
"TextTier"
"bell"
0
2.3
1
1
"ding"
`;

describe('TextGrid', () => {
  it('is read long and short alike; points and silence are no labels', () => {
    const wanted: LabelTier[] = [
      { name: 'Mary', labels: [{ from: 0, to: 0.9, text: 'say "shell"' }] },
      { name: 'phones', labels: [{ from: 0.25, to: 0.5, text: 'SH' }] },
    ];
    expect(readLabels('TextGrid', LONG)).toEqual(wanted);
    expect(readLabels('TextGrid', SHORT)).toEqual(wanted);
    expect(readLabels('TextGrid', LONG.replaceAll('\n', '\r\n'))).toEqual(wanted);
  });
  it('is read in UTF-16 with its mark, too', () => {
    const bytes = Buffer.from(`\uFEFF${LONG.replace('shell', 'ʃɛl')}`, 'utf16le');
    expect(tiersOf(readLabels('TextGrid', textOfLabels(bytes)))[0]!.labels[0]!.text).toBe('say "ʃɛl"');
  });
  it('says the line, and what was expected there', () => {
    expect(readLabels('TextGrid', LONG.replace('xmax = 0.9', 'xmax = "later"'))).toEqual({
      line: 17,
      sentence: 'A number, where a label ends, was expected; “later” was found.',
    });
    const half = readLabels('TextGrid', LONG.slice(0, LONG.indexOf('"phones"')));
    expect(isLabelFault(half) && half.sentence).toContain('ends where the name of a tier was expected');
    expect(isLabelFault(readLabels('TextGrid', 'RIFF....WAVE'))).toBe(true);
    const over = readLabels('TextGrid', SHORT.replace('\n0.9\n2.3\n""', '\n0.5\n2.3\n"over"'));
    expect(isLabelFault(over) && over.sentence).toContain('over one another');
    const many = readLabels('TextGrid', SHORT.replace('2.3\n2\n', '2.3\n999999999\n'));
    expect(isLabelFault(many) && many.sentence).toContain('more than');
  });
});

describe('captions', () => {
  it('are read with the times of their words (the W3C’s description has this form)', () => {
    const vtt =
      'WEBVTT\n\nNOTE a remark\n\n1\n00:16.500 --> 00:18.500 align:start\nWhen the moon <00:17.500>hits <00:18.000><b>your</b> eye\n';
    expect(readLabels('vtt', vtt)).toEqual([
      { name: 'lines', labels: [{ from: 16.5, to: 18.5, text: 'When the moon hits your eye' }] },
      {
        name: 'words',
        labels: [
          { from: 16.5, to: 17.5, text: 'When the moon' },
          { from: 17.5, to: 18, text: 'hits' },
          { from: 18, to: 18.5, text: 'your eye' },
        ],
      },
    ]);
  });
  it('SubRip has commas and numbers', () => {
    const srt = '1\r\n00:00:01,000 --> 00:00:02,500\r\nGood &amp; early\r\n\r\n2\r\n01:00:00,000 --> 01:00:01,000\r\n<i>Late</i>\r\n';
    expect(tiersOf(readLabels('srt', srt))[0]!.labels).toEqual([
      { from: 1, to: 2.5, text: 'Good & early' },
      { from: 3600, to: 3601, text: 'Late' },
    ]);
  });
  it('say where a time is none', () => {
    expect(readLabels('srt', '1\n00:00:01 --> soon\nHello\n')).toMatchObject({ line: 2 });
    expect(readLabels('vtt', 'WEBVTT\n\n00:02.000 --> 00:01.000\nNo\n')).toEqual({ line: 3, sentence: 'This cue ends before it begins.' });
    expect(isLabelFault(readLabels('vtt', 'WEBVTT\n'))).toBe(true);
  });
});

it('CTM and lines with tabs are read, remarks left out, strange lines told', () => {
  expect(tiersOf(readLabels('ctm', ';; NIST\nD2 A 0.20 0.34 and\nD2 A 0.54 0.10 so 0.98\n'))[0]!.labels.map(({ text }) => text)).toEqual([
    'and',
    'so',
  ]);
  expect(readLabels('ctm', 'D2 A zero 0.34 and\n')).toMatchObject({ line: 1 });
  expect(tiersOf(readLabels('tsv', '0.1\t0.5\twet stamp\n'))[0]!.labels).toEqual([{ from: 0.1, to: 0.5, text: 'wet stamp' }]);
  expect(readLabels('tsv', '0.1\t0.5\tone\n0.5 0.7 two\n')).toMatchObject({ line: 2 });
});

it('a sound is known as ARPAbet with stress, as IPA, and as nothing else', () => {
  expect(maybeSoundOfLabel('AE1')).toEqual({ symbol: 'AE', stress: 1 });
  expect(maybeSoundOfLabel('sh')).toMatchObject({ symbol: 'SH' });
  expect(maybeSoundOfLabel('ʃ')).toMatchObject({ symbol: 'SH' });
  expect(maybeSoundOfLabel('breath')).toBeUndefined();
  expect(maybeLabelKind('a line.TextGrid')).toBe('TextGrid');
  expect(maybeLabelKind('a line.wav')).toBeUndefined();
});

it('tiers are found by their names, else by what is in them', () => {
  const sounds: LabelTier = { name: 'b', labels: ['S', 'T', 'AE1'].map((text, index) => ({ from: index, to: index + 1, text })) };
  const words: LabelTier = { name: 'a', labels: [{ from: 0, to: 3, text: 'stamped' }] };
  expect(guessedTiers([sounds, words])).toEqual({ words: 1, sounds: 0 });
  expect(
    guessedTiers([
      { ...words, name: 'ORT' },
      { ...sounds, name: 'speaker - phones' },
    ]),
  ).toEqual({ words: 0, sounds: 1 });
  expect(guessedTiers([])).toEqual({ words: undefined, sounds: undefined });
});

it('labels become a reading: sounds in their words, silence left out, what is unknown told and taken for what one says', () => {
  const words = [
    { from: 0.5, to: 1, text: 'wet' },
    { from: 1, to: 1.4, text: 'sil' },
  ];
  const sounds = [
    { from: 0.5, to: 0.6, text: 'W' },
    { from: 0.6, to: 0.8, text: 'qq' },
    { from: 0.8, to: 1, text: 'T' },
    { from: 1, to: 1.4, text: 'sp' },
  ];
  const bare = readingOfLabels({ words, sounds }, 96_000);
  expect(bare.unknown).toEqual([['qq', 1]]);
  expect(bare.reading.words.map(({ text }) => text)).toEqual(['wet']);
  expect(bare.reading.phonemes.map(({ symbol, word }) => [symbol, word])).toEqual([
    ['W', 0],
    ['T', 0],
  ]);
  const mapped = readingOfLabels({ words, sounds }, 96_000, new Map([['qq', 'ER']]));
  expect(mapped.unknown).toEqual([]);
  expect(mapped.reading.phonemes[1]).toMatchObject({ symbol: 'ER', from: 28_800, to: 38_400 });
});

const word = fc.stringMatching(/^[a-z"&<>']{1,9}$/);
const anyReading = fc
  .array(fc.tuple(word, fc.integer({ min: 1000, max: 30_000 }), fc.integer({ min: 0, max: 40_000 })), { minLength: 1, maxLength: 12 })
  .map((parts): Reading => {
    let at = 0;
    const words = parts.map(([text, length, gap]) => {
      const from = at + gap;
      at = from + length;
      return { text, from, to: at, confidence: 1 };
    });
    const phonemes = words.map(({ from, to }, index) => ({ symbol: 'AE', stress: 1 as const, from, to, confidence: 1, word: index }));
    return { sampleRate: 48_000, durationSamples: at + 9600, words, phonemes, warnings: [] };
  });
it.each(LABEL_KINDS)('goes out and comes in again as %s, to the thousandth of a second', (kind) => {
  fc.assert(
    fc.property(anyReading, (reading) => {
      const tiers = tiersOf(readLabels(kind, writeLabels(kind, reading, { name: 'a line' })));
      const found = guessedTiers(tiers);
      if (kind === 'srt') {
        expect(tiers[0]!.labels.map(({ text }) => text).join(' ')).toBe(reading.words.map(({ text }) => text).join(' '));
        return;
      }
      const words = (tiers.find(({ name }) => name === 'words') ?? tiers[found.words ?? 0])!.labels;
      // A cue of one word has no time inside it.
      if (kind === 'vtt' && words.length !== reading.words.length) return;
      expect(words.map(({ text }) => text)).toEqual(reading.words.map(({ text }) => text));
      words.forEach(({ from }, index) => expect(Math.abs(from - reading.words[index]!.from / 48_000)).toBeLessThan(0.0011));
    }),
  );
});

describe('a reading', () => {
  it('comes back from a TextGrid to the sample, sounds and stress too', () => {
    fc.assert(
      fc.property(anyReading, (reading) => {
        const [words, sounds] = tiersOf(readLabels('TextGrid', writeLabels('TextGrid', reading, { name: 'x' })));
        const { reading: back, unknown } = readingOfLabels({ words: words!.labels, sounds: sounds!.labels }, reading.durationSamples);
        expect(unknown).toEqual([]);
        expect(back).toEqual(reading);
      }),
    );
  });
  it('no text, however strange, does more than say what is wrong', () => {
    fc.assert(
      fc.property(fc.constantFrom(...LABEL_KINDS), fc.string({ maxLength: 400 }), (kind, text) => {
        const result = readLabels(kind, text);
        if (isLabelFault(result)) expect(result.sentence.length).toBeGreaterThan(10);
      }),
    );
    fc.assert(
      fc.property(fc.nat(LONG.length), fc.nat(40), (at, length) => {
        readLabels('TextGrid', LONG.slice(0, at) + LONG.slice(at + length));
      }),
    );
  });
});

it('captions that go out are read by the W3C’s own parser (webvtt-parser) without a fault, and by one of SubRip (srt-parser-2)', () => {
  const words = ['wet', 'stamp', '"&"', 'blue'].map((text, index) => ({
    text,
    from: 48_000 * (index + (index === 3 ? 2 : 0)),
    to: 48_000 * (index + (index === 3 ? 2 : 0)) + 40_000,
    confidence: 0.9,
  }));
  const reading: Reading = { sampleRate: 48_000, durationSamples: 480_000, words, phonemes: [], warnings: [] };
  const vtt = new WebVTTParser().parse(writeLabels('vtt', reading, { name: 'x' }), 'metadata');
  expect(vtt.errors).toEqual([]);
  expect(vtt.cues.map(({ startTime, endTime }) => [startTime, endTime])).toEqual([
    [0, 2.833],
    [5, 5.833],
  ]);
  const srt = new SrtParser().fromSrt(writeLabels('srt', reading, { name: 'x' }));
  expect(srt.map(({ startSeconds, endSeconds }) => [startSeconds, endSeconds])).toEqual([
    [0, 2.833],
    [5, 5.833],
  ]);
});

describe('SAMPA', () => {
  /** Each symbol in the word that J. Wells gives it by (SAMPA for English, 1996 revision, from memory), and the sound of it here. */
  const TIER: readonly (readonly [sampa: string, arpabet: string])[] = [
    ['{', 'AE'],
    ['i:', 'IY'],
    ['T', 'TH'],
    ['D', 'DH'],
    ['S', 'SH'],
    ['Z', 'ZH'],
    ['N', 'NG'],
    ['V', 'AH'],
    ['@U', 'OW'],
    ['3:', 'ER'],
    ['tS', 'CH'],
    ['j', 'Y'],
    ['"aI', 'AY'],
  ];
  const labels = TIER.map(([text], index) => ({ from: index / 10, to: (index + 1) / 10, text }));

  it('is told from ARPAbet by what only it spells, for its letters mean other sounds', () => {
    const { reading, unknown } = readingOfLabels({ sounds: labels }, 96_000);
    expect(unknown).toEqual([]);
    expect(reading.phonemes.map(({ symbol }) => symbol)).toEqual(TIER.map(([, symbol]) => symbol));
    expect(reading.phonemes.at(-1)!.stress).toBe(1);
    // The same letters, capitals of ARPAbet where nothing says otherwise.
    const plain = readingOfLabels({ sounds: labels.filter(({ text }) => ['T', 'D', 'S', 'N', 'V'].includes(text)) }, 96_000).reading;
    expect(plain.phonemes.map(({ symbol }) => symbol)).toEqual(['T', 'D', 'S', 'N', 'V']);
  });

  it('makes a tier of sounds be seen as one', () => {
    expect(guessedTiers([{ name: 'a', labels }])).toEqual({ words: undefined, sounds: 0 });
  });
});

describe('labels beside a recording', () => {
  it('captions are lines with times, cut off with the recording; anything else is a reading', () => {
    const srt =
      '1\n00:00:00,500 --> 00:00:01,500\nWet\nstamp.\n\n2\n00:00:01,800 --> 00:00:09,000\nThank you.\n\n3\n00:00:11,000 --> 00:00:12,000\nGone.\n';
    const given = givenLabels(tiersOf(readLabels('srt', srt)), 96_000);
    if (!('lines' in given)) throw new Error('no lines');
    expect(given.lines).toEqual([
      { fromSample: 24_000, toSample: 72_000, text: 'Wet stamp.' },
      { fromSample: 86_400, toSample: 96_000, text: 'Thank you.' },
    ]);
    expect(scriptOfLines(given.lines)).toBe('Wet stamp.\nThank you.');
    const own = givenLabels(tiersOf(readLabels('tsv', '0\t0.5\twet\n0.5\t1\tstamp\n')), 96_000);
    expect('reading' in own && own.reading.words.map(({ text }) => text)).toEqual(['wet', 'stamp']);
  });

  it('a reading of our own comes back as it went out', () => {
    fc.assert(
      fc.property(anyReading, (reading) => {
        const tiers = tiersOf(readLabels('json', writeLabels('json', reading, { name: 'x' })));
        const given = givenLabels(tiers, reading.durationSamples);
        expect('reading' in given && given.reading).toEqual({ ...reading, warnings: [] });
      }),
    );
    expect(readLabels('json', '{"words": 3}')).toMatchObject({ sentence: expect.stringContaining('must have words and phonemes') });
    expect(readLabels('json', '{')).toMatchObject({ sentence: expect.stringContaining('not JSON') });
  });
});
