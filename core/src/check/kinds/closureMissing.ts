/** Lips that must meet, or a lip that must be bitten, and no frame shows it. */
import { ipaOf } from '../../phonetics/ipa.js';
import { heldIn, inFrames, inWord, frameCount, sureOf, type CheckedLane } from '../checkedLane.js';
import { closuresOf, shows, takenMouths, type AskedClosure } from '../closures.js';
import type { Kind } from '../kind.js';
import type { Found, Mend } from '../note.js';

/** A closure this near is the same one, too early or too late: in seconds. */
const NEAR = 0.25;

/** One mouth that is seen in every window: as short as may be, or held. */
function mendsOf(lane: CheckedLane, closures: readonly AskedClosure[]): Mend[] {
  const { shape } = closures[0]!;
  const track = lane.track.id;
  const [from, to] = [Math.min(...closures.map(({ must }) => must.first)), Math.max(...closures.map(({ must }) => must.last)) + 1];
  const lay = (first: number, end: number): Mend => ({
    do: 'lay',
    track,
    from: first,
    to: end,
    pieces: [{ from: first, to: end, drawing: shape.drawing }],
  });
  const latest = Math.max(...closures.map(({ must }) => must.first));
  const first = Math.min(latest, ...closures.map(({ must }) => must.last));
  const least = latest + 1;
  const hold = Math.min(to, Math.max(least, first + shape.rules.holdFrames));
  return [
    ...(hold > least ? [lay(first, hold)] : []),
    lay(first, least),
    ...(closures.length === 1 && to - 1 > first ? [lay(to - 1, to)] : []),
    { do: 'plan', track, from: Math.max(0, from - 3), to: Math.min(lane.lengthFrames, to + 3) },
  ];
}

export const closureMissing: Kind = {
  id: 'closure-missing',
  name: 'Lips that never meet',
  about: 'A sound that is made by lips that meet, or by a lip on the teeth, and that no frame shows.',
  find: (lane) => {
    const taken = takenMouths(lane);
    const reach = Math.round(NEAR * lane.fps);
    // One that comes at another time is told of as such.
    const isElsewhere = ({ shape, must }: AskedClosure): boolean =>
      heldIn(lane, must.first - reach, must.last + 1 + reach).some((held) => shows(shape, held) && !taken.has(held.id));
    const missing = closuresOf(lane).filter((closure) => !closure.shown && !isElsewhere(closure));
    // Sounds that one mouth would show are one note.
    const together: AskedClosure[][] = [];
    for (const closure of missing) {
      const last = together.at(-1);
      if (last?.[0]!.shape === closure.shape) last.push(closure);
      else together.push([closure]);
    }
    return together.map((closures): Found => {
      const [first, last] = [closures[0]!.must, closures.at(-1)!.must];
      const [from, to] = [first.first, Math.max(last.last, first.last) + 1];
      const there = heldIn(lane, from, to);
      const labels = [...new Set(there.map(({ label }) => `“${label}”`))];
      const seen = labels.length === 0 ? 'nothing is' : `${labels.join(' and ')} ${labels.length === 1 ? 'is' : 'are'}`;
      const sounds = closures.map(({ must }) => `/${ipaOf(lane.sounds[must.sound]!.symbol)}/`).join(' and ');
      return {
        from,
        to,
        why: `${sounds}${inWord(lane, first.sound)} can be seen in ${inFrames(lane, from, to)} (${frameCount(to - from)}), and ${seen} there.`,
        sure: Math.max(...closures.map(({ must }) => sureOf(lane, must.sound))),
        weight: 3,
        mends: mendsOf(lane, closures),
        of: String(first.sound),
      };
    });
  },
};
