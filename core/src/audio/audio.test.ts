import fc from 'fast-check';
import {
  decibels,
  ditherTo16Bit,
  findPauses,
  floatsOf16Bit,
  loudnessOfWindows,
  maybeUnfit,
  measureChannels,
  mixByPlan,
  mixChannels,
  openDitherer,
  openResampler,
  openTruth,
  peakLevel,
  readWave,
  resample,
  truthOfWave,
  truthToWave,
  extremesOf,
  PYRAMID_STEP,
  waveBlocks,
  wavePyramid,
  writeWave,
} from '../index.js';
import { autocorrelation } from './fourier.js';

const tone = (hertz: number, seconds: number, rate = 48_000, level = 0.5): Float32Array =>
  Float32Array.from({ length: Math.round(seconds * rate) }, (_, index) => level * Math.sin((2 * Math.PI * hertz * index) / rate));

/** A wave file built here byte by byte, so that the reader is not checked against its own writer. */
function waveFile(
  {
    format,
    bits,
    channels,
    rate,
    extensible = false,
  }: { format: number; bits: number; channels: number; rate: number; extensible?: boolean },
  samples: number[],
): Uint8Array {
  const bytesEach = bits / 8;
  const formatLength = extensible ? 40 : 16;
  const buffer = Buffer.alloc(12 + 8 + formatLength + 8 + samples.length * bytesEach);
  buffer.write('RIFF', 0);
  buffer.writeUInt32LE(buffer.length - 8, 4);
  buffer.write('WAVEfmt ', 8);
  buffer.writeUInt32LE(formatLength, 16);
  buffer.writeUInt16LE(extensible ? 0xfffe : format, 20);
  buffer.writeUInt16LE(channels, 22);
  buffer.writeUInt32LE(rate, 24);
  buffer.writeUInt32LE(rate * channels * bytesEach, 28);
  buffer.writeUInt16LE(channels * bytesEach, 32);
  buffer.writeUInt16LE(bits, 34);
  if (extensible) buffer.writeUInt16LE(format, 44);
  const start = 20 + formatLength;
  buffer.write('data', start);
  buffer.writeUInt32LE(samples.length * bytesEach, start + 4);
  samples.forEach((sample, index) => {
    const at = start + 8 + index * bytesEach;
    if (format === 3 && bits === 32) buffer.writeFloatLE(sample, at);
    else if (format === 3) buffer.writeDoubleLE(sample, at);
    else if (bits === 8) buffer.writeUInt8(Math.round(sample * 127) + 128, at);
    else buffer.writeIntLE(Math.round(sample * (2 ** (bits - 1) - 1)), at, bytesEach);
  });
  return buffer;
}

describe('a sound that comes in pieces', () => {
  /** Cut at any places. */
  const pieces = (samples: Float32Array, cuts: readonly number[]): Float32Array[] => {
    const places = [0, ...cuts.map((cut) => Math.floor(cut * samples.length)).sort((a, b) => a - b), samples.length];
    return places.slice(1).map((to, index) => samples.subarray(places[index]!, to));
  };
  const cuts = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 6 });

  it('is at another rate what it is as a whole, sample for sample', () => {
    fc.assert(
      fc.property(
        fc.constantFrom([44_100, 48_000], [8000, 48_000], [96_000, 48_000], [48_000, 16_000]),
        fc.integer({ min: 1, max: 900 }),
        cuts,
        ([from, to], length, at) => {
          const sound = tone(700, length / from!, from);
          const resampler = openResampler(from!, to!);
          const got = [...pieces(sound, at).map((piece) => resampler.push(piece)), resampler.end()].flatMap((piece) => [...piece]);
          expect(got).toEqual([...resample(sound, from!, to!)]);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is dithered as it is as a whole, also where its first pieces have nothing to round', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400 }), cuts, fc.integer({ min: 0, max: 500 }), (exact, at, expected) => {
        const sound = Float32Array.from({ length: 400 }, (_, index) => (index < exact ? (index % 50) / 32_768 : Math.sin(index) / 3));
        const ditherer = openDitherer(expected);
        for (const piece of pieces(sound, at)) ditherer.push(piece);
        expect([...ditherer.end()]).toEqual([...ditherTo16Bit(sound)]);
      }),
      { numRuns: 60 },
    );
  });

  it('has its channels mixed by all of them: one that is empty at first and one that is turned over are told', () => {
    const voice = tone(300, 0.4);
    const late = voice.map((value, index) => (index < 9000 ? 0 : value));
    const [whole, measure] = [mixChannels([voice, late]), measureChannels(2)];
    const at = [0.1, 0.5];
    const [lefts, rights] = [pieces(voice, at), pieces(late, at)];
    lefts.forEach((left, index) => measure.push([left, rights[index]!]));
    const plan = measure.plan();
    expect(lefts.flatMap((left, index) => [...mixByPlan([left, rights[index]!], plan)])).toEqual([...whole.samples]);
    expect(plan.notes).toEqual(whole.notes);
  });

  it.each<[string, number, number, number | undefined, RegExp]>([
    ['nine channels', 48_000, 9, 10, /9 channels/],
    ['a rate of 96 MHz', 96_000_000, 1, 10, /96000000 samples a second/],
    ['a rate that is none', Number.NaN, 1, 10, /NaN samples a second/],
    ['eight hours', 48_000, 1, 8 * 3600 * 48_000, /480 minutes long/],
  ])('is refused before any of it comes, by %s', (_, rate, channels, samples, sentence) => {
    expect(maybeUnfit(rate, channels, samples)?.refusal).toMatch(sentence);
  });

  it('that says nothing of its length is refused once it is too long, and no more of it is wanted', () => {
    const maker = openTruth(4000, { shares: [1], notes: [] });
    expect(maker.isFull).toBe(false);
    maker.push([new Float32Array(4000 * 60 * 32).fill(0.1)]);
    expect(maker.isFull).toBe(true);
    expect(maker.end()).toEqual({ refusal: expect.stringMatching(/32 minutes long\. A dialogue clip may be 30/) });
  });
});

