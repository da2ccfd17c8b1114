/**
 * Noises of a mouth that are told from speech by sound alone, where that is sure: a laugh by its rhythm
 * of vowels that are alike, a hum by voice without anything above it, a whistle by its one tone, a breath
 * and a cough by noise where nobody speaks. Thresholds were set on sounds made by formula and on nine
 * laughs, and held against others (docs/measured-once.md); where two kinds are near, nothing is said.
 */
import { powerSpectrum } from '../audio/fourier.js';
import { periodOf, PITCH_WINDOW } from '../audio/voicePitch.js';
import { RECOGNISER_RATE } from '../audio/truth.js';
import type { Span } from '../time/span.js';
import type { NoiseKind } from './noises.js';

/** Samples at 16 kHz. */
export interface HeardNoise extends Span {
  readonly kind: NoiseKind;
  /** Where a laugh is loud. */
  readonly pulses?: readonly Span[];
}

/** Between two looks, and the window of each: 10 and 32 ms at 16 kHz. */
const HOP = 160;
const WINDOW = 512;
const HERTZ_A_BIN = RECOGNISER_RATE / WINDOW;
const BANDS = 16;
/** Below this lies all of a hum but its hiss, in hertz. */
const LOW_HERTZ = 900;
/** So far below the loudest look nothing is heard, in decibels. */
const HEARD_DB = 42;
/** Two noises with less between them are one; shorter ones are none; in looks. */
const LEAST_GAP = 6;
const LEAST_LOOKS = 12;

interface Look {
  readonly db: number;
  /** Share of the power below `LOW_HERTZ`, and in the loudest bin with two on each side. */
  readonly low: number;
  readonly tonal: number;
  readonly peakHertz: number;
  /** Logarithms of the power in bands of equal width on the mel scale. */
  readonly bands: Float64Array;
}

const SHAPE = Float32Array.from({ length: WINDOW }, (_, index) => 0.5 - 0.5 * Math.cos((2 * Math.PI * index) / WINDOW));
const mel = (hertz: number): number => Math.log10(1 + hertz / 700);
const BAND_OF = Array.from({ length: WINDOW / 2 + 1 }, (_, bin) =>
  Math.min(BANDS - 1, Math.floor((BANDS * mel(bin * HERTZ_A_BIN)) / mel(RECOGNISER_RATE / 2))),
);

/** How loud the sound is at a look, in decibels below full scale. */
function levelAt(samples: Float32Array, start: number): number {
  let sum = 0;
  for (let index = start; index < start + WINDOW; index++) sum += samples[index]! * samples[index]!;
  return 10 * Math.log10(sum / WINDOW + 1e-12);
}

function lookAt(samples: Float32Array, start: number): Look {
  const frame = new Float32Array(WINDOW);
  for (let index = 0; index < WINDOW; index++) frame[index] = (samples[start + index] ?? 0) * SHAPE[index]!;
  const power = powerSpectrum(frame);
  let total = 1e-12;
  let low = 0;
  let loudest = 2;
  const bands = new Float64Array(BANDS);
  for (let bin = 2; bin < WINDOW / 2; bin++) {
    total += power[bin]!;
    if (bin * HERTZ_A_BIN < LOW_HERTZ) low += power[bin]!;
    if (power[bin]! > power[loudest]!) loudest = bin;
    bands[BAND_OF[bin]!]! += power[bin]!;
  }
  let tonal = 0;
  for (let bin = loudest - 2; bin <= loudest + 2; bin++) tonal += power[bin] ?? 0;
  return {
    db: levelAt(samples, start),
    low: low / total,
    tonal: tonal / total,
    peakHertz: loudest * HERTZ_A_BIN,
    bands: bands.map((value) => Math.log(value + 1e-9)),
  };
}

