/** Lips that meet, but not when they should: shown beside the frames of their sound, or kept shut after it has opened. */
import { ipaOf } from '../../phonetics/ipa.js';
import { closuresOf, shows, takenMouths } from '../closures.js';
import { frameCount, heldIn, inFrames, inWord, sureOf, type CheckedLane, type HeldMouth } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';

const NEAR = 0.25;
/** Those that are heard as they open. */
const OPENS = new Set(['P', 'B']);

function besideWindow(lane: CheckedLane): Found[] {
  const reach = Math.round(NEAR * lane.fps);
  const taken = takenMouths(lane);
  return closuresOf(lane).flatMap(({ shape, must, shown }): Found[] => {
    if (shown) return [];
    const away = (held: HeldMouth): number => (held.to <= must.first ? must.first - held.to + 1 : held.from - must.last);
    const near = heldIn(lane, must.first - reach, must.last + 1 + reach)
      .filter((held) => shows(shape, held) && !taken.has(held.id))
      .sort((a, b) => away(a) - away(b))[0];
    if (!near) return [];
    const isEarly = near.to <= must.first;
    const length = near.to - near.from;
    const from = isEarly ? Math.max(near.from, must.first - length + 1) : Math.max(0, must.last + 1 - length);
    const { symbol } = lane.sounds[must.sound]!;
    const own = { from, to: from + length, drawing: near.drawing };
    const span = isEarly ? { from: near.from, to: own.to } : { from: own.from, to: near.to };
    const [before] = heldIn(lane, span.from - 1, span.from);
    const [after] = heldIn(lane, span.to, span.to + 1);
    // What was around it closes the gap it leaves.
    const filled = isEarly ? before : after;
    const gap = isEarly ? { from: span.from, to: own.from } : { from: own.to, to: span.to };
    return [
      {
        from: Math.min(must.first, near.from),
        to: Math.max(must.last + 1, near.to),
        why: `/${ipaOf(symbol)}/${inWord(lane, must.sound)} is seen ${frameCount(away(near))} too ${isEarly ? 'early' : 'late'}: its lips may meet in ${inFrames(lane, must.first, must.last + 1)}.`,
        sure: sureOf(lane, must.sound),
        weight: 3,
        of: String(must.sound),
        mends: [
          ...(filled
            ? [
                {
                  do: 'lay' as const,
                  track: lane.track.id,
                  ...span,
                  pieces: [own, ...(gap.from < gap.to ? [{ ...gap, drawing: filled.drawing }] : [])],
                },
              ]
            : []),
          {
            do: 'lay',
            track: lane.track.id,
            from: must.first,
            to: must.first + 1,
            pieces: [{ from: must.first, to: must.first + 1, drawing: shape.drawing }],
          },
          { do: 'plan', track: lane.track.id, from: Math.max(0, span.from - 3), to: Math.min(lane.lengthFrames, span.to + 3) },
        ],
      },
    ];
  });
}

/** The frame in which a p or b has opened: the one after the first it may be seen last in. */
const openedAt = (first: number): number => first + 1;

function keptShut(lane: CheckedLane): Found[] {
  const allowed = lane.limits.shutAfter * lane.fps;
  const all = closuresOf(lane);
  return all.flatMap(({ shape, must, shown }, index): Found[] => {
    const { symbol } = lane.sounds[must.sound]!;
    if (!shown || !OPENS.has(symbol)) return [];
    const over = shown.to - openedAt(must.first) - 1;
    // A grid, and a hold that cannot be shorter, ask for so much.
    const grid = shape.rules.strict ? shape.rules.holdFrames : Math.max(0, shape.rules.holdFrames - 1);
    const next = all[index + 1];
    const goesOn = next !== undefined && next.must.first <= shown.to + 1 && shows(next.shape, shown);
    if (over <= allowed + grid || goesOn) return [];
    // What follows must ask for an open mouth: lips rest shut after the last sound of a phrase.
    const following = lane.shapes[shape.at + 1];
    if (!following || following.isPause || following.end - following.target < 1) return [];
    const to = openedAt(must.first) + 1;
    return [
      {
        from: shown.from,
        to: shown.to,
        why: `The lips of /${ipaOf(symbol)}/${inWord(lane, must.sound)} stay shut ${frameCount(over)} after it has opened.`,
        sure: 0.9 * sureOf(lane, must.sound),
        weight: 2,
        of: `${must.sound} shut`,
        mends: [
          { do: 'lay', track: lane.track.id, from: to, to: shown.to, pieces: [{ from: to, to: shown.to, drawing: following.drawing }] },
          { do: 'plan', track: lane.track.id, from: Math.max(0, shown.from - 2), to: Math.min(lane.lengthFrames, shown.to + 3) },
        ],
      },
    ];
  });
}

export const closureOff: Kind = {
  id: 'closure-off',
  name: 'Lips that meet at the wrong time',
  about: 'Lips that meet before or after their sound, or that stay shut when a p or b has opened already.',
  find: (lane) => [...besideWindow(lane), ...keptShut(lane)].sort((a, b) => a.from - b.from),
};
