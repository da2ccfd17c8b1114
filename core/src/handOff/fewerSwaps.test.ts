/** Fewer swaps: never more lost than must be, lips that meet and ink kept, the whole as one step. */
import fc from 'fast-check';
import {
  lookOfChart,
  looksOfFrames,
  pullListOf,
  sceneOfKeyed,
  starterChart,
  swapPlansOf,
  takeSwapPlan,
  type Exposure,
  type SceneDocument,
  type SwapPlan,
} from '../index.js';
import { testPatch } from '../testing/testPatch.js';

const chart = starterChart('Test', 'clay');
const TRACK = 'mouth1';
let count = 0;
const newId = (): string => `new${(count += 1)}`;

function sceneOf(exposures: readonly { from: number; to: number; drawing: string; inked?: boolean }[]): SceneDocument {
  const length = exposures.at(-1)!.to;
  const scene = sceneOfKeyed({ frameRate: { num: 24, den: 1 }, length, exposures }, 1);
  const inked = new Map(exposures.map(({ from, inked: own = false }) => [from, own]));
  return { ...scene, exposures: scene.exposures.map((one: Exposure) => ({ ...one, inked: inked.get(one.from)! })) };
}
const chartsOf = (scene: SceneDocument) => new Map([[scene.tracks[0]!.chartId, chart]]);
const plansOf = (scene: SceneDocument): SwapPlan[] => swapPlansOf(scene, TRACK, chartsOf(scene));
/** Mouths as drawings a frame. */
const shownIn = (plan: SwapPlan): (string | null)[] =>
  plan.spans.flatMap(({ from, to, drawing }) => Array.from({ length: to - from }, () => drawing));

const LINE = ['rest', 'press', 'drop', 'mid', 'spread', 'ring', 'press', 'mid', 'drop', 'rest'].map((drawing, index) => ({
  from: 3 * index,
  to: 3 * index + 3,
  drawing,
}));

it('goes from what is keyed down, each plan with fewer swaps and more lost', () => {
  const plans = plansOf(sceneOf(LINE));
  expect(plans[0]).toMatchObject({ swaps: 9, lost: 0, otherFrames: 0 });
  expect(plans.length).toBeGreaterThan(2);
  plans.slice(1).forEach((plan, index) => {
    expect(plan.swaps).toBeLessThan(plans[index]!.swaps);
    expect(plan.lost).toBeGreaterThan(plans[index]!.lost);
  });
  // What is lost a swap grows: those that cost least go first.
  const prices = plans.slice(1).map((plan, index) => (plan.lost - plans[index]!.lost) / (plans[index]!.swaps - plan.swaps));
  prices.slice(1).forEach((price, index) => expect(price).toBeGreaterThan(prices[index]! - 1e-9));
});

const DRAWINGS = chart.drawings.map(({ id }) => id);
const isMust = (id: string): boolean =>
  chart.drawings.find((drawing) => drawing.id === id)!.groups.some((group) => chart.groups.find((one) => one.id === group)!.must);
const anyLane = fc
  .array(fc.record({ length: fc.integer({ min: 1, max: 5 }), drawing: fc.constantFrom(...DRAWINGS), inked: fc.boolean() }), {
    minLength: 1,
    maxLength: 12,
  })
  .map((parts) => {
    let at = 0;
    return sceneOf(parts.map(({ length, drawing, inked }) => ({ from: at, to: (at += length), drawing, inked: inked && length > 3 })));
  });

it('never loses lips that meet or what is inked, whatever the lane', () => {
  fc.assert(
    fc.property(anyLane, (scene) => {
      const [keyed, ...fewer] = plansOf(scene);
      const asKeyed = shownIn(keyed!);
      for (const plan of fewer) {
        const shown = shownIn(plan);
        expect(shown).toHaveLength(asKeyed.length);
        for (const { from, to, drawing, inked } of scene.exposures)
          for (let frame = from; frame < to; frame++) if (inked || isMust(drawing)) expect(shown[frame]).toBe(drawing);
        expect(shown.filter((drawing, frame) => drawing !== asKeyed[frame])).toHaveLength(plan.otherFrames);
        expect(new Set(shown.filter((drawing) => !asKeyed.includes(drawing))).size).toBe(0);
      }
    }),
  );
});

