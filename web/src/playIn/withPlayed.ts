/** The lane as it would be with what was played in laid over it. */
import { maybeDrawing, spansWithin, without, writtenNumber, type ChartDocument, type PlayedMouth } from '@zest-jaw/core';
import { colourOfDrawing, mouthKey, NO_GROUP_COLOUR, type SheetExposure } from '../barSheet/sheetData.js';

export function withPlayed(
  exposures: readonly SheetExposure[],
  mouths: readonly PlayedMouth[],
  { chartId, chart, track }: { readonly chartId: string; readonly chart: ChartDocument; readonly track: string },
): SheetExposure[] {
  const left = exposures.flatMap((exposure) => {
    const over = spansWithin(mouths, exposure);
    return over.reduce<SheetExposure[]>((parts, mouth) => parts.flatMap((part) => without(part, mouth)), [exposure]);
  });
  const played = mouths.map(({ from, to, drawing }): SheetExposure => {
    const own = maybeDrawing(chart, drawing);
    return {
      id: `played-${from}`,
      track,
      from,
      to,
      drawing,
      inked: false,
      plays: [],
      isPlayed: true,
      mouth: mouthKey(chartId, drawing),
      label: own?.label ?? drawing,
      number: own ? writtenNumber(own) : '',
      colour: own ? colourOfDrawing(chart, own) : NO_GROUP_COLOUR,
    };
  });
  return [...left, ...played].sort((a, b) => a.from - b.from);
}