/** How alike two spectra are: their correlation, −1 to 1. */
function likeness(a: Float64Array, b: Float64Array): number {
  const mean = (values: Float64Array): number => values.reduce((sum, value) => sum + value, 0) / values.length;
  const [middleA, middleB] = [mean(a), mean(b)];
  let [both, own, other] = [0, 1e-12, 1e-12];
  for (let band = 0; band < a.length; band++) {
    both += (a[band]! - middleA) * (b[band]! - middleB);
    own += (a[band]! - middleA) ** 2;
    other += (b[band]! - middleB) ** 2;
  }
  return both / Math.sqrt(own * other);
}

/** The value that a share of the others is below. */
const percentile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor(share * Math.max(0, values.length - 1))] ?? 0;
const median = (values: readonly number[]): number => percentile(values, 0.5);

/** Peaks of loudness with a dip on both sides, as looks. */
function pulsesOf(looks: readonly Look[], dipDb: number): number[] {
  const level = looks.map((_, at) => {
    let sum = 0;
    for (let beside = -2; beside <= 2; beside++) sum += looks[Math.max(0, Math.min(looks.length - 1, at + beside))]!.db;
    return sum / 5;
  });
  const found: number[] = [];
  let [lowest, top, isRising] = [Math.min(level[0] ?? 0, (level[0] ?? 0) - dipDb), 0, true];
  for (let at = 1; at < level.length; at++) {
    if (isRising) {
      if (level[at]! > level[top]!) top = at;
      if (level[top]! - level[at]! < dipDb && at < level.length - 1) continue;
      if (level[top]! - lowest >= dipDb) found.push(top);
      [isRising, lowest] = [false, level[at]!];
    } else {
      lowest = Math.min(lowest, level[at]!);
      if (level[at]! - lowest >= dipDb) [isRising, top] = [true, at];
    }
  }
  return found;
}

/** How alike some spectra are, in the mean over all pairs. */
function alikeAmong(spectra: readonly Float64Array[]): number {
  let [sum, count] = [0, 0];
  spectra.forEach((one, index) => {
    for (const other of spectra.slice(index + 1)) {
      sum += likeness(one, other);
      count += 1;
    }
  });
  return sum / Math.max(1, count);
}

/**
 * How a laugh beats, in looks of 10 ms. Among words there must be more of it: syllables of speech come
 * four or five a second and differ; those of laughs that were measured six to eight, and are alike.
 */
const LAUGH = {
  dipDb: 5,
  /** Of its beats, a cough being none. */
  voiced: 0.4,
  alone: { count: 4, shortest: 9, longest: 26, uneven: 0.25, alike: 0.78 },
  amidSpeech: { count: 6, shortest: 9, longest: 17.5, uneven: 0.14, alike: 0.82 },
} as const;

function maybeLaugh(
  looks: readonly Look[],
  rule: (typeof LAUGH)['alone' | 'amidSpeech'],
): { first: number; last: number; peaks: number[] } | undefined {
  const peaks = pulsesOf(looks, LAUGH.dipDb);
  // The longest run that is even and alike.
  for (let length = peaks.length; length >= rule.count; length--) {
    for (let start = 0; start + length <= peaks.length; start++) {
      const run = peaks.slice(start, start + length);
      const steps = run.slice(1).map((peak, index) => peak - run[index]!);
      const mean = steps.reduce((sum, step) => sum + step, 0) / steps.length;
      const spread = Math.sqrt(steps.reduce((sum, step) => sum + (step - mean) ** 2, 0) / steps.length);
      if (mean < rule.shortest || mean > rule.longest || spread / mean > rule.uneven) continue;
      if (alikeAmong(run.map((peak) => looks[peak]!.bands)) >= rule.alike) return { first: run[0]!, last: run.at(-1)!, peaks: run };
    }
  }
  return undefined;
}

