/**
 * The mouths of a lane as a list of numbers, for any program that holds a drawing by its number: where each begins, or
 * what every frame shows. A guard repeats a number on the last frame of its hold, so that a program that goes smoothly
 * from one key to the next has nothing to go through.
 */
import Papa from 'papaparse';
import type { FrameLook } from '../formats/pictures.js';
import { maybeDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { madeOf, mixInWords, pushInWords } from '../draw/madeDrawings.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import { counted, countingInWords, type Counting } from './counting.js';

/** The drawing's own number, or its place in the tray. */
export type KeyNumbers = 'own' | 'from 0' | 'from 1';

export interface KeyListOptions {
  readonly counting: Counting;
  readonly numbers: KeyNumbers;
  /** Every frame, or only where the mouth changes. */
  readonly everyFrame: boolean;
  readonly guards: boolean;
}

export interface Key {
  /** From 0. */
  readonly frame: number;
  /** As it is counted. */
  readonly at: string;
  /** Of an in-between as `9→3 ½`; null where no mouth is shown. */
  readonly number: number | string | null;
  readonly label: string;
  readonly kind: 'key' | 'guard' | 'hold';
}

/** What numbers of keys are asked of, of a chart. */
function numberOf(chart: ChartDocument, id: string, numbers: KeyNumbers): number | string {
  const own = ([...chart.drawings] as Drawing[]).sort((a, b) => a.place - b.place);
  const of = (drawing: string): number => {
    const place = own.findIndex((one) => one.id === drawing);
    if (numbers === 'own') return own[place]!.number;
    return numbers === 'from 0' ? place : place + 1;
  };
  const { plain, mix, push } = madeOf(id);
  const number = mix ? mixInWords(String(of(mix.a)), String(of(mix.b)), mix.share) : of(plain);
  return push ? pushInWords(String(number)) : number;
}

/** @param looks what each frame shows, as `looksOfFrames` gives it */
export function keysOf(
  scene: SceneDocument,
  looks: readonly (FrameLook | undefined)[],
  charts: ReadonlyMap<string, ChartDocument>,
  { counting, numbers, everyFrame, guards }: KeyListOptions,
): Key[] {
  const shown = (look: FrameLook | undefined): Pick<Key, 'number' | 'label'> => {
    const chart = look && charts.get(look.chartId);
    const drawing = chart && maybeDrawing(chart, look.drawing);
    return drawing ? { number: numberOf(chart, drawing.id, numbers), label: drawing.label } : { number: null, label: '' };
  };
  const isSame = (a: FrameLook | undefined, b: FrameLook | undefined): boolean => a?.chartId === b?.chartId && a?.drawing === b?.drawing;
  return looks.flatMap((look, frame): Key[] => {
    const isStart = frame === 0 || !isSame(look, looks[frame - 1]);
    const isEnd = frame === looks.length - 1 || !isSame(look, looks[frame + 1]);
    const kind = isStart ? 'key' : isEnd && guards ? 'guard' : 'hold';
    return kind === 'hold' && !everyFrame ? [] : [{ frame, at: counted(scene, counting, frame), ...shown(look), kind }];
  });
}

/** A header, then a row a key. CSV after RFC 4180. */
export function keyListCsv(keys: readonly Key[], { counting }: KeyListOptions): string {
  const head = counting.unit === 'frames' ? 'frame' : counting.unit;
  const rows = keys.map(({ at, number, label, kind }) => [at, number ?? '', label, kind]);
  return `${Papa.unparse([[head, 'number', 'drawing', 'kind'], ...rows], { escapeFormulae: true, newline: '\r\n' })}\r\n`;
}

/** The same as JSON; numbers are numbers where they count frames or seconds. */
export function keyListJson(scene: SceneDocument, keys: readonly Key[], { counting }: KeyListOptions): string {
  const at = (key: Key): string | number => (counting.unit === 'timecode' ? key.at : Number(key.at));
  const list = keys.map((key) => ({ at: at(key), number: key.number, drawing: key.label, kind: key.kind }));
  return `${JSON.stringify({ counting: countingInWords(scene, counting), unit: counting.unit, keys: list }, null, 1)}\n`;
}
