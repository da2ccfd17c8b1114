/** What the try-out speaks: a line that ships with the application, or the animator's own last one. */
import {
  clipGains,
  placedSounds,
  sampleAtFrame,
  sceneSettings,
  type FrameRate,
  type KeyingRules,
  type Reading,
  type SceneDocument,
  type SceneSound,
  type SceneView,
} from '@zest-jaw/core';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { api } from '../api/http.js';
import type { PlacedSound } from '../sound/mix.js';
import { useScenes } from '../api/queries.js';
import { useDocumentOfScene } from './sceneOfChart.js';

export interface TryOutLine {
  readonly title: string;
  readonly frameRate: FrameRate;
  readonly lengthFrames: number;
  readonly rules: KeyingRules;
  readonly sounds: readonly SceneSound[];
  /** Recordings, the sample each is heard from, and the part of each that is heard when it is not all of it. */
  readonly recordings: readonly { readonly url: string; readonly atSample: number; readonly part?: Partial<PlacedSound> }[];
}

const SHIPPED_RATE: FrameRate = { num: 24, den: 1 };

/** The line that ships with the application: on twos at 24. */
export const useShippedLine = (): UseQueryResult<TryOutLine> =>
  useQuery({
    queryKey: ['try-out'],
    staleTime: Infinity,
    queryFn: async (): Promise<TryOutLine> => {
      const response = await fetch('/try-out/line.json');
      if (!response.ok) throw new Error('The try-out line is missing. Build the application again.');
      const { durationSamples, phonemes } = (await response.json()) as Reading;
      return {
        title: 'Our line',
        frameRate: SHIPPED_RATE,
        lengthFrames: Math.ceil((durationSamples / 48_000) * 24),
        rules: { leadFrames: 1, holdFrames: 2, strict: false },
        sounds: phonemes,
        recordings: [{ url: '/try-out/line.wav', atSample: 0 }],
      };
    },
  });

function lineOfScene(scene: SceneDocument, characterId: string): TryOutLine | undefined {
  const { title, frameRate, lengthFrames } = sceneSettings(scene);
  const track = scene.tracks.find((candidate) => candidate.characterId === characterId) ?? scene.tracks[0];
  if (!track) return undefined;
  const sounds = placedSounds(scene, track.characterId);
  if (sounds.length === 0) return undefined;
  const gains = clipGains(scene.clips);
  return {
    title,
    frameRate,
    lengthFrames,
    rules: track.rules,
    sounds: sounds.map(({ symbol, stress, from, to }) => ({ symbol, ...(stress === undefined ? {} : { stress }), from, to })),
    recordings: scene.clips.map(({ id, audio, atFrame, fromSample, toSample }) => ({
      url: `/api/assets/${audio}`,
      atSample: sampleAtFrame(frameRate, atFrame),
      part: { fromSample, toSample, gain: gains.get(id)! },
    })),
  };
}

/** The animator's own last line: the scene the chart was opened from, else the last one touched. */
export function useOwnLine(characterId: string): TryOutLine | undefined {
  const open = useDocumentOfScene();
  const scenes = useScenes();
  const last = scenes.data?.find((scene) => scene.characterId === characterId) ?? scenes.data?.[0];
  const view = useQuery({
    queryKey: ['own-line', last?.id],
    enabled: !open && last !== undefined,
    queryFn: () => api<SceneView>(`/scenes/${last!.id}`),
  });
  const document = open ?? view.data?.document;
  return document && lineOfScene(document, characterId);
}
