/**
 * Keys the sounds of one mouth track by the plan: which mouth is on which frame, solved
 * exactly (`planTrack.ts`), told as exposures with the sounds they play, and with the
 * closures that could not be shown.
 */
import { afterPlan } from './afterPlan.js';
import type { Keyed, KeyedExposure, KeyingJob, NotShown } from './keyingJob.js';
import { planTrack, type PlannedStretch, type PlannedTrack } from './planTrack.js';
import { ruledParts } from './ruledParts.js';

/** The exposures of a stretch; two of the same drawing that follow each other are one. */
function exposuresOf({ job, plan }: PlannedStretch): KeyedExposure[] {
  const exposures: (KeyedExposure & { plays: number[] })[] = [];
  const add = (plays: number[], sounds: readonly number[]): void => {
    for (const sound of sounds) if (!plays.includes(sound)) plays.push(sound);
  };
  plan.shown.forEach((index, at) => {
    const shape = job.shapes[index]!;
    const [from, to] = [plan.starts[at]!, plan.starts[at + 1] ?? job.to];
    const last = exposures.at(-1);
    // Sounds before it that it shows as well, though they have no start of their own.
    const along: number[] = [];
    for (let lost = (plan.shown[at - 1] ?? -1) + 1; lost < index; lost++) {
      const { drawing, sounds, end } = job.shapes[lost]!;
      if (drawing === shape.drawing && end > from) add(along, sounds);
      else if (last && drawing === last.drawing) add(last.plays, sounds);
    }
    if (last?.drawing === shape.drawing) {
      exposures[exposures.length - 1] = { ...last, to };
      add(last.plays, along);
      add(last.plays, shape.sounds);
    } else {
      add(along, shape.sounds);
      exposures.push({ from, to, drawing: shape.drawing, group: shape.group, plays: along });
    }
  });
  const last = exposures.at(-1)!;
  for (let lost = plan.shown.at(-1)! + 1; lost < job.shapes.length; lost++)
    if (job.shapes[lost]!.drawing === last.drawing) add(last.plays, job.shapes[lost]!.sounds);
  return exposures;
}

/** Closures that no frame of their window shows, each with what is seen there instead. */
function closuresMissing(
  job: KeyingJob,
  { shapes }: PlannedTrack,
  exposures: readonly KeyedExposure[],
  loud: readonly KeyedExposure[],
): NotShown[] {
  const spans = [
    ...exposures.map((exposure) => ({ ...exposure, inked: false, isLoud: false })),
    ...loud.map((exposure) => ({ ...exposure, inked: false, isLoud: true })),
    ...(job.ink ?? []).map((ink) => ({ ...ink, plays: [], inked: true, isLoud: false })),
  ].sort((a, b) => a.from - b.from);
  const missing: NotShown[] = [];
  let start = 0;
  for (const { musts, drawing } of shapes) {
    for (const { sound, first, last } of musts) {
      const { symbol } = job.sounds[sound]!;
      if (last < first) {
        missing.push({ sound, symbol, reason: `${symbol} lies outside the scene’s frames. Make the scene longer.`, collidedWith: null });
        continue;
      }
      while (start < spans.length - 1 && spans[start]!.to <= first) start += 1;
      const there: (typeof spans)[number][] = [];
      for (let at = start; at < spans.length && spans[at]!.from <= last; at++) if (spans[at]!.to > first) there.push(spans[at]!);
      if (there.some((span) => span.drawing === drawing)) continue;
      const taker = there.find((span) => !span.inked && span.plays.length > 0)?.plays[0] ?? null;
      const shown = (frame: number): number => frame + (job.firstFrame ?? 0);
      const counted = job.firstFrame === undefined ? ', counted from 0' : '';
      const frames = `${first === last ? `frame ${shown(first)}` : `frames ${shown(first)} to ${shown(last)}`}${counted}`;
      const by = there.every((span) => span.inked)
        ? 'which are inked'
        : taker !== null
          ? `which ${job.sounds[taker]!.symbol} has`
          : there.some((span) => span.isLoud)
            ? 'which are keyed by loudness'
            : 'which rest';
      missing.push({ sound, symbol, reason: `${symbol} can only be seen in ${frames}, ${by}.`, collidedWith: taker });
    }
  }
  return missing.sort((a, b) => a.sound - b.sound);
}

/** Exposures and what is missing of a planned track, beside what of it is keyed by loudness. */
export function keyedOf(job: KeyingJob, planned: PlannedTrack, loud: readonly KeyedExposure[] = []): Keyed {
  const exposures = planned.stretches.flatMap(exposuresOf);
  const notShown = closuresMissing(job, planned, exposures, loud);
  const added = afterPlan(job, exposures);
  if (loud.length === 0) return { exposures: added, notShown };
  const joined: KeyedExposure[] = [];
  for (const exposure of [...added, ...loud].sort((a, b) => a.from - b.from)) {
    const before = joined.at(-1);
    if (before && before.to === exposure.from && before.drawing === exposure.drawing)
      joined[joined.length - 1] = { ...before, to: exposure.to, plays: [...before.plays, ...exposure.plays] };
    else joined.push(exposure);
  }
  return { exposures: joined, notShown };
}

/**
 * Keys one mouth track. Deterministic: the same job gives the same keys.
 *
 * @returns pencilled exposures only; the frames between them are the ink of the job
 * @example keySounds({ sounds: [], frameRate: { num: 24, den: 1 }, lengthFrames: 10, chart: starterChart('Odette', 'brush'), rules: DEFAULT_RULES }).exposures
 *   // [{ from: 0, to: 10, drawing: 'rest', group: 'rest', plays: [] }]
 */
export function keySounds(job: KeyingJob): Keyed {
  const { loud, rest } = ruledParts(job);
  return keyedOf(job, planTrack(rest), loud);
}
