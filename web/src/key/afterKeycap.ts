/** Where the playhead goes when a keycap has put a mouth: kept by the browser, for it belongs to the hand. */
import { createStore } from 'zustand/vanilla';
import { createJSONStorage, persist } from 'zustand/middleware';
import type { SheetData } from '../barSheet/sheetData.js';

export const ADVANCES = ['stay', 'hold', 'sound', 'word'] as const;
export type Advance = (typeof ADVANCES)[number];

export const ADVANCE_NAMES: Readonly<Record<Advance, string>> = {
  stay: 'stays',
  hold: 'one hold on',
  sound: 'to the next sound',
  word: 'to the next word',
};

export const afterKeycap = createStore<{ readonly advance: Advance }>()(
  // Without a store it holds for this page.
  persist(() => ({ advance: 'stay' as Advance }), {
    name: 'zest-after-keycap',
    storage: createJSONStorage(() => localStorage),
    merge: (kept, now) => {
      const { advance } = (kept ?? now) as { advance: Advance };
      return ADVANCES.includes(advance) ? { advance } : now;
    },
  }),
);

/** The frame where the next mouth begins; the same frame when nothing follows. */
export function frameAfter(
  advance: Advance,
  frame: number,
  { sounds, words }: Pick<SheetData, 'sounds' | 'words'>,
  holdFrames: number,
): number {
  if (advance === 'stay') return frame;
  if (advance === 'hold') return frame + holdFrames;
  const starts = (advance === 'sound' ? sounds : words).map(({ from }) => Math.round(from));
  return starts.find((start) => start > frame) ?? frame;
}
