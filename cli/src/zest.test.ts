/**
 * The command line as it is used: the built program in a process of its own. The readings
 * are held against labelled speech and a human voice from outside the project.
 */
import {
  boundaryErrors,
  checkReading,
  ditherTo16Bit,
  floatsOf16Bit,
  type Keyed,
  maybeArpabet,
  type Reading,
  resample,
  shareWithin,
  truthOfWave,
  truthToWave,
} from '@zest-jaw/core';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const ROOT = join(__dirname, '../..');
const SPEECH = join(ROOT, 'core/fixtures/speech');
const SENTENCES = readFileSync(join(SPEECH, 'sentences.txt'), 'utf8').trim().split('\n');
const scratch = mkdtempSync(join(tmpdir(), 'zest-cli-'));

jest.setTimeout(900_000);

function zest(...args: string[]): { status: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(ROOT, 'cli/bin/zest.mjs'), ...args], {
    encoding: 'utf8',
    maxBuffer: 1e8,
  });
  return { status, out: stdout, err: stderr };
}

function written(name: string, content: string | Uint8Array): string {
  const file = join(scratch, name);
  writeFileSync(file, content);
  return file;
}

function batch(lines: readonly object[], name = 'list.jsonl'): (Reading & { error?: string })[] {
  const { status, out } = zest('read', '--batch', written(name, lines.map((line) => JSON.stringify(line)).join('\n')));
  expect(status).toBe(0);
  return out
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as Reading & { error?: string });
}

const recording = (voice: string, line: number): string => join(SPEECH, `${voice}-${String(line).padStart(2, '0')}.wav`);

/** Labels of a recording: silence left out, `ax` counted as AH (see the fixture's README). */
function labels(voice: string, line: number): { symbol: string; fromSeconds: number }[] {
  const rows = readFileSync(recording(voice, line).replace(/wav$/, 'lab'), 'utf8')
    .trim()
    .split('\n')
    .map((row) => row.split('\t'));
  return rows.flatMap(([from, , symbol]) =>
    symbol === 'pau' ? [] : [{ symbol: maybeArpabet(symbol!)!.symbol, fromSeconds: Number(from) }],
  );
}

