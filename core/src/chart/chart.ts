/**
 * A mouth chart: an ordered set of drawings for one view of one face, and the sound
 * groups they play. A chart is a document like a scene, changed by the same patches.
 */
import { isNumberWithin } from '../document/checks.js';
import type { DocumentKind } from '../document/documentKind.js';
import { boiledLook, type Boil } from '../draw/boil.js';
import { isRefusal } from '../document/refusal.js';
import { isMade, madeOf, mixInWords, pushInWords, shareInWords } from '../draw/madeDrawings.js';
import { mixOfLooks } from '../draw/mixLooks.js';
import type { MouthStyle } from '../draw/mouthFigure.js';
import { maybeFaultOfLook, maybeFaultOfStyle, picturesOfLook, type Look } from '../draw/art.js';
import { maybeFaultOfHead, picturesOfHead, type ChartHead } from './head.js';
import { maybeFaultOfParts, maybeFaultOfPoses } from './faultsOfParts.js';
import { measureLook } from './measureLook.js';
import { inMapOrder, REST, type SoundGroup } from './soundGroups.js';

/** How a diphthong is shown, where it is otherwise than usual. */
export interface DiphthongEnds {
  /** ARPAbet. */
  readonly symbol: string;
  /** The group it begins as; its own without one. */
  readonly first?: string;
  /** The group it ends as; null stays one shape throughout, without one it ends as its glide does. */
  readonly second?: string | null;
}

export interface ChartSettings {
  readonly id: 'chart';
  readonly name: string;
  readonly style: MouthStyle;
  readonly diphthongs?: readonly DiphthongEnds[];
  /** Its drawings are of another part of the face: no sound plays them. */
  readonly part?: true;
}

/** What the further looks of a drawing are for: redrawn to keep a held line alive, or frames played in turn. */
export type Motion = 'boil' | 'cycle';

/** One mouth of a chart. */
export interface Drawing extends Look {
  readonly id: string;
  /** Its number on the exposure sheet and, with clay mouths, on its back: its own, whatever its place. From 0. */
  readonly number: number;
  /** How its number is written, where it is made of others. */
  readonly written?: string;
  /** Its place in the tray, from 0. */
  readonly place: number;
  readonly label: string;
  /** The key that puts it at the playhead, one upper-case letter; empty for none. */
  readonly keycap: string;
  /** The sound groups it plays, by id. */
  readonly groups: readonly string[];
  /** Words of the animator's own, to find it by. */
  readonly tags: readonly string[];
  /** Further looks, after the drawing itself. */
  readonly variants: readonly Look[];
  readonly motion: Motion;
  /** Frames each look is held. */
  readonly every: number;
}

export interface ChartDocument {
  readonly settings: readonly ChartSettings[];
  /** At most one. */
  readonly head: readonly ChartHead[];
  readonly groups: readonly SoundGroup[];
  readonly drawings: readonly Drawing[];
}

export const CHART_KIND: DocumentKind<ChartDocument> = {
  settings: { compare: () => 0 },
  head: { compare: () => 0 },
  groups: { compare: inMapOrder },
  drawings: { compare: (a, b) => a.place - b.place },
};

/** The keycaps of the tray by position: the left hand's three rows. */
export const KEYCAPS = [...'QWERTASDFGZXCVB'];

export function chartSettings(chart: ChartDocument): ChartSettings {
  return chart.settings[0]!;
}

/** Whether a chart's drawings are of another part of the face than the mouth. */
export const isPartChart = (chart: ChartDocument): boolean => chartSettings(chart).part === true;

export function maybeHead(chart: ChartDocument): ChartHead | undefined {
  return chart.head[0];
}

/** The largest number a drawing may have. */
export const MOST_NUMBER = 9999;

/** How a drawing is finished that has no parts said: the limits of its lists. */
export const DRAWING_LIMITS = { variants: 24, tags: 12, tagLetters: 24, every: 24 } as const;

/** What of a drawing is usually the same. */
export const PLAIN_DRAWING = { tags: [], variants: [], motion: 'boil', every: 2 } as const;

/** A drawing of a chart, or one made of those of the chart. */
export function maybeDrawing(chart: ChartDocument, id: string): Drawing | undefined {
  return chart.drawings.find((drawing) => drawing.id === id) ?? (isMade(id) ? maybeMadeDrawing(chart, id) : undefined);
}