/** Of what holds throughout a noise a tenth of its looks may be otherwise. */
const THROUGHOUT = 0.15;
/** A tone of its own: nearly all power in it, above any voice, for a sixth of a second. */
const WHISTLE = { tonal: 0.8, leastHertz: 900, looks: 16, share: 0.3 } as const;
/** Voice and hardly anything above it, for longer than an m of speech lasts; a whole line of a low voice may be like that. */
const HUM = { low: 0.97, voiced: 0.8, looks: 35, mostAmidSpeech: 100 } as const;
/** Noise far below the voice, or at once and nearly as loud as it. */
const BREATH = { voiced: 0.25, belowDb: 10, mostLow: 0.8, most: 200 } as const;
const COUGH = { voiced: 0.4, belowDb: 14, onsetDb: 18, most: 60 } as const;
/** A sound sets in within so many looks before it is heard. */
const ONSET_LOOKS = 5;
/** Higher than anybody speaks, as loud as it, and long. */
const SCREAM = { hertz: 420, voiced: 0.8, belowDb: 8, looks: 50 } as const;

/** What one stretch of sound is; undefined where it is not plain. */
function maybeKind(
  looks: readonly Look[],
  pitches: readonly (number | undefined)[],
  loudestDb: number,
  beforeDb: number,
  isAlone: boolean,
): NoiseKind | undefined {
  const voiced = pitches.filter((pitch) => pitch !== undefined);
  const voicedShare = voiced.length / Math.max(1, pitches.length);
  const top = looks.reduce((most, { db }) => Math.max(most, db), -120);
  const least = (of: (look: Look) => number): number => percentile(looks.map(of), THROUGHOUT);
  if (
    looks.length >= WHISTLE.looks &&
    percentile(
      looks.map(({ tonal }) => tonal),
      WHISTLE.share,
    ) >= WHISTLE.tonal &&
    least(({ peakHertz }) => peakHertz) >= WHISTLE.leastHertz
  )
    return 'whistle';
  if (
    looks.length >= HUM.looks &&
    voicedShare >= HUM.voiced &&
    least(({ low }) => low) >= HUM.low &&
    (isAlone || looks.length <= HUM.mostAmidSpeech) &&
    median(voiced) < SCREAM.hertz
  )
    return 'hum';
  if (!isAlone) return undefined;
  if (looks.length >= SCREAM.looks && voicedShare >= SCREAM.voiced && median(voiced) > SCREAM.hertz && top >= loudestDb - SCREAM.belowDb)
    return 'scream';
  const onset = looks.slice(0, 4).reduce((most, { db }) => Math.max(most, db), -120) - beforeDb;
  if (looks.length <= COUGH.most && voicedShare <= COUGH.voiced && top >= loudestDb - COUGH.belowDb && onset >= COUGH.onsetDb)
    return 'cough';
  const low = median(looks.map((look) => look.low));
  if (looks.length <= BREATH.most && voicedShare <= BREATH.voiced && top <= loudestDb - BREATH.belowDb && low <= BREATH.mostLow)
    return 'breath';
  return undefined;
}

/**
 * Noises of the mouth in a recording.
 *
 * @param samples at 16 kHz, −1 to 1
 * @param words where words are, samples at 16 kHz, sorted: nothing is looked for in them. Without words everything
 *   may be speech, and only what is plain by itself is told
 */
