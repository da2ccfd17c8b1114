/**
 * The exposure sheet as CSV (RFC 4180): one row a frame, the frame's number and timecode,
 * what is said, and for each mouth track the drawing's number and label and whether it is
 * decided. The number stands in the first frame of an exposure and a bar in the frames
 * that hold it, as on paper. Text that a spreadsheet would run as a formula is quoted.
 */
import Papa from 'papaparse';
import { maybeDrawing, type ChartDocument } from '../chart/chart.js';
import { placedSounds, placedWords } from '../scene/placedSounds.js';
import { frameNumber, sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt } from '../scene/trackCharts.js';
import { exposuresOfTrack, maybeExposureAt } from '../scene/exposures.js';
import { formatTimecode } from '../time/timecode.js';
import { sampleAtFrame } from '../time/samples.js';

export interface SheetTrack {
  readonly trackId: string;
  /** Column heading: who speaks. */
  readonly name: string;
  /** The charts the track uses, by id. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
}

/** Stands in a frame that holds the drawing above it. */
export const HOLD_BAR = '|';

const overlapping = <T extends { from: number; to: number }>(items: readonly T[], from: number, to: number): T[] =>
  items.filter((item) => item.from < to && item.to > from);

/** The sheet as one string, rows ended by CR LF. */
export function exposureSheetCsv(scene: SceneDocument, tracks: readonly SheetTrack[]): string {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const words = placedWords(scene);
  const header = ['frame', 'timecode', 'words', 'sounds'];
  for (const track of tracks) header.push(`${track.name} mouth`, `${track.name} drawing`, `${track.name} keyed`);
  const soundsOf = tracks.map((track) =>
    placedSounds(scene, scene.tracks.find((candidate) => candidate.id === track.trackId)!.characterId),
  );
  const rows = Array.from({ length: lengthFrames }, (_, frame) => {
    const [from, to] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + 1)];
    const starting = words.filter((word) => word.from >= from && word.from < to).map((word) => word.text);
    const sounds = soundsOf.flatMap((list) => overlapping(list, from, to).map((sound) => sound.symbol));
    const cells = tracks.flatMap(({ trackId, charts }) => {
      const exposure = maybeExposureAt(exposuresOfTrack(scene, trackId), frame);
      const chart = charts.get(chartStretchAt(scene, trackId, frame)?.chartId ?? '');
      const drawing = exposure && chart && maybeDrawing(chart, exposure.drawing);
      if (!exposure || !drawing) return ['', '', ''];
      return exposure.from === frame ? [drawing.number, drawing.label, exposure.inked ? 'ink' : 'pencil'] : [HOLD_BAR, HOLD_BAR, ''];
    });
    return [frameNumber(scene, frame), formatTimecode(frameRate, frame), starting.join(' '), sounds.join(' '), ...cells];
  });
  return Papa.unparse([header, ...rows], { escapeFormulae: true, newline: '\r\n' }) + '\r\n';
}
