/** A line for the stop-motion stage on paper: the mouths to pull from the trays, then each shot in order with a box to tick. */
import { counted, countingInWords, sceneSettings, writtenNumber, type Counting, type PullList, type SceneDocument } from '@zest-jaw/core';
import { INK, MARGIN, openPdf, RULE, SOFT, type Paper } from './pdfPage.js';

export interface ShootingListOptions {
  readonly paper: Paper;
  readonly counting: Counting;
  readonly production: string;
  readonly character: string;
  readonly cameraOn: 1 | 2;
  /** As it is to be printed. */
  readonly date: string;
}

const HEADER = 60;
const ROW = 15;
const TEXT = 10;
/** Mouths to pull stand in so many columns. */
const PULLED_ACROSS = 4;

/** Left edges of the columns of a shot, in points from the margin. */
const SHOT = { box: 0, at: 24, number: 110, label: 150, frames: 290, pictures: 350, next: 420 } as const;

/** @returns the bytes of a PDF */
export async function shootingListPdf(
  scene: SceneDocument,
  { shots, pulled, swaps }: PullList,
  { paper, counting, production, character, cameraOn, date }: ShootingListOptions,
): Promise<Uint8Array> {
  const { title } = sceneSettings(scene);
  const { document, width, height, write, line, end } = openPdf(paper, `${title}, shooting list`, production);
  const bottom = height - MARGIN;
  const pulledRows = Math.ceil(pulled.length / PULLED_ACROSS);
  const top = MARGIN + HEADER;
  const firstShots = top + 24 + pulledRows * ROW + 30;
  const onFirst = Math.max(0, Math.floor((bottom - firstShots) / ROW));
  const onNext = Math.max(1, Math.floor((bottom - top - 14) / ROW));
  const pages = 1 + Math.max(0, Math.ceil((shots.length - onFirst) / onNext));

  const begin = (page: number): void => {
    document.addPage();
    write(title, MARGIN, MARGIN - 8, 17, { weight: 'bold', most: width - 2 * MARGIN - 110 });
    write(`${production} · ${character} · camera on ${cameraOn === 1 ? 'ones' : 'twos'} · ${date}`, MARGIN, MARGIN + 14, 9, {
      colour: SOFT,
      most: width - 2 * MARGIN - 110,
    });
    write(countingInWords(scene, counting), MARGIN, MARGIN + 26, 9, { colour: SOFT });
    write(`Page ${page + 1} of ${pages}`, width - MARGIN - 90, MARGIN - 4, 11, { weight: 'bold' });
  };
  const heads = (y: number): void => {
    const names: [string, number][] = [
      [counting.unit === 'frames' ? 'frame' : counting.unit, SHOT.at],
      ['mouth', SHOT.number],
      ['frames', SHOT.frames],
      ['pictures', SHOT.pictures],
      ['then', SHOT.next],
    ];
    for (const [name, x] of names) write(name, MARGIN + x, y - 12, 8.5, { weight: 'bold' });
    line(MARGIN, y, width - MARGIN, y, 1, INK);
  };
  const box = (x: number, y: number): void => void document.lineWidth(0.8).strokeColor(INK).rect(x, y, 9, 9).stroke();

  begin(0);
  write(`To pull: ${pulled.length} mouths, ${swaps} swaps`, MARGIN, top, 12, { weight: 'bold' });
  const across = (width - 2 * MARGIN) / PULLED_ACROSS;
  pulled.forEach(({ drawing, times, longest }, index) => {
    const [x, y] = [MARGIN + Math.floor(index / pulledRows) * across, top + 22 + (index % pulledRows) * ROW];
    box(x, y);
    const after = write(writtenNumber(drawing), x + 15, y - 1, TEXT, { weight: 'bold' });
    write(`${drawing.label}, ${times} ×, ${longest} at most`, after + 5, y - 1, TEXT - 0.5, {
      colour: SOFT,
      most: across - (after - x) - 12,
    });
  });

  let [page, y] = [0, firstShots];
  heads(y);
  for (const [index, { frame, frames, pictures, drawing, next }] of shots.entries()) {
    if (index === onFirst || (index > onFirst && (index - onFirst) % onNext === 0)) {
      page += 1;
      begin(page);
      y = top + 14;
      heads(y);
    }
    box(MARGIN + SHOT.box, y + 3);
    write(counted(scene, counting, frame), MARGIN + SHOT.at, y + 2, TEXT);
    write(drawing ? writtenNumber(drawing) : '–', MARGIN + SHOT.number, y + 1, TEXT + 2, { weight: 'bold' });
    write(drawing?.label ?? 'no mouth', MARGIN + SHOT.label, y + 2, TEXT, { most: SHOT.frames - SHOT.label - 8 });
    write(String(frames), MARGIN + SHOT.frames, y + 2, TEXT);
    write(String(pictures), MARGIN + SHOT.pictures, y + 2, TEXT);
    write(next ? `${writtenNumber(next)} ${next.label}` : '', MARGIN + SHOT.next, y + 2, TEXT, {
      colour: SOFT,
      most: width - 2 * MARGIN - SHOT.next,
    });
    y += ROW;
    line(MARGIN, y, width - MARGIN, y, 0.35, RULE);
  }
  return end();
}
