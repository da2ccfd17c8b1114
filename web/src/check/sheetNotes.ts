/** Notes as the ruler of a lane shows them. */
import type { Note, Remark } from '@zest-jaw/core';
import type { SheetNote } from '../barSheet/sheetData.js';

/** Those of the whole lane have no place on the ruler. Where several begin on a frame the heaviest is seen. */
export function sheetNotes(open: readonly Note[], remarks: readonly Remark[], track: string): SheetNote[] {
  const byFrame = new Map<number, SheetNote>();
  for (const { frame, done } of remarks) if (!done) byFrame.set(frame, { from: frame, to: frame + 1, weight: 0 });
  for (const { from, to, weight, track: own } of open) {
    if ((own !== null && own !== track) || (from === 0 && to > 1 && weight === 1)) continue;
    const before = byFrame.get(from);
    if (!before || before.weight < weight) byFrame.set(from, { from, to, weight });
  }
  return [...byFrame.values()].sort((a, b) => a.from - b.from);
}
