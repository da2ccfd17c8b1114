import fc from 'fast-check';
import {
  formatFrameRate,
  formatTimecode,
  frameAtSample,
  framesToHold,
  isFrameRate,
  maybeFrameOfTimecode,
  maybeFrameRate,
  sampleAtFrame,
  timeScale,
  USUAL_FRAME_RATES,
} from '../index.js';

const ntsc = { num: 30_000, den: 1001 };

describe('frame rates', () => {
  it.each([
    ['24', 24, 1],
    ['24 fps', 24, 1],
    ['12.5', 25, 2],
    ['29.97', 30_000, 1001],
    ['23.976', 24_000, 1001],
    ['30000/1001', 30_000, 1001],
    ['50/2', 25, 1],
  ])('reads %s', (text, num, den) => {
    expect(maybeFrameRate(text)).toEqual({ num, den });
  });

  it.each(['0', '-24', '', 'film', '24/0', '1000', '0.5', '24.5/2', 'NaN'])('refuses %p', (text) => {
    expect(maybeFrameRate(text)).toBeUndefined();
  });

  it('writes every usual rate so that it reads back as itself', () => {
    for (const rate of USUAL_FRAME_RATES) expect(maybeFrameRate(formatFrameRate(rate))).toEqual(rate);
  });

  it('takes only whole positive fractions', () => {
    expect(isFrameRate({ num: 24.5, den: 1 })).toBe(false);
    expect(isFrameRate({ num: 24, den: 0 })).toBe(false);
    expect(isFrameRate(ntsc)).toBe(true);
  });
});

describe('frames and samples', () => {
  it('counts whole samples a frame at the rates that divide 48 000', () => {
    expect(sampleAtFrame({ num: 24, den: 1 }, 1)).toBe(2000);
    expect(sampleAtFrame({ num: 25, den: 1 }, 1)).toBe(1920);
    expect(sampleAtFrame({ num: 30, den: 1 }, 1)).toBe(1600);
    expect(sampleAtFrame({ num: 12, den: 1 }, 1)).toBe(4000);
  });

  it('spreads 8008 samples over five NTSC frames (SMPTE ST 299-1, 48 kHz at 29.97)', () => {
    expect(sampleAtFrame(ntsc, 5)).toBe(8008);
  });

  it('frameAtSample undoes sampleAtFrame, and the sample before is the frame before', () => {
    fc.assert(
      fc.property(fc.constantFrom(...USUAL_FRAME_RATES), fc.nat(500_000), (rate, frame) => {
        const sample = sampleAtFrame(rate, frame);
        expect(frameAtSample(rate, sample)).toBe(frame);
        if (frame > 0) expect(frameAtSample(rate, sample - 1)).toBe(frame - 1);
      }),
    );
  });

  it('holds a part of a frame in a whole one', () => {
    expect(framesToHold({ num: 24, den: 1 }, 2001)).toBe(2);
    expect(framesToHold({ num: 24, den: 1 }, 2000)).toBe(1);
  });
});

describe('timecode', () => {
  // SMPTE ST 12-1:2014, 5.2.2: numbers 00 and 01 are left out at the start of each minute
  // except 00, 10, 20, 30, 40 and 50. One hour of drop-frame is 107 892 frames (30·3600 − 108).
  it.each([
    [0, '00:00:00;00'],
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [3597, '00:01:59;29'],
    [3598, '00:02:00;02'],
    [17_981, '00:09:59;29'],
    [17_982, '00:10:00;00'],
    [107_892, '01:00:00;00'],
  ])('drops numbers at 29.97: frame %i is %s', (frame, text) => {
    expect(formatTimecode(ntsc, frame)).toBe(text);
    expect(maybeFrameOfTimecode(ntsc, text)).toBe(frame);
  });

  it('knows no dropped number and no frame past the second', () => {
    expect(maybeFrameOfTimecode(ntsc, '00:01:00;00')).toBeUndefined();
    expect(maybeFrameOfTimecode(ntsc, '00:01:00;01')).toBeUndefined();
    expect(maybeFrameOfTimecode({ num: 24, den: 1 }, '00:00:00:24')).toBeUndefined();
    expect(maybeFrameOfTimecode({ num: 24, den: 1 }, 'noon')).toBeUndefined();
  });

  it('counts plainly at 24 and 23.976', () => {
    expect(formatTimecode({ num: 24, den: 1 }, 58)).toBe('00:00:02:10');
    expect(formatTimecode({ num: 24_000, den: 1001 }, 1440)).toBe('00:01:00:00');
  });

  it('reads back what it writes, at every rate', () => {
    const rates = [...USUAL_FRAME_RATES, { num: 60_000, den: 1001 }];
    fc.assert(
      fc.property(fc.constantFrom(...rates), fc.nat(1_000_000), (rate, frame) => {
        expect(maybeFrameOfTimecode(rate, formatTimecode(rate, frame))).toBe(frame);
      }),
    );
  });
});

describe('a time scale', () => {
  it('finds the frame under every x of that frame', () => {
    fc.assert(
      fc.property(fc.nat(1000), fc.integer({ min: 1, max: 200 }), fc.double({ min: 0, max: 0.99, noNaN: true }), (from, length, inside) => {
        const scale = timeScale(from, from + length, 46, 13.7);
        const frame = from + length - 1;
        expect(scale.frame(scale.x(frame + inside))).toBe(frame);
      }),
    );
  });

  it('stays inside its stretch', () => {
    const scale = timeScale(10, 20, 46, 12);
    expect(scale.frame(-100)).toBe(10);
    expect(scale.frame(10_000)).toBe(19);
  });
});
