/**
 * The exposure sheet on paper, as a studio pins it to a wall: a row a frame, whole seconds to a page where they fit,
 * seconds and feet marked, the wave upright in a margin, words and sounds against their frames, a column a lane with the
 * number where the mouth changes and a line for its hold, and room for notes. Text can be selected; fonts are embedded.
 */
import {
  countingInWords,
  counted,
  exposureSheetRows,
  ipaOf,
  nominalFramesPerSecond,
  placedWords,
  SAMPLE_RATE,
  framesPerSecond,
  sceneSettings,
  writtenNumber,
  type Counting,
  type SceneDocument,
  type SceneWave,
  type SheetRow,
  type SheetTrack,
} from '@zest-jaw/core';
import { INK, MARGIN, openPdf, RULE, SOFT, type Paper } from './pdfPage.js';

const HEADER = 58;
/** Rows are between so low and so high; below it nothing can be read, above it paper is wasted. */
const LOWEST_ROW = 7.3;
const HIGHEST_ROW = 11;
/** A foot of 35 mm film with four perforations a frame holds so many frames (SMPTE ST 139, from memory). */
const FRAMES_A_FOOT = 16;

export interface SheetPdfOptions {
  readonly paper: Paper;
  readonly counting: Counting;
  readonly production: string;
  /** As it is to be printed. */
  readonly date: string;
  readonly wave?: SceneWave | undefined;
}

interface Columns {
  readonly number: number;
  readonly wave: number;
  readonly words: number;
  readonly sounds: number;
  /** Left edges of the lanes, then where the last ends. */
  readonly lanes: readonly number[];
  readonly notes: number;
  readonly end: number;
}

/** The most frames to a page that are whole seconds, where a second fits. */
export function rowsOfPage(height: number, framesASecond: number): number {
  const most = Math.floor(height / LOWEST_ROW);
  return most < framesASecond ? most : most - (most % framesASecond);
}

function columnsOf(width: number, lanes: number): Columns {
  const [number, wave] = [MARGIN, MARGIN + 50];
  const words = wave + 42;
  const sounds = words + 92;
  const first = sounds + 46;
  const each = Math.min(96, (width - MARGIN - first - 90) / Math.max(1, lanes));
  const edges = Array.from({ length: lanes + 1 }, (_, lane) => first + lane * each);
  return { number, wave, words, sounds, lanes: edges, notes: edges.at(-1)!, end: width - MARGIN };
}

/** Spans of words in frames: where each begins and ends. */
function wordsInFrames(scene: SceneDocument): { readonly text: string; readonly from: number; readonly to: number }[] {
  const perSample = framesPerSecond(sceneSettings(scene).frameRate) / SAMPLE_RATE;
  return placedWords(scene).map(({ text, from, to }) => ({ text, from: from * perSample, to: to * perSample }));
}

