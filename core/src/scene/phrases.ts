/**
 * The scene cut into systems for the bar sheet: each row one stretch of the scene that
 * fits its width, broken at a pause where there is one, else between words; never inside
 * a word.
 */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** A span of sound in frames, fractions allowed. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

/**
 * @param words sorted, in frames
 * @param mostFrames most frames a row holds
 * @param pauseFrames a gap between words at least this long is a pause
 * @returns stretches that cover `[0, lengthFrames)` without a gap
 */
export function cutIntoSystems(words: readonly Span[], lengthFrames: number, mostFrames: number, pauseFrames: number): Stretch[] {
  const breaks = words.slice(1).flatMap((word, index) => {
    const gap = word.from - words[index]!.to;
    // In a pause the row ends shortly before the next word, so that its lead and breath are with it.
    const at = gap >= pauseFrames ? Math.floor(word.from - Math.min(pauseFrames / 2, gap / 2)) : Math.round(word.from - gap / 2);
    return [{ at, isPause: gap >= pauseFrames }];
  });
  const stretches: Stretch[] = [];
  let from = 0;
  while (from < lengthFrames) {
    const furthest = from + mostFrames;
    if (furthest >= lengthFrames) {
      const pause = breaks.findLast((candidate) => candidate.isPause && candidate.at > from && candidate.at < lengthFrames);
      const fillsRow = lengthFrames - from > mostFrames * 0.72;
      if (pause && fillsRow) {
        stretches.push({ from, to: pause.at });
        from = pause.at;
        continue;
      }
      stretches.push({ from, to: lengthFrames });
      break;
    }
    const within = breaks.filter((candidate) => candidate.at > from && candidate.at <= furthest);
    const pause = within.findLast((candidate) => candidate.isPause && candidate.at - from >= mostFrames * 0.3);
    const to = pause?.at ?? within.findLast((candidate) => candidate.at - from >= mostFrames * 0.3)?.at ?? furthest;
    stretches.push({ from, to });
    from = to;
  }
  return stretches;
}
