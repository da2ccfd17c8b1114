/**
 * Reading on the command line, held against labelled speech and a human voice from outside the project.
 */
import {
  boundaryErrors,
  checkReading,
  ditherTo16Bit,
  floatsOf16Bit,
  type Reading,
  resample,
  shareWithin,
  truthOfWave,
  truthToWave,
} from '@zest-jaw/core';
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

import { labels, recording, ROOT, scratch, SENTENCES, SPEECH, written, zest } from './testing/zestRun.js';

jest.setTimeout(900_000);

function batch(lines: readonly object[], name = 'list.jsonl'): (Reading & { error?: string })[] {
  const { status, out } = zest('read', '--batch', written(name, lines.map((line) => JSON.stringify(line)).join('\n')));
  expect(status).toBe(0);
  return out
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as Reading & { error?: string });
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