export function hearNoises(samples: Float32Array, words?: readonly Span[]): HeardNoise[] {
  const count = Math.max(0, Math.floor((samples.length - WINDOW) / HOP) + 1);
  const levels = Float64Array.from({ length: count }, (_, at) => levelAt(samples, at * HOP));
  const loudest = levels.reduce((most, db) => Math.max(most, db), -120);
  const isWord = new Uint8Array(count);
  for (const { from, to } of words ?? [])
    for (let at = Math.max(0, Math.floor((from - WINDOW) / HOP)); at < Math.min(count, Math.ceil(to / HOP)); at++) isWord[at] = 1;
  const heard: { from: number; to: number }[] = [];
  levels.forEach((db, at) => {
    if (db < loudest - HEARD_DB || isWord[at]) return;
    const last = heard.at(-1);
    const isCut = last !== undefined && isWord.subarray(last.to, at).some((word) => word === 1);
    if (last && !isCut && at - last.to <= LEAST_GAP) last.to = at + 1;
    else heard.push({ from: at, to: at + 1 });
  });
  // Only what is heard outside words is looked at closely.
  const kept = new Map<number, Look>();
  const lookOf = (at: number): Look => {
    let look = kept.get(at);
    if (!look) kept.set(at, (look = lookAt(samples, at * HOP)));
    return look;
  };
  const looksIn = ({ from, to }: Span): Look[] => Array.from({ length: to - from }, (_, at) => lookOf(from + at));
  const pitchAt = (at: number): number | undefined => {
    const start = at * HOP - (PITCH_WINDOW - WINDOW) / 2;
    if (start < 0 || start + PITCH_WINDOW > samples.length) return undefined;
    const period = periodOf(samples, start);
    return period === undefined ? undefined : RECOGNISER_RATE / period;
  };
  const isVoiced = (peaks: readonly number[]): boolean =>
    peaks.filter((at) => pitchAt(at) !== undefined).length >= LAUGH.voiced * peaks.length;
  return joinedLaughs(heard, looksIn, isVoiced, words !== undefined).flatMap(({ from, to, laugh }): HeardNoise[] => {
    const own = looksIn({ from, to });
    const span = { from: from * HOP, to: Math.min(samples.length, (to - 1) * HOP + WINDOW) };
    if (laugh) return [{ ...span, kind: 'laugh', pulses: pulseSpans(own, laugh, span) }];
    if (own.length < LEAST_LOOKS) return [];
    const pitches = own.flatMap((_, at) => (at % 2 === 0 ? [pitchAt(from + at)] : []));
    const kind = maybeKind(own, pitches, loudest, levels[from - ONSET_LOOKS] ?? -120, words !== undefined);
    return kind ? [{ ...span, kind }] : [];
  });
}

interface Stretch extends Span {
  /** Peaks of a laugh, in looks from its start. */
  readonly laugh?: readonly number[];
}

/** A pause between two bursts of one laugh is no longer than this, in looks. */
const LAUGH_GAP = 22;

/** A laugh may be cut by silence at each of its beats: stretches that beat together are one. */
function joinedLaughs(
  stretches: readonly Span[],
  looksIn: (span: Span) => Look[],
  isVoiced: (peaks: readonly number[]) => boolean,
  isAlone: boolean,
): Stretch[] {
  const groups: Span[][] = [];
  for (const stretch of stretches) {
    const last = groups.at(-1);
    if (last && stretch.from - last.at(-1)!.to <= LAUGH_GAP) last.push(stretch);
    else groups.push([stretch]);
  }
  return groups.flatMap((group): Stretch[] => {
    const whole = { from: group[0]!.from, to: group.at(-1)!.to };
    const found = maybeLaugh(looksIn(whole), isAlone ? LAUGH.alone : LAUGH.amidSpeech);
    if (!found || !isVoiced(found.peaks.map((peak) => peak + whole.from))) return group;
    // Half a beat before the first and after the last.
    const beat = (found.last - found.first) / (found.peaks.length - 1);
    const from = Math.max(whole.from, Math.round(whole.from + found.first - beat / 2));
    const to = Math.min(whole.to, Math.round(whole.from + found.last + beat / 2 + 1));
    return [{ from, to, laugh: found.peaks.map((peak) => peak + whole.from - from) }];
  });
}

/** A laugh is loud within this of each of its peaks, in decibels. */
const PULSE_DB = 6;

function pulseSpans(looks: readonly Look[], peaks: readonly number[], { from }: Span): Span[] {
  return peaks.map((peak, index) => {
    const [before, after] = [peaks[index - 1] ?? -1, peaks[index + 1] ?? looks.length];
    let [first, last] = [peak, peak];
    while (first - 1 > (before + peak) / 2 && looks[first - 1]!.db > looks[peak]!.db - PULSE_DB) first -= 1;
    while (last + 1 < (after + peak) / 2 && looks[last + 1]!.db > looks[peak]!.db - PULSE_DB) last += 1;
    return { from: from + first * HOP, to: from + (last + 1) * HOP };
  });
}
