/** Keying, handing off and the rest of the command line, on files. */
import {
  boundaryErrors,
  checkReading,
  type Keyed,
  mapOfChart,
  type Reading,
  shareWithin,
  starterChart,
  truthOfWave,
  truthToWave,
} from '@zest-jaw/core';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

import { labels, recording, ROOT, scratch, SENTENCES, SPEECH, written, zest } from './testing/zestRun.js';

jest.setTimeout(900_000);

describe('zest key and export', () => {
  const reading = written('reading.json', zest('read', recording('slt', 1), '--script', SENTENCES[1]!).out);

  it('key by frame rate, hold, lead and strictness', () => {
    const { status, out } = zest('key', reading, '--fps', '24', '--hold', '2', '--lead', '1');
    expect(status).toBe(0);
    const keyed = JSON.parse(out) as Keyed & { frameRate: object; length: number };
    expect(Object.keys(keyed)).toEqual(['frameRate', 'length', 'exposures', 'notShown', 'rules', 'words', 'sounds']);
    expect(keyed.frameRate).toEqual({ num: 24, den: 1 });
    expect(keyed.exposures[0]!.from).toBe(0);
    expect(keyed.exposures.at(-1)!.to).toBe(keyed.length);
    expect(keyed.notShown).toEqual([]);
    const { phonemes } = JSON.parse(readFileSync(reading, 'utf8')) as Reading;
    const press = keyed.exposures
      .filter((exposure) => exposure.drawing === 'press')
      .flatMap((exposure) => exposure.plays.map((index) => phonemes[index]!.symbol));
    expect(press.sort()).toEqual(
      phonemes
        .map((phoneme) => phoneme.symbol)
        .filter((symbol) => 'MBP'.includes(symbol))
        .sort(),
    );
    const strict = JSON.parse(zest('key', reading, '--fps', '29.97', '--hold', '3', '--strict').out) as Keyed & { frameRate: object };
    expect(strict.frameRate).toEqual({ num: 30_000, den: 1001 });
    for (const { from } of strict.exposures) expect(from % 3).toBe(0);
  });

  it('key by a feel or a file of rules, explained, and by loudness', () => {
    type Explained = Keyed & {
      exposures: { drawing: string; from: number; to: number; why?: { because: string; alternatives: unknown[] } }[];
    };
    const key = (...more: string[]): Explained => JSON.parse(zest('key', reading, ...more).out) as Explained;
    const [crisp, limited] = [key('--feel', 'crisp'), key('--feel', 'Limited', '--explain')];
    expect(limited.exposures.length).toBeLessThan(crisp.exposures.length);
    for (const { from } of limited.exposures) expect(from % 2).toBe(0);
    expect(limited.notShown).toEqual([]);
    for (const { why } of limited.exposures) expect(why!.because).toMatch(/\.$/);
    expect(crisp.exposures[0]).not.toHaveProperty('why');
    const own = written('feel.json', JSON.stringify({ name: 'Ours', rules: { leadFrames: 2, holdFrames: 3, strict: false, calm: 0.5 } }));
    expect(key('--feel', own)).toEqual(key('--feel', own, '--hold', '3'));
    // A second in the middle goes by another feel, and with it all that was the rule before and after.
    const [natural, mixed] = [key(), key('--feel', '20-43=Replacement')];
    const around = ({ exposures }: Explained): unknown[] => exposures.filter(({ from, to }) => to <= 14 || from >= 50);
    expect(around(mixed)).toEqual(around(natural));
    expect(mixed.exposures.length).toBeLessThan(natural.exposures.length);
    expect(mixed).toEqual(key('--feel', 'Natural', '--feel', '20-43=Replacement'));
    // The same recording without its sounds: opened by loudness alone.
    const { durationSamples } = JSON.parse(readFileSync(reading, 'utf8')) as Reading;
    const bare = written('bare.json', JSON.stringify({ sampleRate: 48_000, durationSamples, words: [], phonemes: [], warnings: [] }));
    const loud = JSON.parse(zest('key', bare, '--loudness', recording('slt', 1)).out) as Keyed & { length: number };
    expect(loud.exposures.at(-1)!.to).toBe(loud.length);
    expect(new Set(loud.exposures.map((exposure) => exposure.drawing)).size).toBeGreaterThan(3);
  });

  it('export labels of a reading, and read them again as the reading', () => {
    const { words, phonemes } = JSON.parse(readFileSync(reading, 'utf8')) as Reading;
    const grid = join(scratch, 'line.TextGrid');
    expect(zest('export', reading, '--labels', grid).status).toBe(0);
    const back = JSON.parse(zest('read', recording('slt', 1), '--labels', grid).out) as Reading;
    expect(back.words.map(({ text, from, to }) => [text, from, to])).toEqual(words.map(({ text, from, to }) => [text, from, to]));
    expect(back.phonemes.map(({ symbol, from, to }) => [symbol, from, to])).toEqual(
      phonemes.map(({ symbol, from, to }) => [symbol, from, to]),
    );
    const vtt = join(scratch, 'line.vtt');
    expect(zest('export', reading, '--labels', vtt).status).toBe(0);
    expect(readFileSync(vtt, 'utf8')).toMatch(/^WEBVTT\n\n00:00:0\d\.\d{3} --> /);
    const half = written('half.TextGrid', readFileSync(grid, 'utf8').slice(0, 300));
    const refused = zest('read', recording('slt', 1), '--labels', half);
    expect(refused.status).toBe(1);
    expect(refused.err).toMatch(/half\.TextGrid, line \d+: The file ends where/);
    expect(zest('export', reading, '--labels', join(scratch, 'line.doc')).err).toContain('no file of labels by its name');
  });

  it('read a long take by captions whose times are off by half a second: each line where it is said, none where nothing is', () => {
    const lines = [0, 1, 2, 3, 4, 5].map((line) => truthOfWave(readFileSync(recording('slt', line))) as { samples: Int16Array });
    const pause = 1.2 * 48_000;
    const length = lines.reduce((sum, { samples }) => sum + samples.length + pause, 0);
    const take = new Int16Array(length + 6 * 48_000);
    const starts: number[] = [];
    let at = 0;
    for (const [index, { samples }] of lines.entries()) {
      starts.push(at);
      take.set(samples, at);
      // Nothing is said for six seconds in the middle of it.
      at += samples.length + pause + (index === 2 ? 6 * 48_000 : 0);
    }
    const clock = (sample: number): string => new Date(Math.max(0, sample / 48)).toISOString().slice(11, 23).replace('.', ',');
    const cue = (number: number, from: number, to: number, text: string): string => `${number}\n${clock(from)} --> ${clock(to)}\n${text}\n`;
    const cues = lines.map(({ samples }, index) => {
      const off = (index % 2 === 0 ? 0.5 : -0.5) * 48_000;
      return cue(index + 1, starts[index]! + off, starts[index]! + samples.length + off, SENTENCES[index]!);
    });
    // A line that nobody says, where nobody speaks.
    cues.splice(3, 0, cue(9, starts[3]! - 5 * 48_000, starts[3]! - 3 * 48_000, SENTENCES[7]!));
    const captions = written('take.srt', cues.join('\n'));
    const audio = written('take.wav', truthToWave({ samples: take }));
    const reading = JSON.parse(zest('read', audio, '--labels', captions).out) as Reading;
    expect(checkReading(reading)).toEqual([]);
    const said = SENTENCES.slice(0, 6)
      .join(' ')
      .toLowerCase()
      .match(/[a-z']+/g)!;
    expect(reading.words.map(({ text }) => text.toLowerCase())).toEqual(said);
    const errors = boundaryErrors(
      reading.phonemes.map(({ symbol, from }) => ({ symbol, fromSeconds: from / 48_000 })),
      lines.flatMap((_, index) =>
        labels('slt', index).map((label) => ({ ...label, fromSeconds: label.fromSeconds + starts[index]! / 48_000 })),
      ),
    );
    expect(shareWithin(errors, 1 / 24)).toBeGreaterThan(0.96);
    expect(reading.warnings.join(' ')).toMatch(/Not heard/);
  });

  it('propose a map for a chart, and check one', () => {
    const chart = starterChart('Six', 'pen', 6);
    const proposed = zest('map', 'propose', written('six.json', JSON.stringify(chart)));
    expect(proposed.status).toBe(0);
    const { groups, losses } = JSON.parse(proposed.out) as { groups: { group: string; drawing: string }[]; losses: string[] };
    expect(groups.map(({ group }) => group)).toEqual(chart.groups.map(({ name }) => name));
    expect(groups.find(({ group }) => group === 'Press')).toMatchObject({ drawing: 'Press' });
    expect(losses.join(' ')).toMatch(/will look alike/);
    const map = mapOfChart(chart, 'Ours');
    expect(zest('map', 'check', written('map.json', JSON.stringify(map))).out).toContain('a map of sounds');
    const twice = zest('map', 'check', written('twice.json', JSON.stringify({ ...map, groups: [...map.groups, ...map.groups] })));
    expect(twice.status).toBe(1);
    expect(twice.err).toMatch(/twice\.json: Group “Rest” needs an id of its own/);
    expect(zest('map', 'draw').status).toBe(2);
  });

  it('export all that is handed off of a keyed line, each as often as wanted', () => {
    const keyed = written('keyed-all.json', zest('key', reading, '--fps', '29.97').out);
    const at = (name: string): string => join(scratch, name);
    const { status, err } = zest(
      ...[
        'export',
        keyed,
        '--sprites',
        at('sprites'),
        '--cell',
        '64',
        '--powers-of-two',
        '--sheet',
        at('all.pdf'),
        '--sheet',
        at('all.csv'),
      ],
      ...[
        '--keys',
        at('keys.csv'),
        '--keys',
        at('keys.json'),
        '--guards',
        '--numbers',
        'from 1',
        '--weights',
        at('weights.csv'),
        '--ease',
        '3',
      ],
      ...['--curves', at('curves.json'), '--timeline', at('line.otio'), '--shots', at('shots.csv'), '--count-in', 'timecode'],
    );
    expect({ status, err }).toEqual({ status: 0, err: '' });
    const { length } = JSON.parse(readFileSync(keyed, 'utf8')) as { length: number };
    const rows = (name: string): string[] => readFileSync(at(name), 'utf8').trim().split('\r\n');
    expect(rows('weights.csv')).toHaveLength(length + 1);
    expect(rows('keys.csv')[1]).toMatch(/^00:00:00;01,\d+,/);
    expect(rows('shots.csv').length).toBeGreaterThan(3);
    expect(readFileSync(at('all.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
    expect(readdirSync(at('sprites')).sort()).toEqual(['sprites.json', 'sprites.png', 'sprites.svg']);
    expect((JSON.parse(readFileSync(at('curves.json'), 'utf8')) as { opening: number[] }).opening).toHaveLength(length);
    expect((JSON.parse(readFileSync(at('line.otio'), 'utf8')) as { OTIO_SCHEMA: string }).OTIO_SCHEMA).toBe('Timeline.1');
    expect(zest('export', keyed, '--keys', at('keys.txt')).err).toContain('may end in .csv or .json');
    expect(zest('export', keyed, '--shots', at('s.csv'), '--camera-on', '3').status).toBe(2);
  });

  it('pack a keyed line, and import it again: from a bundle, from a sheet, from a key list', () => {
    const at = (name: string): string => join(scratch, name);
    const keyed = written('keyed-round.json', zest('key', reading, '--fps', '25').out);
    const { exposures, length } = JSON.parse(readFileSync(keyed, 'utf8')) as {
      exposures: { from: number; to: number; drawing: string }[];
      length: number;
    };
    const plain = exposures.map(({ from, to, drawing }) => ({ from, to, drawing }));
    const out = ['--bundle', at('round.zip'), '--sheet', at('round.csv'), '--keys', at('round-keys.csv'), '--count-from', '0'];
    expect(zest('export', keyed, ...out)).toMatchObject({ status: 0, err: '' });
    const again = (...args: string[]): unknown => JSON.parse(zest('import', ...args).out);
    expect(again(at('round.zip'), '--chart-to', at('round-chart.json'))).toMatchObject({
      length,
      exposures: plain,
      frameRate: { num: 25, den: 1 },
    });
    expect(zest('export', keyed, '--chart', at('round-chart.json'), '--shots', at('round-shots.csv')).status).toBe(0);
    expect(again(at('round.csv'), '--fps', '25', '--chart', at('round-chart.json'))).toMatchObject({ length, exposures: plain });
    expect(zest('import', at('round-keys.csv'), '--fps', '25')).toMatchObject({ status: 2, err: expect.stringContaining('--length') });
    expect(again(at('round-keys.csv'), '--fps', '25', '--length', String(length))).toMatchObject({ exposures: plain });
    expect(zest('import', keyed).status).toBe(1);
    expect(zest('import', written('broken.zip', 'no zip')).err).toContain('This is not a bundle');
  });

  it('export pictures and a sheet', () => {
    const keyed = written('keyed.json', zest('key', reading, '--fps', '12').out);
    const folder = join(scratch, 'pictures');
    const sheet = join(scratch, 'sheet.csv');
    expect(zest('export', keyed, '--pictures', folder, '--sheet', sheet, '--width', '320', '--height', '180').status).toBe(0);
    const { length } = JSON.parse(readFileSync(keyed, 'utf8')) as { length: number };
    expect(readdirSync(folder)).toHaveLength(length);
    expect(readdirSync(folder)[0]).toBe('mouth0001.png');
    expect(readFileSync(sheet, 'utf8').trim().split('\r\n')).toHaveLength(length + 1);
  });

  it.each<[string, string[], number, RegExp]>([
    ['no command', [], 2, /read, key, check, export, import or map/],
    ['an unknown command', ['sing'], 2, /no command “sing”/],
    ['an unknown option', ['read', 'x.wav', '--loud'], 2, /--loud/],
    ['two scripts', ['read', 'x.wav', '--script', 'a', '--script-file', 'b'], 2, /not both/],
    ['a feel nobody has', ['key', reading, '--feel', 'wobbly'], 2, /Crisp, Natural, Limited, Replacement/],
    ['a feel for frames there are not', ['key', reading, '--feel', '20-9000=Crisp'], 2, /frames may be 0-0 to 0-\d+/],
    ['two feels for a frame', ['key', reading, '--feel', '0-9=Crisp', '--feel', '9-12=Limited'], 2, /two feels for frame 9/],
    ['two feels for all', ['key', reading, '--feel', 'Crisp', '--feel', 'Limited'], 2, /Crisp and Limited. Name one/],
    ['rules that cannot be', ['key', reading, '--feel', written('bad.json', '{"leadFrames": 40}')], 1, /lead is 40 frames/],
    ['a rule there is not', ['key', reading, '--feel', written('odd.json', '{"wobble": 1}')], 1, /no rule “wobble”/],
    ['a language there is no model for', ['read', 'x.wav', '--language', 'de'], 2, /en or fr/],
    ['a frame rate of 0', ['key', reading, '--fps', '0'], 2, /--fps is “0”/],
    ['half a hold', ['key', reading, '--hold', '1.5'], 2, /--hold is “1.5”/],
    ['a lead too long', ['key', reading, '--lead', '99'], 2, /from 0 to 6/],
    ['a reading that is none', ['key', join(ROOT, 'package.json')], 1, /not a reading/],
    ['a file that is not there', ['key', join(scratch, 'nothing.json')], 1, /could not be read/],
    ['text for JSON', ['key', join(SPEECH, 'sentences.txt')], 1, /not JSON/],
    ['nowhere to export to', ['export', reading], 2, /--pictures DIR/],
    ['a reading to export', ['export', reading, '--sheet', 'x.csv'], 1, /not what zest key prints/],
    ['a name with a digit', ['export', join(scratch, 'keyed.json'), '--pictures', scratch, '--name', 'a1'], 2, /no digits/],
  ])('say what is wrong with %s', (_, args, status, message) => {
    const answer = zest(...args);
    expect(answer.status).toBe(status);
    expect(answer.err).toMatch(message);
    expect(answer.out).toBe('');
  });
});
