/** What the reading leaves open: words read doubtfully whose mouths are pencil still, and words without sounds. */
import { SAMPLE_RATE } from '../../time/frameRate.js';
import { heldIn, type CheckedLane } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';
import type { PlacedWord } from '../../scene/placedSounds.js';

function framesOf({ fps, lengthFrames }: CheckedLane, { from, to }: PlacedWord): { from: number; to: number } {
  const first = Math.min(lengthFrames - 1, Math.max(0, Math.floor((from / SAMPLE_RATE) * fps)));
  return { from: first, to: Math.min(lengthFrames, Math.max(first + 1, Math.ceil((to / SAMPLE_RATE) * fps))) };
}

export const doubtfulWord: Kind = {
  id: 'doubtful-word',
  name: 'Doubtful words in pencil',
  about: 'A word that was not read surely, and whose mouths nobody has looked at: listen to it.',
  find: (lane) =>
    lane.words.flatMap((word): Found[] => {
      const span = framesOf(lane, word);
      if (word.inked || word.confidence >= lane.limits.doubtful || heldIn(lane, span.from, span.to).every(({ inked }) => inked)) return [];
      return [
        {
          ...span,
          why: `“${word.text}” was read with ${Math.round(word.confidence * 100)} % confidence, and its mouths are in pencil.`,
          sure: 1 - word.confidence,
          weight: 1,
          of: word.id,
          mends: [],
        },
      ];
    }),
};

export const wordSilent: Kind = {
  id: 'word-silent',
  name: 'Words without sounds',
  about: 'A word that has no sounds in the reading: the mouth says nothing for it.',
  find: (lane) => {
    const spoken = new Set(lane.sounds.map(({ word }) => word));
    return lane.words
      .filter(({ id }) => !spoken.has(id))
      .map((word) => ({
        ...framesOf(lane, word),
        why: `“${word.text}” has no sounds. Say on Listen how it is said, or read it again.`,
        sure: 1,
        weight: 2 as const,
        of: word.id,
        mends: [],
      }));
  },
};
