/** A map fitted to a chart: held against trying everything, and against what anybody would expect. */
import fc from 'fast-check';
import {
  checkMap,
  costOfChoice,
  DEFAULT_SOUND_GROUPS,
  featuresOfDrawing,
  fitChart,
  frequencyOfSound,
  mapChange,
  mapOfChart,
  PHONEMES,
  putMap,
  readMap,
  solveFit,
  STARTER_SIZES,
  starterChart,
  takeFit,
  type ChartDocument,
  type FitCosts,
} from '../index.js';
import { applyPatch, CHART_KIND, checkChart, isRefusal } from '../index.js';
import { countedIds } from '../testing/testPatch.js';

const ids = countedIds('g');

/** Every choice there is. */
function exhaustive(costs: FitCosts): number {
  const [groups, drawings] = [costs.alone.length, costs.alone[0]!.length];
  let best = Infinity;
  const choice = new Array<number>(groups).fill(0);
  const go = (group: number): void => {
    if (group === groups) {
      best = Math.min(best, costOfChoice(costs, choice));
      return;
    }
    for (let drawing = 0; drawing < drawings; drawing++) {
      if (costs.fixed[group] !== undefined && costs.fixed[group] !== drawing) continue;
      choice[group] = drawing;
      go(group + 1);
    }
  };
  go(0);
  return best;
}

const anyCosts = fc
  .tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 4 }))
  .chain(([groups, drawings]) =>
    fc.record({
      alone: fc.array(fc.array(fc.integer({ min: 0, max: 20 }), { minLength: drawings, maxLength: drawings }), {
        minLength: groups,
        maxLength: groups,
      }),
      look: fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: drawings, maxLength: drawings }),
      pairs: fc.array(fc.integer({ min: 0, max: 12 }), { minLength: groups * groups, maxLength: groups * groups }),
      fixed: fc.array(fc.option(fc.integer({ min: 0, max: drawings - 1 }), { nil: undefined, freq: 4 }), {
        minLength: groups,
        maxLength: groups,
      }),
    }),
  )
  .map(({ alone, look, pairs, fixed }): FitCosts => ({
    alone,
    alike: look.map((one, a) => look.map((other, b) => (a === b ? 1 : Math.max(0, 1 - 3 * Math.abs(one - other))))),
    together: alone.map((_, a) => alone.map((__, b) => (a === b ? 0 : pairs[Math.min(a, b) * alone.length + Math.max(a, b)]!))),
    fixed,
  }));

describe('the cheapest choice', () => {
  it('costs what the cheapest of all choices costs, and is one of them', () => {
    fc.assert(
      fc.property(anyCosts, (costs) => {
        const { choice, cost } = solveFit(costs);
        expect(cost).toBeCloseTo(exhaustive(costs), 9);
        expect(costOfChoice(costs, choice)).toBeCloseTo(cost, 9);
        costs.fixed.forEach((drawing, group) => drawing !== undefined && expect(choice[group]).toBe(drawing));
      }),
    );
  });

  it('is never cheaper for a choice that is fixed, and the same twice', () => {
    fc.assert(
      fc.property(anyCosts, fc.nat(), (costs, pick) => {
        const free = { ...costs, fixed: costs.alone.map(() => undefined) };
        expect(solveFit(costs).cost).toBeGreaterThanOrEqual(solveFit(free).cost - 1e-9);
        expect(solveFit(costs)).toEqual(solveFit(costs));
        // Fixing what is chosen anyway changes nothing.
        const { choice, cost } = solveFit(free);
        const group = pick % choice.length;
        expect(solveFit({ ...free, fixed: free.fixed.map((none, at) => (at === group ? choice[group] : none)) }).cost).toBeCloseTo(cost, 9);
      }),
    );
  });
});

const played = (chart: ChartDocument): Record<string, string> =>
  Object.fromEntries(fitChart(chart).choices.map(({ group, drawing }) => [group, drawing]));