/** @returns the bytes of a PDF */
export async function exposureSheetPdf(
  scene: SceneDocument,
  tracks: readonly SheetTrack[],
  { paper, counting, production, date, wave }: SheetPdfOptions,
): Promise<Uint8Array> {
  const { title, frameRate, lengthFrames } = sceneSettings(scene);
  const { document, width, height, write, line, end } = openPdf(paper, `${title}, exposure sheet`, production);
  const nominal = nominalFramesPerSecond(frameRate);
  const top = MARGIN + HEADER;
  const room = height - top - MARGIN;
  const perPage = rowsOfPage(room, nominal);
  const row = Math.min(HIGHEST_ROW, room / perPage);
  const pages = Math.ceil(lengthFrames / perPage);
  const columns = columnsOf(width, tracks.length);
  const words = wordsInFrames(scene);
  const text = Math.min(8, row - 1.6);

  const header = (page: number): void => {
    const names = tracks.map(({ name }) => name).join(', ');
    write(title, MARGIN, MARGIN - 8, 17, { weight: 'bold', most: width - 2 * MARGIN - 150 });
    write(`${production} · ${names} · ${date}`, MARGIN, MARGIN + 14, 9, { colour: SOFT, most: width - 2 * MARGIN - 150 });
    write(countingInWords(scene, counting), MARGIN, MARGIN + 26, 9, { colour: SOFT, most: width - 2 * MARGIN - 150 });
    write(`Page ${page + 1} of ${pages}`, width - MARGIN - 90, MARGIN - 4, 11, { weight: 'bold' });
    const heads: [string, number, number][] = [
      [counting.unit === 'frames' ? 'frame' : counting.unit, columns.number, 48],
      ['wave', columns.wave, 40],
      ['words', columns.words, 90],
      ['sounds', columns.sounds, 44],
      ...tracks.map(({ name }, lane): [string, number, number] => [
        name,
        columns.lanes[lane]! + 4,
        columns.lanes[lane + 1]! - columns.lanes[lane]! - 8,
      ]),
      ['notes', columns.notes + 4, 60],
    ];
    for (const [head, x, most] of heads) write(head, x, top - 13, 8, { weight: 'bold', most });
    line(MARGIN, top, columns.end, top, 1, INK);
  };

  const waveOf = (first: number, last: number): void => {
    if (!wave) return;
    const middle = columns.wave + 18;
    const scale = 17 / Math.max(1e-6, wave.loudest);
    document.fillColor(SOFT);
    for (let block = first * wave.blocksPerFrame; block < last * wave.blocksPerFrame && block < wave.lowest.length; block++) {
      const y = top + (block / wave.blocksPerFrame - first) * row;
      const [low, high] = [wave.lowest[block]! * scale, wave.highest[block]! * scale];
      document.rect(middle + low, y, Math.max(0.3, high - low), row / wave.blocksPerFrame).fill();
    }
  };

  const wordsOf = (first: number, last: number): void => {
    for (const { text: said, from, to } of words) {
      if (to <= first || from >= last) continue;
      const [begin, end] = [Math.max(first, from), Math.min(last, to)];
      const [y1, y2] = [top + (begin - first) * row, top + (end - first) * row];
      line(columns.words + 2, y1 + 0.6, columns.words + 2, Math.max(y1 + 1, y2 - 0.6), 1.1, INK);
      // A word that goes on over the page's edge is written again, in brackets.
      write(from < first ? `(${said})` : said, columns.words + 6, y1 + 0.6, Math.min(8.5, text + 0.6), { most: 82 });
    }
  };

  const cellsOf = (rows: readonly SheetRow[], first: number): void => {
    rows.forEach(({ frame, sounds, cells }, index) => {
      const y = top + index * row;
      const isSecond = frame % nominal === 0;
      line(MARGIN, y, columns.end, y, isSecond ? 0.9 : 0.35, isSecond ? INK : RULE);
      write(counted(scene, counting, frame), columns.number, y + 0.7, text, { weight: isSecond ? 'bold' : 'plain', most: 40 });
      if (frame > 0 && frame % FRAMES_A_FOOT === 0)
        write(`${frame / FRAMES_A_FOOT} ft`, columns.wave - 2, y + 0.7, text - 1.2, { colour: SOFT });
      write(sounds.map(ipaOf).join(' '), columns.sounds, y + 0.7, text, { colour: SOFT, most: 42 });
      cells.forEach((cell, lane) => {
        const x = columns.lanes[lane]! + 4;
        if (!cell) return;
        if (cell.isStart || frame === first) {
          const number = cell.isStart ? writtenNumber(cell.drawing) : `(${writtenNumber(cell.drawing)})`;
          const after = write(number, x, y + 0.7, text + 0.4, { weight: 'bold' });
          write(cell.drawing.label, after + 4, y + 0.7, text - 0.4, { colour: SOFT, most: columns.lanes[lane + 1]! - after - 10 });
        } else line(x + 4, y + 0.5, x + 4, y + row - 0.5, cell.inked ? 1.4 : 0.6, INK);
      });
    });
  };

  for (let page = 0; page < pages; page++) {
    const [first, last] = [page * perPage, Math.min(lengthFrames, (page + 1) * perPage)];
    document.addPage();
    header(page);
    waveOf(first, last);
    cellsOf(exposureSheetRows(scene, tracks, { from: first, to: last }), first);
    wordsOf(first, last);
    const bottom = top + (last - first) * row;
    for (const x of [columns.wave - 4, columns.words - 4, columns.sounds - 4, ...columns.lanes]) line(x, top, x, bottom, 0.5, RULE);
    line(MARGIN, bottom, columns.end, bottom, 1, INK);
  }
  return end();
}
