/**
 * The rules a mouth track is keyed by, and the named sets of them: a feel. What a rule does
 * to the face is said where it is shown; the figures are common practice where no source is
 * named, and tuned by eye on the demo and by measure on the labelled lines.
 */

import { DRAWING_LIMITS } from '../chart/chart.js';

/** Nothing; lips that must meet; those and whatever is said faster than the hold. */
export type OnesFor = 'nothing' | 'closures' | 'quick';
export const ONES_FOR: readonly OnesFor[] = ['nothing', 'closures', 'quick'];

export interface KeyingRules {
  /** Frames that a mouth changes before its sound. */
  readonly leadFrames: number;
  /** Least frames a drawing is held: 1 on ones, 2 on twos. */
  readonly holdFrames: number;
  /** Mouths change only on multiples of the hold, with the body; closures too. */
  readonly strict: boolean;
  /** What may be shorter than the hold, down to one frame, where the mouth is not strict. */
  readonly onesFor?: OnesFor;
  /** What a change costs, 0 to 1: at 0 the mouth follows every sound, at 1 only what must be seen. */
  readonly calm?: number;
  /** Frames that the last mouth of a phrase is held before it rests. */
  readonly settleFrames?: number;
  /** Frames that a mouth opens before a phrase. */
  readonly anticipationFrames?: number;
  /** A pause shorter than this, in seconds, holds the mouth. */
  readonly holdPause?: number;
  /** A pause at least this long rests it; between the two it relaxes. */
  readonly restPause?: number;
  /** Changes a second at most, over a phrase; 0 for no limit. */
  readonly mostChanges?: number;
  /** How readily a mouth that opens far at once gets an in-between, 0 (never) to 1: one that opens by more than `1 − betweens` of the widest does. */
  readonly betweens?: number;
  /** A long hold of an open mouth begins slightly larger, for one hold. */
  readonly settlesHolds?: boolean;
  /** At the end of a rest at least so long, in seconds, the mouth breathes in; 0 for never. */
  readonly breathAfter?: number;
  /** Where a group has several drawings, louder and stressed sounds take the wider ones. */
  readonly accents?: boolean;
  /** Of several drawings of a group those that carry this tag; null for those that carry none. */
  readonly tag?: string | null;
  /** What the mouth is keyed from: the sounds, or only how loud the recording is. */
  readonly source?: 'sounds' | 'loudness';
  /** What counts as silent and as loudest, in dBFS; null for the recording's own. */
  readonly floorDb?: number | null;
  readonly peakDb?: number | null;
}

export type FullRules = Required<KeyingRules>;

export const RULE_LIMITS = {
  leadFrames: { least: 0, most: 6 },
  holdFrames: { least: 1, most: 8 },
  calm: { least: 0, most: 1 },
  settleFrames: { least: 0, most: 8 },
  anticipationFrames: { least: 0, most: 6 },
  holdPause: { least: 0, most: 2 },
  restPause: { least: 0, most: 3 },
  mostChanges: { least: 0, most: 24 },
  betweens: { least: 0, most: 1 },
  breathAfter: { least: 0, most: 10 },
  floorDb: { least: -90, most: 0 },
  peakDb: { least: -90, most: 0 },
} as const;
const MAY_BE_NULL: readonly (keyof typeof RULE_LIMITS)[] = ['floorDb', 'peakDb'];
const WHOLE: readonly (keyof typeof RULE_LIMITS)[] = ['leadFrames', 'holdFrames', 'settleFrames', 'anticipationFrames'];

export interface Feel {
  readonly name: string;
  /** What it does to the face, as a sentence. */
  readonly look: string;
  readonly rules: FullRules;
}

const NATURAL: FullRules = {
  leadFrames: 1,
  holdFrames: 2,
  strict: false,
  onesFor: 'closures',
  calm: 0.22,
  settleFrames: 2,
  anticipationFrames: 1,
  holdPause: 0.2,
  restPause: 0.4,
  mostChanges: 0,
  betweens: 0,
  settlesHolds: false,
  breathAfter: 0,
  accents: true,
  tag: null,
  source: 'sounds',
  floorDb: null,
  peakDb: null,
};

export const FEELS: readonly Feel[] = [
  {
    name: 'Crisp',
    look: 'Every sound that can be seen is seen. For close shots and quick talkers.',
    rules: { ...NATURAL, holdFrames: 1, calm: 0.08, settleFrames: 1 },
  },
  { name: 'Natural', look: 'On twos, with ones where lips must meet. What the tongue does inside goes first.', rules: NATURAL },
  {
    name: 'Limited',
    look: 'Strictly on twos, with the body, and few changes. The mouth says the line without spelling it.',
    rules: { ...NATURAL, strict: true, calm: 0.42, anticipationFrames: 0, mostChanges: 7 },
  },
  {
    name: 'Replacement',
    look: 'As few swaps as the line allows, held long. For mouths that are changed by hand.',
    rules: { ...NATURAL, calm: 0.5, settleFrames: 3, restPause: 0.6, mostChanges: 5 },
  },
  {
    name: 'Full',
    look: 'On ones, with in-betweens where the mouth opens wide, holds that settle and a breath after a pause.',
    rules: { ...NATURAL, holdFrames: 1, calm: 0.15, betweens: 0.65, settlesHolds: true, breathAfter: 0.8 },
  },
];

