/**
 * The bar sheet's layout, without a browser: which stretch of the scene each system shows,
 * where it lies on the page, and where everything in it goes. The painter executes it; hit
 * testing is its inverse.
 */
import {
  cutIntoSystems,
  framePositionOfSample,
  framesPerSecond,
  placedWords,
  sceneSettings,
  timeScale,
  type Exposure,
  type SceneDocument,
  type Span,
  type TimeScale,
} from '@zest-jaw/core';
import { CLIP_LINE, layClips } from './clipLane.js';

export type RowName = 'ruler' | 'words' | 'sounds' | 'marks' | 'clips' | 'wave' | 'crib' | 'mouth' | 'others';

/** Which rows a sheet has. */
export type SheetView = 'key' | 'listen' | 'crib';

export interface Row {
  readonly name: RowName;
  /** Pixels from the system's top. */
  readonly y: number;
  readonly height: number;
}

export interface SystemPlan {
  readonly index: number;
  readonly from: number;
  readonly to: number;
  /** Where its words begin and end, fractions of a frame allowed: a word's last part-frame stays with it. */
  readonly wordsFrom: number;
  readonly wordsTo: number;
  /** Pixels from the sheet's top. */
  readonly top: number;
  readonly scale: TimeScale;
}

export interface BarSheetPlan {
  readonly systems: readonly SystemPlan[];
  readonly rows: readonly Row[];
  readonly width: number;
  /** Of one system without the gap below it. */
  readonly systemHeight: number;
  readonly height: number;
  /** How much larger than usual mouths are drawn, where the sheet has room or they are wanted so. */
  readonly mouthGrowth: number;
}

/** Left of the lanes, where their names stand. */
export const LABEL_WIDTH = 50;
const RIGHT_MARGIN = 8;
export const SYSTEM_GAP = 16;

/** Pixels a second aimed at; a frame is never narrower than 11 or wider than 34. */
const PER_SECOND = 330;
const PER_FRAME = { least: 11, most: 34 } as const;

/** Scales tried, as shares of the wanted one: a little narrower may save a row or keep a phrase whole. */
const TRIED_SCALES = [1.15, 1.08, 1, 0.94, 0.88, 0.82, 0.76] as const;
/** What it costs to be narrower than wanted, a whole share. */
const NARROW_COST = 2.2;

/** A gap between words this long, in seconds, is a pause that a system may end in. */
const PAUSE_SECONDS = 0.28;

const HEIGHTS: Readonly<Record<SheetView, readonly (readonly [RowName, number])[]>> = {
  key: [
    ['ruler', 20],
    ['words', 24],
    ['sounds', 23],
    ['wave', 36],
    ['mouth', 68],
  ],
  crib: [
    ['ruler', 20],
    ['words', 24],
    ['sounds', 23],
    ['wave', 30],
    ['crib', 56],
    ['mouth', 68],
  ],
  listen: [
    ['ruler', 20],
    ['words', 26],
    ['sounds', 24],
    ['marks', 20],
    ['clips', CLIP_LINE],
    ['wave', 58],
  ],
};

/** Height of the lane of one more speaker, below the one that is worked on. */
export const OTHER_LANE = 36;
/** Of one that is folded to a line. */
export const FOLDED_LANE = 11;

const heightOf = ({ folded }: { readonly folded?: boolean }): number => (folded ? FOLDED_LANE : OTHER_LANE);

/** Where the lanes of others lie below each other, in pixels from the first. */
export function lanesBelow<Lane extends { readonly folded?: boolean }>(
  others: readonly Lane[],
): { readonly lane: Lane; readonly y: number; readonly height: number }[] {
  let y = 0;
  return others.map((lane) => {
    const placed = { lane, y, height: heightOf(lane) };
    y += placed.height;
    return placed;
  });
}

/** Rows that gain by being larger when there is room. */
const GROWING: readonly RowName[] = ['wave', 'mouth'];
const MOST_GROWTH = 2.2;

/** How much wider than usual frames may be on a large page, the widest first; and what must be left for the rows to grow. */
const WIDER = [2.6, 2.2, 1.8, 1.5, 1.25] as const;
const ROOM_TO_GROW = 1.25;

/** A stretch of frames that a system shows. */
type SystemStretch = ReturnType<typeof cutIntoSystems>['stretches'][number];

function stackRows(heights: readonly (readonly [RowName, number])[], growth: number): Row[] {
  let y = 0;
  return heights.map(([name, usual]) => {
    const height = Math.floor(GROWING.includes(name) ? usual * growth : usual);
    const row = { name, y, height };
    y += height + 2;
    return row;
  });
}

/** How much the growing rows may grow for all systems to fit a height. */
function growthFor(heights: readonly (readonly [RowName, number])[], systems: number, room: number): number {
  const sum = (names: (name: RowName) => boolean): number =>
    heights.reduce((total, [name, height]) => total + (names(name) ? height : 0), 0);
  const fixed = sum((name) => !GROWING.includes(name)) + heights.length * 2 + SYSTEM_GAP;
  const growing = sum((name) => GROWING.includes(name));
  return Math.min(MOST_GROWTH, Math.max(1, (room / Math.max(1, systems) - fixed) / growing));
}

