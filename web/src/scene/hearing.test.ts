/** What mouths hear, worked out once. */
import { HEARD_BLOCK, waveBlocks, wavePyramid, type SoundsOf, type WavePyramid } from '@zest-jaw/core';
import { rememberedHearing } from './hearing.js';

const tone = Float32Array.from({ length: 48_000 }, (_, at) => 0.5 * Math.sin((2 * Math.PI * 480 * at) / 48_000));
const pyramid = wavePyramid(waveBlocks(tone, HEARD_BLOCK));
const clip = {
  id: 'one',
  audio: 'tone',
  characterId: 'bramble',
  atFrame: 12,
  fromSample: 0,
  toSample: 48_000,
  gainDb: 0,
} as SoundsOf['clips'][number];
const settings = [{ id: 'scene', frameRate: { num: 24, den: 1 }, firstFrame: 1, lengthFrames: 48 }] as unknown as SoundsOf['settings'];

describe('what is heard of the clips as they are', () => {
  let asked = 0;
  const pyramidOf = (): WavePyramid => {
    asked += 1;
    return pyramid;
  };
  const heardOf = rememberedHearing(pyramidOf);
  const clips = [clip];

  it('is worked out once, and is the same frames then', () => {
    const frames = heardOf({ clips, settings }, 'bramble')!;
    expect([frames.levels[6], frames.levels[20]! > -12]).toEqual([-120, true]);
    expect(heardOf({ clips, settings }, 'bramble')).toBe(frames);
    expect(asked).toBe(1);
  });

  it('is worked out anew for clips that lie otherwise, and for another length', () => {
    const slid = heardOf({ clips: [{ ...clip, atFrame: 24 }], settings }, 'bramble')!;
    expect([slid.levels[20], slid.levels[30]! > -12]).toEqual([-120, true]);
    const longer = heardOf({ clips, settings: [{ ...settings[0]!, lengthFrames: 60 }] }, 'bramble')!;
    expect(longer.levels).toHaveLength(60);
  });

  it('is of each speaker for itself', () => {
    expect(heardOf({ clips, settings }, 'nobody')).toBeUndefined();
    expect(heardOf({ clips, settings }, 'bramble')!.levels).toHaveLength(48);
  });
});
