/** How the sheet and the easel are looked at: kept by the browser, for it belongs to the eye and not to the scene. */
import { createStore } from 'zustand/vanilla';
import { createJSONStorage, persist } from 'zustand/middleware';

export const LANE_HEIGHTS = { small: 0.62, medium: 1, large: 1.8 } as const;
export type LaneHeight = keyof typeof LANE_HEIGHTS;

export interface Looking {
  /** `bars` is the bar sheet, wrapped like music; `upright` the exposure sheet, a row a frame. */
  readonly sheet: 'bars' | 'upright';
  /** Frames a row of the bar sheet shows; null lets it fit the scene to the page. */
  readonly zoom: number | null;
  readonly lane: LaneHeight;
  /** What the thicker rules of the exposure sheet count: seconds, or feet of sixteen frames. */
  readonly thick: 'seconds' | 'feet';
  /** The mouths before and after are seen through the one on the easel. */
  readonly onion: boolean;
  /** Mouths start on the grid of the hold, which the ruler shows; else anywhere. */
  readonly snap: boolean;
  /** The easel has the whole page, the sheet is a strip below it. */
  readonly isEaselLarge: boolean;
}

/** Frames in a foot of 35 mm film with four perforations a frame (common practice). */
export const FRAMES_PER_FOOT = 16;

/** A row of the bar sheet never shows fewer frames. */
export const FEWEST_FRAMES = 8;

const PLAIN: Looking = { sheet: 'bars', zoom: null, lane: 'medium', thick: 'seconds', onion: false, snap: false, isEaselLarge: false };

export const looking = createStore<Looking>()(
  // Without a store it holds for this page.
  persist(() => PLAIN, {
    name: 'zest-looking',
    storage: createJSONStorage(() => localStorage),
    merge: (kept, now) => ({ ...now, ...withinReason((kept ?? {}) as Partial<Looking>) }),
  }),
);

/** What was kept, as far as it can still be meant. */
export function withinReason({ sheet, zoom, lane, thick, onion, snap }: Partial<Looking>): Partial<Looking> {
  return {
    ...(sheet === 'upright' && { sheet }),
    ...(typeof zoom === 'number' && zoom >= FEWEST_FRAMES && { zoom }),
    ...(lane !== undefined && Object.hasOwn(LANE_HEIGHTS, lane) && { lane }),
    ...(thick === 'feet' && { thick }),
    ...(onion === true && { onion }),
    ...(snap === true && { snap }),
  };
}

/** The frame where a mouth starts: where it is meant, or the nearest place of the hold it is on. @example onGrid(5, 2) // 6 */
export function onGrid(frame: number, holdFrames: number): number {
  return Math.round(frame / holdFrames) * holdFrames;
}

/**
 * Frames a row shows after a step of zoom.
 *
 * @param shown frames a row shows now
 * @param factor above 1 shows fewer
 * @example zoomed(100, 1.25, 500) // 80
 */
export function zoomed(shown: number, factor: number, lengthFrames: number): number {
  const next = Math.round(shown / factor);
  // A step is a frame at least.
  const moved = next === shown ? shown - Math.sign(factor - 1) : next;
  return Math.max(Math.min(FEWEST_FRAMES, lengthFrames), Math.min(lengthFrames, moved));
}
