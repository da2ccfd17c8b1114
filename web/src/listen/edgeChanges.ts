/** Where the sound changes around an edge that is dragged: shown on the wave, and what the edge keeps to. */
import {
  clipStart,
  framePositionOfSample,
  RECOGNISER_RATE,
  resample,
  SAMPLE_RATE,
  sceneSettings,
  soundChanges,
  type Clip,
  type SceneDocument,
  type Span,
} from '@zest-jaw/core';
import { createStore } from 'zustand/vanilla';
import type { SheetData } from '../barSheet/sheetData.js';

/** Looked at on each side of the pointer, and looked at anew when it has gone so far, in samples: 0.25 and 0.15 s. */
const SIDE = 0.25 * SAMPLE_RATE;
const ANEW = 0.15 * SAMPLE_RATE;
/** An edge keeps to a change this near, in samples: 20 ms, as boundaries of a reading do; and in pixels. */
const NEAR = 0.02 * SAMPLE_RATE;
const NEAR_PIXELS = 6;

/** Those that are shown; empty while nothing is dragged. */
export const edgeChanges = createStore<{ readonly changes: NonNullable<SheetData['changes']> }>(() => ({ changes: [] }));

export interface EdgeChanges {
  /** The place an edge keeps to near a sample of the recording, with so many samples a pixel. */
  near(sample: number, samplesPerPixel: number): number;
  end(): void;
}

type SamplesOf = (audio: string, part: Span) => Float32Array | undefined;

export function openEdgeChanges(scene: SceneDocument, clip: Clip, samplesOf: SamplesOf): EdgeChanges {
  const { frameRate } = sceneSettings(scene);
  const start = clipStart(scene, clip);
  let [middle, found]: [number, readonly { readonly sample: number; readonly by: number }[]] = [Number.NEGATIVE_INFINITY, []];
  const look = (sample: number): void => {
    middle = sample;
    const from = Math.max(0, Math.round(sample - SIDE));
    const heard = samplesOf(clip.audio, { from, to: Math.round(sample + SIDE) });
    const changes = heard ? soundChanges(resample(heard, SAMPLE_RATE, RECOGNISER_RATE)) : [];
    found = changes.map(({ atSeconds, by }) => ({ sample: from + Math.round(atSeconds * SAMPLE_RATE), by }));
    edgeChanges.setState({ changes: found.map(({ sample: at, by }) => ({ at: framePositionOfSample(frameRate, start + at), by })) });
  };
  return {
    near: (sample, samplesPerPixel) => {
      if (Math.abs(sample - middle) > ANEW) look(sample);
      const reach = Math.min(NEAR, NEAR_PIXELS * samplesPerPixel);
      const [nearest] = found
        .filter((change) => Math.abs(change.sample - sample) <= reach)
        .sort((a, b) => Math.abs(a.sample - sample) - Math.abs(b.sample - sample));
      return nearest?.sample ?? sample;
    },
    end: () => edgeChanges.setState({ changes: [] }),
  };
}
