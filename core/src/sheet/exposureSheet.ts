/**
 * The exposure sheet as rows, one a frame: its number and timecode, what is said, and for
 * each mouth track the drawing and whether it is decided. Words, sounds, exposures and
 * changes of chart are each gone along once, so that a sheet costs what it holds.
 */
import { maybeDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { exposuresOfTrack } from '../scene/exposures.js';
import { placedSounds, placedWords } from '../scene/placedSounds.js';
import { frameNumber, sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretches } from '../scene/trackCharts.js';
import { sampleAtFrame } from '../time/samples.js';
import { formatTimecode } from '../time/timecode.js';

export interface SheetTrack {
  readonly trackId: string;
  /** Column heading: who speaks. */
  readonly name: string;
  /** The charts the track uses, by id. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
}

/** What a track shows in a frame. */
export interface SheetCell {
  readonly drawing: Drawing;
  /** It is the exposure's first frame; the frames after it hold it. */
  readonly isStart: boolean;
  readonly inked: boolean;
}

export interface SheetRow {
  /** Counted from 0, and as the scene counts. */
  readonly frame: number;
  readonly number: number;
  readonly timecode: string;
  /** Words that begin in it. */
  readonly words: readonly string[];
  /** Sounds heard in it, as ARPAbet symbols. */
  readonly sounds: readonly string[];
  /** In the order of the tracks; null where nothing is shown. */
  readonly cells: readonly (SheetCell | null)[];
}

/** Goes along sorted, disjoint spans; `at` wants positions in order and answers with the spans up to an end that are not over yet. */
function along<T extends { readonly from: number; readonly to: number }>(spans: readonly T[]) {
  let next = 0;
  return {
    /** Spans that overlap `[from, to)`. */
    within(from: number, to: number): T[] {
      while (next < spans.length && spans[next]!.to <= from) next += 1;
      const found: T[] = [];
      for (let index = next; index < spans.length && spans[index]!.from < to; index++) found.push(spans[index]!);
      return found;
    },
  };
}

/** What of a track is in each frame, asked for in order. */
function cellsOf(scene: SceneDocument, { trackId, charts }: SheetTrack): (frame: number) => SheetCell | null {
  const exposures = along(exposuresOfTrack(scene, trackId));
  const stretches = along(chartStretches(scene, trackId));
  return (frame) => {
    const [exposure] = exposures.within(frame, frame + 1);
    const chart = charts.get(stretches.within(frame, frame + 1)[0]?.chartId ?? '');
    const drawing = exposure && chart && maybeDrawing(chart, exposure.drawing);
    return drawing ? { drawing, isStart: exposure.from === frame, inked: exposure.inked } : null;
  };
}

/**
 * The rows of a sheet, or of a part of it.
 *
 * @param part frames counted from 0, half-open; all of them when left out
 */
export function exposureSheetRows(
  scene: SceneDocument,
  tracks: readonly SheetTrack[],
  { from = 0, to = sceneSettings(scene).lengthFrames }: { readonly from?: number; readonly to?: number } = {},
): SheetRow[] {
  const { frameRate } = sceneSettings(scene);
  const words = placedWords(scene);
  // Several lanes may be of one face: its sounds stand once.
  const shown = scene.tracks.filter(({ id }) => tracks.some(({ trackId }) => trackId === id));
  const sounds = [...new Set(shown.map(({ characterId }) => characterId))].map((id) => along(placedSounds(scene, id)));
  const cells = tracks.map((track) => cellsOf(scene, track));
  const rows: SheetRow[] = [];
  let word = 0;
  for (let frame = from; frame < to; frame++) {
    const [start, end] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + 1)];
    // Words of several speakers may overlap: by where they begin, which is in order.
    while (word < words.length && words[word]!.from < start) word += 1;
    const begun: string[] = [];
    for (; word < words.length && words[word]!.from < end; word++) begun.push(words[word]!.text);
    rows.push({
      frame,
      number: frameNumber(scene, frame),
      timecode: formatTimecode(frameRate, frame),
      words: begun,
      sounds: sounds.flatMap((list) => list.within(start, end).map(({ symbol }) => symbol)),
      cells: cells.map((cell) => cell(frame)),
    });
  }
  return rows;
}