describe('wave files', () => {
  const samples = [0, 0.5, -0.5, 0.25];
  it.each([
    [1, 8, 0.01],
    [1, 16, 1e-4],
    [1, 24, 1e-6],
    [1, 32, 1e-6],
    [3, 32, 1e-7],
    [3, 64, 1e-7],
  ])('of format %i at %i bits are read', (format, bits, closeness) => {
    for (const extensible of [false, true]) {
      const sound = readWave(waveFile({ format, bits, channels: 1, rate: 44_100, extensible }, samples));
      if ('refusal' in sound) throw new Error(sound.refusal);
      expect(sound.sampleRate).toBe(44_100);
      samples.forEach((sample, index) => expect(Math.abs(sound.channels[0]![index]! - sample)).toBeLessThan(closeness));
    }
  });

  it('with two channels are taken apart and mixed', () => {
    const sound = readWave(waveFile({ format: 1, bits: 16, channels: 2, rate: 48_000 }, [0.5, -0.25, 0.25, 0.25]));
    if ('refusal' in sound) throw new Error(sound.refusal);
    expect(sound.channels).toHaveLength(2);
    const { samples } = mixChannels(sound.channels);
    expect(samples[0]).toBeCloseTo(0.125, 4);
    expect(samples[1]).toBeCloseTo(0.25, 4);
  });

  it.each<[string, Uint8Array, RegExp]>([
    ['text', Buffer.from('not audio at all, but text'), /not a WAV file/],
    ['an empty file', new Uint8Array(0), /not a WAV file/],
    ['a header alone', waveFile({ format: 1, bits: 16, channels: 1, rate: 48_000 }, []).slice(0, 30), /no sound/],
    ['a compressed format', waveFile({ format: 85, bits: 16, channels: 1, rate: 48_000 }, [0]), /kind 85/],
    ['nine channels', waveFile({ format: 1, bits: 16, channels: 9, rate: 48_000 }, new Array(9).fill(0)), /9 channels/],
    ['a rate of 0', waveFile({ format: 1, bits: 16, channels: 1, rate: 0 }, [0]), /0 samples a second/],
    ['0 seconds', waveFile({ format: 1, bits: 16, channels: 1, rate: 48_000 }, []), /0 seconds/],
  ])('refuse %s in a sentence', (_, bytes, message) => {
    const truth = truthOfWave(bytes);
    expect('refusal' in truth && truth.refusal).toMatch(message);
  });

  it('cut off in the middle are read as far as they go', () => {
    const whole = writeWave(ditherTo16Bit(tone(440, 0.5)), 48_000);
    const truth = truthOfWave(whole.slice(0, 44 + 24_000));
    expect('samples' in truth && truth.samples.length).toBe(12_000);
  });

  it('become a truth that is written and read back unchanged', () => {
    const truth = truthOfWave(waveFile({ format: 3, bits: 32, channels: 1, rate: 16_000 }, [...tone(300, 0.2, 16_000)]));
    if ('refusal' in truth) throw new Error(truth.refusal);
    expect(truth.samples.length).toBe(9600);
    const again = readWave(truthToWave(truth));
    if ('refusal' in again) throw new Error(again.refusal);
    expect([...again.channels[0]!]).toEqual([...floatsOf16Bit(truth.samples)]);
  });
});

