/** A scene as the checker sees it: its lanes, and what is known of its recordings. */
import type { HeardFrames } from '../audio/frameLevels.js';
import type { ClipFacts } from '../audio/clipFacts.js';
import type { ChartDocument } from '../chart/chart.js';
import { chartsWithOneOffs } from '../scene/oneOffs.js';
import { mouthLanes, type SceneDocument } from '../scene/sceneDocument.js';
import { checkedLane, type CheckedLane } from './checkedLane.js';
import type { CheckLimits } from './limits.js';
import type { Found, NoteKindId } from './note.js';

export interface CheckJob {
  readonly scene: SceneDocument;
  /** By id. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
  /** What is heard of each speaker, where it is known. */
  readonly heardOf?: ((characterId: string) => HeardFrames | undefined) | undefined;
  /** What is in each recording, by its hash, where it is known. */
  readonly facts?: ReadonlyMap<string, ClipFacts> | undefined;
  /** The production's own limits, over those of the feels. */
  readonly limits?: Partial<CheckLimits> | undefined;
}

export interface CheckedScene {
  readonly scene: SceneDocument;
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly lanes: readonly CheckedLane[];
  readonly facts: ReadonlyMap<string, ClipFacts>;
}

/** A kind of note that is of the scene, not of a lane. */
export interface SceneKind {
  readonly id: NoteKindId;
  readonly name: string;
  readonly about: string;
  find(checked: CheckedScene): Found[];
}

const NO_FACTS: ReadonlyMap<string, ClipFacts> = new Map();

export function checkedScene({ scene, charts: plain, heardOf, facts = NO_FACTS, limits }: CheckJob): CheckedScene {
  const charts = chartsWithOneOffs(scene, plain);
  const lanes = mouthLanes(scene).map((track) => checkedLane(scene, track, charts, { heard: heardOf?.(track.characterId), limits }));
  return { scene, charts, lanes, facts };
}
