/** A mouth late or early against its sound. */
import { ipaOf } from '../../phonetics/ipa.js';
import { frameCount, heldIn, inWord, sureOf, type CheckedLane } from '../checkedLane.js';
import { shows } from '../closures.js';
import type { Kind } from '../kind.js';
import type { Mend } from '../note.js';
import { laneOffset, offsetsOf, type MouthOffset } from '../offsets.js';

/** Its beginning put where the sound asks for it; the mouth before, or the one itself, gives way. */
function mendsOf(lane: CheckedLane, { held, shape, offset }: MouthOffset): Mend[] {
  const track = lane.track.id;
  const at = Math.max(0, Math.round(held.from - offset));
  const plan: Mend = {
    do: 'plan',
    track,
    from: Math.max(0, Math.min(at, held.from) - 3),
    to: Math.min(lane.lengthFrames, Math.max(held.to, at) + 3),
  };
  const [before] = heldIn(lane, held.from - 1, held.from);
  if (offset > 0)
    return [{ do: 'lay', track, from: at, to: held.from, pieces: [{ from: at, to: held.from, drawing: held.drawing }] }, plan];
  if (!before || at >= held.to) return [plan];
  const isRest = lane.shapes[shape.at - 1]?.isPause;
  return [
    { do: 'lay', track, from: held.from, to: at, pieces: [{ from: held.from, to: at, drawing: before.drawing }] },
    ...(isRest ? [] : [plan]),
  ];
}

export const mouthOff: Kind = {
  id: 'mouth-off',
  name: 'Mouths late or early',
  about: 'A mouth that begins so far from its sound that sound and picture part.',
  find: (lane) => {
    const all = laneOffset(lane);
    const { late, early } = lane.limits;
    return offsetsOf(lane).flatMap((one) => {
      const { held, shape } = one;
      const offset = one.offset - all;
      // The limits are for the sound itself; a feel’s lead is before it.
      const { leadFrames, anticipationFrames } = shape.rules;
      const begins = lane.shapes[shape.at - 1]?.isPause ? anticipationFrames : 0;
      const isLate = offset - leadFrames > late * lane.fps;
      const isEarly = -offset + leadFrames + begins > early * lane.fps + 1;
      const isClosure = shape.musts.length > 0 && shows(shape, held);
      if ((!isLate && !isEarly) || isClosure) return [];
      const [sound] = shape.sounds;
      return [
        {
          from: held.from,
          to: held.to,
          why: `“${held.label}” for /${ipaOf(lane.sounds[sound!]!.symbol)}/${inWord(lane, sound!)} begins ${frameCount(Math.abs(offset))} (${(Math.abs(offset) / lane.fps).toFixed(2)} s) ${offset > 0 ? 'later' : 'earlier'} than the feel asks for.`,
          sure: 0.85 * sureOf(lane, sound!),
          weight: Math.abs(offset) / lane.fps > 0.25 ? (3 as const) : (2 as const),
          of: held.drawing,
          mends: mendsOf(lane, { ...one, offset }),
        },
      ];
    });
  },
};
