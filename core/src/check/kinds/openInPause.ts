/** An open mouth where nobody speaks. */
import { frameCount, inFrames, seenDrawing, type CheckedLane } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';
import { restPauses, type RestPause } from '../pauses.js';

/** This quiet, between floor and peak, nobody is heard. */
const QUIET_BELOW = 0.3;

/** The frames of a pause in which an open mouth stands, as spans. */
export function openSpans({ held, from, to }: RestPause): { from: number; to: number; label: string }[] {
  const spans: { from: number; to: number; label: string }[] = [];
  for (const one of held) {
    if (one.isShut || !one.art) continue;
    const span = { from: Math.max(one.from, from), to: Math.min(one.to, to), label: one.label };
    const last = spans.at(-1);
    if (last?.to === span.from) spans[spans.length - 1] = { ...last, to: span.to };
    else spans.push(span);
  }
  return spans;
}

/** A second mouth may open into the next phrase so much before it. */
const intoNext = ({ shape }: RestPause): number => shape.rules.leadFrames + shape.rules.holdFrames;

export const openInPause: Kind = {
  id: 'open-in-pause',
  name: 'Open where nobody speaks',
  about: 'A mouth that stands open in a pause: it looks as though a word were missing.',
  find: (lane: CheckedLane) =>
    restPauses(lane).flatMap((pause): Found[] => {
      const isQuiet = (from: number, to: number): boolean => {
        const { loudness } = lane;
        if (!loudness) return true;
        let sum = 0;
        for (let frame = from; frame < to; frame++) sum += loudness[frame] ?? 0;
        return sum / Math.max(1, to - from) < QUIET_BELOW;
      };
      const rest = seenDrawing(pause.shape.chart, pause.shape.drawing);
      if (!rest.isShut) return [];
      return openSpans(pause).flatMap(({ from, to, label }): Found[] => {
        // What holds on a little at its beginning is a settle, at its end a breath.
        const allowed =
          lane.limits.openPause * lane.fps +
          (from === pause.from ? pause.shape.rules.settleFrames : 0) +
          (to === pause.to ? intoNext(pause) : 0);
        if (to - from <= allowed || !isQuiet(from, to)) return [];
        const until = to === pause.to && to < lane.lengthFrames ? Math.max(from + 1, to - pause.shape.rules.holdFrames) : to;
        return [
          {
            from,
            to,
            why: `“${label}” stands open for ${frameCount(to - from)} (${((to - from) / lane.fps).toFixed(2)} s) in ${inFrames(lane, from, to)}, and nobody speaks.`,
            sure: lane.loudness ? 0.9 : 0.75,
            weight: (to - from) / lane.fps > 0.5 ? 3 : 2,
            mends: [
              { do: 'lay', track: lane.track.id, from, to, pieces: [{ from, to, drawing: pause.shape.drawing }] },
              { do: 'lay', track: lane.track.id, from, to: until, pieces: [{ from, to: until, drawing: pause.shape.drawing }] },
            ],
          },
        ];
      });
    }),
};
