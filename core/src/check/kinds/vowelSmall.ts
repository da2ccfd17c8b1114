/** A vowel at its loudest, with a smaller mouth than the chart has for it. */
import { ipaOf } from '../../phonetics/ipa.js';
import { lookOfChart } from '../../keying/chartLook.js';
import { heldIn, inWord, seenDrawing, shownFrame, sureOf } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';
import { vowelOf } from './vowelShut.js';

/** As loud as it gets, between floor and peak. */
const LOUDEST_ABOVE = 0.9;

export const vowelSmall: Kind = {
  id: 'vowel-small',
  name: 'Small at its loudest',
  about: 'The loudest vowel of a phrase without the widest mouth that the chart has for it.',
  find: (lane) => {
    const { loudness } = lane;
    if (!loudness) return [];
    return lane.shapes.flatMap((shape): Found[] => {
      const sound = vowelOf(lane, shape);
      const sizes = lookOfChart(shape.chart).sizesOf(shape.group, shape.rules.tag);
      if (sound === undefined || sizes.length < 2 || !shape.rules.accents || lookOfChart(shape.chart).isInTurn(shape.group)) return [];
      const { leadFrames } = shape.rules;
      const [first, last] = [
        Math.max(0, Math.floor(shape.target + leadFrames)),
        Math.min(loudness.length, Math.ceil(shape.end + leadFrames)),
      ];
      let at = first;
      for (let frame = first; frame < last; frame++) if (loudness[frame]! > loudness[at]!) at = frame;
      if ((loudness[at] ?? 0) < LOUDEST_ABOVE || lane.sounds[sound]!.stress === 0) return [];
      const frame = Math.max(0, at - leadFrames);
      const [held] = heldIn(lane, frame, frame + 1);
      const place = held ? sizes.indexOf(held.drawing) : -1;
      if (!held || place < 0 || place >= sizes.length - 1) return [];
      const widest = sizes.at(-1)!;
      // A size less of many is not seen.
      if (seenDrawing(shape.chart, widest).opening - held.opening < 0.12) return [];
      const { from, to } = held;
      return [
        {
          from,
          to,
          why: `/${ipaOf(lane.sounds[sound]!.symbol)}/${inWord(lane, sound)} is at its loudest at frame ${shownFrame(lane, frame)}, and “${held.label}” is there; the chart’s widest for it is “${seenDrawing(shape.chart, widest).label}”.`,
          sure: 0.7 * sureOf(lane, sound),
          weight: 1,
          of: String(sound),
          mends: [{ do: 'lay', track: lane.track.id, from, to, pieces: [{ from, to, drawing: widest }] }],
        },
      ];
    });
  },
};
