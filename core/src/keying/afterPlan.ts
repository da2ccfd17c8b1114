/**
 * What a feel adds to the mouths of a plan once it is made: in-betweens where a mouth opens far at once, a breath at the end of
 * a long pause, and holds that settle from a slightly larger mouth. Frames of closures and of other mouths that must be seen
 * are theirs: nothing is taken from them, and nothing is added where a mouth has no frame to spare.
 */
import { maybeDrawing, restDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import { REST } from '../chart/soundGroups.js';
import { canBeMadeOf, mixId, pushId } from '../draw/madeDrawings.js';
import { canMix } from '../draw/mixLooks.js';
import { framesPerSecond } from '../time/frameRate.js';
import type { KeyedExposure, KeyingJob } from './keyingJob.js';
import { rulesOfSounds } from './ruledParts.js';
import { fullRules, type FullRules } from './rules.js';

/** How much larger a hold begins that settles. Tuned by eye on the demo. */
const SETTLES_FROM = { width: 1.06, height: 1.14, angle: 0 } as const;
/** A hold settles that is at least so long, in seconds: shorter ones have no time to. */
const LONG_HOLD = 0.24;

/** How far open a breath is, as a share of the widest mouth of the chart; how long it takes, in seconds. Tuned by eye. */
const BREATH = { opening: 0.28, seconds: 0.2 } as const;

interface Chart {
  readonly chart: ChartDocument;
  /** Inner height of a drawing as a share of the tallest of the chart. */
  readonly openingOf: (drawing: string) => number;
  /** Whether a drawing plays sounds that must be seen. */
  readonly isMust: (drawing: string) => boolean;
}

const mustsOf = (chart: ChartDocument): Set<string> => new Set(chart.groups.flatMap(({ id, must }) => (must ? [id] : [])));

function chartFor(chart: ChartDocument): Chart {
  const tallest = Math.max(1e-9, ...chart.drawings.map((drawing) => measureLook(drawing).opening));
  const musts = mustsOf(chart);
  const known = new Map<string, number>();
  return {
    chart,
    openingOf: (id) => {
      let opening = known.get(id);
      if (opening === undefined) {
        const drawing = maybeDrawing(chart, id);
        known.set(id, (opening = drawing ? measureLook(drawing).opening / tallest : 0));
      }
      return opening;
    },
    isMust: (id) => maybeDrawing(chart, id)?.groups.some((group) => musts.has(group)) ?? false,
  };
}

/**
 * What is shown half of the way from one drawing to another: made of the two where they are of one make, else the drawing of
 * the chart that lies nearest between them; undefined where there is none.
 */
export function maybeBetween(chart: ChartDocument, a: string, b: string, share = 0.5): string | undefined {
  const [one, other] = [maybeDrawing(chart, a), maybeDrawing(chart, b)];
  if (!one || !other || a === b) return undefined;
  if (canBeMadeOf(a) && canBeMadeOf(b) && canMix(one, other)) return mixId(a, b, share);
  return maybeDrawingBetween(chart, one, other, share)?.id;
}

/**
 * The drawing of a chart nearest to a share of the way between two, by how open and how wide; strictly between in the one that
 * differs more. One that plays what must be seen says something, and is none.
 */
export function maybeDrawingBetween(chart: ChartDocument, a: Drawing, b: Drawing, share: number): Drawing | undefined {
  const [from, to] = [measureLook(a), measureLook(b)];
  const wanted = { opening: from.opening + (to.opening - from.opening) * share, width: from.width + (to.width - from.width) * share };
  const key = Math.abs(to.opening - from.opening) >= Math.abs(to.width - from.width) ? 'opening' : 'width';
  const [least, most] = [Math.min(from[key], to[key]), Math.max(from[key], to[key])];
  const away = (drawing: Drawing): number => {
    const { opening, width } = measureLook(drawing);
    return Math.hypot(opening - wanted.opening, (width - wanted.width) / 2);
  };
  const musts = mustsOf(chart);
  return chart.drawings
    .filter((drawing) => {
      const value = measureLook(drawing)[key];
      return value > least && value < most && !drawing.groups.some((group) => musts.has(group));
    })
    .sort((one, other) => away(one) - away(other))[0];
}

type RulesOf = (exposure: KeyedExposure) => FullRules;

/** Lips that burst open are meant to jump. */
const BURSTS = new Set(['P', 'B']);

function withBetweens(
  exposures: readonly KeyedExposure[],
  rulesOf: RulesOf,
  { sounds }: KeyingJob,
  { chart, openingOf, isMust }: Chart,
): KeyedExposure[] {
  const bursts = ({ plays }: KeyedExposure): boolean => BURSTS.has(sounds[plays.at(-1) ?? -1]?.symbol ?? '');
  return exposures.flatMap((exposure, index): KeyedExposure[] => {
    const before = exposures[index - 1];
    const { from, to, drawing } = exposure;
    const { betweens, holdFrames } = rulesOf(exposure);
    const isHeard = exposure.plays.length > 0;
    if (betweens === 0 || !isHeard || (before && bursts(before)) || before?.to !== from || to - from < 2 * holdFrames || isMust(drawing))
      return [exposure];
    if (openingOf(drawing) - openingOf(before.drawing) <= 1 - betweens) return [exposure];
    const between = maybeBetween(chart, before.drawing, drawing);
    if (between === undefined) return [exposure];
    return [
      { ...exposure, to: from + holdFrames, drawing: between, plays: [] },
      { ...exposure, from: from + holdFrames },
    ];
  });
}

function withSettling(exposures: readonly KeyedExposure[], rulesOf: RulesOf, fps: number, { openingOf, isMust }: Chart): KeyedExposure[] {
  return exposures.flatMap((exposure): KeyedExposure[] => {
    const { from, to, drawing } = exposure;
    const { settlesHolds, holdFrames } = rulesOf(exposure);
    const isOpen = exposure.plays.length > 0 && openingOf(drawing) > 0.2 && !isMust(drawing);
    if (!settlesHolds || !isOpen || to - from < Math.max(2 * holdFrames, Math.round(LONG_HOLD * fps))) return [exposure];
    return [
      { ...exposure, to: from + holdFrames, drawing: pushId(drawing, SETTLES_FROM), plays: [] },
      { ...exposure, from: from + holdFrames },
    ];
  });
}

/** The drawing for a breath: one tagged “breath”, else one between rest and a mouth that is open. */
function breathOf({ chart, openingOf }: Chart, rest: string): string | undefined {
  const tagged = chart.drawings.find(({ tags }) => tags.some((tag) => tag.toLowerCase() === 'breath'));
  if (tagged) return tagged.id;
  const [widest] = [...chart.drawings].sort((a, b) => openingOf(b.id) - openingOf(a.id));
  if (!widest || openingOf(widest.id) <= openingOf(rest)) return undefined;
  const share = (BREATH.opening - openingOf(rest)) / (openingOf(widest.id) - openingOf(rest));
  return share > 0 && share < 1 ? maybeBetween(chart, rest, widest.id, share) : undefined;
}

function withBreaths(exposures: readonly KeyedExposure[], rulesOf: RulesOf, fps: number, of: Chart): KeyedExposure[] {
  const rest = restDrawing(of.chart).id;
  const rests = new Set([rest, ...of.chart.drawings.filter(({ groups }) => groups.includes(REST)).map(({ id }) => id)]);
  return exposures.flatMap((exposure, index): KeyedExposure[] => {
    const next = exposures[index + 1];
    const { from, to, drawing } = exposure;
    // A pause is ended by what is said next, by its rules.
    const rules = rulesOf(next ?? exposure);
    const isLong = rules.breathAfter > 0 && to - from >= rules.breathAfter * fps;
    if (!isLong || !rests.has(drawing) || next?.from !== to || next.plays.length === 0) return [exposure];
    const frames = Math.max(rules.holdFrames, Math.round((BREATH.seconds * fps) / rules.holdFrames) * rules.holdFrames);
    const breath = breathOf(of, drawing);
    const begins = to - frames - rules.holdFrames;
    if (breath === undefined || begins <= from) return [exposure];
    // Lips that are to meet meet from rest: the breath is over before.
    const ends = to - rules.holdFrames;
    return [
      { ...exposure, to: begins },
      { ...exposure, from: begins, to: ends, drawing: breath, plays: [] },
      { ...exposure, from: ends, plays: [] },
    ];
  });
}

/** The mouths of a plan with what the feel of each adds to them. */
export function afterPlan(job: KeyingJob, exposures: readonly KeyedExposure[]): readonly KeyedExposure[] {
  const all = [job.rules, ...(job.phrases ?? []).map(({ rules }) => rules)].map(fullRules);
  if (all.every(({ betweens, settlesHolds, breathAfter }) => betweens === 0 && !settlesHolds && breathAfter === 0)) return exposures;
  const ofSounds = rulesOfSounds(job);
  const whole = fullRules(job.rules);
  const rulesOf: RulesOf = ({ plays: [sound] }) => (sound === undefined ? whole : ofSounds[sound]!);
  const [fps, chart] = [framesPerSecond(job.frameRate), chartFor(job.chart)];
  const breathing = withBreaths(exposures, rulesOf, fps, chart);
  return withBetweens(withSettling(breathing, rulesOf, fps, chart), rulesOf, job, chart);
}
