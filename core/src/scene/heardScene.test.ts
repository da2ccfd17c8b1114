/** What mouths hear of the recordings of a scene. */
import {
  changeClip,
  HEARD_BLOCK,
  heardFrames,
  maybeHeard,
  maybeLevelAt,
  heardWaves,
  slideClip,
  trimClip,
  waveBlocks,
  wavePyramid,
  type Patch,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, testPatch } from '../testing/testPatch.js';

const ids = countedIds('h');
/** Two seconds: silence, then from frame 12 to 24 a tone of 480 Hz at half of full scale, then hiss as loud. */
const samples = new Float32Array(96_000);
for (let at = 24_000; at < 48_000; at++) samples[at] = 0.5 * Math.sin((2 * Math.PI * 480 * at) / 48_000);
for (let at = 48_000, seed = 1; at < 72_000; at++) {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
  samples[at] = 0.5 * (seed / 1_073_741_824 - 1);
}
const pyramid = wavePyramid(waveBlocks(samples, HEARD_BLOCK));
const scene = emptyScene(48);
const heard = (of: SceneDocument): NonNullable<ReturnType<typeof maybeHeard>> => maybeHeard(of, 'bramble', () => pyramid)!;
const change = (patch: Patch | { refusal: string }): SceneDocument => testPatch(scene, patch);

describe('what a mouth hears', () => {
  it('is the level of each frame: a sine of half scale is 9.03 dB below full scale (its mean square is half its peak’s)', () => {
    const { levels, hiss } = heard(scene);
    expect(levels).toHaveLength(48);
    expect(levels[5]).toBeLessThan(-80);
    for (let frame = 13; frame < 23; frame++) expect(levels[frame]).toBeCloseTo(20 * Math.log10(0.5 / Math.SQRT2), 1);
    for (let frame = 13; frame < 23; frame++) expect(hiss[frame]).toBeLessThan(0.1);
    for (let frame = 25; frame < 35; frame++) expect(hiss[frame]).toBeGreaterThan(0.9);
    expect(levels[40]).toBeLessThan(-80);
  });

  it('is what the same recording alone is heard as, within half a decibel', () => {
    const alone = heardFrames(samples, { num: 24, den: 1 }, 48);
    const { levels } = heard(scene);
    for (let frame = 13; frame < 35; frame++)
      if (frame !== 23 && frame !== 24) expect(Math.abs(levels[frame]! - alone.levels[frame]!)).toBeLessThan(0.5);
  });

  it('goes with its clip when it is slid, and ends where it is trimmed', () => {
    const slid = heard(change(slideClip(scene, 'clip1', 7, ids)));
    expect([slid.levels[18]! < -60, slid.levels[21]! > -10]).toEqual([true, true]);
    const trimmed = heard(change(trimClip(scene, 'clip1', 'to', 18, ids)));
    expect([trimmed.levels[16]! > -10, trimmed.levels[20]]).toEqual([true, -120]);
  });

  it('follows the gain, and stays when the clip is muted, which the ear does not hear', () => {
    const louder = heard(change(changeClip(scene, 'clip1', { gainDb: 6 }, ids)));
    expect(louder.levels[18]! - heard(scene).levels[18]!).toBeCloseTo(6, 3);
    const muted = change(changeClip(scene, 'clip1', { muted: true }, ids));
    expect(heard(muted)).toEqual(heard(scene));
    expect(
      maybeLevelAt(
        heardWaves(muted, () => pyramid),
        18,
      ),
    ).toBeUndefined();
    expect(
      maybeLevelAt(
        heardWaves(scene, () => pyramid),
        18,
      ),
    ).toBeCloseTo(-9.03, 1);
  });

  it('is not known before the recording is measured, nor of somebody who does not speak', () => {
    expect(maybeHeard(scene, 'bramble', () => undefined)).toBeUndefined();
    expect(maybeHeard(scene, 'odette', () => pyramid)).toBeUndefined();
  });
});
