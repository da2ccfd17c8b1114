/**
 * Makes the demo's voices and readings again. Needed only when a line changes: what it
 * makes is committed. Wants Debian's packages flite and sox.
 *
 *   node demo/make.mjs [NAME…]
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = fileURLToPath(new URL('.', import.meta.url));
const scratch = mkdtempSync(join(tmpdir(), 'zest-demo-'));

/** Each phrase is spoken by itself; silence goes before it, in seconds. `pitch` is in hundredths of a semitone. */
const VOICES = {
  'the-wet-stamp': {
    voice: 'kal16',
    pitch: 120,
    stretch: 1.05,
    phrases: [
      [0.25, 'Please put the wet stamp beside the blue parcel.'],
      [0.55, 'Mrs Pelican mailed five pumpkin pies to the lighthouse.'],
    ],
    tail: 0.45,
  },
  'a-complaint': {
    voice: 'slt',
    pitch: -80,
    stretch: 1.08,
    phrases: [
      [0.3, 'My parcel is soaked, it smells of herring, and it hums.'],
      [0.6, 'I wish to speak to the snail in charge.'],
    ],
    tail: 0.5,
  },
  'try-out': {
    voice: 'slt',
    pitch: 150,
    stretch: 1.05,
    phrases: [[0.15, 'Five pelicans, a broom, and the moon above the bay.']],
    tail: 0.3,
  },
  'a-light-out-there': {
    voice: 'slt',
    pitch: -80,
    stretch: 1.12,
    phrases: [
      [0.5, 'There is a light out there.'],
      [0.9, 'Somebody left a letter on the roof, and I do believe it hums.'],
    ],
    tail: 0.8,
  },
  'the-last-ferry': {
    voice: 'kal16',
    pitch: 120,
    stretch: 1.1,
    phrases: [
      [0.3, 'Above the pier, the moon is full.'],
      [0.5, "Every boat has moved, ma'am, and so have the pelicans."],
    ],
    tail: 0.5,
  },
};

const run = (command, args) => execFileSync(command, args, { maxBuffer: 1e8 });

/** Those named on the command line, or all. */
const wanted = process.argv.slice(2);
const isWanted = ([name]) => wanted.length === 0 || wanted.includes(name);

for (const [name, { voice, pitch, stretch, phrases, tail }] of Object.entries(VOICES).filter(isWanted)) {
  const parts = phrases.map(([before, text], index) => {
    const [spoken, part] = [join(scratch, `${name}-${index}-raw.wav`), join(scratch, `${name}-${index}.wav`)];
    run('flite', ['-voice', voice, '--setf', `duration_stretch=${stretch}`, '-t', text, '-o', spoken]);
    // -R repeats the same dither every time, so that making the demo twice gives the same files.
    run('sox', [
      '-R',
      spoken,
      '-r',
      '48000',
      '-b',
      '16',
      '-c',
      '1',
      part,
      'silence',
      '1',
      '0.01',
      '0.5%',
      'pitch',
      String(pitch),
      'pad',
      String(before),
      '0',
    ]);
    return part;
  });
  // The line of the Chart step's try-out ships with the interface.
  const isTryOut = name === 'try-out';
  const shipped = join(here, '../web/public/try-out');
  const wave = isTryOut ? join(shipped, 'line.wav') : join(here, 'voices', `${name}.wav`);
  run('sox', ['-R', ...parts, '-b', '16', wave, 'norm', '-3', 'pad', '0', String(tail)]);
  const { scenes } = JSON.parse(readFileSync(join(here, 'demo.json'), 'utf8'));
  const script = isTryOut ? phrases[0][1] : scenes.find((candidate) => candidate.id === name).script;
  const reading = run('node', [join(here, '../cli/bin/zest.mjs'), 'read', wave, '--script', script]).toString('utf8');
  writeFileSync(isTryOut ? join(shipped, 'line.json') : join(here, 'readings', `${name}.json`), reading);
  console.log(name, (JSON.parse(reading).durationSamples / 48_000).toFixed(2), 's', JSON.parse(reading).warnings.join(' '));
}
