/** Recordings of every kind, made by Debian's ffmpeg from one signal: the clicks must be where they were. */
import { maybeKindOfRecording, SAMPLE_RATE, writeWave, type Refusal, type Truth } from '@zest-jaw/core';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { decodeRecording } from './decodeRecording.js';

jest.setTimeout(120_000);

const folder = mkdtempSync(join(tmpdir(), 'zest-formats-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Three seconds: a quiet tone, and a click (one cycle of 2 kHz under a window) at each of these times, in seconds. */
const CLICKS = [0.25, 1, 1.625, 2.875];
const signal = new Int16Array(SAMPLE_RATE * 3);
for (let index = 0; index < signal.length; index++) {
  const seconds = index / SAMPLE_RATE;
  const near = CLICKS.find((click) => Math.abs(seconds - click) < 0.0005);
  const click = near === undefined ? 0 : Math.cos(2 * Math.PI * 2000 * (seconds - near)) * Math.cos(Math.PI * 1000 * (seconds - near));
  signal[index] = Math.round((0.02 * Math.sin(2 * Math.PI * 220 * seconds) + 0.8 * click) * 32_767);
}
const source = join(folder, 'source.wav');
writeFileSync(source, writeWave(signal, SAMPLE_RATE));

/** Where the clicks are: the loudest sample in the tenth of a second around each, in seconds. */
function clicksOf({ samples }: Truth): number[] {
  return CLICKS.map((click) => {
    const [from, to] = [Math.round((click - 0.05) * SAMPLE_RATE), Math.round((click + 0.05) * SAMPLE_RATE)];
    let loudest = from;
    for (let index = from; index < to; index++) if (Math.abs(samples[index]!) > Math.abs(samples[loudest]!)) loudest = index;
    return loudest / SAMPLE_RATE;
  });
}

const isTruth = (decoded: Truth | Refusal): decoded is Truth => 'samples' in decoded;

/** Debian's ffmpeg makes what the decoders are held against; `npm test` installs it where it may. */
const hasFfmpeg = (process.env['PATH'] ?? '').split(delimiter).some((path) => existsSync(join(path, 'ffmpeg')));
const withFfmpeg = hasFfmpeg ? describe : describe.skip;

function encoded(name: string, args: readonly string[]): Uint8Array {
  const file = join(folder, name);
  execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-i', source, ...args, file]);
  return readFileSync(file);
}

withFfmpeg('a click is where it was, to two milliseconds, in', () => {
  it.each<[string, string, string, string[]]>([
    ['WAV of 8 bits', 'wav', 'u8.wav', ['-c:a', 'pcm_u8']],
    ['WAV of 16 bits', 'wav', 's16.wav', ['-c:a', 'pcm_s16le']],
    ['WAV of 24 bits, extensible, stereo', 'wav', 's24.wav', ['-c:a', 'pcm_s24le', '-ac', '2', '-channel_layout', 'stereo']],
    ['WAV of 32 bits', 'wav', 's32.wav', ['-c:a', 'pcm_s32le']],
    ['WAV in float', 'wav', 'f32.wav', ['-c:a', 'pcm_f32le']],
    ['WAV at 44 100 Hz', 'wav', 'cd.wav', ['-ar', '44100']],
    ['MP3, constant rate', 'mp3', 'cbr.mp3', ['-c:a', 'libmp3lame', '-b:a', '128k']],
    ['MP3, variable rate at 44 100 Hz, stereo', 'mp3', 'vbr.mp3', ['-c:a', 'libmp3lame', '-q:a', '2', '-ar', '44100', '-ac', '2']],
    ['MP3 at 22 050 Hz', 'mp3', 'low.mp3', ['-c:a', 'libmp3lame', '-ar', '22050']],
    ['MP3 without an encoder’s header', 'mp3', 'bare.mp3', ['-c:a', 'libmp3lame', '-b:a', '128k', '-write_xing', '0']],
    [
      'MP3 without an encoder’s header at 44 100 Hz',
      'mp3',
      'bare44.mp3',
      ['-c:a', 'libmp3lame', '-ar', '44100', '-write_xing', '0', '-id3v2_version', '0'],
    ],
    ['Ogg Vorbis', 'vorbis', 'a.ogg', ['-c:a', 'libvorbis']],
    ['Ogg Vorbis at 44 100 Hz, stereo', 'vorbis', 'b.ogg', ['-c:a', 'libvorbis', '-ar', '44100', '-ac', '2']],
    ['Opus', 'opus', 'a.opus', ['-c:a', 'libopus', '-b:a', '96k']],
    ['FLAC', 'flac', 'a.flac', ['-c:a', 'flac']],
    ['FLAC of 24 bits at 96 000 Hz', 'flac', 'b.flac', ['-c:a', 'flac', '-sample_fmt', 's32', '-ar', '96000']],
    ['FLAC in Ogg', 'flac', 'c.oga', ['-c:a', 'flac', '-f', 'ogg']],
  ])('%s', async (_, kind, name, args) => {
    const bytes = encoded(name, args);
    expect(maybeKindOfRecording(bytes)).toBe(kind);
    const truth = await decodeRecording(bytes);
    if (!isTruth(truth)) throw new Error(truth.refusal);
    clicksOf(truth).forEach((seconds, index) => expect(Math.abs(seconds - CLICKS[index]!)).toBeLessThan(0.002));
    // And the line is as long as it was: nothing is added in front, little behind.
    expect(Math.abs(truth.samples.length / SAMPLE_RATE - 3)).toBeLessThan(0.06);
  });
});

describe('told by content and not by name', () => {
  const cases: (readonly [string, () => Uint8Array, RegExp])[] = [
    ['a page', () => Buffer.from('<html>'), /not a recording that can be read/],
    ['nothing', () => new Uint8Array(0), /not a recording that can be read/],
    ['silence', () => writeWave(new Int16Array(SAMPLE_RATE), SAMPLE_RATE), /recording is silent/],
    [
      'a voice cut off at the top',
      () =>
        writeWave(
          Int16Array.from({ length: SAMPLE_RATE }, (_, index) => (Math.sin(index / 40) > 0 ? 32_767 : -32_768)),
          SAMPLE_RATE,
        ),
      /cut off at the top: no word in it can be trusted/,
    ],
  ];
  it.each(cases)('%s is refused in a sentence', async (_, bytes, sentence) => {
    const decoded = await decodeRecording(bytes());
    expect(isTruth(decoded) ? '' : decoded.refusal).toMatch(sentence);
  });
});

withFfmpeg('told by content, made by ffmpeg', () => {
  it.each<[string, () => Uint8Array, RegExp]>([
    ['an MP3 that breaks off in its header', () => encoded('x.mp3', ['-c:a', 'libmp3lame']).subarray(0, 60), /damaged|no sound/],
    ['a FLAC that breaks off', () => encoded('x.flac', ['-c:a', 'flac']).subarray(0, 50), /damaged|no sound/],
    ['AAC', () => encoded('x.m4a', ['-c:a', 'aac']), /an AAC recording \(M4A\), which cannot be read here/],
    ['AAC in frames', () => encoded('x.aac', ['-c:a', 'aac', '-f', 'adts']), /an AAC recording, which/],
    [
      'a film',
      () => encoded('x.mov', ['-f', 'lavfi', '-i', 'color=black:s=16x16:d=1', '-shortest', '-c:v', 'mpeg4', '-c:a', 'aac']),
      /a film \(MOV\), which/,
    ],
    ['an AIFF', () => encoded('x.aiff', []), /an AIFF recording, which/],
    ['a picture', () => Buffer.from('\x89PNG\r\n', 'latin1'), /a picture, which/],
  ])('%s is refused in a sentence', async (_, bytes, sentence) => {
    const decoded = await decodeRecording(bytes());
    expect(isTruth(decoded) ? '' : decoded.refusal).toMatch(sentence);
  });

  it.each<[string, readonly string[]]>([
    ['half.wav', []],
    ['half.mp3', ['-c:a', 'libmp3lame', '-b:a', '128k']],
    ['half.ogg', ['-c:a', 'libvorbis']],
    ['half.opus', ['-c:a', 'libopus']],
    ['half.flac', ['-c:a', 'flac']],
  ])('%s, cut off in the middle, is taken with a word on where it ends; whole it comes without', async (name, args) => {
    const bytes = encoded(name, args);
    const whole = await decodeRecording(bytes);
    expect(isTruth(whole) ? whole.notes : whole.refusal).toBeUndefined();
    const half = await decodeRecording(bytes.subarray(0, Math.round(bytes.length * 0.6)));
    if (!isTruth(half)) throw new Error(half.refusal);
    expect(half.notes!.join(' ')).toMatch(/^This file breaks off after [12]\.\d s/);
    expect(half.samples.length / SAMPLE_RATE).toBeGreaterThan(1);
  });

  it('a name and pictures in front of an MP3 do not hide it (ID3v2)', async () => {
    const bytes = encoded('tagged.mp3', ['-c:a', 'libmp3lame', '-metadata', 'title=A line', '-id3v2_version', '4']);
    expect(Buffer.from(bytes.subarray(0, 3)).toString()).toBe('ID3');
    expect(maybeKindOfRecording(bytes)).toBe('mp3');
  });
});