/** The least that is lost with so many swaps or fewer, by trying every cut of the lane and every mouth of each run. */
function leastByTrying({ spans }: SwapPlan, swaps: number): number {
  const look = lookOfChart(chart);
  const lostOf = ({ from, to, drawing }: SwapPlan['spans'][number], seen: string): number => {
    if (seen === drawing) return 0;
    if (isMust(drawing!)) return Infinity;
    const { groups } = chart.drawings.find(({ id }) => id === drawing)!;
    return (to - from) * Math.min(...groups.map((group) => look.lost(group, seen)));
  };
  let least = Infinity;
  const walk = (at: number, shown: string | undefined, left: number, sum: number): void => {
    if (left < 0 || sum >= least) return;
    if (at === spans.length) least = sum;
    for (let end = at + 1; end <= spans.length; end++) {
      const run = spans.slice(at, end);
      for (const { drawing } of run) {
        const lost = run.reduce((total, span) => total + lostOf(span, drawing!), 0);
        walk(end, drawing!, left - (shown === undefined || shown === drawing ? 0 : 1), sum + lost);
      }
    }
  };
  walk(0, undefined, swaps, 0);
  return least;
}

it('is the cheapest there is for so many swaps, as trying every way says', () => {
  let tried = 0;
  fc.assert(
    fc.property(anyLane, (scene) => {
      const bare = { ...scene, exposures: scene.exposures.slice(0, 7).map((one) => ({ ...one, inked: false })) };
      const { to } = bare.exposures.at(-1)!;
      const short = { ...bare, settings: bare.settings.map((one) => ({ ...one, lengthFrames: to })) };
      const [keyed, ...fewer] = plansOf(short);
      for (const plan of fewer) {
        expect(plan.lost).toBeCloseTo(leastByTrying(keyed!, plan.swaps), 9);
        tried += 1;
      }
    }),
    { numRuns: 60 },
  );
  expect(tried).toBeGreaterThan(40);
});

it('is laid into the lane in ink as one step that can be taken back, and nothing else is touched', () => {
  const scene = sceneOf(LINE);
  const charts = chartsOf(scene);
  const plan = plansOf(scene).at(-1)!;
  const after = testPatch(scene, takeSwapPlan(scene, TRACK, plan, charts, newId));
  expect(pullListOf(looksOfFrames(after, TRACK, charts), charts, 1).swaps).toBe(plan.swaps);
  const frames = looksOfFrames(after, TRACK, charts).map((look) => look?.drawing ?? null);
  expect(frames).toEqual(shownIn(plan));
  const untouched = after.exposures.filter(({ inked }) => !inked);
  expect(untouched.length).toBeGreaterThan(0);
  for (const one of untouched) expect(scene.exposures).toContainEqual(one);
  // The plan of what was taken is the lane as it is.
  expect(plansOf(after)[0]!.swaps).toBe(plan.swaps);
});

it('says so where there is nothing to leave out, and of a lane as it is', () => {
  const scene = sceneOf(LINE);
  expect(takeSwapPlan(scene, TRACK, plansOf(scene)[0]!, chartsOf(scene), newId)).toEqual({
    refusal: 'This is the lane as it is. Move the slider to leave swaps out.',
  });
  expect(plansOf(sceneOf([{ from: 0, to: 9, drawing: 'rest' }]))).toHaveLength(1);
});

it('leaves gaps and what is on another chart alone', () => {
  const scene = sceneOf(LINE);
  const gap = { ...scene, exposures: scene.exposures.filter(({ from }) => from !== 12) };
  for (const plan of plansOf(gap)) expect(shownIn(plan).slice(12, 15)).toEqual([null, null, null]);
  const turned = { ...scene, views: [{ id: 'turn', track: TRACK, from: 15, chartId: 'side' }] };
  const charts = new Map([...chartsOf(scene), ['side', chart] as const]);
  for (const plan of swapPlansOf(turned, TRACK, charts)) expect(plan.spans.some(({ from, to }) => from < 15 && to > 15)).toBe(false);
});
