/**
 * The obvious rule, to measure the plan against: every shape in turn at its own frame as soon
 * as the one before has been held long enough, late if need be, and left out when it would
 * come later than it ends. Shapes that must be seen cut the one before short where they may.
 */
import { holdOf, type Plan, type PlanJob } from './planCost.js';

export function greedyPlan(job: PlanJob): Plan {
  const [shown, starts]: [number[], number[]] = [[0], [job.from]];
  job.shapes.forEach((shape, index) => {
    if (index === 0) return;
    const free = starts.at(-1)! + holdOf(job, shown.at(-1)!);
    let start = Math.max(free, Math.round(shape.target));
    if (job.grid[index] === 1) start = Math.ceil(start / job.holds[index]!) * job.holds[index]!;
    const fits = start + holdOf(job, index) <= job.to;
    if (!fits || start >= shape.end + 1) return;
    shown.push(index);
    starts.push(start);
  });
  return { shown, starts };
}
