/** The scene's recordings: fetched, decoded, given to the player, and measured for the wave. */
import { sampleAtFrame, sceneSettings, SAMPLE_RATE, type ClipFacts, type SceneDocument } from '@zest-jaw/core';
import { useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { openPlayer, type Player } from '../sound/player.js';
import { openPlayhead, type Playhead } from '../sound/playhead.js';
import type { PlacedWave } from '../barSheet/sheetData.js';
import { stretchInWorker, waveInWorker, type MeasuredWave } from '../workers/heavy.js';

/** Fine enough for one bar a pixel at the widest frame. */
const SAMPLES_PER_BLOCK = 96;

interface Decoded extends MeasuredWave {
  readonly buffer: AudioBuffer;
}

async function fetchDecoded(player: Player, hash: string): Promise<Decoded> {
  const response = await fetch(`/api/assets/${hash}`);
  if (!response.ok) throw new Error('The recording could not be loaded. Reload the page to try again.');
  const buffer = await player.decode(await response.arrayBuffer());
  return { buffer, ...(await waveInWorker(buffer.getChannelData(0).slice(), SAMPLES_PER_BLOCK)) };
}

export interface SceneSound {
  readonly playhead: Playhead;
  readonly waves: readonly PlacedWave[];
  /** What is in each recording, by its hash, once it has been fetched. */
  readonly facts: ReadonlyMap<string, ClipFacts>;
}

export function useSceneSound(scene: SceneDocument | undefined): SceneSound {
  const player = useMemo(() => openPlayer(), []);
  const playhead = useMemo(() => openPlayhead(player, stretchInWorker), [player]);
  const [decoded, setDecoded] = useState<ReadonlyMap<string, Decoded>>(new Map());
  const hashes = scene?.clips.map((clip) => clip.audio).join() ?? '';

  useEffect(
    () => () => {
      playhead.close();
      player.close();
    },
    [player, playhead],
  );

  useEffect(() => {
    let current = true;
    const wanted = hashes.split(',').filter(Boolean);
    Promise.all(wanted.map(async (hash) => [hash, await fetchDecoded(player, hash)] as const))
      .then((entries) => current && setDecoded(new Map(entries)))
      .catch((error: unknown) => current && toast.error(error instanceof Error ? error.message : 'The recording could not be played.'));
    return () => {
      current = false;
    };
  }, [player, hashes]);

  const settings = scene && sceneSettings(scene);
  const clips = scene?.clips;
  const frameRate = settings?.frameRate;
  useEffect(() => {
    if (!clips || !frameRate) return;
    const sounds = clips.flatMap((clip) => {
      const found = decoded.get(clip.audio);
      return found ? [{ atSample: sampleAtFrame(frameRate, clip.atFrame), buffer: found.buffer }] : [];
    });
    player.setScene(sounds, frameRate, sounds.length === clips.length);
  }, [clips, frameRate, decoded, player]);

  const lengthFrames = settings?.lengthFrames;
  useEffect(() => {
    if (lengthFrames !== undefined) playhead.setLength(lengthFrames);
  }, [lengthFrames, playhead]);

  const waves = useMemo(
    () =>
      (clips ?? []).flatMap((clip) => {
        const found = decoded.get(clip.audio);
        return found && frameRate
          ? [
              {
                atFrame: clip.atFrame,
                samplesPerFrame: (SAMPLE_RATE * frameRate.den) / frameRate.num,
                pyramid: found.pyramid,
                pauses: found.pauses,
              },
            ]
          : [];
      }),
    [clips, frameRate, decoded],
  );
  const facts = useMemo(() => new Map([...decoded].map(([hash, found]) => [hash, found.facts])), [decoded]);
  return { playhead, waves, facts };
}