/** One frame of lead, on twos, free (common practice, no source). */
export const DEFAULT_RULES: KeyingRules = { leadFrames: 1, holdFrames: 2, strict: false };

/** Rules with what they do not say as Natural has it. */
export function fullRules(rules: KeyingRules): FullRules {
  return { ...NATURAL, ...rules };
}

/** The feel whose rules these are, whatever tag is asked for; undefined for rules of the animator's own. */
export function maybeFeel(rules: KeyingRules, feels: readonly Feel[] = FEELS): Feel | undefined {
  const full = fullRules(rules);
  return feels.find((feel) =>
    (Object.keys(full) as (keyof FullRules)[]).every((rule) => rule === 'tag' || fullRules(feel.rules)[rule] === full[rule]),
  );
}

const NAMES: Readonly<Record<keyof typeof RULE_LIMITS, string>> = {
  leadFrames: 'lead',
  holdFrames: 'hold',
  calm: 'calm',
  settleFrames: 'settle',
  anticipationFrames: 'anticipation',
  holdPause: 'pause that holds',
  restPause: 'pause that rests',
  mostChanges: 'limit of changes a second',
  betweens: 'readiness for in-betweens',
  breathAfter: 'rest that ends in a breath',
  floorDb: 'floor',
  peakDb: 'peak',
};

/** What is wrong with rules, as sentences; empty when nothing is. */
export function checkRules(rules: KeyingRules): string[] {
  const full = fullRules(rules);
  const faults = (Object.keys(RULE_LIMITS) as (keyof typeof RULE_LIMITS)[]).flatMap((rule) => {
    const { least, most } = RULE_LIMITS[rule];
    const value: unknown = full[rule];
    const whole = WHOLE.includes(rule);
    if (value === null && MAY_BE_NULL.includes(rule)) return [];
    if (typeof value === 'number' && value >= least && value <= most && (!whole || Number.isInteger(value))) return [];
    return [`The ${NAMES[rule]} is ${String(value)}${whole ? ' frames' : ''}. It may be ${least} to ${most}.`];
  });
  if (typeof full.strict !== 'boolean') faults.push('Strict is either true or false.');
  if (!ONES_FOR.includes(full.onesFor)) faults.push(`Ones are for nothing, closures or quick sounds, not for “${String(full.onesFor)}”.`);
  if (typeof full.accents !== 'boolean') faults.push('Accents are either true or false.');
  if (typeof full.settlesHolds !== 'boolean') faults.push('Holds that settle are either true or false.');
  if (full.tag !== null && !(typeof full.tag === 'string' && full.tag.length > 0 && full.tag.length <= DRAWING_LIMITS.tagLetters))
    faults.push(`A tag has 1 to ${DRAWING_LIMITS.tagLetters} letters, not “${String(full.tag)}”.`);
  if (full.source !== 'sounds' && full.source !== 'loudness') faults.push('A mouth is keyed from sounds or from loudness.');
  if (faults.length === 0 && full.floorDb !== null && full.peakDb !== null && full.peakDb <= full.floorDb)
    faults.push(`The peak, ${full.peakDb} dB, must be above the floor, ${full.floorDb} dB.`);
  if (faults.length === 0 && full.restPause < full.holdPause)
    faults.push(
      `A pause rests the mouth from ${full.restPause} s but holds it up to ${full.holdPause} s. Let it rest later, or hold it less.`,
    );
  return faults;
}

export const FEEL_LIMITS = { feels: 40, letters: 24 } as const;

/** What is wrong with a production's own feels, as sentences; empty when nothing is. */
export function checkFeels(feels: readonly Feel[]): string[] {
  const taken = new Set(FEELS.map(({ name }) => name.toLowerCase()));
  return feels.flatMap(({ name, rules }) => {
    const key = name.trim().toLowerCase();
    if (key === '') return ['A feel needs a name.'];
    if (taken.has(key)) return [`There is a feel “${name.trim()}” already. Give this one another name.`];
    taken.add(key);
    const known = Object.keys(fullRules(DEFAULT_RULES));
    const unknown = Object.keys(rules).find((rule) => !known.includes(rule));
    return unknown === undefined ? checkRules(rules) : [`There is no rule “${unknown}”.`];
  });
}
