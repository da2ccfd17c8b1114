/** `zest map`: which drawing of a chart shows which sounds best, and whether a map is one. */
import { checkMap, fitChart, type ChartDocument } from '@zest-jaw/core';
import { chartOf } from './keyCommand.js';
import { CannotDo, parseCommandLine, readJson, WrongUse } from './outcome.js';

/** What is proposed, by the names of groups and drawings. */
function proposalOf(chart: ChartDocument): object {
  const { choices, cost, losses, more, idle } = fitChart(chart);
  const label = (id: string): string => chart.drawings.find((drawing) => drawing.id === id)!.label;
  const name = (id: string): string => chart.groups.find((group) => group.id === id)!.name;
  return {
    groups: choices.map(({ group, drawing, distance }) => ({
      group: name(group),
      drawing: label(drawing),
      distance: Math.round(distance * 1000) / 1000,
    })),
    cost: Math.round(cost * 1000) / 1000,
    losses,
    ...(more && { oneMore: { group: name(more.group), saves: Math.round(more.saves * 1000) / 1000 } }),
    hardlyNeeded: idle.map(label),
  };
}

export function mapCommand(args: string[]): Promise<void> {
  const { positionals } = parseCommandLine(args, {});
  const [what, file, ...more] = positionals;
  if ((what !== 'propose' && what !== 'check') || file === undefined || more.length > 0)
    throw new WrongUse('Say zest map propose CHART.json, or zest map check MAP.json.');
  if (what === 'propose') {
    process.stdout.write(`${JSON.stringify(proposalOf(chartOf(file)), null, 1)}\n`);
    return Promise.resolve();
  }
  const faults = checkMap(readJson(file));
  if (faults.length > 0) throw new CannotDo(`${file}: ${faults.join(' ')}`);
  process.stdout.write('This is a map of sounds.\n');
  return Promise.resolve();
}
