/** Drawings of the chart that the lane never shows, or shows once only. */
import type { ChartDocument } from '../../chart/chart.js';
import { drawingsIn } from '../../draw/madeDrawings.js';
import { maybeGroupOfPhoneme } from '../../chart/soundGroups.js';
import { shownFrame, type CheckedLane, type HeldMouth } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';

/** In a lane of fewer mouths it says nothing that a drawing is used once. */
const ENOUGH = 40;

function usesOf({ held }: CheckedLane): Map<ChartDocument, Map<string, HeldMouth[]>> {
  const uses = new Map<ChartDocument, Map<string, HeldMouth[]>>();
  for (const one of held) {
    let of = uses.get(one.chart);
    if (!of) uses.set(one.chart, (of = new Map()));
    for (const drawing of drawingsIn(one.drawing)) {
      const seen = of.get(drawing);
      if (seen) seen.push(one);
      else of.set(drawing, [one]);
    }
  }
  return uses;
}

/** Groups whose sounds are heard on the lane. */
const heardGroups = (lane: CheckedLane, chart: ChartDocument): Set<string> =>
  new Set(lane.sounds.flatMap(({ symbol }) => maybeGroupOfPhoneme(chart.groups, symbol)?.id ?? []));

export const drawingUnused: Kind = {
  id: 'drawing-unused',
  name: 'Drawings never used',
  about: 'Drawings that play a sound which is heard here, and that no frame shows.',
  find: (lane) =>
    lane.held.length < ENOUGH
      ? []
      : [...usesOf(lane)].flatMap(([chart, uses]): Found[] => {
          const heard = heardGroups(lane, chart);
          const unused = chart.drawings.filter(({ id, groups }) => !uses.has(id) && groups.some((group) => heard.has(group)));
          if (unused.length === 0) return [];
          const named = unused.map(({ label }) => `“${label}”`).join(', ');
          return [
            {
              from: 0,
              to: lane.lengthFrames,
              why: `${named} ${unused.length === 1 ? 'plays a sound' : 'play sounds'} that ${unused.length === 1 ? 'is' : 'are'} heard here, and no frame shows ${unused.length === 1 ? 'it' : 'them'}.`,
              sure: 1,
              weight: 1,
              mends: [],
              of: chart.settings[0]?.name ?? '',
            },
          ];
        }),
};

export const drawingOnce: Kind = {
  id: 'drawing-once',
  name: 'Drawings used once',
  about: 'A drawing that a long lane shows one time only: a mistake, or a drawing that was not worth making.',
  find: (lane) =>
    lane.held.length < ENOUGH
      ? []
      : [...usesOf(lane).values()]
          .flatMap((uses) =>
            [...uses.values()].flatMap((seen): Found[] => {
              const [held] = seen;
              // A one-off is meant for once.
              if (seen.length !== 1 || !held?.art || held.art.groups.length === 0) return [];
              return [
                {
                  from: held.from,
                  to: held.to,
                  why: `“${held.label}” is shown once in ${lane.held.length} mouths, at frame ${shownFrame(lane, held.from)}.`,
                  sure: 1,
                  weight: 1,
                  mends: [],
                },
              ];
            }),
          )
          .sort((a, b) => a.from - b.from),
};