describe('a chart fitted', () => {
  it.each([13, 16] as const)('of %d built mouths has each group on its own', (size) => {
    const chart = starterChart('Test', 'brush', size);
    const { choices } = fitChart({ ...chart, drawings: chart.drawings.map((drawing) => ({ ...drawing, groups: [] })) });
    const right = choices.filter(({ group, drawing }) => group === drawing);
    expect(right.length).toBeGreaterThanOrEqual(choices.length - 2);
  });

  it.each(STARTER_SIZES)('of %d mouths shuts the lips for m and opens them for ah', (size) => {
    const chart = starterChart('Test', 'pen', size);
    const { press, drop } = played(chart);
    const opening = (id: string): number =>
      featuresOfDrawing(
        chart.drawings.find((drawing) => drawing.id === id)!,
        chart,
      ).jaw;
    expect(opening(press!)).toBeLessThan(0.15);
    expect(opening(drop!)).toBeGreaterThan(opening(press!) + 0.3);
  });

  it('says in words what is lost, and what one more drawing would help most', () => {
    const three = fitChart(starterChart('Test', 'pen', 3));
    expect(three.losses.join('\n')).toMatch(/share|Nothing shows/);
    expect(three.more!.saves).toBeGreaterThan(0.05);
    const whole = fitChart(starterChart('Test', 'pen', 13));
    expect(whole.losses.length).toBeLessThan(three.losses.length);
    expect(whole.cost).toBeLessThan(three.cost);
  });

  it('finds the drawing that is twice in a chart', () => {
    const chart = starterChart('Test', 'pen', 9);
    const twin = { ...chart.drawings[6]!, id: 'twin', number: 40, place: 40, keycap: '', groups: [] };
    expect(fitChart({ ...chart, drawings: [...chart.drawings, twin] }).idle).toContain('twin');
  });

  it('keeps what a hand chose, and takes the rest', () => {
    const chart = starterChart('Test', 'brush', 6);
    expect(fitChart(chart, new Map([['drop', 'rest']])).choices.find(({ group }) => group === 'drop')!.drawing).toBe('rest');
    const bare = { ...chart, drawings: chart.drawings.map((drawing) => ({ ...drawing, groups: [] })) };
    const patch = takeFit(bare, fitChart(bare).choices, ids);
    if (isRefusal(patch)) throw new Error(patch.refusal);
    const after = applyPatch(CHART_KIND, bare, patch);
    expect(checkChart(after)).toEqual([]);
    for (const { id } of after.groups) expect(after.drawings.filter((drawing) => drawing.groups.includes(id))).toHaveLength(1);
  });

  it('of forty drawings is fitted exactly too', () => {
    const sixteen = starterChart('Test', 'brush', 16);
    const drawings = Array.from({ length: 40 }, (_, index) => ({
      ...sixteen.drawings[index % 16]!,
      id: `d${index}`,
      number: index,
      place: index,
      keycap: '',
    }));
    expect(fitChart({ ...sixteen, drawings }).choices).toHaveLength(16);
  });
});

it('frequencies are shares of all sounds, n and the weak vowel the commonest', () => {
  expect(PHONEMES.reduce((sum, { symbol }) => sum + frequencyOfSound(symbol), 0)).toBeCloseTo(1, 9);
  const sorted = [...PHONEMES].sort((a, b) => frequencyOfSound(b.symbol) - frequencyOfSound(a.symbol)).map(({ symbol }) => symbol);
  expect(sorted.slice(0, 4)).toEqual(['AH', 'IH', 'N', 'T']);
  expect(sorted.at(-1)).toBe('ZH');
});

describe('a map by itself', () => {
  it('goes out and comes in, and is put on a chart of another size', () => {
    const thirteen = starterChart('Thirteen', 'brush', 13);
    const map = readMap(JSON.stringify(mapOfChart(thirteen, 'Ours')));
    if (isRefusal(map)) throw new Error(map.refusal);
    expect(checkMap(map)).toEqual([]);
    for (const size of [3, 9, 16] as const) {
      const chart = starterChart('Other', 'clay', size);
      const patch = putMap(chart, map, (now, fixed) => fitChart(now, fixed).choices, ids);
      const after = isRefusal(patch) ? chart : applyPatch(CHART_KIND, chart, patch);
      expect(checkChart(after)).toEqual([]);
      expect(after.groups.map(({ id }) => id).sort()).toEqual(DEFAULT_SOUND_GROUPS.map(({ id }) => id).sort());
      for (const { id } of after.groups) expect(after.drawings.some((drawing) => drawing.groups.includes(id))).toBe(true);
    }
  });

  it('tells what it would change of a chart', () => {
    const chart = starterChart('Nine', 'clay', 9);
    const sixteen = mapOfChart(starterChart('Sixteen', 'brush', 16), 'Finer');
    const patch = putMap(chart, sixteen, (now, fixed) => fitChart(now, fixed).choices, ids);
    if (isRefusal(patch)) throw new Error(patch.refusal);
    const change = mapChange(chart, applyPatch(CHART_KIND, chart, patch));
    expect(change.fresh).toEqual(['Hiss', 'Tap', 'Loose', 'Curl']);
    expect(change.gone).toEqual(['Teeth']);
    expect(change.moved).toContainEqual({ symbol: 'S', group: 'Hiss' });
    expect(change.moved.map(({ symbol }) => symbol).sort()).toEqual(['AH', 'D', 'ER', 'N', 'R', 'S', 'T', 'Z']);
    expect(change.played.map(({ group }) => group)).toEqual(expect.arrayContaining(['Hiss', 'Tap', 'Loose', 'Curl']));
    expect(mapChange(chart, chart)).toEqual({ moved: [], fresh: [], gone: [], played: [] });
  });

  it('that is none is refused in a sentence', () => {
    expect(readMap('{')).toMatchObject({ refusal: expect.stringContaining('not JSON') });
    expect(readMap('{"name": "x", "groups": []}')).toMatchObject({ refusal: expect.stringContaining('no group “rest”') });
    const map = mapOfChart(starterChart('Test', 'pen'), 'Ours');
    const twice = { ...map, groups: map.groups.map((group) => (group.id === 'bite' ? { ...group, phonemes: ['F', 'V', 'M'] } : group)) };
    expect(checkMap(twice).join()).toContain('M is in two groups');
    fc.assert(fc.property(fc.anything(), (value) => void checkMap(value)));
  });
});
