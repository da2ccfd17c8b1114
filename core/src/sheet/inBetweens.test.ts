/** In-betweens, pushes and smears put by hand. */
import fc from 'fast-check';
import {
  checkScene,
  drawingsUsed,
  eased,
  EASES,
  exposuresOfTrack,
  keyListCsv,
  keysOf,
  looksOfFrames,
  madeOf,
  maybeDrawing,
  measureLook,
  pushMouths,
  putInBetween,
  putInBetweens,
  replaceDrawing,
  setShare,
  smearMouth,
  starterChart,
  stepDrawing,
  switchChart,
  weightsOf,
  type Between,
  type ChartDocument,
  type Exposure,
  type Patch,
  type Refusal,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const track = 'mouth1';

/** A lane as `drawing from`, held to the end. */
function sceneOf(text: string, length = 24): SceneDocument {
  const parts = text.split(', ').map((part) => part.split(' ') as [string, string]);
  const exposures = parts.map(([drawing, from], index): Exposure => {
    const to = Number(parts[index + 1]?.[1] ?? length);
    return { id: `e${index}`, track, from: Number(from), to, drawing, inked: false, plays: [] };
  });
  return { ...emptyScene(length), exposures };
}
const laneOf = (scene: SceneDocument): string =>
  exposuresOfTrack(scene, track)
    .map(({ from, drawing }) => `${drawing} ${from}`)
    .join(', ');
const patchOf = (made: Between | Patch | Refusal): Patch | Refusal => ('patch' in made ? made.patch : made);
const applied = (scene: SceneDocument, made: Between | Patch | Refusal): SceneDocument => testPatch(scene, patchOf(made));
const ids = countedIds('b');

describe('in-betweens over a stretch', () => {
  it('go from the first mouth to the last, one a hold, and leave the rest of the lane as it is', () => {
    const scene = sceneOf('rest 0, drop 12, press 18');
    const after = applied(scene, putInBetweens(scene, { track, from: 4, to: 14, ease: 'even', hold: 2 }, TEST_CHART, ids));
    expect(laneOf(after)).toBe('rest 0, rest 4, mix(rest,drop,0.25) 6, mix(rest,drop,0.5) 8, mix(rest,drop,0.75) 10, drop 12, press 18');
    expect(checkScene(after, TEST_CHARTS)).toEqual([]);
  });

  it('as many as are asked for, where there is room; what lies between gives way', () => {
    const scene = sceneOf('rest 0, press 6, mid 8, drop 12');
    const some = (count: number): Between | Refusal =>
      putInBetweens(scene, { track, from: 0, to: 13, ease: 'even', hold: 1, count }, TEST_CHART, ids);
    expect(laneOf(applied(scene, some(2)))).toBe('rest 0, mix(rest,drop,0.333) 1, mix(rest,drop,0.667) 7, drop 12');
    expect(some(12)).toEqual({ refusal: 'There is room for 11 here, not for 12. Select more frames, or ask for fewer in-betweens.' });
  });

  it('ease as they are told: none leaves the way, slow in and slow out mirror each other', () => {
    fc.assert(
      fc.property(fc.constantFrom(...EASES), fc.double({ min: 0, max: 1, noNaN: true }), (ease, time) => {
        expect(eased(ease, time)).toBeGreaterThanOrEqual(0);
        expect(eased(ease, time)).toBeLessThanOrEqual(1);
        expect(eased('slow in', time)).toBeCloseTo(1 - eased('slow out', 1 - time));
        expect(eased('both', time)).toBeCloseTo(1 - eased('both', 1 - time));
      }),
    );
    for (const ease of EASES) expect([eased(ease, 0), eased(ease, 1)]).toEqual([0, 1]);
    expect(eased('slow in', 0.5)).toBeGreaterThan(0.5);
  });

  it('of one mouth, or where none is, are refused in words', () => {
    const scene = sceneOf('rest 0, drop 12');
    expect(putInBetweens(scene, { track, from: 0, to: 6, ease: 'even', hold: 1 }, TEST_CHART, ids)).toEqual({
      refusal: expect.stringMatching(/between two mouths/),
    });
  });
});

describe('one in-between', () => {
  it('lies from the playhead to the next mouth; at the first frame, in the last hold', () => {
    const scene = sceneOf('rest 0, drop 12');
    const put = (frame: number): SceneDocument =>
      applied(scene, putInBetween(scene, { track, frame, share: 0.5, hold: 2 }, TEST_CHART, ids));
    expect(laneOf(put(11))).toBe('rest 0, mix(rest,drop,0.5) 11, drop 12');
    expect(laneOf(put(0))).toBe('rest 0, mix(rest,drop,0.5) 10, drop 12');
    const other = put(11);
    expect(laneOf(applied(other, setShare(other, { track, frame: 11, share: 0.8 }, ids)))).toBe('rest 0, mix(rest,drop,0.8) 11, drop 12');
    expect(setShare(other, { track, frame: 3, share: 0.8 }, ids)).toEqual({ refusal: expect.stringMatching(/no in-between/) });
    expect(setShare(other, { track, frame: 11, share: 1 }, ids)).toHaveProperty('refusal');
  });

  it('of mouths that cannot be mixed is the drawing nearest between them, and that is said', () => {
    const drawings = TEST_CHART.drawings.map((one) =>
      one.id === 'drop' ? { ...one, art: { kind: 'drawn' as const, marks: [] }, placement: { x: 0, y: 0, scale: 1 } } : one,
    );
    const marks = [{ id: 'm', kind: 'fill' as const, rings: [[-30, 0, 30, 0, 30, 60, -30, 60]], colour: '#302030' }];
    const chart: ChartDocument = {
      ...TEST_CHART,
      drawings: drawings.map((one) => (one.id === 'drop' ? { ...one, art: { kind: 'drawn', marks } } : one)),
    };
    const scene = sceneOf('rest 0, drop 12');
    const made = putInBetween(scene, { track, frame: 11, share: 0.5, hold: 1 }, chart, ids);
    expect(made).toMatchObject({ instead: expect.stringMatching(/built and the other is drawn.*nearest between them/) });
    const [, between] = exposuresOfTrack(applied(scene, made), track);
    const [low, middle, high] = ['rest', between!.drawing, 'drop'].map((id) => measureLook(maybeDrawing(chart, id)!).opening);
    expect(middle).toBeGreaterThan(low!);
    expect(middle).toBeLessThan(high!);
    const two: ChartDocument = { ...chart, drawings: chart.drawings.filter(({ id }) => id === 'rest' || id === 'drop') };
    expect(putInBetween(scene, { track, frame: 11, share: 0.5, hold: 1 }, two, ids)).toEqual({
      refusal: expect.stringMatching(/No drawing of this chart lies between “Rest” and “Drop” either/),
    });
  });

  it('needs a frame to spare, and a mouth to go to', () => {
    const scene = sceneOf('rest 0, drop 1');
    const at = (frame: number): Between | Refusal => putInBetween(scene, { track, frame, share: 0.5, hold: 1 }, TEST_CHART, ids);
    expect(at(0)).toEqual({ refusal: expect.stringMatching(/none to spare/) });
    expect(at(5)).toEqual({ refusal: expect.stringMatching(/No mouth follows/) });
  });
});

describe('a push and a smear', () => {
  it('a push is of these frames only, and goes again', () => {
    const scene = sceneOf('rest 0, drop 6, press 12');
    const pushed = applied(scene, pushMouths(scene, { track, from: 8, to: 10, push: { width: 1.2, height: 0.9, angle: 5 } }, ids));
    expect(laneOf(pushed)).toBe('rest 0, drop 6, push(drop,1.2,0.9,5) 8, drop 10, press 12');
    const plain = applied(pushed, pushMouths(pushed, { track, from: 8, to: 10, push: { width: 1, height: 1, angle: 0 } }, ids));
    expect(laneOf(plain)).toBe('rest 0, drop 6, drop 8, drop 10, press 12');
    expect(pushMouths(scene, { track, from: 8, to: 10, push: { width: 9, height: 1, angle: 0 } }, ids)).toHaveProperty('refusal');
  });

  it('a smear is one frame of the mouth that comes, stretched along what changes', () => {
    const scene = sceneOf('rest 0, drop 6, press 12');
    const smeared = applied(scene, smearMouth(scene, { track, frame: 6 }, TEST_CHART, ids));
    expect(laneOf(smeared)).toBe('rest 0, push(mix(rest,drop,0.5),0.88,1.3,0) 6, drop 7, press 12');
    // Later than its middle it is the smear into the next.
    expect(laneOf(applied(scene, smearMouth(scene, { track, frame: 11 }, TEST_CHART, ids)))).toMatch(/drop 6, push\(mix\(drop,press/);
    expect(smearMouth(scene, { track, frame: 0 }, TEST_CHART, ids)).toHaveProperty('refusal');
  });
});

describe('what is made of drawings of the chart', () => {
  const scene = sceneOf('rest 0, mix(rest,drop,0.25) 4, push(drop,1.2,1,0) 8, press 12');

  it('keeps those drawings in use, and follows where another takes the place of one', () => {
    expect([...drawingsUsed(scene, 'chart')].sort()).toEqual(['drop', 'press', 'rest']);
    expect(laneOf(applied(scene, replaceDrawing(scene, 'chart', 'drop', 'ring', ids)))).toBe(
      'rest 0, mix(rest,ring,0.25) 4, push(ring,1.2,1,0) 8, press 12',
    );
  });

  it('is made of the counterparts where the head turns to another chart', () => {
    const side = starterChart('Side', 'paper');
    const other: ChartDocument = { ...side, drawings: side.drawings.map((one) => ({ ...one, id: `side-${one.id}` })) };
    const charts = new Map([...TEST_CHARTS, ['side', other]]);
    const patch = switchChart(scene, { track, frame: 2, chartId: 'side' }, charts, ids);
    const turned = testPatch(scene, patch, charts);
    expect(laneOf(turned)).toBe('rest 0, side-rest 2, mix(side-rest,side-drop,0.25) 4, push(side-drop,1.2,1,0) 8, side-press 12');
  });

  it('steps on in the tray from the first of its two', () => {
    const stepped = applied(scene, stepDrawing(scene, { track, from: 4, to: 8, by: 0 }, TEST_CHART, ids));
    expect(laneOf(stepped)).toBe('rest 0, rest 4, push(drop,1.2,1,0) 8, press 12');
  });

  it('is written as both numbers and the share, and is a share of two weights', () => {
    const looks = looksOfFrames(scene, track, TEST_CHARTS);
    const options = { counting: { unit: 'frames', first: 1 } as never, numbers: 'own' as const, everyFrame: false, guards: false };
    const number = (id: string): number => maybeDrawing(TEST_CHART, id)!.number;
    const [rest, drop, press] = ['rest', 'drop', 'press'].map(number) as [number, number, number];
    const keys = keysOf(scene, looks, TEST_CHARTS, options);
    expect(keys.map((key) => key.number)).toEqual([rest, `${rest}→${drop} ¼`, `${drop}*`, press]);
    expect(keyListCsv(keys, options)).toContain(`${rest}→${drop} ¼,Rest to Drop ¼`);
    const { drawings, values } = weightsOf(looks, TEST_CHARTS, 1);
    const row = (frame: number): Record<string, number> =>
      Object.fromEntries(drawings.map(({ id }, at) => [id, values[frame * drawings.length + at]!]).filter(([, value]) => value !== 0));
    expect(row(5)).toEqual({ rest: 0.75, drop: 0.25 });
    expect(row(9)).toEqual({ drop: 1 });
  });

  it('of a drawing that the chart no longer has is a fault of the scene', () => {
    const without = new Map([['chart', { ...TEST_CHART, drawings: TEST_CHART.drawings.filter(({ id }) => id !== 'drop') }]]);
    expect(checkScene(scene, without).join(' ')).toMatch(/mix\(rest,drop,0\.25\), which is not in its chart/);
    expect(madeOf('mix(rest,drop,0.25)').mix).toEqual({ a: 'rest', b: 'drop', share: 0.25 });
  });
});
