/** What a list tells of the lanes of a scene without showing them. */
import { framesPerSecond } from '../time/frameRate.js';
import { exposuresOfTrack, inkedShare } from './exposures.js';
import { mouthLanes, sceneSettings, type SceneDocument } from './sceneDocument.js';

export interface LaneFacts {
  readonly lengthFrames: number;
  /** Share of the frames that are inked, over all lanes, 0 to 1. */
  readonly inked: number;
  /** Changes a second, over all lanes. */
  readonly changes: number;
  readonly chartId: string | null;
  /** The drawing of a telling frame: the longest one that plays a sound. */
  readonly posterDrawing: string | null;
}

export function laneFacts(scene: SceneDocument): LaneFacts {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const lanes = mouthLanes(scene).map(({ id }) => exposuresOfTrack(scene, id));
  const [first = []] = lanes;
  const spoken = first.filter(({ plays }) => plays.length > 0);
  const poster = [...(spoken.length > 0 ? spoken : first)].sort((a, b) => b.to - b.from - (a.to - a.from))[0];
  const changes = lanes.reduce(
    (sum, lane) => sum + lane.filter((one, index) => index > 0 && lane[index - 1]!.drawing !== one.drawing).length,
    0,
  );
  return {
    lengthFrames,
    inked: lanes.length === 0 ? 0 : lanes.reduce((sum, lane) => sum + inkedShare(lane, lengthFrames), 0) / lanes.length,
    changes: changes / Math.max(1, lanes.length) / Math.max(1e-9, lengthFrames / framesPerSecond(frameRate)),
    chartId: mouthLanes(scene)[0]?.chartId ?? null,
    posterDrawing: poster?.drawing ?? null,
  };
}
