/** The rules a mouth track is keyed by. */
export interface KeyingRules {
  /** Frames that a mouth changes before its sound. */
  readonly leadFrames: number;
  /** Least frames a drawing is held: 1 on ones, 2 on twos. */
  readonly holdFrames: number;
  /** Mouths change only on multiples of the hold, with the body; closures too. */
  readonly strict: boolean;
}

export const RULE_LIMITS = { leadFrames: { least: 0, most: 6 }, holdFrames: { least: 1, most: 8 } } as const;

/** One frame of lead, on twos, free (common practice, no source). */
export const DEFAULT_RULES: KeyingRules = { leadFrames: 1, holdFrames: 2, strict: false };

/** What is wrong with rules, as sentences; empty when nothing is. */
export function checkRules(rules: KeyingRules): string[] {
  const faults: string[] = [];
  const { leadFrames, holdFrames } = RULE_LIMITS;
  const within = (value: number, { least, most }: { least: number; most: number }): boolean =>
    Number.isInteger(value) && value >= least && value <= most;
  if (!within(rules.leadFrames, leadFrames))
    faults.push(`The lead is ${rules.leadFrames} frames. It may be ${leadFrames.least} to ${leadFrames.most}.`);
  if (!within(rules.holdFrames, holdFrames))
    faults.push(`The hold is ${rules.holdFrames} frames. It may be ${holdFrames.least} to ${holdFrames.most}.`);
  if (typeof rules.strict !== 'boolean') faults.push('Strict is either true or false.');
  return faults;
}