const madeOfChart = new WeakMap<ChartDocument, Map<string, Drawing | undefined>>();

/** A drawing made of others: the same one each time, so that what is known of it is known again. */
function maybeMadeDrawing(chart: ChartDocument, id: string): Drawing | undefined {
  let known = madeOfChart.get(chart);
  if (!known) madeOfChart.set(chart, (known = new Map()));
  if (!known.has(id)) known.set(id, makeDrawing(chart, id));
  return known.get(id);
}

function makeDrawing(chart: ChartDocument, id: string): Drawing | undefined {
  const { plain, mix, push } = madeOf(id);
  const found = (of: string): Drawing | undefined => chart.drawings.find((drawing) => drawing.id === of);
  const pushed = (look: Look): Look => (push ? { ...look, push } : look);
  if (!mix) {
    const drawing = found(plain);
    if (!drawing) return undefined;
    const variants = drawing.variants.map(pushed);
    return { ...drawing, ...pushed(drawing), id, label: `${drawing.label} pushed`, written: pushInWords(String(drawing.number)), variants };
  }
  const [a, b] = [found(mix.a), found(mix.b)];
  if (!a || !b) return undefined;
  const near = mix.share < 0.5 ? a : b;
  const mixed = mixOfLooks(a, b, mix.share);
  const { art, placement } = pushed(isRefusal(mixed) ? near : mixed);
  const share = shareInWords(mix.share);
  const { number, place } = near;
  const written = mixInWords(String(a.number), String(b.number), mix.share);
  return {
    ...PLAIN_DRAWING,
    id,
    number,
    place,
    label: `${a.label} to ${b.label} ${share}${push ? ', pushed' : ''}`,
    written: push ? pushInWords(written) : written,
    keycap: '',
    groups: [],
    art,
    placement,
    ...(push && { push }),
  };
}

/** A drawing's number as it is written: that of an in-between is made of two, and a star stands for a push. */
export function writtenNumber({ number, written }: Pick<Drawing, 'number' | 'written'>): string {
  return written ?? String(number);
}

/** Whether any sound group has several drawings, to be chosen from by loudness and stress. */
export function hasSizes(chart: ChartDocument): boolean {
  return chart.groups.some(({ id }) => chart.drawings.filter((drawing) => drawing.groups.includes(id)).length > 1);
}

/** The drawing that plays a group; undefined when the chart has none for it. */
export function maybeDrawingOfGroup(chart: ChartDocument, groupId: string): Drawing | undefined {
  return chart.drawings.find((drawing) => drawing.groups.includes(groupId));
}

/** The drawing for silence: the one that plays Rest, else the least open; of a part of the face, the first of its tray. */
export function restDrawing(chart: ChartDocument): Drawing {
  if (chartSettings(chart).part) return [...chart.drawings].sort((a, b) => a.place - b.place)[0]!;
  const rest = maybeDrawingOfGroup(chart, REST);
  if (rest) return rest;
  const [least] = [...chart.drawings].sort((a, b) => measureLook(a).opening - measureLook(b).opening);
  return least!;
}

