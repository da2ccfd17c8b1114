/** One pencil made into another: exactly that, with the ids kept, and in few operations where much only moves. */
import fc from 'fast-check';
import {
  applyPatch,
  invertPatch,
  isRefusal,
  keyPencil,
  pencilKeyed,
  restDrawing,
  SCENE_KIND,
  slideClip,
  takeReading,
  withPencilKeyed,
  type Exposure,
  type SceneDocument,
} from '../index.js';
import { exchangedPencil, type Held } from './exchangePencil.js';
import { countedIds, emptyScene, readingOf, TEST_CHART, TEST_CHARTS } from '../testing/testPatch.js';

const REST = restDrawing(TEST_CHART).id;
const DRAWINGS = TEST_CHART.drawings.map((drawing) => drawing.id);

/** Frames filled from 0 to `length`: what is given, at rest between. */
function filled(parts: readonly Held[], length: number): Held[] {
  const all: Held[] = [];
  let at = 0;
  const rest = (to: number): void => {
    if (to > at) all.push({ from: at, to, drawing: REST, plays: [] });
  };
  for (const part of parts) {
    rest(part.from);
    all.push(part);
    at = part.to;
  }
  rest(length);
  return all;
}

const sceneOf = (held: readonly Held[], inked: readonly boolean[] = []): SceneDocument => {
  const scene = emptyScene(Math.max(...held.map(({ to }) => to)));
  const exposures = held.map((one, index): Exposure => ({
    ...one,
    id: `e${index}`,
    track: scene.tracks[0]!.id,
    inked: inked[index] ?? false,
  }));
  return { ...scene, exposures };
};

const heldOf = (scene: SceneDocument): Held[] => scene.exposures.map(({ from, to, drawing, plays }) => ({ from, to, drawing, plays }));

/** Mouths one after the other, each with a sound of its own, with gaps between. */
const anyLine = fc.array(
  fc.record({ gap: fc.integer({ min: 0, max: 4 }), hold: fc.integer({ min: 1, max: 4 }), drawing: fc.nat(DRAWINGS.length - 1) }),
  {
    minLength: 1,
    maxLength: 60,
  },
);

function lineOf(mouths: readonly { gap: number; hold: number; drawing: number }[], start: number, by = (_: number): number => 0): Held[] {
  let at = start;
  return mouths.map(({ gap, hold, drawing }, index) => {
    const from = at + gap;
    at = from + hold;
    return { from: from + by(index), to: at + by(index), drawing: DRAWINGS[drawing]!, plays: [`s${index}`] };
  });
}

it('gives exactly the pencil that is wanted, and can be taken back, whatever moves', () => {
  fc.assert(
    fc.property(
      anyLine,
      fc.integer({ min: -30, max: 30 }),
      fc.nat(60),
      fc.array(fc.nat(59), { maxLength: 5 }),
      (mouths, by, split, changed) => {
        const length = 40 + mouths.reduce((sum, { gap, hold }) => sum + gap + hold, 0) + 40;
        // What lies before the split stays where that leaves it room; the rest moves.
        const stays = by > 0 ? split : 0;
        const before = filled(lineOf(mouths, 35), length);
        const moved = lineOf(mouths, 35, (index) => (index >= stays ? by : 0)).map((held, index) =>
          changed.includes(index) ? { ...held, drawing: REST } : held,
        );
        const scene = sceneOf(before);
        const wanted = filled(moved, length);
        const track = scene.tracks[0]!.id;
        const ops = exchangedPencil(scene, { track, current: scene.exposures, fresh: wanted, isWhole: true }, countedIds('n'));
        const patch = { id: 'p', reason: 'pencil.key', ops } as const;
        const after = applyPatch(SCENE_KIND, scene, patch);
        expect(heldOf(after)).toEqual(wanted);
        expect(new Set(after.exposures.map(({ id }) => id)).size).toBe(after.exposures.length);
        expect(applyPatch(SCENE_KIND, after, invertPatch(patch, 'back'))).toEqual(scene);
      },
    ),
  );
});

