/** What the mouths of a scene hear of its recordings, worked out once for the clips as they are. */
import { maybeHeard, type HeardFrames, type HeardOf, type PyramidOf, type SoundsOf } from '@zest-jaw/core';

interface Heard {
  readonly settings: SoundsOf['settings'];
  readonly frames: HeardFrames | undefined;
}

/**
 * @param pyramidOf must answer the same for as long as this is used
 * @returns the same frames for as long as neither the clips nor the settings change: a worker that has them is not given them again
 */
export function rememberedHearing(pyramidOf: PyramidOf): HeardOf {
  const known = new WeakMap<SoundsOf['clips'], Map<string, Heard>>();
  return ({ clips, settings }, characterId) => {
    const heard = known.get(clips) ?? new Map<string, Heard>();
    known.set(clips, heard);
    const last = heard.get(characterId);
    if (last?.settings === settings) return last.frames;
    const frames = maybeHeard({ clips, settings }, characterId, pyramidOf);
    heard.set(characterId, { settings, frames });
    return frames;
  };
}