describe('resampling', () => {
  it.each([
    [16_000, 48_000],
    [44_100, 48_000],
    [48_000, 16_000],
    [22_050, 16_000],
  ])('from %i to %i keeps a tone in place, to a thousandth', (from, to) => {
    const result = resample(tone(440, 0.5, from), from, to);
    const expected = tone(440, 0.5, to);
    for (let index = 2000; index < result.length - 2000; index += 37)
      expect(Math.abs(result[index]! - expected[index]!)).toBeLessThan(1e-3);
  });

  it('takes out what the lower rate cannot hold', () => {
    const result = resample(tone(12_000, 0.5), 48_000, 16_000);
    expect(decibels(loudnessOfWindows(result.slice(1000, 6000), 5000)[0]!)).toBeLessThan(-70);
  });

  it.each([
    [48_000, 35_671],
    [44_100, 48_000],
    [48_000, 16_000],
  ])('from %i to %i is the windowed sinc sample for sample, over more than is filtered at once', (from, to) => {
    let seed = 7;
    const sound = Float32Array.from({ length: 17_000 }, () => (seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 31 - 1);
    const result = resample(sound, from, to);
    // J. F. Kaiser's window, β = 8, over twenty crossings of zero to either side; the pass band ends at 95 % of the lower half rate.
    const narrowing = Math.min(1, to / from);
    const half = Math.ceil(20 / narrowing);
    const bessel = (x: number): number => {
      let [sum, term] = [1, 1];
      for (let k = 1; k < 60; k++) sum += term *= (x / (2 * k)) ** 2;
      return sum;
    };
    const tap = (x: number): number => {
      const cutoff = 0.95 * narrowing;
      const sinc = x === 0 ? 1 : Math.sin(Math.PI * cutoff * x) / (Math.PI * cutoff * x);
      return (cutoff * sinc * bessel(8 * Math.sqrt(1 - Math.min(1, Math.abs(x) / half) ** 2))) / bessel(8);
    };
    expect(result).toHaveLength(Math.ceil((17_000 * to) / from));
    for (let index = 0; index < result.length; index += 53) {
      const place = (index * from) / to;
      let sum = 0;
      for (let at = Math.max(0, Math.floor(place) - half); at <= Math.min(16_999, Math.floor(place) + half + 1); at++)
        if (Math.abs(at - place) <= half) sum += sound[at]! * tap(at - place);
      expect(Math.abs(result[index]! - sum)).toBeLessThan(2e-5);
    }
  });

  it('does not move a click', () => {
    const click = new Float32Array(16_000);
    click[8000] = 1;
    const result = resample(click, 16_000, 48_000);
    expect(result.indexOf(Math.max(...result))).toBe(24_000);
  });

  it('dithers the same recording to the same file', () => {
    expect([...ditherTo16Bit(tone(200, 0.05))]).toEqual([...ditherTo16Bit(tone(200, 0.05))]);
  });
});

describe('the truth about a recording', () => {
  /** A wave file of 48 kHz, 16 bits and one channel, with samples of a law of their own: its bytes are the truth. */
  const plain = (samples: readonly number[]): Uint8Array => {
    const file = waveFile({ format: 1, bits: 16, channels: 1, rate: 48_000 }, new Array<number>(samples.length).fill(0)) as Buffer;
    samples.forEach((sample, index) => file.writeInt16LE(sample, 44 + 2 * index));
    return file;
  };
  const truth = (bytes: Uint8Array): Int16Array => {
    const result = truthOfWave(bytes);
    if ('refusal' in result) throw new Error(result.refusal);
    return result.samples;
  };
  // Every value there is, the loudest too, and long enough to be a recording.
  const every = Array.from({ length: 65_536 }, (_, index) => ((index * 7919) % 65_536) - 32_768);

  it('of 48 kHz, 16 bits and one channel is the recording itself, bit for bit', () => {
    expect([...truth(plain(every))]).toEqual(every);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -32_768, max: 32_767 }), { minLength: 2400, maxLength: 3000 }), (samples) => {
        const file = plain(samples);
        expect(Buffer.from(truthToWave({ samples: truth(file) })).equals(Buffer.from(file))).toBe(true);
      }),
      { numRuns: 10 },
    );
  });

  it.each([
    [1, 24, 48_000, 1],
    [3, 32, 48_000, 1],
    [1, 16, 44_100, 1],
    [1, 24, 48_000, 2],
    [1, 8, 22_050, 1],
  ])('of format %i, %i bits, %i Hz, %i channels is made once: doing it again changes nothing', (format, bits, rate, channels) => {
    const wave = tone(313, 0.2, rate, 0.8);
    const file = waveFile(
      { format, bits, channels, rate },
      [...wave].flatMap((value) => new Array<number>(channels).fill(value)),
    );
    const once = truth(file);
    expect([...truth(truthToWave({ samples: once }))]).toEqual([...once]);
    expect(Math.max(...once) / 32_768).toBeCloseTo(0.8, 2);
  });
});