it.each([7, -7])('moves two hundred mouths by %i frames in a handful of operations, each with its id', (by) => {
  const mouths = Array.from({ length: 200 }, (_, index) => ({
    gap: index % 9 === 0 ? 3 : 0,
    hold: 2,
    drawing: (index * 5) % DRAWINGS.length,
  }));
  const scene = sceneOf(filled(lineOf(mouths, 20), 600));
  const wanted = filled(lineOf(mouths, 20 + by), 600);
  const track = scene.tracks[0]!.id;
  const ops = exchangedPencil(scene, { track, current: scene.exposures, fresh: wanted, isWhole: true }, countedIds('n'));
  expect(ops.length).toBeLessThan(8);
  const after = applyPatch(SCENE_KIND, scene, { id: 'p', reason: 'pencil.key', ops });
  expect(heldOf(after)).toEqual(wanted);
  const idOf = (from: SceneDocument, sound: string): string => from.exposures.find(({ plays }) => plays.includes(sound))!.id;
  for (const index of [0, 50, 199]) expect(idOf(after, `s${index}`)).toBe(idOf(scene, `s${index}`));
});

it('never moves ink: runs beside it move without it', () => {
  const mouths = Array.from({ length: 60 }, () => ({ gap: 0, hold: 2, drawing: 3 }));
  const line = lineOf(mouths, 10);
  const held = filled(
    [
      ...line.slice(0, 30),
      { from: 90, to: 93, drawing: DRAWINGS[5]!, plays: [] },
      ...lineOf(mouths.slice(30), 100).map((one, index) => ({ ...one, plays: [`t${index}`] })),
    ],
    200,
  );
  const inked = held.map(({ from }) => from === 90);
  const scene = sceneOf(held, inked);
  const pencil = scene.exposures.filter((exposure) => !exposure.inked);
  const moved = held.filter((_, index) => !inked[index]);
  const wanted = moved.map((one) => (one.plays.length > 0 && one.from < 90 ? { ...one, from: one.from + 4, to: one.to + 4 } : one));
  const fixed = wanted.map((one) => {
    if (one.plays.length > 0 || one.from > 70) return one;
    return one.from === 0 ? { ...one, to: 14 } : { ...one, from: 74 };
  });
  const track = scene.tracks[0]!.id;
  const ops = exchangedPencil(scene, { track, current: pencil, fresh: fixed, isWhole: true }, countedIds('n'));
  const after = applyPatch(SCENE_KIND, scene, { id: 'p', reason: 'pencil.key', ops });
  expect(after.exposures.find((exposure) => exposure.inked)).toEqual(scene.exposures.find((exposure) => exposure.inked));
  expect(heldOf(after).filter(({ from }) => from !== 90)).toEqual(fixed);
  expect(ops.length).toBeLessThan(8);
});

it('a clip of many sounds that is slid is a small patch, and the same pencil as keyed from nothing', () => {
  const symbols = Array.from({ length: 400 }, (_, index) => ['HH', 'AE', 'M', 'IY', 'S', 'OW', 'P', 'UW', 'F', 'AA'][(index * 7) % 10]!);
  const lengthFrames = 1000;
  const empty = emptyScene(lengthFrames);
  const clip = { ...empty.clips[0]!, toSample: 900 * 2000 };
  const short = { ...empty, clips: [clip] };
  const reading = takeReading(short, 'clip1', readingOf(symbols, 4300, 900 * 2000, 9000), countedIds('r'));
  if (isRefusal(reading)) throw new Error(reading.refusal);
  const read = applyPatch(SCENE_KIND, short, reading);
  const keyed = applyPatch(SCENE_KIND, read, pencilKeyed(read, TEST_CHARTS, countedIds('k')));
  const slid = withPencilKeyed(keyed, slideClip(keyed, 'clip1', 12, countedIds('c')), TEST_CHARTS, countedIds('m'));
  if (isRefusal(slid)) throw new Error(slid.refusal);
  expect(keyed.exposures.length).toBeGreaterThan(200);
  expect(slid.ops.length).toBeLessThan(30);
  const after = applyPatch(SCENE_KIND, keyed, slid);
  const bare = { ...after, exposures: [{ ...after.exposures[0]!, from: 0, to: lengthFrames, drawing: REST, plays: [] }] };
  const again = keyPencil(bare, after.tracks[0]!.id, TEST_CHARTS, countedIds('x'));
  if (isRefusal(again)) throw new Error(again.refusal);
  expect(heldOf(after)).toEqual(heldOf(applyPatch(SCENE_KIND, bare, again.patch)));
  expect(applyPatch(SCENE_KIND, after, invertPatch(slid, 'back'))).toEqual(keyed);
});
