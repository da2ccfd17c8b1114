/** What the checker allows, as the feel of a lane has it; a production may change each. */
import type { FullRules } from '../keying/rules.js';

export interface CheckLimits {
  /** A mouth may begin so long after its sound, in seconds. */
  readonly late: number;
  /** And so long before it. */
  readonly early: number;
  /** Changes a second, over one second. */
  readonly mostChanges: number;
  /** One mouth through so much speech, in seconds. */
  readonly longHold: number;
  /** An open mouth where nobody speaks, in seconds. */
  readonly openPause: number;
  /** Lips that stay shut after a p or b has opened, in seconds. */
  readonly shutAfter: number;
  /** Two mouths in turn that differ less are not seen as two: a share of the chart's widest. */
  readonly alike: number;
  /** A mouth that opens or shuts by more at once wants one between: a share of the chart's widest. */
  readonly unlike: number;
  /** A word read with less confidence is doubtful. */
  readonly doubtful: number;
  /** Frames after the last word, in seconds. */
  readonly tail: number;
}

export interface LimitWords {
  readonly name: string;
  /** What it does. */
  readonly about: string;
  readonly unit: string;
  readonly least: number;
  readonly most: number;
  readonly step: number;
}

export const LIMIT_WORDS: Readonly<Record<keyof CheckLimits, LimitWords>> = {
  late: { name: 'Late', about: 'A mouth that begins this long after its sound is late.', unit: 's', least: 0.04, most: 0.4, step: 0.005 },
  early: {
    name: 'Early',
    about: 'A mouth that begins this long before its sound is early.',
    unit: 's',
    least: 0.04,
    most: 0.6,
    step: 0.005,
  },
  mostChanges: { name: 'Changes', about: 'More changes in one second flap.', unit: 'a second', least: 3, most: 24, step: 0.5 },
  longHold: { name: 'Long hold', about: 'One mouth through so much speech is stuck.', unit: 's', least: 0.3, most: 4, step: 0.1 },
  openPause: {
    name: 'Open pause',
    about: 'An open mouth is let stand so long where nobody speaks.',
    unit: 's',
    least: 0.04,
    most: 2,
    step: 0.02,
  },
  shutAfter: {
    name: 'Shut after',
    about: 'Lips may stay shut so long after a p or b has opened.',
    unit: 's',
    least: 0,
    most: 0.4,
    step: 0.01,
  },
  alike: {
    name: 'Alike',
    about: 'Two mouths in turn that differ less are not seen as two.',
    unit: 'of the widest',
    least: 0,
    most: 0.3,
    step: 0.01,
  },
  unlike: {
    name: 'Unlike',
    about: 'A mouth that opens by more at once wants one between.',
    unit: 'of the widest',
    least: 0.4,
    most: 1.2,
    step: 0.05,
  },
  doubtful: {
    name: 'Doubtful',
    about: 'A word read less surely is to be heard before its mouths are believed.',
    unit: '',
    least: 0,
    most: 0.95,
    step: 0.05,
  },
  tail: { name: 'Tail', about: 'So much scene may follow the last word.', unit: 's', least: 0.2, most: 30, step: 0.1 },
};

/**
 * When sound and picture part visibly: a sound may be 90 ms before its picture and 185 ms after it (Recommendation ITU-R
 * BT.1359-1, “acceptability”; from memory). A late mouth is a sound before its picture.
 */
const PARTED = { late: 0.09, early: 0.185 } as const;

/**
 * What a feel allows. A feel that changes less holds longer and flaps sooner (common practice, no source; the figures are
 * ours, set on three labelled voices and judged on others: docs/benchmarks.md).
 */
export function limitsOf(rules: FullRules, own: Partial<CheckLimits> = {}): CheckLimits {
  const { calm, mostChanges, strict, holdFrames } = rules;
  return {
    late: PARTED.late + (strict ? 0.02 * holdFrames : 0),
    early: PARTED.early + (strict ? 0.02 * holdFrames : 0),
    mostChanges: mostChanges > 0 ? mostChanges + 4 : holdFrames === 1 ? 17 : 13,
    longHold: 0.9 + 1.1 * calm,
    openPause: 0.2,
    shutAfter: 0.1,
    alike: 0.035,
    unlike: 0.85,
    doubtful: 0.5,
    tail: 1,
    ...own,
  };
}

/** What is wrong with limits, as sentences; empty when nothing is. */
export function checkLimits(limits: Partial<CheckLimits>): string[] {
  return Object.entries(limits).flatMap(([key, value]) => {
    const words = Object.hasOwn(LIMIT_WORDS, key) ? LIMIT_WORDS[key as keyof CheckLimits] : undefined;
    if (!words) return [`There is no limit “${key}”. There are ${Object.keys(LIMIT_WORDS).join(', ')}.`];
    const { name, least, most, unit } = words;
    if (typeof value === 'number' && value >= least && value <= most) return [];
    return [`The limit “${name}” is ${String(value)}. It may be ${least} to ${most}${unit === '' ? '' : ` ${unit}`}.`];
  });
}
