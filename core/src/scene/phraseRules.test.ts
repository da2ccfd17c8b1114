/** Rules of a phrase's own, as they lie in a scene. */
import fc from 'fast-check';
import {
  checkScene,
  exposuresOfTrack,
  FEELS,
  isRefusal,
  keyPencil,
  maybeFeel,
  maybePhraseRules,
  placedPhrases,
  replaceTake,
  sampleAtFrame,
  setPhraseRules,
  slideClip,
  trimClip,
  withPencilKeyed,
  type KeyingRules,
  type Patch,
  type SceneDocument,
} from '../index.js';
import { countedIds, sceneWithReading, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const ids = countedIds('f');
const track = 'mouth1';
const rulesOf = (name: string): KeyingRules => FEELS.find((feel) => feel.name === name)!.rules;
const scene = sceneWithReading(['M', 'AA', 'P', 'IY', 'S', 'T', 'AA', 'M', 'OW', 'L'], 4000, 48);
const rate = { num: 24, den: 1 };

/** The feel of each frame, by its first letter; a dot where the track's holds. */
const feels = (of: SceneDocument): string =>
  Array.from({ length: 48 }, (_, frame) => maybePhraseRules(of, of.tracks[0]!, frame))
    .map((rules) => (rules ? maybeFeel(rules)!.name[0] : '.'))
    .join('');

const set = (of: SceneDocument, from: number, to: number, name: string | null): SceneDocument =>
  testPatch(of, setPhraseRules(of, { track, from, to, rules: name === null ? null : rulesOf(name) }, ids));

describe('the rules of a phrase', () => {
  it('lie on their frames, the later ones over the earlier, and go again', () => {
    const crisp = set(scene, 10, 20, 'Crisp');
    expect(feels(crisp)).toBe(`${'.'.repeat(10)}${'C'.repeat(10)}${'.'.repeat(28)}`);
    const both = set(crisp, 15, 30, 'Limited');
    expect(feels(both)).toBe(`${'.'.repeat(10)}CCCCC${'L'.repeat(15)}${'.'.repeat(18)}`);
    expect(feels(set(both, 12, 17, null))).toBe(`${'.'.repeat(10)}CC.....${'L'.repeat(13)}${'.'.repeat(18)}`);
    expect(feels(set(both, 0, 48, 'Natural'))).toBe('.'.repeat(48));
  });

  it('join where the same ones touch, whatever is done in whatever order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(46), fc.integer({ min: 1, max: 20 }), fc.constantFrom('Crisp', 'Limited', null)), { maxLength: 6 }),
        (steps) => {
          let now = scene;
          let expected = '.'.repeat(48);
          for (const [from, length, name] of steps) {
            const to = Math.min(48, from + length);
            now = set(now, from, to, name);
            expected = expected.slice(0, from) + (name?.[0] ?? '.').repeat(to - from) + expected.slice(to);
          }
          expect(feels(now)).toBe(expected);
          const phrases = now.clips[0]!.phrases ?? [];
          expect(phrases.length).toBe(expected.match(/(C+|L+)/g)?.length ?? 0);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('go with their recording when it is slid, and stay where they are heard when it is trimmed', () => {
    const crisp = set(scene, 10, 20, 'Crisp');
    const slid = testPatch(crisp, slideClip(crisp, 'clip1', 6, ids));
    expect(feels(slid).indexOf('C')).toBe(16);
    const trimmed = testPatch(crisp, trimClip(crisp, 'clip1', 'from', 14, ids));
    expect(feels(trimmed)).toBe(`${'.'.repeat(14)}${'C'.repeat(6)}${'.'.repeat(28)}`);
  });

  it('are cut to a shorter take', () => {
    const crisp = set(scene, 10, 20, 'Crisp');
    const take = { audio: 'take2', fileName: 'take2.wav', lengthSamples: 15 * 2000 };
    expect(feels(testPatch(crisp, replaceTake(crisp, 'clip1', take, ids)))).toMatch(/^\.{10}C{5}\.+$/);
  });

  it('are refused where nobody is heard, and when they are no rules', () => {
    const short = testPatch(scene, trimClip(scene, 'clip1', 'to', 30, ids));
    const refused = setPhraseRules(short, { track, from: 35, to: 40, rules: rulesOf('Crisp') }, ids);
    expect(isRefusal(refused) && refused.refusal).toMatch(/Nobody is heard/);
    const faulty = setPhraseRules(scene, { track, from: 3, to: 9, rules: { ...rulesOf('Crisp'), leadFrames: 77 } }, ids);
    expect(isRefusal(faulty) && faulty.refusal).toMatch(/lead is 77/);
    const beyond = { ...scene, clips: [{ ...scene.clips[0]!, phrases: [{ from: 0, to: 999_999, rules: rulesOf('Crisp') }] }] };
    expect(checkScene(beyond, TEST_CHARTS)).toEqual([expect.stringMatching(/rules of their own must lie inside/)]);
  });

  it('key their frames only: the rest of the pencil stays as it was', () => {
    const keyed = testPatch(scene, (keyPencil(scene, track, TEST_CHARTS, ids) as { patch: Patch }).patch);
    const calm = setPhraseRules(keyed, { track, from: 12, to: 22, rules: rulesOf('Replacement') }, ids);
    const after = testPatch(keyed, withPencilKeyed(keyed, calm, TEST_CHARTS, ids));
    const lane = (of: SceneDocument, from: number, to: number): string[] =>
      exposuresOfTrack(of, track)
        .filter((exposure) => exposure.from >= from && exposure.to <= to)
        .map((exposure) => `${exposure.from}-${exposure.to} ${exposure.drawing}`);
    expect(lane(after, 0, 10)).toEqual(lane(keyed, 0, 10));
    expect(lane(after, 0, 48)).not.toEqual(lane(keyed, 0, 48));
  });

  it('leave the pencil of a phrase keyed by loudness as it is while nothing is heard, and key it when something is', () => {
    const heard = { levels: new Float32Array(48).map((_, frame) => (frame % 10 < 4 ? -12 : -60)), hiss: new Float32Array(48) };
    const loud = testPatch(
      scene,
      setPhraseRules(scene, { track, from: 20, to: 40, rules: { ...rulesOf('Natural'), source: 'loudness' } }, ids),
    );
    const first = testPatch(loud, (keyPencil(loud, track, TEST_CHARTS, ids, { heard }) as { patch: Patch }).patch);
    const within = exposuresOfTrack(first, track).filter(({ from, to }) => from >= 20 && to <= 38);
    expect(within.length).toBeGreaterThan(2);
    const unheard = keyPencil(first, track, TEST_CHARTS, ids) as { patch: Patch };
    expect(unheard.patch.ops).toEqual([]);
    const part = keyPencil(first, track, TEST_CHARTS, ids, { from: 22, to: 31 }) as { patch: Patch };
    expect(part.patch.ops).toEqual([]);
  });

  it('are placed in the scene with their clip, in samples from frame 0', () => {
    const crisp = set(scene, 10, 20, 'Crisp');
    expect(placedPhrases(crisp, 'bramble')).toEqual([
      { from: sampleAtFrame(rate, 10), to: sampleAtFrame(rate, 20), rules: rulesOf('Crisp') },
    ]);
    expect(placedPhrases(crisp, 'odette')).toEqual([]);
  });
});