describe('zest read', () => {
  it('puts at least 80 % of boundaries within 20 ms and 96 % within a frame at 24 fps, on labelled speech', () => {
    const lines = ['slt', 'kal16'].flatMap((voice) => SENTENCES.map((script, line) => ({ voice, line, script })));
    const readings = batch(lines.map(({ voice, line, script }) => ({ audio: recording(voice, line), script })));
    const errors = readings.flatMap((reading, index) => {
      expect(reading.error).toBeUndefined();
      expect(checkReading(reading)).toEqual([]);
      const { voice, line } = lines[index]!;
      return boundaryErrors(
        reading.phonemes.map(({ symbol, from }) => ({ symbol, fromSeconds: from / 48_000 })),
        labels(voice, line),
      );
    });
    expect(errors.length).toBeGreaterThan(1200);
    expect(shareWithin(errors, 0.02)).toBeGreaterThanOrEqual(0.8);
    expect(shareWithin(errors, 1 / 24)).toBeGreaterThanOrEqual(0.96);
  });

  // Recordings of a human voice naming loudspeakers, from Debian's package alsa-utils.
  const HUMAN = '/usr/share/sounds/alsa';
  (existsSync(HUMAN) ? it : it.skip)('finds each word a human voice says, with confidence above 0.8', () => {
    const names = readdirSync(HUMAN).filter((name) => name !== 'Noise.wav');
    expect(names.length).toBeGreaterThanOrEqual(8);
    const readings = batch(
      names.map((name) => ({ audio: join(HUMAN, name), script: name.replace(/\.wav$/, '').replace('_', ' ') })),
      'human.jsonl',
    );
    readings.forEach((reading, index) => {
      expect(reading.words.map((word) => word.text)).toEqual(names[index]!.replace(/\.wav$/, '').split('_'));
      for (const word of reading.words) expect(word.confidence).toBeGreaterThan(0.8);
    });
  });

  it('prints one reading as JSON, with samples, stress apart from symbols, and words by index', () => {
    const { status, out } = zest('read', recording('slt', 1), '--script', SENTENCES[1]!);
    expect(status).toBe(0);
    const reading = JSON.parse(out) as Reading;
    expect(Object.keys(reading)).toEqual(['sampleRate', 'durationSamples', 'words', 'phonemes', 'warnings']);
    expect(reading.sampleRate).toBe(48_000);
    expect(reading.words.map((word) => word.text).join(' ')).toBe('Mrs Pelican mailed five pumpkin pies to the lighthouse');
    // Stress as in the CMU Pronouncing Dictionary: PELICAN P EH1 L AH0 K AH0 N.
    const pelican = reading.phonemes.filter((phoneme) => phoneme.word === 1);
    expect(pelican.map(({ symbol, stress }) => symbol + (stress ?? '')).join(' ')).toBe('P EH1 L AH0 K AH0 N');
  });

  it('goes on with the other lines when one fails', () => {
    const answers = batch([
      { audio: recording('slt', 9), script: SENTENCES[9] },
      { audio: join(SPEECH, 'sentences.txt'), script: 'no sound here' },
      { audio: join(scratch, 'nowhere.wav'), script: 'hello' },
      { script: 'no audio' },
      { audio: recording('slt', 9), script: '' },
      { audio: recording('slt', 21), script: SENTENCES[21] },
    ]);
    expect(answers.map((answer) => answer.error !== undefined)).toEqual([false, true, true, true, true, false]);
    expect(answers[1]!.error).toMatch(/not a recording that can be read/);
    expect(answers[4]!.error).toMatch(/no words/);
    expect(answers[5]!.words.map((word) => word.text)).toEqual(['Boys', 'enjoy', 'noisy', 'toys']);
  });

  it('guesses an unknown word from its spelling and says so', () => {
    const [made] = batch([{ audio: recording('slt', 9), script: 'My mother makes zarmalade in May.' }]);
    expect(made!.warnings.join(' ')).toMatch(/guessed from spelling: zarmalade/);
    expect(made!.words).toHaveLength(6);
  });

  it('reads a voice played a quarter faster and higher, as a cartoon voice is made, and no line fails', () => {
    const faster = 1.25;
    const lines = [0, 3, 6, 9, 12, 15, 18, 21];
    const readings = batch(
      lines.map((line) => {
        const truth = truthOfWave(readFileSync(recording('slt', line)));
        if ('refusal' in truth) throw new Error(truth.refusal);
        const raised = ditherTo16Bit(resample(floatsOf16Bit(truth.samples), 48_000 * faster, 48_000));
        return { audio: written(`raised-${line}.wav`, truthToWave({ samples: raised })), script: SENTENCES[line] };
      }),
      'raised.jsonl',
    );
    const errors = readings.flatMap((reading, index) => {
      expect(reading.error).toBeUndefined();
      const labelled = labels('slt', lines[index]!).map(({ symbol, fromSeconds }) => ({ symbol, fromSeconds: fromSeconds / faster }));
      return boundaryErrors(
        reading.phonemes.map(({ symbol, from }) => ({ symbol, fromSeconds: from / 48_000 })),
        labelled,
      );
    });
    expect(errors.length).toBeGreaterThan(180);
    expect(shareWithin(errors, 1 / 24)).toBeGreaterThanOrEqual(0.95);
  });

  it('takes the script from a file, and file names from where it is typed', () => {
    const script = written(
      'line.txt',
      '\uFEFFPlease put the wet stamp beside the blue parcel. Mrs Pelican mailed five pumpkin pies to the lighthouse.\n',
    );
    const typed = ['run', '-s', 'zest', '--', 'read', 'the-wet-stamp.wav', '--script-file', script];
    // Where npm was started in a shell; a test's own parent must not be taken for it.
    const env = { ...process.env, INIT_CWD: undefined };
    const { status, stdout } = spawnSync('npm', typed, { cwd: join(ROOT, 'demo/voices'), encoding: 'utf8', maxBuffer: 1e8, env });
    expect(status).toBe(0);
    const words = (JSON.parse(stdout) as Reading).words.map((word) => word.text);
    expect([words[0], words.at(-1), words.length]).toEqual(['Please', 'lighthouse', 18]);
  });

  it('reads sounds without a script', () => {
    const { status, out } = zest('read', recording('slt', 9));
    expect(status).toBe(0);
    const reading = JSON.parse(out) as Reading;
    expect(reading.words).toEqual([]);
    expect(reading.phonemes.every((phoneme) => phoneme.word === null)).toBe(true);
    expect(reading.phonemes.filter((phoneme) => phoneme.symbol === 'M').length).toBeGreaterThanOrEqual(3);
  });

  it('reads French', () => {
    const { status, out } = zest('read', recording('slt', 9), '--script', 'bonjour madame', '--language', 'fr');
    expect(status).toBe(0);
    expect(checkReading(JSON.parse(out))).toEqual([]);
    expect((JSON.parse(out) as Reading).words.map((word) => word.text)).toEqual(['bonjour', 'madame']);
  });

  it('has no words for a silent recording', () => {
    const bytes = readFileSync(recording('slt', 0));
    bytes.fill(0, 44);
    const { status, err } = zest('read', written('silent.wav', bytes), '--script', 'hello');
    expect(status).toBe(1);
    expect(err).toMatch(/silent/);
  });
});

describe('zest key and export', () => {
  const reading = written('reading.json', zest('read', recording('slt', 1), '--script', SENTENCES[1]!).out);

  it('key by frame rate, hold, lead and strictness', () => {
    const { status, out } = zest('key', reading, '--fps', '24', '--hold', '2', '--lead', '1');
    expect(status).toBe(0);
    const keyed = JSON.parse(out) as Keyed & { frameRate: object; length: number };
    expect(Object.keys(keyed)).toEqual(['frameRate', 'length', 'exposures', 'notShown']);
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
    ['no command', [], 2, /read, key or export/],
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
