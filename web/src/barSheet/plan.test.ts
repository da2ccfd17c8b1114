import {
  applyPatch,
  isRefusal,
  keyPencil,
  newScene,
  SCENE_KIND,
  starterChart,
  takeReading,
  type Reading,
  type SceneDocument,
} from '@zest-jaw/core';
import fc from 'fast-check';
import {
  hitTest,
  isSpokenIn,
  LABEL_WIDTH,
  MOUTH_SIZE,
  OTHER_LANE,
  placeMouths,
  planBarSheet,
  rowNamed,
  SYSTEM_GAP,
  systemOfFrame,
} from './plan.js';
import { phraseAt } from './phraseAt.js';

const chart = starterChart('Test', 'brush');
let ids = 0;
const newId = (): string => `i${++ids}`;

/** A scene whose words are `[start, end]` in seconds, each one vowel. */
function sceneOf(words: readonly (readonly [number, number])[], seconds: number, fps = 24): SceneDocument {
  const spans = words.map(([from, to]) => ({ from: Math.round(from * 48_000), to: Math.round(to * 48_000) }));
  const reading: Reading = {
    sampleRate: 48_000,
    durationSamples: seconds * 48_000,
    words: spans.map((span, index) => ({ ...span, text: `w${index}`, confidence: 1 })),
    phonemes: spans.map((span, index) => ({ ...span, symbol: index % 2 ? 'IY' : 'AA', confidence: 1, word: index })),
    warnings: [],
  };
  const clip = { characterId: 'c', audio: 'a', fileName: 'f', lengthSamples: reading.durationSamples, script: '', language: 'en' as const };
  const start = newScene({
    title: 't',
    frameRate: { num: fps, den: 1 },
    firstFrame: 1,
    chartId: 'chart',
    chart,
    rules: { leadFrames: 1, holdFrames: 2, strict: false },
    clip,
  });
  const taken = takeReading(start, 'clip1', reading, newId);
  if (isRefusal(taken)) throw new Error(taken.refusal);
  const read = applyPatch(SCENE_KIND, start, taken);
  const keyed = keyPencil(read, 'mouth1', new Map([['chart', chart]]), newId);
  if (isRefusal(keyed)) throw new Error(keyed.refusal);
  return applyPatch(SCENE_KIND, read, keyed.patch);
}

const talk = Array.from(
  { length: 30 },
  (_, index) => [index * 0.3 + (index > 14 ? 1 : 0), index * 0.3 + 0.28 + (index > 14 ? 1 : 0)] as const,
);

