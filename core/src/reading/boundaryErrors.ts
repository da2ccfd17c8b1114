/**
 * How far a reading's boundaries are from labels made by somebody else: the phonemes are
 * matched by least edits (Levenshtein), then each matched start is compared.
 */

export interface LabelledPhoneme {
  readonly symbol: string;
  readonly fromSeconds: number;
}

/** Pairs of indexes `[read, labelled]` whose symbols match, by least edits. */
export function matchSymbols(read: readonly string[], labelled: readonly string[]): [number, number][] {
  const width = labelled.length + 1;
  const cost = new Uint32Array((read.length + 1) * width);
  for (let r = 0; r <= read.length; r++) {
    for (let l = 0; l < width; l++) {
      if (r === 0 || l === 0) {
        cost[r * width + l] = r + l;
        continue;
      }
      const substituted = cost[(r - 1) * width + l - 1]! + (read[r - 1] === labelled[l - 1] ? 0 : 1);
      cost[r * width + l] = Math.min(substituted, cost[(r - 1) * width + l]! + 1, cost[r * width + l - 1]! + 1);
    }
  }
  const pairs: [number, number][] = [];
  for (let r = read.length, l = labelled.length; r > 0 && l > 0;) {
    const same = read[r - 1] === labelled[l - 1];
    const here = cost[r * width + l]!;
    if (same) {
      pairs.push([r - 1, l - 1]);
      r -= 1;
      l -= 1;
    } else if (here === cost[(r - 1) * width + l]! + 1) r -= 1;
    else if (here === cost[r * width + l - 1]! + 1) l -= 1;
    else {
      r -= 1;
      l -= 1;
    }
  }
  return pairs.reverse();
}

/** Start of each matched phoneme minus its label's, in seconds. */
export function boundaryErrors(read: readonly LabelledPhoneme[], labelled: readonly LabelledPhoneme[]): number[] {
  const pairs = matchSymbols(
    read.map((phoneme) => phoneme.symbol),
    labelled.map((phoneme) => phoneme.symbol),
  );
  return pairs.map(([r, l]) => read[r]!.fromSeconds - labelled[l]!.fromSeconds);
}

/** Share of errors no larger than a limit, 0 to 1. */
export function shareWithin(errors: readonly number[], limitSeconds: number): number {
  return errors.filter((error) => Math.abs(error) <= limitSeconds + 1e-9).length / Math.max(1, errors.length);
}
