/** The phrase at a frame: the words around it with no pause between them, and a breath at both ends. */
import type { Span } from '@zest-jaw/core';

/** A gap this long parts two phrases, in seconds. */
const PAUSE_SECONDS = 0.28;
/** Heard before and after the phrase, in seconds. */
const BREATH_SECONDS = 0.12;

/** @param words sorted, in frames */
export function phraseAt(words: readonly Span[], frame: number, framesPerSecond: number, lengthFrames: number): Span {
  const pause = PAUSE_SECONDS * framesPerSecond;
  const phrases: { from: number; to: number }[] = [];
  for (const { from, to } of words) {
    const last = phrases.at(-1);
    if (last && from - last.to < pause) last.to = Math.max(last.to, to);
    else phrases.push({ from, to });
  }
  const distance = ({ from, to }: Span): number => (frame < from ? from - frame : frame > to ? frame - to : 0);
  const [nearest] = [...phrases].sort((a, b) => distance(a) - distance(b));
  if (!nearest) return { from: 0, to: lengthFrames };
  const breath = BREATH_SECONDS * framesPerSecond;
  return { from: Math.max(0, Math.floor(nearest.from - breath)), to: Math.min(lengthFrames, Math.ceil(nearest.to + breath)) };
}