describe('the plan of the bar sheet', () => {
  it('gives a word that begins inside a frame to one row only, also where a row breaks in that frame', () => {
    const words = [...Array(40).keys()].map((index) => [index * 0.3 + 0.011, index * 0.3 + 0.311] as const);
    const plan = planBarSheet(sceneOf(words, 13), { width: 420 });
    expect(plan.systems.length).toBeGreaterThan(2);
    for (const [from, to] of words)
      expect(plan.systems.filter((system) => isSpokenIn(system, { from: from * 24, to: to * 24 }))).toHaveLength(1);
  });

  it('shows every frame in exactly one system, each inside the width', () => {
    fc.assert(
      fc.property(fc.integer({ min: 380, max: 2400 }), fc.constantFrom(8, 12, 24, 25, 30, 60), (width, fps) => {
        const plan = planBarSheet(sceneOf(talk, 12, fps), { width });
        let next = 0;
        for (const { from, to, scale } of plan.systems) {
          expect(from).toBe(next);
          next = to;
          expect(scale.x(to)).toBeLessThanOrEqual(width + 1);
        }
        expect(next).toBe(12 * fps);
      }),
      { numRuns: 40 },
    );
  });

  it('finds under a point what it puts there', () => {
    const plan = planBarSheet(sceneOf(talk, 12), { width: 900 });
    for (let frame = 0; frame < 12 * 24; frame += 7) {
      const system = systemOfFrame(plan, frame)!;
      const row = rowNamed(plan, 'mouth')!;
      expect(hitTest(plan, system.scale.x(frame + 0.5), system.top + row.y + 5)).toMatchObject({ frame, row: 'mouth', within: 5 });
    }
    expect(hitTest(plan, 100, plan.systemHeight + SYSTEM_GAP / 2)).toBeUndefined();
    expect(hitTest(plan, 2, 5)!.frame).toBe(plan.systems[0]!.from);
  });

  it('has a lane for each other speaker below the mouths, none while one listens', () => {
    const scene = sceneOf(talk, 12);
    const [track] = scene.tracks;
    const three = { ...scene, tracks: [track!, { ...track!, id: 'b', order: 1 }, { ...track!, id: 'c', order: 2 }] };
    expect(rowNamed(planBarSheet(scene, { width: 900 }), 'others')).toBeUndefined();
    const plan = planBarSheet(three, { width: 900 });
    const [mouth, others] = [rowNamed(plan, 'mouth')!, rowNamed(plan, 'others')!];
    expect(others.height).toBe(2 * OTHER_LANE);
    expect(others.y).toBeGreaterThanOrEqual(mouth.y + mouth.height);
    expect(plan.systemHeight).toBe(others.y + others.height);
    expect(hitTest(plan, 200, others.y + OTHER_LANE + 3)).toMatchObject({ row: 'others', within: OTHER_LANE + 3 });
    expect(rowNamed(planBarSheet(three, { width: 900, view: 'listen' }), 'others')).toBeUndefined();
  });

  it('breaks at the pause, and shows a seven-second scene in three systems at 880 pixels', () => {
    const plan = planBarSheet(sceneOf(talk, 12), { width: 880 });
    const pause = 15 * 0.3 * 24;
    expect(plan.systems.some(({ from }) => Math.abs(from - pause) < 24)).toBe(true);
    expect(planBarSheet(sceneOf(talk.slice(0, 20), 7), { width: 880 }).systems.length).toBeLessThanOrEqual(3);
  });

  it('grows a short scene to use the room in sight, and never past it', () => {
    const short = sceneOf(talk.slice(0, 6), 2);
    const [usual, roomy] = [planBarSheet(short, { width: 900 }), planBarSheet(short, { width: 900, view: 'key', room: 620 })];
    expect(roomy.mouthGrowth).toBeGreaterThan(1.3);
    expect(roomy.height).toBeGreaterThan(usual.height);
    for (const room of [150, 250, 420, 620]) {
      const plan = planBarSheet(sceneOf(talk, 12), { width: 900, view: 'key', room });
      if (plan.mouthGrowth > 1) expect(plan.height).toBeLessThanOrEqual(room);
    }
  });

  it('leaves the mouth lane out where one listens', () => {
    expect(rowNamed(planBarSheet(sceneOf(talk, 12), { width: 900, view: 'listen' }), 'mouth')).toBeUndefined();
  });

  it('gives a scene without words whole rows', () => {
    const plan = planBarSheet(sceneOf([], 20), { width: 900 });
    expect(plan.systems.length).toBeGreaterThan(5);
    expect(plan.systems[0]!.scale.x(0)).toBe(LABEL_WIDTH);
  });
});

describe('mouths in the lane', () => {
  const lane = (lengths: readonly number[], perFrame: number) => {
    let at = 0;
    const exposures = lengths.map((length, index) => ({
      id: `e${index}`,
      track: 't',
      from: at,
      to: (at += length),
      drawing: 'drop',
      inked: false,
      plays: [],
    }));
    const scale = planBarSheet(sceneOf([], 4), { width: 900 }).systems[0]!.scale;
    return placeMouths(exposures, { from: 0, to: at, scale: { ...scale, x: (frame) => LABEL_WIDTH + frame * perFrame } });
  };

  it('stand alone where there is room, and take turns above and below where there is not', () => {
    expect(lane([8, 2, 2, 2, 8], 13).map((mouth) => mouth.level)).toEqual(['full', 'above', 'below', 'above', 'full']);
  });

  it('never shrink to a dot, and do not cover a neighbour of their level', () => {
    for (const lengths of [
      [1, 1, 1, 1, 1, 1],
      [2, 1, 2, 1, 2],
      [8, 1, 8, 1, 8],
    ]) {
      const placed = lane(lengths, 13);
      placed.forEach((mouth, index) => {
        expect(mouth.size).toBeGreaterThanOrEqual(12);
        expect(mouth.size).toBeLessThanOrEqual(MOUTH_SIZE.full);
        const next = placed.slice(index + 1).find((other) => other.level === mouth.level);
        if (mouth.level !== 'full' && next && mouth.size > 13 && next.size > 13)
          expect(next.centre - mouth.centre).toBeGreaterThanOrEqual((mouth.size + next.size) / 2 - 2);
      });
    }
    expect(Math.min(...lane([2, 2, 2, 2, 2, 2], 13).map((mouth) => mouth.size))).toBeGreaterThan(36);
  });
});

describe('the phrase at a frame', () => {
  const words = [
    { from: 10, to: 20 },
    { from: 20, to: 30 },
    { from: 60, to: 70 },
  ];
  it('is the words around it up to the pauses, with a breath', () => {
    expect(phraseAt(words, 25, 24, 100)).toEqual({ from: 7, to: 33 });
    expect(phraseAt(words, 58, 24, 100)).toEqual({ from: 57, to: 73 });
  });
  it('is the whole scene where nothing is said', () => expect(phraseAt([], 5, 24, 100)).toEqual({ from: 0, to: 100 }));
});
