/**
 * The cheapest choice of one drawing for each group, drawings shared where that is cheapest: exactly, by branch and
 * bound. A partial choice is given up when what it costs, with the least that each group still to be chosen must
 * cost beside those chosen, is no less than the best whole one; what two groups that are both still to be chosen
 * would cost each other is left out of that, so nothing better is ever given up. The groups that cost most are chosen
 * first. `fitChart.test.ts` holds it against trying everything.
 */

export interface FitCosts {
  /** By group and drawing: what it costs that the drawing plays the group. */
  readonly alone: readonly (readonly number[])[];
  /** By group and group: what it costs that they look alike. Symmetric. */
  readonly together: readonly (readonly number[])[];
  /** By drawing and drawing: how alike the two look, 1 for the same: what two groups on them lose of `together`. Symmetric. */
  readonly alike: readonly (readonly number[])[];
  /** By group: the drawing it must have; undefined where any may be chosen. */
  readonly fixed: readonly (number | undefined)[];
}

export interface SolvedFit {
  /** By group: the drawing chosen. */
  readonly choice: readonly number[];
  readonly cost: number;
}

/** What a whole choice costs. */
export function costOfChoice({ alone, together, alike }: FitCosts, choice: readonly number[]): number {
  let cost = 0;
  for (let group = 0; group < choice.length; group++) {
    cost += alone[group]![choice[group]!]!;
    for (let other = 0; other < group; other++) cost += together[group]![other]! * alike[choice[group]!]![choice[other]!]!;
  }
  return cost;
}

/** @returns the cheapest choice; of two that cost the same the one with the earlier drawings */
export function solveFit(costs: FitCosts): SolvedFit {
  const { alone, together, alike, fixed } = costs;
  const groups = alone.length;
  const drawings = alone[0]?.length ?? 0;
  const spread = (row: readonly number[]): number => Math.max(...row) - Math.min(...row);
  // What has no choice comes first, then what the choice matters most for.
  const order = alone
    .map((row, group) => ({ group, rank: fixed[group] === undefined ? spread(row) : Infinity }))
    .sort((a, b) => b.rank - a.rank || a.group - b.group)
    .map(({ group }) => group);
  /** By group and drawing: its own cost with what the groups chosen so far add. */
  const now = alone.map((row) => [...row]);
  const choice = new Array<number>(groups).fill(0);
  let best: SolvedFit = { choice: [], cost: Infinity };
  /** What a choice adds to those still to be made, or takes away again. */
  const near = alike.map((row) => row.flatMap((share, drawing) => (share > 0 ? [{ drawing, share }] : [])));
  const add = (depth: number, group: number, drawing: number, sign: 1 | -1): void => {
    for (let later = depth + 1; later < groups; later++) {
      const other = order[later]!;
      for (const { drawing: beside, share } of near[drawing]!) now[other]![beside]! += sign * together[group]![other]! * share;
    }
  };
  const leastFrom = (depth: number): number => {
    let least = 0;
    for (let index = depth; index < groups; index++) {
      const group = order[index]!;
      least += fixed[group] === undefined ? Math.min(...now[group]!) : now[group]![fixed[group]]!;
    }
    return least;
  };
  const choose = (depth: number, cost: number): void => {
    if (depth === groups) {
      if (cost < best.cost - 1e-12) best = { choice: [...choice], cost };
      return;
    }
    if (cost + leastFrom(depth) >= best.cost - 1e-12) return;
    const group = order[depth]!;
    const ways = fixed[group] === undefined ? Array.from({ length: drawings }, (_, drawing) => drawing) : [fixed[group]];
    ways.sort((a, b) => now[group]![a]! - now[group]![b]! || a - b);
    for (const drawing of ways) {
      const own = now[group]![drawing]!;
      if (cost + own >= best.cost) break;
      choice[group] = drawing;
      add(depth, group, drawing, 1);
      choose(depth + 1, cost + own);
      add(depth, group, drawing, -1);
    }
  };
  if (drawings > 0) choose(0, 0);
  return best;
}
