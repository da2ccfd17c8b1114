/** What a stop-motion stage pulls from its trays and shoots: which mouths, how often, how many swaps; and each shot in order. */
import Papa from 'papaparse';
import { maybeDrawing, writtenNumber, type ChartDocument, type Drawing } from '../chart/chart.js';
import type { FrameLook } from '../formats/pictures.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import { counted, type Counting } from './counting.js';

/** One mouth put on, and how long it stays. */
export interface Shot {
  /** From 0. */
  readonly frame: number;
  readonly frames: number;
  /** How many pictures the camera takes of it. */
  readonly pictures: number;
  /** null where no mouth is on. */
  readonly drawing: Drawing | null;
  readonly chartId: string | null;
  /** What comes after it; null at the end. */
  readonly next: Drawing | null;
}

export interface Pulled {
  readonly drawing: Drawing;
  readonly chartId: string;
  /** How often it is put on, and for how many frames in all. */
  readonly times: number;
  readonly frames: number;
  /** The longest it stays. */
  readonly longest: number;
}

export interface PullList {
  readonly shots: readonly Shot[];
  /** In the order of their numbers. */
  readonly pulled: readonly Pulled[];
  readonly swaps: number;
}

/**
 * @param looks what each frame shows
 * @param cameraOn frames of the scene that one picture of the camera lasts: 1 on ones, 2 on twos
 */
export function pullListOf(
  looks: readonly (FrameLook | undefined)[],
  charts: ReadonlyMap<string, ChartDocument>,
  cameraOn: 1 | 2,
): PullList {
  const shots: Shot[] = [];
  // A camera on twos sees a mouth where its picture is taken: on every second frame.
  for (let frame = 0; frame < looks.length; frame += cameraOn) {
    const look = looks[frame];
    const chart = look && charts.get(look.chartId);
    const drawing = (chart && maybeDrawing(chart, look.drawing)) ?? null;
    const chartId = drawing ? look!.chartId : null;
    const length = Math.min(cameraOn, looks.length - frame);
    const last = shots.at(-1);
    if (last && last.drawing?.id === drawing?.id && last.chartId === chartId)
      shots[shots.length - 1] = { ...last, frames: last.frames + length, pictures: last.pictures + 1 };
    else {
      if (last) shots[shots.length - 1] = { ...last, next: drawing };
      shots.push({ frame, frames: length, pictures: 1, drawing, chartId, next: null });
    }
  }
  const pulled = new Map<string, Pulled>();
  for (const { drawing, chartId, frames } of shots) {
    if (!drawing || chartId === null) continue;
    const key = `${chartId} ${drawing.id}`;
    const known = pulled.get(key) ?? { drawing, chartId, times: 0, frames: 0, longest: 0 };
    pulled.set(key, { ...known, times: known.times + 1, frames: known.frames + frames, longest: Math.max(known.longest, frames) });
  }
  return {
    shots,
    pulled: [...pulled.values()].sort((a, b) => a.drawing.number - b.drawing.number || (a.drawing.id < b.drawing.id ? -1 : 1)),
    swaps: Math.max(0, shots.length - 1),
  };
}

/** The shots as a table with a column to tick. */
export function shootingListCsv(scene: SceneDocument, { shots }: PullList, counting: Counting): string {
  const rows = shots.map(({ frame, frames, pictures, drawing, next }) => [
    '',
    counted(scene, counting, frame),
    drawing ? writtenNumber(drawing) : '',
    drawing?.label ?? 'no mouth',
    frames,
    pictures,
    next ? writtenNumber(next) : '',
  ]);
  const head = ['done', counting.unit === 'frames' ? 'frame' : counting.unit, 'number', 'mouth', 'frames', 'pictures', 'next'];
  return `${Papa.unparse([head, ...rows], { escapeFormulae: true, newline: '\r\n' })}\r\n`;
}