/** Words of several speakers, those that overlap as one; those that only touch stay apart, for a row may end between them. */
function withoutOverlaps(words: readonly Span[]): Span[] {
  const spans: Span[] = [];
  for (const word of words) {
    const last = spans.at(-1);
    if (last && word.from < last.to) spans[spans.length - 1] = { from: last.from, to: Math.max(last.to, word.to) };
    else spans.push(word);
  }
  return spans;
}

/** What of a scene its layout depends on: no mouth, and no sound. */
export type PlannedScene = Pick<SceneDocument, 'settings' | 'words' | 'clips' | 'tracks'>;

/** Lines that the lane of clips needs for none to cover another. */
function clipLines(scene: PlannedScene): number {
  return Math.max(1, ...layClips(scene, () => '').map((clip) => clip.level + 1));
}

/** How a sheet is wanted. */
export interface SheetSize {
  /** In pixels. */
  readonly width: number;
  readonly view?: SheetView;
  /** Height in sight, in pixels; a short scene grows to use it. */
  readonly room?: number;
  /** Frames a row shows at most; null fits them to the page. */
  readonly zoom?: number | null;
  /** Height of the lane of mouths, as a share of the usual one. */
  readonly lane?: number;
  /** How many of the lanes of others are folded to a line. */
  readonly folded?: number;
}

export function planBarSheet(
  scene: PlannedScene,
  { width, view = 'key', room = 0, zoom = null, lane = 1, folded = 0 }: SheetSize,
): BarSheetPlan {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const fps = framesPerSecond(frameRate);
  const across = Math.max(200, width - LABEL_WIDTH - RIGHT_MARGIN);
  const words = withoutOverlaps(
    placedWords(scene).map(({ from, to }) => ({ from: framePositionOfSample(frameRate, from), to: framePositionOfSample(frameRate, to) })),
  );
  const perFrameOf = (share: number): number => Math.min(PER_FRAME.most, Math.max(PER_FRAME.least, (PER_SECOND / fps) * share));
  // Every system has the same scale, so that a length on one is the same length on the next.
  const cutAt = (wider: number): { readonly perFrame: number; readonly stretches: readonly SystemStretch[] } => {
    const settings = TRIED_SCALES.map((share) => {
      const perFrame = perFrameOf(share * wider);
      const { stretches, cost } = cutIntoSystems(words, lengthFrames, Math.max(4, Math.floor(across / perFrame)), PAUSE_SECONDS * fps);
      return { perFrame, stretches, cost: cost + NARROW_COST * Math.abs(1 - share) };
    });
    return settings.reduce((best, setting) => (setting.cost < best.cost ? setting : best));
  };
  const zoomedTo = (frames: number): ReturnType<typeof cutAt> => ({
    perFrame: across / frames,
    stretches: cutIntoSystems(words, lengthFrames, frames, PAUSE_SECONDS * fps).stretches,
  });
  const usual: Partial<Record<RowName, number>> = { clips: view === 'listen' ? clipLines(scene) : 1, mouth: lane };
  const own = HEIGHTS[view].map(([name, height]) => [name, height * (usual[name] ?? 1)] as const);
  const others = view === 'listen' ? 0 : scene.tracks.length - 1;
  const heights = others > 0 ? [...own, ['others', (others - folded) * OTHER_LANE + folded * FOLDED_LANE] as const] : own;
  const least = heights.reduce((sum, [, height]) => sum + height + 2, 0) + SYSTEM_GAP;
  // On a large page frames are wider, so that a short scene is not a strip in an empty hall; as many rows as there is room for.
  const mayFit = (share: number): boolean => {
    // Rows that are full are the fewest there can be: most widths need not be tried.
    const fewest = (lengthFrames * perFrameOf(Math.min(...TRIED_SCALES) * share)) / across;
    return fewest * least * ROOM_TO_GROW <= room;
  };
  const wider = (): number => WIDER.find((share) => mayFit(share) && cutAt(share).stretches.length * least * ROOM_TO_GROW <= room) ?? 1;
  const { perFrame, stretches } = zoom === null ? cutAt(wider()) : zoomedTo(Math.min(zoom, lengthFrames));
  const growth = growthFor(heights, stretches.length, room);
  const rows = stackRows(heights, growth);
  const systemHeight = rows.at(-1)!.y + rows.at(-1)!.height;
  const systems = stretches.map((stretch, index) => ({
    ...stretch,
    index,
    top: index * (systemHeight + SYSTEM_GAP),
    scale: timeScale(stretch.from, stretch.to, LABEL_WIDTH, perFrame),
  }));
  return { systems, rows, width, systemHeight, mouthGrowth: growth * lane, height: systems.length * (systemHeight + SYSTEM_GAP) };
}

