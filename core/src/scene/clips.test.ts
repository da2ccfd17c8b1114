/** Clips in the scene's time: no edit loses sound that is not asked to go, and each can be taken back. */
import fc from 'fast-check';
import {
  addClip,
  changeClip,
  clipEnd,
  clipGains,
  clipOfRecording,
  clipsPastEnd,
  clipStart,
  frameAtSample,
  isRefusal,
  placedSounds,
  placedWords,
  putDrawing,
  removeClip,
  replaceTake,
  sampleAtFrame,
  sceneSettings,
  setLength,
  slideClip,
  takeReading,
  trimClip,
  USUAL_FRAME_RATES,
  withPencilKeyed,
  type Clip,
  type Patch,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, readingOf, sceneWithReading, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const ids = countedIds('c');
const clipOf = (scene: SceneDocument, id = 'clip1'): Clip => scene.clips.find((clip) => clip.id === id)!;
const speaker = { chartId: 'chart', chart: TEST_CHART };
const second = (over: Partial<Parameters<typeof clipOfRecording>[0]> = {}): Clip =>
  clipOfRecording({
    id: 'clip2',
    characterId: 'odette',
    audio: 'other',
    fileName: 'answer.wav',
    lengthSamples: 96_000,
    atFrame: 12,
    script: '',
    language: 'en',
    ...over,
  });

/** Which sample of the recording is heard at each sample of a stretch of the scene; −1 where none is. */
function heardAt(scene: SceneDocument, clip: Clip, sample: number): number {
  const inRecording = sample - clipStart(scene, clip);
  return inRecording >= clip.fromSample && inRecording < clip.toSample ? inRecording : -1;
}

describe('sliding and trimming', () => {
  const rates = fc.constantFrom(...USUAL_FRAME_RATES);

  it('keeps what a trim leaves where it was heard, at every frame rate, and gives the whole back when the ends are drawn out again', () => {
    fc.assert(
      fc.property(rates, fc.integer({ min: 3000, max: 400_000 }), fc.nat(200), fc.nat(300), fc.nat(300), (rate, length, at, head, tail) => {
        const base = emptyScene(600);
        const scene: SceneDocument = {
          ...base,
          settings: [{ ...sceneSettings(base), frameRate: rate, lengthFrames: 5000 }],
          clips: [{ ...clipOf(base), lengthSamples: length, toSample: length, atFrame: at }],
        };
        const before = clipOf(scene);
        const trimmed = testPatch(scene, trimClip(scene, 'clip1', 'from', at + head, ids));
        const both = testPatch(trimmed, trimClip(trimmed, 'clip1', 'to', at + head + tail, ids));
        const after = clipOf(both);
        // Never less than a hundredth of a second, never more than the recording.
        expect(after.toSample - after.fromSample).toBeGreaterThanOrEqual(480);
        // To a sample: at NTSC rates frames do not begin on whole samples.
        expect(Math.abs(clipStart(both, after) - clipStart(scene, before))).toBeLessThanOrEqual(1);
        const middle = clipStart(both, after) + Math.floor((after.fromSample + after.toSample) / 2);
        expect(Math.abs(heardAt(both, after, middle) - heardAt(scene, before, middle))).toBeLessThanOrEqual(1);
        const drawn = testPatch(both, trimClip(both, 'clip1', 'from', 0, ids));
        const whole = testPatch(drawn, trimClip(drawn, 'clip1', 'to', 4999, ids));
        expect(clipOf(whole).fromSample).toBeLessThanOrEqual(1);
        expect(clipOf(whole)).toMatchObject({ toSample: length, atFrame: at });
      }),
      { seed: 41, numRuns: 300 },
    );
  });

  it('slides by whole frames without changing what is heard, and the scene grows to hold it', () => {
    fc.assert(
      fc.property(fc.nat(3000), fc.integer({ min: 960, max: 200_000 }), (to, length) => {
        const whole = Math.ceil(length / 2000);
        const base = emptyScene(whole);
        const scene = { ...base, clips: [{ ...clipOf(base), lengthSamples: length, toSample: length }] };
        const after = testPatch(scene, slideClip(scene, 'clip1', to, ids));
        const clip = clipOf(after);
        expect([clip.fromSample, clip.toSample, clip.atFrame]).toEqual([0, length, to]);
        expect(clipsPastEnd(after)).toEqual([]);
        expect(sceneSettings(after).lengthFrames).toBe(Math.max(whole, clipEnd(after, clip)));
      }),
      { seed: 42, numRuns: 200 },
    );
  });

  it('goes no further than the start of the scene, and refuses to make a scene too long', () => {
    const scene = emptyScene(24);
    expect(clipOf(testPatch(scene, slideClip(scene, 'clip1', -5, ids))).atFrame).toBe(0);
    expect(slideClip(scene, 'clip1', 60_000, ids)).toMatchObject({ refusal: expect.stringMatching(/place it earlier/) });
    expect(slideClip(scene, 'clip1', 1.5, ids)).toMatchObject({ refusal: expect.stringMatching(/whole frame/) });
    expect(slideClip(scene, 'nobody', 1, ids)).toMatchObject({ refusal: expect.stringMatching(/no longer/) });
  });

  it('takes the words and sounds with it, and leaves out what is trimmed away', () => {
    // Six sounds of two frames each from frame 4 on.
    const scene = sceneWithReading(['M', 'AA', 'M', 'AA', 'M', 'AA'], 4000);
    const slid = testPatch(scene, slideClip(scene, 'clip1', 10, ids));
    expect(placedSounds(slid, 'bramble').map((sound) => sound.from)).toEqual(
      placedSounds(scene, 'bramble').map((sound) => sound.from + 20_000),
    );
    const trimmed = testPatch(slid, trimClip(slid, 'clip1', 'from', 10 + 7, ids));
    const left = placedSounds(trimmed, 'bramble');
    expect(left.map((sound) => sound.symbol)).toEqual(['AA', 'M', 'AA', 'M', 'AA']);
    expect(left[0]!.from).toBe(sampleAtFrame({ num: 24, den: 1 }, 17));
    expect(placedWords(trimmed)[0]!.from).toBe(left[0]!.from);
    // What was read is not lost: drawn out again, it is all there.
    const drawn = testPatch(trimmed, trimClip(trimmed, 'clip1', 'from', 0, ids));
    expect(placedSounds(drawn, 'bramble')).toEqual(placedSounds(slid, 'bramble'));
  });
});

describe('several clips', () => {
  it('gives a new speaker a lane at rest, and keys each lane by its own clips', () => {
    const scene = sceneWithReading(['M', 'AA'], 8000);
    const added = testPatch(scene, addClip(scene, second({ atFrame: 40 }), ids, speaker));
    expect(added.tracks.map((track) => track.characterId)).toEqual(['bramble', 'odette']);
    expect(sceneSettings(added).lengthFrames).toBe(88);
    const read = testPatch(added, takeReading(added, 'clip2', readingOf(['B', 'IY'], 12_000, 96_000, 24_000), ids));
    const keyed = testPatch(read, withPencilKeyed(read, slideClip(read, 'clip2', 30, ids), TEST_CHARTS, ids));
    const [first, other] = keyed.tracks.map((track) => keyed.exposures.filter((exposure) => exposure.track === track.id));
    const played = (exposures: typeof first): string[] =>
      exposures!.flatMap(({ plays }) => plays.map((id) => keyed.phonemes.find((phoneme) => phoneme.id === id)!.symbol));
    expect([played(first), played(other)]).toEqual([
      ['M', 'AA'],
      ['B', 'IY'],
    ]);
    const press = other!.find((exposure) => exposure.drawing === 'press')!;
    expect(frameAtSample({ num: 24, den: 1 }, sampleAtFrame({ num: 24, den: 1 }, 30) + 24_000)).toBeGreaterThanOrEqual(press.from);
    expect(addClip(scene, second(), ids)).toMatchObject({ refusal: expect.stringMatching(/mouth chart/) });
  });

  it('leaves ink where it is, whatever is slid', () => {
    const scene = sceneWithReading(['M', 'AA', 'M', 'AA'], 8000);
    const inked = testPatch(scene, putDrawing(scene, { track: 'mouth1', frame: 12, drawing: 'ring' }, TEST_CHART, ids));
    const slid = testPatch(inked, withPencilKeyed(inked, slideClip(inked, 'clip1', 9, ids), TEST_CHARTS, ids));
    const ink = (document: SceneDocument) => document.exposures.filter((exposure) => exposure.inked);
    expect(ink(slid)).toEqual(ink(inked));
    expect(slid.exposures).not.toEqual(inked.exposures);
  });

  it('puts a better take in its place, and keeps the old reading as that of the old one until it is read', () => {
    const scene = sceneWithReading(['M', 'AA', 'M', 'AA'], 8000, 48);
    const take = { audio: 'better', fileName: 'take 2.wav', lengthSamples: 30_000 };
    const after = testPatch(scene, replaceTake(scene, 'clip1', take, ids));
    expect(clipOf(after)).toMatchObject({ ...take, readOf: 'hash', fromSample: 0, toSample: 30_000, atFrame: 0 });
    // Sounds past the end of the shorter take are gone, one that crosses it is cut.
    expect(after.phonemes.map(({ fromSample, toSample }) => [fromSample, toSample])).toEqual([
      [8000, 16_000],
      [16_000, 24_000],
      [24_000, 30_000],
    ]);
    const read = testPatch(after, takeReading(after, 'clip1', readingOf(['IY'], 9000, 30_000), ids));
    expect(clipOf(read).readOf).toBe('better');
    expect(replaceTake(read, 'clip1', take, ids)).toMatchObject({ refusal: expect.stringMatching(/there already/) });
  });

  it('hears what is not muted, or only what is soloed, as loud as it is set (20 dB is a factor of ten)', () => {
    const clips = [second(), second({ id: 'b' }), second({ id: 'c' })];
    const gains = (changes: Partial<Clip>[]): number[] => [
      ...clipGains(clips.map((clip, index) => ({ ...clip, ...changes[index] }))).values(),
    ];
    expect(gains([])).toEqual([1, 1, 1]);
    expect(gains([{ muted: true }, { gainDb: 20 }, { gainDb: -20 }])).toEqual([0, 10, 0.1]);
    expect(gains([{ soloed: true }, {}, { soloed: true, muted: true }])).toEqual([1, 0, 0]);
    // A soloed clip that is muted silences nobody.
    expect(gains([{ soloed: true, muted: true }])).toEqual([0, 1, 1]);
    const scene = emptyScene();
    expect(changeClip(scene, 'clip1', { gainDb: 21 }, ids)).toMatchObject({ refusal: expect.stringMatching(/-40 to 20 dB/) });
    expect(clipOf(testPatch(scene, changeClip(scene, 'clip1', { gainDb: -6, muted: true }, ids)))).toMatchObject({
      gainDb: -6,
      muted: true,
    });
  });

  it('takes a clip out with its reading, but not the last one', () => {
    const scene = sceneWithReading(['M', 'AA'], 8000);
    const added = testPatch(scene, addClip(scene, second(), ids, speaker));
    const keyed = testPatch(added, withPencilKeyed(added, changeClip(added, 'clip1', { gainDb: 1 }, ids), TEST_CHARTS, ids));
    expect(keyed.exposures.some((exposure) => exposure.plays.length > 0)).toBe(true);
    const after = testPatch(keyed, removeClip(keyed, 'clip1', ids));
    expect([after.clips.length, after.words.length, after.phonemes.length]).toEqual([1, 0, 0]);
    expect(after.exposures.every((exposure) => exposure.plays.length === 0)).toBe(true);
    expect(removeClip(after, 'clip2', ids)).toMatchObject({ refusal: expect.stringMatching(/only recording/) });
  });
});

describe('the length of the scene', () => {
  it('may end before a clip does, which is told; ink and marks are not lost for it', () => {
    const scene = sceneWithReading(['M', 'AA', 'M', 'AA'], 8000, 48);
    const short = testPatch(scene, setLength(scene, 30, ids));
    expect(clipsPastEnd(short)).toEqual([{ clip: clipOf(short), frames: 18 }]);
    expect(short.exposures.every((exposure) => exposure.to <= 30)).toBe(true);
    const inked = testPatch(scene, putDrawing(scene, { track: 'mouth1', frame: 44, drawing: 'ring' }, TEST_CHART, ids));
    expect(setLength(inked, 40, ids)).toMatchObject({ refusal: expect.stringMatching(/ink up to frame 48/) });
    for (const length of [0, 2.5, 60_000]) expect(isRefusal(setLength(scene, length, ids))).toBe(true);
  });

  it('grows again by a clip that is moved', () => {
    const scene = emptyScene(48);
    const short = testPatch(scene, setLength(scene, 20, ids));
    const moved = testPatch(short, slideClip(short, 'clip1', 1, ids) as Patch);
    expect(sceneSettings(moved).lengthFrames).toBe(49);
  });
});
