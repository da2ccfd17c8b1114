/**
 * Which rules hold where: those of the track, and those of phrases that have their own. A
 * phrase keyed by loudness is keyed first, and is a wall to the plan of the rest, as ink is.
 */
import { framesPerSecond, SAMPLE_RATE } from '../time/frameRate.js';
import type { InkedSpan, KeyedExposure, KeyingJob } from './keyingJob.js';
import { keyLoudness } from './keyLoudness.js';
import { fullRules, type FullRules } from './rules.js';

/** The rules each sound is keyed by: those of the phrase its middle lies in. Shape: as many as sounds. */
export function rulesOfSounds({ sounds, rules, phrases = [] }: Pick<KeyingJob, 'sounds' | 'rules' | 'phrases'>): FullRules[] {
  const whole = fullRules(rules);
  if (phrases.length === 0) return sounds.map(() => whole);
  const own = phrases.map((phrase) => fullRules(phrase.rules));
  let at = 0;
  return sounds.map(({ from, to }) => {
    const middle = (from + to) / 2;
    while (at < phrases.length && phrases[at]!.to <= middle) at += 1;
    return at < phrases.length && phrases[at]!.from <= middle ? own[at]! : whole;
  });
}

/** Whether any part of a track is keyed by loudness. */
export function isKeyedByLoudness({ rules, phrases = [] }: Pick<KeyingJob, 'rules' | 'phrases'>): boolean {
  return [rules, ...phrases.map((phrase) => phrase.rules)].some((one) => fullRules(one).source === 'loudness');
}

/** The rules of each frame, as indexes into `all`. A phrase has its frames as its mouths do: its lead before its sound. */
function rulesOfFrames({ rules, phrases = [], frameRate, lengthFrames }: KeyingJob): { of: Uint16Array; all: FullRules[] } {
  const perSample = framesPerSecond(frameRate) / SAMPLE_RATE;
  const all = [fullRules(rules), ...phrases.map((phrase) => fullRules(phrase.rules))];
  const of = new Uint16Array(lengthFrames);
  phrases.forEach(({ from, to }, index) => {
    const { leadFrames } = all[index + 1]!;
    const frameOf = (sample: number): number => Math.max(0, Math.round(sample * perSample) - leadFrames);
    of.fill(index + 1, frameOf(from), frameOf(to));
  });
  return { of, all };
}

export interface RuledParts {
  /** What is keyed by loudness, sorted. */
  readonly loud: readonly KeyedExposure[];
  /** The rest, to be planned from its sounds: what is loud is a wall to it. */
  readonly rest: KeyingJob;
}

const isLoud = ({ source }: FullRules): boolean => source === 'loudness';

/** The track as though all of it were keyed as the rules at `index` say. */
function ruledBy(job: KeyingJob, rules: FullRules, index: number): KeyingJob {
  const loudness = job.phrases?.[index - 1]?.loudness ?? job.loudness;
  return { ...job, rules, ...(loudness && { loudness }) };
}

/** The track as it is keyed by loudness at a frame; undefined where it is planned from its sounds. */
export function loudJobAt(job: KeyingJob, frame: number): KeyingJob | undefined {
  const { of, all } = rulesOfFrames(job);
  const index = of[frame] ?? 0;
  return isLoud(all[index]!) ? ruledBy(job, all[index]!, index) : undefined;
}

/** The frames that are keyed by loudness, sorted, half-open. */
export function framesByLoudness(job: KeyingJob): { from: number; to: number }[] {
  const { of, all } = rulesOfFrames(job);
  const spans: { from: number; to: number }[] = [];
  for (let frame = 0; frame < job.lengthFrames; frame++) {
    if (!isLoud(all[of[frame]!]!)) continue;
    const last = spans.at(-1);
    if (last?.to === frame) last.to = frame + 1;
    else spans.push({ from: frame, to: frame + 1 });
  }
  return spans;
}

/** A track in two parts: what is keyed by loudness, keyed, and what is planned from its sounds. */
export function ruledParts(job: KeyingJob): RuledParts {
  if (!isKeyedByLoudness(job)) return { loud: [], rest: job };
  const { of, all } = rulesOfFrames(job);
  const loud = all.flatMap((rules, index) => {
    if (!isLoud(rules) || !of.includes(index)) return [];
    const elsewhere: InkedSpan[] = [];
    for (let frame = 0; frame < job.lengthFrames; frame++)
      if (of[frame] !== index) elsewhere.push({ from: frame, to: frame + 1, drawing: '' });
    return keyLoudness({ ...ruledBy(job, rules, index), ink: [...(job.ink ?? []), ...elsewhere] }).exposures;
  });
  loud.sort((a, b) => a.from - b.from);
  return { loud, rest: { ...job, ink: [...(job.ink ?? []), ...loud].sort((a, b) => a.from - b.from) } };
}
