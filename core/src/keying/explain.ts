/**
 * Why a mouth is where it is: what it plays, what was dropped beside it and why, and what
 * else could have been there and what that would have cost, in words.
 */
import { maybeDrawing } from '../chart/chart.js';
import { ipaOf } from '../phonetics/ipa.js';
import { lookOfChart } from './chartLook.js';
import type { KeyingJob } from './keyingJob.js';
import { NONE, lostCost, planCost, type PlanJob } from './planCost.js';
import { planTrack, type PlannedStretch, type PlannedTrack } from './planTrack.js';
import { explainLoudness } from './keyLoudness.js';
import { loudJobAt, ruledParts } from './ruledParts.js';
import { startsOf } from './solvePlan.js';

export interface Dropped {
  readonly sound: number;
  readonly symbol: string;
  readonly why: string;
}

export interface Alternative {
  /** The drawing that would have been here; null when it would have been left out. */
  readonly drawing: string | null;
  /** What that would have cost more, in the plan's own measure. */
  readonly costsMore: number;
  readonly sentence: string;
}

export interface Explanation {
  readonly from: number;
  readonly to: number;
  readonly drawing: string;
  /** Sounds it plays, as indexes. */
  readonly plays: readonly number[];
  readonly because: string;
  /** How far it starts from where its sound asks for it, in frames; negative is early. */
  readonly offset: number;
  readonly dropped: readonly Dropped[];
  readonly alternatives: readonly Alternative[];
}

const frames = (count: number): string => (count === 1 ? '1 frame' : `${count} frames`);

/** A cost beside that of a stressed vowel lost. */
function inWords(cost: number): string {
  if (cost >= 500) return 'lose lips that must be seen';
  if (cost < 0.05) return 'cost next to nothing more';
  if (cost < 0.3) return 'cost a little more';
  if (cost < 1) return 'cost more';
  return 'cost much more';
}

function becauseOf(stretch: PlannedStretch, at: number, job: KeyingJob): string {
  const shape = stretch.job.shapes[stretch.plan.shown[at]!]!;
  const label = maybeDrawing(job.chart, shape.drawing)?.label ?? shape.drawing;
  if (shape.isPause && shape.sounds.length === 0)
    return at === 0 && stretch.job.before === undefined
      ? 'Nobody has spoken yet.'
      : `A pause: the mouth ${shape.drawing === stretch.job.shapes[0]!.drawing ? 'rests' : 'rests or relaxes'}.`;
  const named = shape.sounds.map((sound) => `/${ipaOf(job.sounds[sound]!.symbol)}/`).join(', ');
  const own = maybeDrawing(job.chart, shape.drawing)?.groups.includes(shape.group) ?? false;
  const group = job.chart.groups.find(({ id }) => id === shape.group)?.name ?? shape.group;
  const how = own ? `${label} plays ${group}` : `the chart has no drawing for ${group}, and ${label} is nearest to it`;
  return `For ${named}: ${how}.${shape.musts.length > 0 ? ' It must be seen, whatever else gives way.' : ''}`;
}

function whyDropped(job: PlanJob, index: number, before: number, after: number, start: number): string {
  const shape = job.shapes[index]!;
  const lasts = Math.max(0, Math.min(job.to, shape.end) - Math.max(job.from, shape.target));
  const lost = lostCost(job, index, before, after, start);
  const seen = after === NONE ? job.shapes[before] : job.shapes[after];
  if (lost < 0.02 && seen) return 'it looks the same as the mouth beside it';
  const neighbour = [before, after].find((other) => other !== NONE && job.shapes[other]!.musts.length > 0);
  const hold = job.ones[index] === 1 ? 1 : job.holds[index]!;
  if (lasts < hold && neighbour !== undefined) return `it lasts ${lasts.toFixed(1)} frames beside lips that must be seen`;
  if (lasts < hold) return `it lasts ${lasts.toFixed(1)} frames, and a mouth is held ${frames(hold)} at least`;
  return lost < job.changes[index]!
    ? 'the mouth beside it looks near enough, and a change would be one more'
    : 'its neighbours matter more to the eye';
}

/** The plan with one shape exchanged for another at the same start, or left out. */
function alternativesOf(
  { job, plan }: PlannedStretch,
  at: number,
  label: (drawing: string) => string,
  nameOf: (index: number) => string,
): Alternative[] {
  const base = planCost(job, plan);
  const found: Alternative[] = [];
  const add = (shown: number[], starts: number[], drawing: string | null, what: string): void => {
    const cost = planCost(job, { shown, starts }) - base;
    if (Number.isFinite(cost)) found.push({ drawing, costsMore: cost, sentence: `${what} would ${inWords(cost)}.` });
  };
  const [before, index, after] = [plan.shown[at - 1] ?? NONE, plan.shown[at]!, plan.shown[at + 1] ?? job.shapes.length];
  for (let other = before + 1; other < after; other++) {
    if (other === index) continue;
    const { drawing } = job.shapes[other]!;
    if (drawing === job.shapes[index]!.drawing) continue;
    const shown = plan.shown.with(at, other);
    add([...shown], [...plan.starts], drawing, `${label(drawing)} for ${nameOf(other)}`);
  }
  if (at > 0)
    add(
      plan.shown.filter((_, place) => place !== at),
      plan.starts.filter((_, place) => place !== at),
      null,
      `Holding ${label(job.shapes[before]!.drawing)} over it`,
    );
  const start = plan.starts[at]!;
  for (const other of startsOf(job, index)) {
    if (at === 0 || Math.abs(other - start) !== 1) continue;
    add([...plan.shown], plan.starts.with(at, other), job.shapes[index]!.drawing, other < start ? 'A frame earlier' : 'A frame later');
  }
  return found.sort((a, b) => a.costsMore - b.costsMore);
}