function faultsOfMotion({ variants, tags, motion, every }: Partial<Drawing>, name: string): string[] {
  const faults: string[] = [];
  const { variants: most, tags: mostTags, tagLetters, every: longest } = DRAWING_LIMITS;
  if (!Array.isArray(variants) || variants.length > most) faults.push(`Drawing “${name}” may have ${most} variants at most.`);
  if (
    !Array.isArray(tags) ||
    tags.length > mostTags ||
    !tags.every((tag) => typeof tag === 'string' && tag.length > 0 && tag.length <= tagLetters)
  )
    faults.push(`Drawing “${name}” may have ${mostTags} tags of 1 to ${tagLetters} letters.`);
  if (motion !== 'boil' && motion !== 'cycle') faults.push(`Drawing “${name}” must boil or cycle.`);
  if (!Number.isInteger(every) || every! < 1 || every! > longest) faults.push(`Each variant of “${name}” is held 1 to ${longest} frames.`);
  return faults;
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
    !Array.isArray(chart.head) ||
    !Array.isArray(chart.groups) ||
    !Array.isArray(chart.drawings)
  ) {
    return [
      'This is not a mouth chart: it must have settings, a head (or none), groups and drawings. Export a chart again, or see docs/formats.md.',
    ];
  }
  const faults: string[] = [];
  const settings = chart.settings[0] as Partial<ChartSettings> | undefined;
  if (typeof settings?.name !== 'string' || settings.name.trim() === '' || settings.name.length > 80)
    faults.push('A mouth chart needs a name of 1 to 80 letters.');
  const styleFault = settings?.style ? maybeFaultOfStyle(settings.style) : 'no finish';
  if (styleFault) faults.push(`The chart has ${styleFault}.`);
  if (chart.head.length > 1) faults.push('A chart has one head at most.');
  const headFault = chart.head[0] && maybeFaultOfHead(chart.head[0] as ChartHead);
  if (headFault) faults.push(headFault);
  const { parts, poses } = (chart.head[0] as ChartHead | undefined) ?? {};
  const partsFault = (parts && maybeFaultOfParts(parts)) ?? (poses && maybeFaultOfPoses(poses));
  if (partsFault) faults.push(partsFault);
  if (settings?.part && chart.groups.length > 0) faults.push('A part of a face has no sound groups: nothing in it is played by sounds.');
  if (chart.drawings.length === 0) faults.push('The chart has no drawing. Add at least one.');
  const sounds = chart.groups.flatMap((group: Partial<SoundGroup>) => group.phonemes ?? []);
  const twice = sounds.find((symbol, index) => sounds.indexOf(symbol) !== index);
  if (twice !== undefined) faults.push(`The sound ${twice} is in two groups. A sound looks like one of them: take it out of the other.`);
  const groupIds = new Set(chart.groups.map((group: SoundGroup) => group.id));
  const seen = new Set<unknown>();
  const keycaps = new Set<unknown>();
  const numbers = new Set<unknown>();
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
    if (!isNumberWithin(drawing.number, 0, MOST_NUMBER) || !Number.isInteger(drawing.number))
      faults.push(`The number of “${name}” is ${String(drawing.number)}. It may be a whole number from 0 to ${MOST_NUMBER}.`);
    else if (numbers.has(drawing.number)) faults.push(`Two drawings have the number ${drawing.number}. Give one of them another.`);
    numbers.add(drawing.number);
    if (!Number.isInteger(drawing.place)) faults.push(`Drawing “${name}” needs a place in the tray.`);
    for (const look of [drawing, ...(Array.isArray(drawing.variants) ? drawing.variants : [])] as Look[]) {
      const fault = maybeFaultOfLook(look);
      if (fault) faults.push(`Drawing “${name}” has ${fault}.`);
    }
    faults.push(...faultsOfMotion(drawing, name));
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

/**
 * Which of a drawing's looks a frame shows, 0 for the drawing itself. A boil goes round with
 * the scene's frames, so that it never stops at a cut; a cycle begins where its exposure does.
 */
export function lookIndexAt(drawing: Drawing, frame: number, exposedFrom: number): number {
  const count = 1 + drawing.variants.length;
  if (count === 1) return 0;
  const since = drawing.motion === 'cycle' ? frame - exposedFrom : frame;
  return Math.floor(Math.max(0, since) / drawing.every) % count;
}

/** A drawing's look by index. */
export function lookOf(drawing: Drawing, index: number): Look {
  return index === 0 ? drawing : (drawing.variants[index - 1] ?? drawing);
}

/** What is seen of a drawing: one of its looks, redrawn where it boils. */
export function seenOf(drawing: Drawing, index: number, boil: Boil | undefined): Look {
  return boiledLook(lookOf(drawing, index), drawing.id, boil);
}

/** The content hashes of every picture a chart needs. */
export function picturesOfChart(chart: ChartDocument): Set<string> {
  const looks = chart.drawings.flatMap((drawing): Look[] => [drawing, ...drawing.variants]);
  return new Set([...looks.flatMap(picturesOfLook), ...chart.head.flatMap(picturesOfHead)]);
}

/** How far the jaw is down for a drawing: its opening as a share of the chart's widest, 0 to 1. */
export function jawDropOf(chart: ChartDocument, drawing: Drawing | undefined): number {
  if (!drawing) return 0;
  const most = Math.max(...chart.drawings.map((other) => measureLook(other).opening));
  return most > 0 ? Math.max(0, Math.min(1, measureLook(drawing).opening / most)) : 0;
}
