/** The plan against all plans there are, and against the obvious rule. */
import fc from 'fast-check';
import {
  greedyPlan,
  holdOf,
  ONES_FOR,
  PHONEMES,
  planCost,
  planTrack,
  solvePlan,
  starterChart,
  startsOf,
  type ChartDocument,
  type KeyingJob,
  type Plan,
  type PlanJob,
  type SceneSound,
} from '../index.js';

const chart = starterChart('Test', 'brush');
const few: ChartDocument = {
  ...chart,
  drawings: chart.drawings.filter(({ id }) => ['rest', 'press', 'mid', 'drop', 'pucker'].includes(id)),
};
const symbols = PHONEMES.map((phoneme) => phoneme.symbol);

/** A handful of sounds in half a second, some of them closures. */
const smallJob = fc
  .record({
    sounds: fc.array(
      fc.tuple(
        fc.oneof(fc.nat(symbols.length - 1), fc.constantFrom(...['M', 'P', 'F', 'V'].map((symbol) => symbols.indexOf(symbol as never)))),
        fc.integer({ min: 960, max: 9000 }),
        fc.integer({ min: 0, max: 12_000 }),
      ),
      { minLength: 1, maxLength: 4 },
    ),
    start: fc.integer({ min: 0, max: 4000 }),
    fps: fc.constantFrom(8, 12, 24),
    holdFrames: fc.integer({ min: 1, max: 3 }),
    leadFrames: fc.integer({ min: 0, max: 2 }),
    strict: fc.boolean(),
    calm: fc.constantFrom(0, 0.3, 0.8),
    onesFor: fc.constantFrom(...ONES_FOR),
    own: fc.constantFrom(chart, few),
    length: fc.integer({ min: 3, max: 12 }),
    ink: fc.option(fc.nat(11), { nil: undefined }),
    phrase: fc.option(
      fc.record({
        leadFrames: fc.integer({ min: 0, max: 2 }),
        holdFrames: fc.integer({ min: 1, max: 4 }),
        strict: fc.boolean(),
        calm: fc.constantFrom(0, 0.8),
      }),
      { nil: undefined },
    ),
  })
  .map(({ sounds: parts, start, fps, own, length, ink, phrase, ...rules }): KeyingJob => {
    let at = start;
    const sounds = parts.map(([symbol, long, pause], index): SceneSound => {
      const from = at + (pause < 9000 ? 0 : pause);
      at = from + long;
      return { symbol: symbols[symbol]!, from, to: at, stress: index % 2 ? 1 : 0 };
    });
    return {
      sounds,
      frameRate: { num: fps, den: 1 },
      lengthFrames: length,
      chart: own,
      rules,
      phrases: phrase ? [{ from: start + 4000, to: start + 15_000, rules: phrase }] : [],
      ink: ink === undefined || ink >= length ? [] : [{ from: ink, to: ink + 1, drawing: 'drop' }],
    };
  });

/** Every plan there is: any shapes in order, each from any of its starts. */
function* allPlans(job: PlanJob, from = 0, shown: number[] = [], starts: number[] = []): Generator<Plan> {
  if (shown.length > 0) yield { shown, starts };
  for (let index = from; index < job.shapes.length; index++) {
    for (const start of startsOf(job, index)) {
      if (shown.length === 0 ? start !== job.from : start <= starts.at(-1)!) continue;
      yield* allPlans(job, index + 1, [...shown, index], [...starts, start]);
    }
  }
}

describe('a plan', () => {
  it('costs what the cheapest of all plans costs', () => {
    fc.assert(
      fc.property(smallJob, (keying) => {
        for (const { job, plan } of planTrack(keying).stretches) {
          fc.pre(job.shapes.length <= 6);
          let least = Infinity;
          for (const other of allPlans(job)) least = Math.min(least, planCost(job, other));
          expect(planCost(job, plan)).toBeCloseTo(least, 9);
        }
      }),
      { numRuns: 250 },
    );
  });

  it('never costs more than the obvious rule', () => {
    let compared = 0;
    fc.assert(
      fc.property(smallJob, (keying) => {
        for (const { job, plan } of planTrack(keying).stretches) {
          const obvious = greedyPlan(job);
          const within = obvious.starts.every((start, at) => startsOf(job, obvious.shown[at]!).includes(start));
          if (!within || planCost(job, obvious) === Infinity) continue;
          compared += 1;
          expect(planCost(job, plan)).toBeLessThanOrEqual(planCost(job, obvious) + 1e-9);
        }
      }),
    );
    expect(compared).toBeGreaterThan(50);
  });

  it('holds every drawing, and changes only with the body when strict', () => {
    fc.assert(
      fc.property(smallJob, (keying) => {
        for (const { job, plan } of planTrack(keying).stretches) {
          plan.shown.forEach((index, at) => {
            const [start, end] = [plan.starts[at]!, plan.starts[at + 1] ?? job.to];
            expect(end - start).toBeGreaterThanOrEqual(holdOf(job, index));
            if (job.grid[index] === 1 && at > 0) expect(start % job.holds[index]!).toBe(0);
          });
        }
      }),
    );
  });

  it('is the same twice', () => {
    fc.assert(
      fc.property(smallJob, (keying) => {
        for (const { job, plan } of planTrack(keying).stretches) expect(solvePlan(job)).toEqual(plan);
      }),
    );
  });

  it('changes less often the calmer it is', () => {
    const line: SceneSound[] = ['M', 'AY', 'T', 'AY', 'D', 'S', 'UW', 'N', 'B', 'IY', 'K', 'AA'].map((symbol, index) => ({
      symbol,
      stress: 1,
      from: index * 3600 + 4800,
      to: (index + 1) * 3600 + 4800,
    }));
    const changes = [0, 0.3, 0.6, 1].map((calm) => {
      const { stretches } = planTrack({
        sounds: line,
        frameRate: { num: 24, den: 1 },
        lengthFrames: 30,
        chart,
        rules: { leadFrames: 1, holdFrames: 1, strict: false, calm },
      });
      return stretches[0]!.plan.shown.length;
    });
    expect([...changes].sort((a, b) => b - a)).toEqual(changes);
    expect(changes[0]).toBeGreaterThan(changes[3]!);
  });
});
