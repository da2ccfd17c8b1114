/** Charts to begin with: 3, 6, 9, 13 or 16 built mouths in a style of our own. */
import type { MouthStyle } from '../draw/mouthFigure.js';
import { STARTER_SHAPES } from '../draw/mouthShape.js';
import { AS_IT_IS } from '../draw/art.js';
import { KEYCAPS, PLAIN_DRAWING, type ChartDocument, type Drawing } from './chart.js';
import { DEFAULT_SOUND_GROUPS, REST, SIXTEEN_SOUND_GROUPS } from './soundGroups.js';

/** Finishes for a starter chart, by name. */
export const STARTER_STYLES: Readonly<Record<string, MouthStyle>> = {
  brush: { line: '#33202f', lip: '#d9785c', inside: '#561f35', teeth: '#fffdf6', tongue: '#e27a78', weight: 4.6, rim: 0 },
  clay: { line: '#4a3320', lip: '#eaa33a', inside: '#4b1d2c', teeth: '#fff8e6', tongue: '#d9706a', weight: 3.2, rim: 0.85 },
  paper: { line: '#7d2f3c', lip: '#c9545c', inside: '#3b1626', teeth: '#fdf6e6', tongue: '#ea9a8a', weight: 0.9, rim: 0.55 },
  pen: { line: '#1e2a44', lip: '#f7f2e6', inside: '#1e2a44', teeth: '#fffdf6', tongue: '#8c93a3', weight: 2.6, rim: 0.12 },
};

/** What the finishes are, in a few words each. */
export const STARTER_STYLE_WORDS: Readonly<Record<keyof typeof STARTER_STYLES, string>> = {
  brush: 'Brush: a line that swells and thins',
  clay: 'Clay: a thick rim all round',
  paper: 'Cut paper: flat shapes, hardly a line',
  pen: 'Pen: one ink, no colour',
};

export const STARTER_SIZES = [3, 6, 9, 13, 16] as const;
export type StarterSize = (typeof STARTER_SIZES)[number];

/** A mouth of a small starter: its label, the shape it has, the groups it plays. */
type StarterMouth = readonly [label: string, shape: string, groups: string];

const SMALL_STARTERS: Readonly<Record<3 | 6 | 9, readonly StarterMouth[]>> = {
  3: [
    ['Shut', 'press', 'rest press bite'],
    ['Open', 'mid', 'tip lift teeth back spread mid drop'],
    ['Round', 'ring', 'push ring pucker'],
  ],
  6: [
    ['Rest', 'rest', 'rest'],
    ['Press', 'press', 'press'],
    ['Bite', 'bite', 'bite'],
    ['Narrow', 'teeth', 'tip teeth spread back'],
    ['Wide open', 'drop', 'lift mid drop'],
    ['Round', 'ring', 'push ring pucker'],
  ],
  9: [
    ['Rest', 'rest', 'rest'],
    ['Press', 'press', 'press'],
    ['Bite', 'bite', 'bite'],
    ['Teeth', 'teeth', 'teeth tip push'],
    ['Spread', 'spread', 'spread'],
    ['Mid', 'mid', 'mid back lift'],
    ['Drop', 'drop', 'drop'],
    ['Ring', 'ring', 'ring'],
    ['Pucker', 'pucker', 'pucker'],
  ],
};

function builtDrawing(index: number, id: string, label: string, shape: string, groups: readonly string[]): Drawing {
  return {
    ...PLAIN_DRAWING,
    id,
    number: index + 1,
    place: index,
    label,
    keycap: KEYCAPS[index] ?? '',
    groups,
    art: { kind: 'built', shape: STARTER_SHAPES[shape]! },
    placement: AS_IT_IS,
  };
}

/**
 * A chart of built mouths: one drawing for each sound group at 13 and 16, groups that look
 * alike sharing one below.
 *
 * @param style a name in {@link STARTER_STYLES}
 * @example starterChart('Bramble, front', 'brush', 6).drawings.length // 6
 */
export function starterChart(name: string, style: keyof typeof STARTER_STYLES, size: StarterSize = 13): ChartDocument {
  const groups = size === 16 ? SIXTEEN_SOUND_GROUPS : DEFAULT_SOUND_GROUPS;
  const drawings =
    size === 13 || size === 16
      ? groups.map((group, index) => builtDrawing(index, group.id, group.name, group.id, [group.id]))
      : SMALL_STARTERS[size].map(([label, shape, plays], index) => builtDrawing(index, shape, label, shape, plays.split(' ')));
  return { settings: [{ id: 'chart', name, style: STARTER_STYLES[style]! }], head: [], groups, drawings };
}

/**
 * A chart for those who bring their own: one resting mouth, drawn with nothing, that the first
 * import or the pen takes the place of.
 */
export function emptyChart(name: string, style: keyof typeof STARTER_STYLES): ChartDocument {
  const starter = starterChart(name, style, 3);
  const [first] = starter.drawings;
  return {
    ...starter,
    drawings: [{ ...first!, id: 'rest', label: 'Rest', groups: [REST], art: { kind: 'drawn', marks: [] } }],
  };
}
