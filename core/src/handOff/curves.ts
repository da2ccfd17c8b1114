/** What the keyed mouths do, as curves a frame, for jaws and rigs: opening and width as they are drawn, rounding, and how loud it is. */
import Papa from 'papaparse';
import { lookOf, maybeDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import type { FrameLook } from '../formats/pictures.js';
import { articulationOf, meanArticulation } from '../phonetics/articulation.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import { counted, countingInWords, type Counting } from './counting.js';

export interface CurveFrame {
  /** Inner height of the mouth, in hundredths of the chart's square. */
  readonly opening: number;
  /** Its width, the same. */
  readonly width: number;
  /** 0 to 1. */
  readonly rounding: number;
  /** How far the jaw is down, led, eased and shared as its head has it, 0 to 1; null where it is not asked for. */
  readonly jaw: number | null;
  /** Decibels below full scale; null where the sound is not known. */
  readonly loudness: number | null;
}

/** As a mouth is built; of a picture or a drawn one what the sounds it plays have. */
function roundingOf(drawing: Drawing, chart: ChartDocument): number {
  const { art } = drawing;
  if (art.kind === 'built') return art.shape.round;
  const sounds = chart.groups.flatMap(({ id, phonemes }) => (drawing.groups.includes(id) ? phonemes : []));
  return sounds.length === 0 ? 0 : meanArticulation(sounds.map(articulationOf)).round;
}

/**
 * @param levels decibels below full scale, a value a frame
 * @param jaw a value a frame, 0 to 1
 */
export function curvesOf(
  looks: readonly (FrameLook | undefined)[],
  charts: ReadonlyMap<string, ChartDocument>,
  levels?: Float32Array,
  jaw?: Float32Array,
): CurveFrame[] {
  const known = new Map<string, Omit<CurveFrame, 'loudness' | 'jaw'>>();
  const still = { opening: 0, width: 0, rounding: 0 };
  const of = (look: FrameLook | undefined): Omit<CurveFrame, 'loudness' | 'jaw'> => {
    const chart = look && charts.get(look.chartId);
    const drawing = chart && maybeDrawing(chart, look.drawing);
    if (!drawing) return still;
    const key = `${look.chartId} ${look.drawing} ${look.look}`;
    let found = known.get(key);
    if (!found) {
      const { opening, width } = measureLook(lookOf(drawing, look.look));
      known.set(key, (found = { opening, width, rounding: roundingOf(drawing, chart) }));
    }
    return found;
  };
  return looks.map((look, frame) => ({ ...of(look), jaw: jaw?.[frame] ?? null, loudness: levels?.[frame] ?? null }));
}

const round = (value: number): number => Math.round(value * 1000) / 1000;

export function curvesCsv(scene: SceneDocument, curves: readonly CurveFrame[], counting: Counting): string {
  const head = [counting.unit === 'frames' ? 'frame' : counting.unit, 'opening', 'width', 'rounding', 'loudness', 'jaw'];
  const rows = curves.map(({ opening, width, rounding, jaw, loudness }, frame) => [
    counted(scene, counting, frame),
    ...[opening, width, rounding].map(round),
    loudness === null ? '' : round(loudness),
    jaw === null ? '' : round(jaw),
  ]);
  return `${Papa.unparse([head, ...rows], { newline: '\r\n' })}\r\n`;
}

export function curvesJson(scene: SceneDocument, curves: readonly CurveFrame[], counting: Counting): string {
  const first = counting.unit === 'timecode' ? counted(scene, counting, 0) : Number(counted(scene, counting, 0));
  const column = (name: keyof CurveFrame): (number | null)[] =>
    curves.map((frame) => {
      const value = frame[name];
      return value === null ? null : round(value);
    });
  return `${JSON.stringify({
    counting: countingInWords(scene, counting),
    unit: counting.unit,
    first,
    units: { opening: 'hundredths of the chart', width: 'hundredths of the chart', rounding: '0 to 1', loudness: 'dBFS', jaw: '0 to 1' },
    opening: column('opening'),
    width: column('width'),
    rounding: column('rounding'),
    loudness: column('loudness'),
    jaw: column('jaw'),
  })}\n`;
}
