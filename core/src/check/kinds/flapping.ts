/** More changes in a second than the feel has. */
import { shownFrame, type CheckedLane } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';

/** Starts of mouths that differ from the one before. */
export const changesOf = ({ held }: CheckedLane): number[] =>
  held.flatMap((one, index) => (index > 0 && held[index - 1]!.drawing !== one.drawing ? [one.from] : []));

export const flapping: Kind = {
  id: 'flapping',
  name: 'Flapping',
  about: 'More changes in one second than the feel has: the mouth flaps, and nothing is read.',
  find: (lane) => {
    const { mostChanges } = lane.limits;
    const changes = changesOf(lane);
    const second = lane.fps;
    const found: Found[] = [];
    let first = 0;
    for (let last = 0; last < changes.length; last++) {
      while (changes[last]! - changes[first]! >= second) first += 1;
      const count = last - first + 1;
      if (count <= mostChanges) continue;
      const span = { from: changes[first]!, to: changes[last]! + 1 };
      const before = found.at(-1);
      if (before && span.from < before.to) {
        found[found.length - 1] = {
          ...before,
          to: span.to,
          why: sentence(lane, before.from, Math.max(count, Number(before.of)), mostChanges),
          of: String(Math.max(count, Number(before.of))),
        };
      } else
        found.push({ ...span, why: sentence(lane, span.from, count, mostChanges), sure: 0.9, weight: 2, mends: [], of: String(count) });
    }
    return found.map(({ of: _, ...note }) => ({
      ...note,
      mends: [{ do: 'plan', track: lane.track.id, from: Math.max(0, note.from - 2), to: Math.min(lane.lengthFrames, note.to + 4) }],
    }));
  },
};

const sentence = (lane: CheckedLane, from: number, count: number, most: number): string =>
  `From frame ${shownFrame(lane, from)} on the mouth changes ${count} times in one second; the feel has ${Math.round(most * 10) / 10} at most.`;
