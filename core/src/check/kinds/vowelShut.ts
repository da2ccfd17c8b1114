/** A still, shut mouth under a vowel that is loud. */
import { ipaOf } from '../../phonetics/ipa.js';
import { isVowel } from '../../phonetics/phonemes.js';
import { SAMPLE_RATE } from '../../time/frameRate.js';
import { frameCount, heldIn, inWord, seenDrawing, sureOf, type AskedShape, type CheckedLane } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';

/** A vowel shorter than this may be passed over, in seconds. */
const SHORTEST = 0.09;
/** A calmer feel passes over longer ones: so much, in seconds, for each step of its calm. */
const CALMER = 0.4;
/** And in frames: lips that must meet beside it may take one. */
const FRAMES = 1.6;
/** Quieter vowels may be mumbled: between floor and peak. */
const LOUD_ABOVE = 0.45;

/** The most a shape's frames are heard, 0 to 1; 1 where it is not known. */
export function loudestIn({ loudness }: CheckedLane, from: number, to: number): number {
  if (!loudness) return 1;
  let most = 0;
  for (let frame = Math.max(0, Math.floor(from)); frame < Math.min(loudness.length, Math.ceil(to)); frame++)
    most = Math.max(most, loudness[frame]!);
  return most;
}

/** The vowel a shape is of; undefined for others. */
export const vowelOf = ({ sounds }: CheckedLane, shape: AskedShape): number | undefined =>
  shape.sounds.find((sound) => isVowel(sounds[sound]!.symbol));

export const vowelShut: Kind = {
  id: 'vowel-shut',
  name: 'Shut under a loud vowel',
  about: 'Somebody is heard loudly, and the mouth does not open.',
  find: (lane) =>
    lane.shapes.flatMap((shape): Found[] => {
      // A narrow vowel may be drawn nearly shut.
      if (shape.isPause || seenDrawing(shape.chart, shape.drawing).isShut) return [];
      const sounds = shape.sounds.filter(
        // The halves of a diphthong are one vowel.
        (sound) =>
          isVowel(lane.sounds[sound]!.symbol) && lane.sounds[sound]!.stress !== 0 && !lane.shapes[shape.at - 1]?.sounds.includes(sound),
      );
      return sounds.flatMap((sound): Found[] => {
        const { symbol, from: first, to: last } = lane.sounds[sound]!;
        const perSample = lane.fps / SAMPLE_RATE;
        if (
          last - first < (SHORTEST + CALMER * Math.max(0, shape.rules.calm - 0.2)) * SAMPLE_RATE ||
          (last - first) * perSample < FRAMES ||
          loudestIn(lane, first * perSample, last * perSample) < LOUD_ABOVE
        )
          return [];
        const { leadFrames } = shape.rules;
        const from = Math.min(lane.lengthFrames - 1, Math.max(0, Math.round(first * perSample - leadFrames)));
        const to = Math.min(lane.lengthFrames, Math.max(from + 1, Math.round(last * perSample - leadFrames)));
        const framesOf = (isShut: boolean, a: number, b: number): number =>
          heldIn(lane, a, b).reduce((sum, held) => (held.isShut === isShut ? sum + Math.min(held.to, b) - Math.max(held.from, a) : sum), 0);
        const shut = heldIn(lane, from, to).find((held) => held.isShut);
        // Open for a frame at its edge is not seen; open a frame before or after it is.
        if (!shut || framesOf(true, from, to) < (3 * (to - from)) / 4 || framesOf(false, from - 1, to + 1) > 1 + (to - from) / 4) return [];
        return [
          {
            from,
            to,
            why: `“${shut.label}” is held through /${ipaOf(symbol)}/${inWord(lane, sound)}, ${frameCount(to - from)} of a vowel that is heard well.`,
            sure: 0.9 * sureOf(lane, sound),
            weight: 3,
            of: String(sound),
            mends: [
              { do: 'lay', track: lane.track.id, from, to, pieces: [{ from, to, drawing: shape.drawing }] },
              { do: 'plan', track: lane.track.id, from: Math.max(0, from - 3), to: Math.min(lane.lengthFrames, to + 3) },
            ],
          },
        ];
      });
    }),
};