describe('what the ear hears', () => {
  it('loudness of a sine is its level over the square root of two', () => {
    expect(loudnessOfWindows(tone(1000, 0.1), 4800)[0]).toBeCloseTo(0.5 / Math.SQRT2, 3);
    expect(peakLevel(tone(1000, 0.3, 48_000, 1), 48_000)).toBeCloseTo(-3.01, 1);
  });

  it('finds the pause between two tones', () => {
    const sound = new Float32Array(48_000 * 2);
    sound.set(tone(300, 0.6), 0);
    sound.set(tone(300, 0.6), 48_000 * 1.4);
    const pauses = findPauses(sound, 48_000);
    expect(pauses).toHaveLength(1);
    expect(pauses[0]!.from / 48_000).toBeCloseTo(0.6, 1);
    expect(pauses[0]!.to / 48_000).toBeCloseTo(1.4, 1);
  });

  it('tells hiss from voice, and loses no peak', () => {
    const hiss = Float32Array.from({ length: 4800 }, (_, index) => ((index * 7919) % 101) / 101 - 0.5);
    expect(waveBlocks(hiss, 480).hiss[3]).toBeGreaterThan(0.9);
    expect(waveBlocks(tone(200, 0.1), 480).hiss[3]).toBeLessThan(0.1);
    const spike = new Float32Array(1000);
    spike[777] = 0.9;
    expect(Math.max(...waveBlocks(spike, 64).highest)).toBeCloseTo(0.9, 5);
  });
});

describe('the pyramid of a wave', () => {
  const sample = fc.float({ min: -1, max: 1, noNaN: true });

  it('never loses a peak: any stretch has the extremes of its blocks one by one', () => {
    fc.assert(
      fc.property(fc.array(sample, { minLength: 1, maxLength: 700 }), fc.nat(800), fc.nat(800), (values, a, b) => {
        const blocks = waveBlocks(Float32Array.from(values), 3);
        const pyramid = wavePyramid(blocks);
        const [first, last] = [Math.min(a, b), Math.max(a, b)];
        const inside = [...blocks.lowest.keys()].filter((block) => block >= first && block < last);
        const found = extremesOf(pyramid, first, last);
        expect(found.lowest).toBe(Math.min(0, ...inside.map((block) => blocks.lowest[block]!)));
        expect(found.highest).toBe(Math.max(0, ...inside.map((block) => blocks.highest[block]!)));
        expect(found.hiss).toBe(Math.max(0, ...inside.map((block) => blocks.hiss[block]!)));
      }),
    );
  });

  it('knows the power of a stretch: a sine of amplitude a has a² / 2', () => {
    const samples = new Float32Array(48_000);
    for (let index = 0; index < samples.length; index++) samples[index] = 0.6 * Math.sin((2 * Math.PI * index) / 96);
    const pyramid = wavePyramid(waveBlocks(samples, 96));
    expect(extremesOf(pyramid, 3, 401).power).toBeCloseTo(0.18, 4);
    expect(pyramid.levels.at(-1)!.lowest.length).toBeLessThanOrEqual(PYRAMID_STEP);
    expect(extremesOf(pyramid, 900, 950)).toEqual({ lowest: 0, highest: 0, hiss: 0, power: 0 });
  });
});

describe('the autocorrelation', () => {
  const anyWindow = fc.array(fc.float({ noNaN: true, min: -1, max: 1 }), { minLength: 64, maxLength: 64 });

  it('is the sum of the products of a window with itself later', () => {
    fc.assert(
      fc.property(anyWindow, (values) => {
        const window = Float32Array.from(values);
        const found = autocorrelation(window);
        for (const lag of [0, 1, 7, 63]) {
          const sum = window.subarray(lag).reduce((total, value, index) => total + value * window[index]!, 0);
          expect(found[lag]).toBeCloseTo(sum, 5);
        }
      }),
    );
  });
});
