/** What `zest key` prints, seen as a scene, so that every writer of scenes can write it. */
import { DEFAULT_RULES } from '../keying/rules.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import type { FrameRate } from '../time/frameRate.js';

export function sceneOfKeyed(
  keyed: { frameRate: FrameRate; length: number; exposures: readonly { from: number; to: number; drawing: string }[] },
  firstFrame: number,
): SceneDocument {
  const track = 'mouth1';
  return {
    settings: [{ id: 'scene', title: 'Keyed', frameRate: keyed.frameRate, firstFrame, lengthFrames: keyed.length }],
    clips: [],
    words: [],
    phonemes: [],
    tracks: [{ id: track, kind: 'mouth', characterId: 'character', chartId: 'chart', order: 0, rules: DEFAULT_RULES }],
    views: [],
    oneOffs: [],
    asides: [],
    remarks: [],
    places: [],
    marks: [],
    exposures: keyed.exposures.map(({ from, to, drawing }, index) => ({
      id: `e${index}`,
      track,
      from,
      to,
      drawing,
      inked: false,
      plays: [],
    })),
  };
}