export function rowNamed(plan: BarSheetPlan, name: RowName): Row | undefined {
  return plan.rows.find((row) => row.name === name);
}

/** The system that shows a frame. */
export function systemOfFrame(plan: BarSheetPlan, frame: number): SystemPlan | undefined {
  return plan.systems.find((system) => frame >= system.from && frame < system.to);
}

/** Ends closer than this, in frames, are one place: sums of samples differ in the last digit. */
const SAME_PLACE = 1e-6;

/** Whether a word or a sound belongs to a system, by where exactly its words begin and end; one too long for any row belongs to several. */
export function isSpokenIn({ wordsFrom, wordsTo }: SystemPlan, { from, to }: Span): boolean {
  return to > wordsFrom + SAME_PLACE && from < wordsTo - SAME_PLACE;
}

/** A key of a place is taken hold of this near to its lozenge, in pixels. */
export const PLACE_REACH = 7;

export interface Hit {
  readonly frame: number;
  /** The frame with its fraction. */
  readonly position: number;
  readonly row: RowName | undefined;
  /** Pixels below the row's top. */
  readonly within: number;
  readonly rowHeight: number;
  readonly perFrame: number;
}

/** What lies under a point of the sheet; undefined between systems. */
export function hitTest(plan: BarSheetPlan, x: number, y: number): Hit | undefined {
  const system = plan.systems.find(({ top }) => y >= top && y < top + plan.systemHeight);
  if (!system) return undefined;
  const within = y - system.top;
  const row = plan.rows.find((candidate) => within >= candidate.y && within < candidate.y + candidate.height);
  const { scale } = system;
  const position = system.from + (x - scale.x(system.from)) / scale.perFrame;
  return {
    frame: scale.frame(x),
    position,
    row: row?.name,
    within: within - (row?.y ?? 0),
    rowHeight: row?.height ?? 0,
    perFrame: scale.perFrame,
  };
}

/** A mouth placed in the lane: a roomy exposure has it at full size, short ones take turns above and below the middle. */
export interface PlacedMouth<E extends Exposure = Exposure> {
  readonly exposure: E;
  readonly x: number;
  readonly width: number;
  /** Middle of the drawing. */
  readonly centre: number;
  readonly level: 'full' | 'above' | 'below';
  /** Width the drawing may take, in pixels. */
  readonly size: number;
}

/** Widest a drawing gets in the lane, and in a staggered half of it, in pixels. */
export const MOUTH_SIZE = { full: 66, half: 42 } as const;

/** Where the mouths of one system go; exposures that run over its ends are cut there. */
export function placeMouths<E extends Exposure>(
  exposures: readonly E[],
  { from, to, scale }: Pick<SystemPlan, 'from' | 'to' | 'scale'>,
  growth = 1,
): PlacedMouth<E>[] {
  const [full, half] = [MOUTH_SIZE.full * growth, MOUTH_SIZE.half * growth];
  const placed: PlacedMouth<E>[] = [];
  let turn: 'above' | 'below' = 'above';
  for (const exposure of exposures) {
    if (exposure.to <= from || exposure.from >= to) continue;
    const x = scale.x(Math.max(exposure.from, from));
    const width = scale.x(Math.min(exposure.to, to)) - x;
    const isRoomy = width >= MOUTH_SIZE.full * 0.8;
    const level = isRoomy ? 'full' : turn;
    turn = isRoomy ? 'above' : turn === 'above' ? 'below' : 'above';
    placed.push({
      exposure,
      x,
      width,
      level,
      centre: isRoomy ? x + Math.min(width / 2, full / 2 + 4) : x + width / 2,
      size: isRoomy ? Math.min(width - 4, full) : half,
    });
  }
  return placed.map((mouth, index) => (mouth.level === 'full' ? mouth : { ...mouth, size: roomFor(placed, index, half) }));
}

/** How wide a staggered drawing may be before it touches its neighbours of the same level. */
function roomFor(placed: readonly PlacedMouth[], index: number, most: number): number {
  const { centre, level, x, width } = placed[index]!;
  const clashes = (other: PlacedMouth | undefined): other is PlacedMouth => !!other && (other.level === level || other.level === 'full');
  const left = [placed[index - 1], placed[index - 2]].find(clashes);
  const right = [placed[index + 1], placed[index + 2]].find(clashes);
  const edge = (other: PlacedMouth, towardsRight: boolean): number => {
    if (other.level !== 'full') return (centre + other.centre) / 2;
    // A full mouth fills the start of its exposure only; its hold may be drawn over.
    return towardsRight ? other.x : Math.min(other.centre + other.size / 2, x);
  };
  const half = Math.min(most / 2, left ? centre - edge(left, false) : most, right ? edge(right, true) - centre : most);
  return Math.max(width - 2, half * 2 - 1, 12);
}
