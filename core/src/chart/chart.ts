/**
 * A mouth chart: an ordered set of drawings for one view of one face, and the sound
 * groups they play. A chart is a document like a scene, changed by the same patches.
 */
import type { DocumentKind } from '../document/documentKind.js';
import type { MouthStyle } from '../draw/mouthFigure.js';
import { maybeFaultOfShape, type MouthShape } from '../draw/mouthShape.js';
import { measureShape } from '../draw/measures.js';
import { REST, type SoundGroup } from './soundGroups.js';

export interface ChartSettings {
  readonly id: 'chart';
  readonly name: string;
  readonly style: MouthStyle;
}

/** One mouth, built from parameters. */
export interface Drawing {
  readonly id: string;
  /** Its number on the exposure sheet, from 1; also its place in the tray. */
  readonly number: number;
  readonly label: string;
  /** The key that puts it at the playhead, one upper-case letter; empty for none. */
  readonly keycap: string;
  /** The sound groups it plays, by id. */
  readonly groups: readonly string[];
  readonly shape: MouthShape;
}

export interface ChartDocument {
  readonly settings: readonly ChartSettings[];
  readonly groups: readonly SoundGroup[];
  readonly drawings: readonly Drawing[];
}

export const CHART_KIND: DocumentKind<ChartDocument> = {
  settings: { compare: () => 0 },
  groups: { compare: () => 0 },
  drawings: { compare: (a, b) => a.number - b.number },
};

/** The keycaps of the tray by position: the left hand's three rows. */
export const KEYCAPS = [...'QWERTASDFGZXCVB'];

export function chartSettings(chart: ChartDocument): ChartSettings {
  return chart.settings[0]!;
}

export function maybeDrawing(chart: ChartDocument, id: string): Drawing | undefined {
  return chart.drawings.find((drawing) => drawing.id === id);
}

/** The drawing that plays a group; undefined when the chart has none for it. */
export function maybeDrawingOfGroup(chart: ChartDocument, groupId: string): Drawing | undefined {
  return chart.drawings.find((drawing) => drawing.groups.includes(groupId));
}

/** The drawing for silence: the one that plays Rest, else the least open. */
export function restDrawing(chart: ChartDocument): Drawing {
  const rest = maybeDrawingOfGroup(chart, REST);
  if (rest) return rest;
  const [least] = [...chart.drawings].sort((a, b) => measureShape(a.shape).opening - measureShape(b.shape).opening);
  return least!;
}

/**
 * What is wrong with a chart, as sentences; empty when nothing is. Anything may be passed:
 * a chart read from a file is checked before it is used.
 */
export function checkChart(candidate: unknown): string[] {
  const chart = candidate as Partial<ChartDocument> | null;
  if (
    !chart ||
    typeof chart !== 'object' ||
    !Array.isArray(chart.settings) ||
    !Array.isArray(chart.groups) ||
    !Array.isArray(chart.drawings)
  ) {
    return ['This is not a mouth chart: it must have settings, groups and drawings. Export a chart again, or see docs/formats.md.'];
  }
  const faults: string[] = [];
  if (chart.drawings.length === 0) faults.push('The chart has no drawing. Add at least one.');
  const groupIds = new Set(chart.groups.map((group: SoundGroup) => group.id));
  const seen = new Set<unknown>();
  const keycaps = new Set<unknown>();
  for (const drawing of chart.drawings as Partial<Drawing>[]) {
    const name = drawing.label ?? drawing.id ?? 'without a label';
    if (typeof drawing.id !== 'string' || seen.has(drawing.id)) faults.push(`Drawing “${name}” needs an id of its own.`);
    seen.add(drawing.id);
    if (typeof drawing.label !== 'string' || drawing.label.trim() === '' || drawing.label.length > 40)
      faults.push(`A drawing needs a label of 1 to 40 letters.`);
    if (typeof drawing.keycap !== 'string' || !/^[A-Z]?$/.test(drawing.keycap))
      faults.push(`The keycap of “${name}” must be one letter, or nothing.`);
    else if (drawing.keycap !== '' && keycaps.has(drawing.keycap))
      faults.push(`Two drawings have the keycap ${drawing.keycap}. Give one of them another.`);
    keycaps.add(drawing.keycap);
    if (!Number.isInteger(drawing.number)) faults.push(`Drawing “${name}” needs a whole number.`);
    if (!drawing.shape || maybeFaultOfShape(drawing.shape))
      faults.push(`Drawing “${name}” has a shape whose numbers are missing or out of range.`);
    if (!Array.isArray(drawing.groups)) faults.push(`Drawing “${name}” needs a list of the groups it plays.`);
    else
      for (const group of drawing.groups)
        if (!groupIds.has(group)) faults.push(`Drawing “${name}” plays the group “${group}”, which the chart does not have.`);
  }
  return faults;
}

export interface Coverage {
  readonly covered: number;
  /** Groups without a drawing of their own. */
  readonly missing: readonly SoundGroup[];
  /** Drawings that play more than one group. */
  readonly shared: readonly Drawing[];
}

/** What a chart can and cannot show. */
export function coverageOfChart(chart: ChartDocument): Coverage {
  const missing = chart.groups.filter((group) => !maybeDrawingOfGroup(chart, group.id));
  return {
    covered: chart.groups.length - missing.length,
    missing,
    shared: chart.drawings.filter((drawing) => drawing.groups.length > 1),
  };
}
