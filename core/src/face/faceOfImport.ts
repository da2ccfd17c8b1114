/**
 * A whole face from one layered file: its outermost layers are the parts, the layers inside them the drawings, and an outermost
 * layer by itself is the head behind them.
 */
import type { FoundMouthView } from '../api/views.js';
import type { Placement, PlacedArt } from '../draw/art.js';
import type { IdSource } from '../document/refusal.js';
import { KEYCAPS, PLAIN_DRAWING, type ChartDocument, type Drawing } from '../chart/chart.js';
import { PART_LIMITS } from '../chart/faultsOfParts.js';
import type { ChartHead, HeadPart, MouthPlace } from '../chart/head.js';
import { maybeMatchOfName } from '../chart/matchName.js';
import type { SoundGroup } from '../chart/soundGroups.js';
import { placementsOfImport } from '../chart/takeImport.js';

/** A part of the face that was found, with its drawings in the order of the file. */
export interface FoundPart {
  readonly name: string;
  readonly isMouth: boolean;
  /** Below 0 behind the mouth. */
  readonly order: number;
  readonly drawings: readonly (FoundMouthView & { readonly label: string })[];
}

export interface FoundFace {
  /** What lies behind all of them. */
  readonly head: FoundMouthView | undefined;
  readonly parts: readonly FoundPart[];
}

const MOUTH = /mouth|lips?\b|visem|phonem|mund\b|bouche|boca|bocca/i;
const HEAD = /head|face|skull|body|base|kopf|t[êe]te|cabeza|testa/i;

/** A layer's own name, without that of the layer around it. */
function labelOf({ name, within }: FoundMouthView): string {
  const own = within !== undefined && name.toLowerCase().startsWith(`${within.toLowerCase()} `) ? name.slice(within.length + 1) : name;
  return own.trim().slice(0, 40) || 'Drawing';
}

/**
 * The parts of a face among what was found in one layered file; undefined where it is no face: of several files, with fewer
 * than two layers that hold drawings, or with none that is the mouth.
 */
export function maybeFaceOfImport(mouths: readonly FoundMouthView[], groups: readonly SoundGroup[]): FoundFace | undefined {
  const [first] = mouths;
  if (!first || mouths.some(({ pageKey, art }) => pageKey !== first.pageKey || !art.page)) return undefined;
  const folders = [...new Set(mouths.flatMap(({ within }) => within ?? []))];
  if (folders.length < 2 || folders.length > PART_LIMITS.most) return undefined;
  const inside = (folder: string): FoundMouthView[] => mouths.filter(({ within }) => within === folder);
  const played = (folder: string): number => inside(folder).filter((one) => maybeMatchOfName(labelOf(one), groups)).length;
  const named = folders.find((folder) => MOUTH.test(folder));
  const mouth = named ?? [...folders].sort((a, b) => played(b) - played(a)).find((folder) => played(folder) >= 2);
  if (mouth === undefined) return undefined;
  const loose = mouths.filter(({ within }) => within === undefined);
  const area = ({ art: { ink } }: FoundMouthView): number => ink.width * ink.height;
  const head = loose.find(({ name }) => HEAD.test(name)) ?? [...loose].sort((a, b) => area(b) - area(a))[0];
  // A list of layers begins with what is in front, a drawing's groups with what is behind.
  const fromBack = first.as.startsWith('layer') ? [...folders].reverse() : folders;
  const at = fromBack.indexOf(mouth);
  return {
    head,
    parts: fromBack.map((name, place) => ({
      name: name.trim().slice(0, PART_LIMITS.nameLetters),
      isMouth: name === mouth,
      order: place - at,
      drawings: inside(name).map((one) => ({ ...one, label: labelOf(one) })),
    })),
  };
}

/** Where a part's drawings lie on its chart, and where that chart's cross lies on the page, in the page's units. */
function placedPart({ drawings }: FoundPart): { readonly placements: Placement[]; readonly cross: MouthPlace } {
  const placements = placementsOfImport(drawings);
  const [{ x, y, scale }, { art }] = [placements[0]!, drawings[0]!];
  return { placements, cross: { x: art.page!.x - x / scale, y: art.page!.y - y / scale, scale: 1 / scale, angle: 0 } };
}

/** A part of a face as its head and its chart are to have it. */
export interface PlacedPart {
  readonly name: string;
  readonly isMouth: boolean;
  readonly order: number;
  readonly at: MouthPlace;
  readonly drawings: readonly { readonly index: number; readonly label: string; readonly placement: Placement }[];
}

/**
 * Where every part lies on the head. With a head in the file, in its pixels; without one, on the head that is there, as far from
 * the mouth as in the file.
 *
 * @param behind the chart's own head
 */
export function placedFace({ head, parts }: FoundFace, behind: ChartHead | undefined): PlacedPart[] {
  const placed = parts.map((part) => ({ part, ...placedPart(part) }));
  const mouth = placed.find(({ part }) => part.isMouth)!.cross;
  const onHead = (cross: MouthPlace): MouthPlace => {
    if (head) return { ...cross, x: cross.x - head.art.page!.x, y: cross.y - head.art.page!.y };
    if (!behind) return cross;
    // Of the file's units to the head's: the mouth keeps its place and size there.
    const unit = behind.mouth.scale / mouth.scale;
    const { x, y } = behind.mouth;
    return { x: x + (cross.x - mouth.x) * unit, y: y + (cross.y - mouth.y) * unit, scale: cross.scale * unit, angle: 0 };
  };
  return placed.map(({ part: { name, isMouth, order, drawings }, placements, cross }) => ({
    name,
    isMouth,
    order,
    at: onHead(cross),
    drawings: drawings.map(({ index, label }, at) => ({ index, label, placement: placements[at]! })),
  }));
}

/** A head that is a picture of the file, with the mouth where the file has it. */
export function headOfFace(art: PlacedArt, mouth: MouthPlace, behind: ChartHead | undefined): ChartHead {
  const { parts: _parts, poses: _poses, jaw: _jaw, ...rest } = behind ?? { id: 'head' as const, backdrop: [] };
  return { ...rest, id: 'head', art: { kind: 'picture', picture: art.picture }, width: art.width, height: art.height, mouth };
}

/** The chart of a part, with the drawings that were found. */
export function chartOfPart(
  settings: ChartDocument['settings'][number],
  drawings: readonly { readonly label: string; readonly art: PlacedArt; readonly placement: Placement }[],
  newId: IdSource,
): ChartDocument {
  return {
    settings: [{ ...settings, part: true }],
    head: [],
    groups: [],
    drawings: drawings.map(({ label, art, placement }, place): Drawing => ({
      ...PLAIN_DRAWING,
      id: newId(),
      number: place + 1,
      place,
      label,
      keycap: KEYCAPS[place] ?? '',
      groups: [],
      art,
      placement,
    })),
  };
}

export type NewPartOfFace = Pick<HeadPart, 'name' | 'order' | 'at' | 'role'> & {
  readonly drawings: readonly { readonly label: string; readonly art: PlacedArt; readonly placement: Placement }[];
};
