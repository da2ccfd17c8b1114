/** The puppet with each of its mouths, as the practice camera has it before it and as the check holds it against what was shot. */
import { pictureSvg, type ChartDocument } from '@zest-jaw/core';
import { drawn, picturesOfCharts } from '../mouth/drawnPicture.js';
import { PRACTICE_SIZE } from '../stage/camera.js';
import { mouthKey, type ShotLine } from './ShotLine.js';

/** Behind a head that has no backdrop. */
const PAPER = '#e8dfca';

/** Every mouth of the charts that the line uses, in the order of their numbers, and none. */
export async function facesOf({ pictures, charts }: Pick<ShotLine, 'pictures' | 'charts'>): Promise<(readonly [string, ImageBitmap])[]> {
  const used = new Map<string, ChartDocument>();
  for (const { shot } of pictures) if (shot.chartId !== null) used.set(shot.chartId, charts.get(shot.chartId)!);
  const uris = await picturesOfCharts(charts.values());
  const faces: (readonly [string, ImageBitmap])[] = [];
  for (const [chartId, chart] of used) {
    const options = { ...PRACTICE_SIZE, withHead: true, charts, ground: chart.head[0]?.backdrop[1] ?? PAPER };
    const face = (shown?: { drawing: string; look: number }): Promise<ImageBitmap> =>
      drawn(pictureSvg(chart, shown, options, (hash) => uris.get(hash) ?? ''));
    for (const { id } of [...chart.drawings].sort((a, b) => a.number - b.number))
      faces.push([`${chartId} ${id}`, await face({ drawing: id, look: 0 })]);
    if (!faces.some(([mouth]) => mouth === '') && pictures.some((one) => mouthKey(one) === '')) faces.push(['', await face()]);
  }
  return faces;
}
