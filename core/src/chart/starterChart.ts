/** Charts to begin with: thirteen built mouths in a style of our own. */
import type { MouthStyle } from '../draw/mouthFigure.js';
import { STARTER_SHAPES } from '../draw/mouthShape.js';
import { KEYCAPS, type ChartDocument } from './chart.js';
import { DEFAULT_SOUND_GROUPS } from './soundGroups.js';

/** Finishes for a starter chart, by name. */
export const STARTER_STYLES: Readonly<Record<string, MouthStyle>> = {
  brush: { line: '#33202f', lip: '#d9785c', inside: '#561f35', teeth: '#fffdf6', tongue: '#e27a78', weight: 4.6, rim: 0 },
  clay: { line: '#4a3320', lip: '#eaa33a', inside: '#4b1d2c', teeth: '#fff8e6', tongue: '#d9706a', weight: 3.2, rim: 0.85 },
};

/**
 * A chart of one drawing for each default group, in the order of the tray.
 *
 * @param style a name in {@link STARTER_STYLES}
 */
export function starterChart(name: string, style: keyof typeof STARTER_STYLES): ChartDocument {
  return {
    settings: [{ id: 'chart', name, style: STARTER_STYLES[style]! }],
    groups: DEFAULT_SOUND_GROUPS,
    drawings: DEFAULT_SOUND_GROUPS.map((group, index) => ({
      id: group.id,
      number: index + 1,
      label: group.name,
      keycap: KEYCAPS[index]!,
      groups: [group.id],
      shape: STARTER_SHAPES[group.id]!,
    })),
  };
}
