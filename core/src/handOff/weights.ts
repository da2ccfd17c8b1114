/**
 * One weight a drawing and frame, for those who blend shapes: 1 where it is shown, 0 elsewhere, or eased so that a mouth
 * is whole on the frame it begins on and comes in over the frames before it. The weights of a frame with a mouth add up to 1.
 */
import Papa from 'papaparse';
import type { ChartDocument } from '../chart/chart.js';
import { drawingsIn, sharesOf } from '../draw/madeDrawings.js';
import type { FrameLook } from '../formats/pictures.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import { counted, countingInWords, type Counting } from './counting.js';

export const EASE_LIMITS = { least: 1, most: 12 } as const;

export interface Weights {
  /** The drawings of all charts that are used, in tray order. */
  readonly drawings: readonly { readonly id: string; readonly chartId: string; readonly label: string }[];
  /** Shape: frames × drawings, a frame after another. */
  readonly values: Float32Array;
}

/** @param easeFrames frames over which a mouth comes in; 1 for none */
export function weightsOf(
  looks: readonly (FrameLook | undefined)[],
  charts: ReadonlyMap<string, ChartDocument>,
  easeFrames: number,
): Weights {
  const used = new Set(looks.flatMap((look) => (look ? [look.chartId] : [])));
  const drawings = [...charts].flatMap(([chartId, chart]) =>
    used.has(chartId) ? [...chart.drawings].sort((a, b) => a.place - b.place).map(({ id, label }) => ({ id, chartId, label })) : [],
  );
  const column = new Map(drawings.map(({ id, chartId }, index) => [`${chartId} ${id}`, index]));
  const width = drawings.length;
  const values = new Float32Array(looks.length * width);
  const keys = looks.map((look) =>
    look && drawingsIn(look.drawing).every((id) => column.has(`${look.chartId} ${id}`)) ? look : undefined,
  );
  /** Adds what a look shows, an in-between as a share of two drawings, to the weights of a frame. */
  const add = (frame: number, { chartId, drawing }: FrameLook, weight: number): void => {
    for (const [id, share] of sharesOf(drawing)) values[frame * width + column.get(`${chartId} ${id}`)!]! += weight * share;
  };
  keys.forEach((look, frame) => look && add(frame, look, 1));
  let start = 0;
  for (let frame = 1; frame < keys.length; frame++) {
    const [before, own] = [keys[frame - 1], keys[frame]];
    if (before?.drawing === own?.drawing && before?.chartId === own?.chartId) continue;
    // It never eats up the first frame of the mouth before it.
    const first = Math.max(start + 1, frame - easeFrames + 1);
    const steps = frame - first + 1;
    for (let at = first; before && own && at < frame; at++) {
      const share = (at - first + 1) / steps;
      values.fill(0, at * width, (at + 1) * width);
      add(at, own, share);
      add(at, before, 1 - share);
    }
    start = frame;
  }
  return { drawings, values };
}

const rowOf = ({ drawings, values }: Weights, frame: number): number[] =>
  Array.from(values.subarray(frame * drawings.length, (frame + 1) * drawings.length), (value) => Math.round(value * 1e4) / 1e4);

export function weightsCsv(scene: SceneDocument, weights: Weights, frames: number, counting: Counting): string {
  const rows = Array.from({ length: frames }, (_, frame) => [counted(scene, counting, frame), ...rowOf(weights, frame)]);
  const head = [counting.unit === 'frames' ? 'frame' : counting.unit, ...weights.drawings.map(({ label }) => label)];
  return `${Papa.unparse([head, ...rows], { escapeFormulae: true, newline: '\r\n' })}\r\n`;
}

export function weightsJson(scene: SceneDocument, weights: Weights, frames: number, counting: Counting): string {
  const rows = Array.from({ length: frames }, (_, frame) => rowOf(weights, frame));
  const drawings = weights.drawings.map(({ label }) => label);
  const first = counting.unit === 'timecode' ? counted(scene, counting, 0) : Number(counted(scene, counting, 0));
  return `${JSON.stringify({ counting: countingInWords(scene, counting), unit: counting.unit, first, drawings, frames: rows })}\n`;
}