/** How many other drawings of the chart are named beside one. */
const NEAREST = 2;

/** The drawings of the chart that look nearest to what is said, seen in the place of the one that is. */
function nearestOthers({ job: plan }: PlannedStretch, run: readonly number[], { chart }: KeyingJob): Alternative[] {
  const look = lookOfChart(chart);
  const shapes = run.map((index) => plan.shapes[index]!);
  const own = shapes[0]!.drawing;
  if (shapes.some(({ isPause, musts }) => isPause || musts.length > 0)) return [];
  return chart.drawings
    .filter(({ id }) => id !== own)
    .map(({ id, label }) => ({
      id,
      label,
      lost: shapes.reduce((sum, { weight, group, drawing }) => sum + weight * (look.lost(group, id) - look.lost(group, drawing)), 0),
    }))
    .filter(({ lost }) => lost > 0)
    .sort((a, b) => a.lost - b.lost)
    .slice(0, NEAREST)
    .map(({ id, label, lost }) => ({ drawing: id, costsMore: lost, sentence: `${label} in its place would ${inWords(lost)}.` }));
}

/** What the rules say of an exposure that is there, in ink or in pencil. */
export interface ExposureReason {
  /** What the plan has at its first frame; undefined where it is keyed by loudness. Without the ink, for an exposure in ink. */
  readonly plan?: Explanation | undefined;
  /** Why it is as open as it is, where it is keyed by loudness. */
  readonly loudness?: string | undefined;
}

/** Explains an exposure: one in ink by what the rules would have had in its place. */
export function explainExposure(
  job: KeyingJob,
  { from, inked }: { readonly from: number; readonly inked: boolean },
  planned?: PlannedTrack,
): ExposureReason {
  const asked: KeyingJob = inked ? { ...job, ink: (job.ink ?? []).filter((span) => span.from !== from) } : job;
  const loud = loudJobAt(asked, from);
  return loud ? { loudness: explainLoudness(loud, from) } : { plan: explainFrame(asked, from, planned) };
}

/**
 * Explains the mouth the plan has at a frame.
 *
 * @param planned the plan of the job, where it is at hand
 * @returns undefined where there is ink, and where the mouth is keyed by loudness
 */
export function explainFrame(
  job: KeyingJob,
  frame: number,
  planned: PlannedTrack = planTrack(ruledParts(job).rest),
): Explanation | undefined {
  const stretch = planned.stretches.find(({ job: { from, to } }) => frame >= from && frame < to);
  if (!stretch) return undefined;
  const {
    job: plan,
    plan: { shown, starts },
  } = stretch;
  const drawingAt = (place: number): string | undefined => plan.shapes[shown[place] ?? NONE]?.drawing;
  // Shapes of one drawing that follow each other are one exposure.
  let at = starts.findLastIndex((start) => start <= frame);
  while (at > 0 && drawingAt(at - 1) === drawingAt(at)) at -= 1;
  let last = at;
  while (drawingAt(last + 1) === drawingAt(at)) last += 1;
  const run = shown.slice(at, last + 1);
  const shape = plan.shapes[run[0]!]!;
  const plays = run.flatMap((index) => plan.shapes[index]!.sounds);
  const end = starts[last + 1] ?? plan.to;
  const label = (drawing: string): string => maybeDrawing(job.chart, drawing)?.label ?? drawing;
  const nameOf = (other: number): string => {
    const { sounds } = plan.shapes[other]!;
    return sounds.length === 0 ? 'the pause' : sounds.map((sound) => `/${ipaOf(job.sounds[sound]!.symbol)}/`).join(', ');
  };
  const dropped: Dropped[] = [];
  const list = (first: number, last: number, before: number, after: number, turn: number): void => {
    for (let other = first; other < last; other++)
      for (const sound of plan.shapes[other]!.sounds)
        if (!plays.includes(sound))
          dropped.push({ sound, symbol: job.sounds[sound]!.symbol, why: whyDropped(plan, other, before, after, turn) });
  };
  const around = [shown[at - 1] ?? NONE, ...run, shown[last + 1] ?? NONE];
  around.slice(1).forEach((after, place) => {
    const before = around[place]!;
    list(before + 1, after === NONE ? plan.shapes.length : after, before, after, starts[at + place] ?? end);
  });
  return {
    from: starts[at]!,
    to: end,
    drawing: shape.drawing,
    plays,
    because: becauseOf(stretch, at, job),
    offset: at === 0 ? 0 : starts[at]! - Math.max(plan.from, shape.target),
    dropped,
    alternatives: [...alternativesOf(stretch, at, label, nameOf).slice(0, 4), ...nearestOthers(stretch, run, job)].sort(
      (a, b) => a.costsMore - b.costsMore,
    ),
  };
}
