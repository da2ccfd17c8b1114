/** Ink that no longer fits its sound, since the reading has been changed. */
import { frameCount, inWord, isApart, lostAs } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';

/** Ink further than this from its sound is left behind, in seconds. */
const ADRIFT = 0.2;

export const inkAdrift: Kind = {
  id: 'ink-adrift',
  name: 'Ink that lost its sound',
  about: 'Inked mouths whose sound has moved away, or is gone, since the reading was changed.',
  find: (lane) => {
    const placeOf = new Map(lane.sounds.map(({ id }, index) => [id, index]));
    return lane.held.flatMap((held): Found[] => {
      if (!held.inked || held.plays.length === 0 || isApart(lane, held)) return [];
      const places = held.plays.flatMap((id) => placeOf.get(id) ?? []);
      if (places.length === 0) {
        // Its sounds are others now: it still fits where it shows what is heard there.
        const there = lane.shapes.filter(({ target, end }) => target < held.to && end > held.from);
        if (there.some((shape) => lostAs(shape, held) < 0.1)) return [];
        return [
          {
            from: held.from,
            to: held.to,
            why: `“${held.label}” was inked for a sound that is not in the reading any more, and nothing that is heard here looks like it.`,
            sure: 0.7,
            weight: 2,
            mends: [{ do: 'plan', track: lane.track.id, from: held.from, to: held.to }],
          },
        ];
      }
      const perSample = lane.fps / 48_000;
      const first = Math.min(...places.map((place) => lane.sounds[place]!.from)) * perSample - lane.rules.leadFrames;
      const last = Math.max(...places.map((place) => lane.sounds[place]!.to)) * perSample;
      // It fits where it begins with them, or ends with them.
      const away = Math.abs(held.from - first) < Math.abs(held.to - last) ? held.from - first : held.to - last;
      if (Math.abs(away) <= ADRIFT * lane.fps) return [];
      return [
        {
          from: held.from,
          to: held.to,
          why: `“${held.label}” is inked ${frameCount(Math.abs(away))} ${away > 0 ? 'after' : 'before'} the sound it was for${inWord(lane, places[0]!)}, which has moved.`,
          sure: 0.8,
          weight: 2,
          mends: [{ do: 'plan', track: lane.track.id, from: held.from, to: held.to }],
        },
      ];
    });
  },
};
