/** A whole track planned: the stretches between ink, each solved exactly, with the ink on its two sides. */
import { framesPerSecond } from '../time/frameRate.js';
import { overlapOf, type Span } from '../time/span.js';
import { lookOfChart } from './chartLook.js';
import type { InkedSpan, KeyingJob } from './keyingJob.js';
import { lostTable, type Plan, type PlanJob } from './planCost.js';
import type { FullRules } from './rules.js';
import { shapesOf, type MustBeSeen, type RuledShape, type Shape } from './shapes.js';
import { solvePlan } from './solvePlan.js';

export interface PlannedStretch {
  readonly job: PlanJob;
  readonly plan: Plan;
}

export interface PlannedTrack {
  readonly shapes: readonly Shape[];
  readonly stretches: readonly PlannedStretch[];
}

/** What a change costs when a mouth is as calm as can be, against a sound of weight 1 lost wholly. */
const CALMEST = 1.2;
/** A phrase that changes too often pays so much more for a change, so many times at most. */
const DEARER = 1.3;
const MOST_TRIES = 14;
/** The shortest time that changes are counted over, in seconds. */
const COUNTED_OVER = 1;

function freeSpans(ink: readonly InkedSpan[], lengthFrames: number): Span[] {
  const spans: Span[] = [];
  let from = 0;
  for (const span of [...ink].sort((a, b) => a.from - b.from)) {
    if (span.from > from) spans.push({ from, to: Math.min(span.from, lengthFrames) });
    from = Math.max(from, span.to);
  }
  if (from < lengthFrames) spans.push({ from, to: lengthFrames });
  return spans;
}

/** Each sound that must be seen belongs to the span in which most of its frames are, unless ink shows it. */
function placeMusts(shapes: readonly Shape[], spans: readonly Span[], ink: readonly InkedSpan[]): Map<MustBeSeen, Span> {
  const places = new Map<MustBeSeen, Span>();
  let first = 0;
  for (const { musts, drawing } of shapes) {
    for (const must of musts) {
      const window = { from: must.first, to: must.last + 1 };
      if (ink.some((span) => span.drawing === drawing && overlapOf(span, window) > 0)) continue;
      while (first < spans.length && spans[first]!.to <= window.from) first += 1;
      let best: Span | undefined;
      for (let at = first; at < spans.length && spans[at]!.from < window.to; at++)
        if (overlapOf(spans[at]!, window) > 0 && (!best || overlapOf(spans[at]!, window) > overlapOf(best, window))) best = spans[at];
      if (best) places.set(must, best);
    }
  }
  return places;
}

interface Phrase {
  /** Its shapes, by index, half-open. */
  readonly first: number;
  readonly last: number;
  readonly rules: FullRules;
}

/** Phrases of a stretch: its shapes between one pause and the next, as far as the same rules hold. */
function phrasesOf(shapes: readonly RuledShape[]): Phrase[] {
  const phrases: Phrase[] = [];
  shapes.forEach(({ isPause, rules }, index) => {
    const last = phrases.at(-1);
    if (isPause) return;
    if (last?.last === index && last.rules === rules) phrases[phrases.length - 1] = { ...last, last: index + 1 };
    else phrases.push({ first: index, last: index + 1, rules });
  });
  return phrases;
}

/** How often the drawing changes to one of some shapes. */
function changesWithin({ shapes, before }: PlanJob, { shown }: Plan, first: number, last: number): number {
  let changes = 0;
  shown.forEach((index, at) => {
    const seen = at === 0 ? before : shapes[shown[at - 1]!]!.drawing;
    if (index >= first && index < last && seen !== shapes[index]!.drawing) changes += 1;
  });
  return changes;
}

/** Solves a stretch; phrases that change more often than they may pay more for each change until they do not. */
function solveCalmly(job: PlanJob, shapes: readonly RuledShape[], fps: number): Plan {
  let plan = solvePlan(job);
  const phrases = phrasesOf(shapes).filter(({ rules }) => rules.mostChanges > 0);
  if (phrases.length === 0) return plan;
  for (let attempt = 0; attempt < MOST_TRIES; attempt++) {
    let isOver = false;
    for (const { first, last, rules } of phrases) {
      const seconds = Math.max(COUNTED_OVER, (job.shapes[last - 1]!.end - job.shapes[first]!.target) / fps);
      const changes = changesWithin(job, plan, first, last);
      if (changes / seconds <= rules.mostChanges) continue;
      isOver = true;
      for (let index = first; index < last; index++) job.changes[index] = job.changes[index]! * DEARER + 0.04;
    }
    if (!isOver) return plan;
    plan = solvePlan(job);
  }
  return plan;
}

/** Whether a shape may be shorter than its hold. */
function mayBreakToOnes({ musts, isPause, target, end, rules }: RuledShape): boolean {
  if (rules.strict || rules.onesFor === 'nothing') return false;
  return musts.length > 0 || (rules.onesFor === 'quick' && !isPause && end - target < rules.holdFrames);
}

function shareInside({ target, end }: Shape, { from, to }: Span): number {
  if (end <= target || (target >= from && end <= to)) return 1;
  return Math.max(0, Math.min(end, to) - Math.max(target, from)) / (end - target);
}

export function planTrack(keying: KeyingJob): PlannedTrack {
  const { chart, frameRate, lengthFrames, ink = [] } = keying;
  const fps = framesPerSecond(frameRate);
  const shapes = shapesOf(keying);
  const spans = freeSpans(ink, lengthFrames);
  const places = placeMusts(shapes, spans, ink);
  const look = lookOfChart(chart);
  let first = 0;
  const stretches = spans.map((span): PlannedStretch => {
    while (first < shapes.length - 1 && shapes[first]!.end <= span.from) first += 1;
    const inside: RuledShape[] = [];
    for (let index = first; index < shapes.length && (inside.length === 0 || shapes[index]!.target < span.to); index++) {
      const shape = shapes[index]!;
      const musts = shape.musts.filter((must) => places.get(must) === span);
      // Of a shape that reaches into ink only what lies before or after it can be lost here.
      const weight = shape.weight * shareInside(shape, span);
      inside.push(musts.length === shape.musts.length && weight === shape.weight ? shape : { ...shape, musts, weight });
    }
    const job: PlanJob = {
      shapes: inside,
      from: span.from,
      to: span.to,
      lost: lostTable(inside, look),
      holds: Int32Array.from(inside, ({ rules }) => rules.holdFrames),
      ones: Uint8Array.from(inside, (shape) => (mayBreakToOnes(shape) ? 1 : 0)),
      grid: Uint8Array.from(inside, ({ rules }) => (rules.strict ? 1 : 0)),
      changes: Float64Array.from(inside, ({ rules }) => rules.calm * CALMEST),
      frameScale: 24 / fps,
      before: ink.find(({ to }) => to === span.from)?.drawing,
      after: ink.find(({ from }) => from === span.to)?.drawing,
    };
    return { job, plan: solveCalmly(job, inside, fps) };
  });
  return { shapes, stretches };
}
