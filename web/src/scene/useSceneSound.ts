/** The scene's recordings: fetched, decoded, given to the player, and measured for the wave. */
import {
  clipGains,
  HEARD_BLOCK,
  sampleAtFrame,
  sceneSettings,
  type ClipFacts,
  type HeardOf,
  type SoundsOf,
  type Span,
} from '@zest-jaw/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { rememberedHearing } from './hearing.js';
import { openPlayer, type Player } from '../sound/player.js';
import { openPlayhead, type Playhead } from '../sound/playhead.js';
import { placedWaves, type PlacedWave } from '../barSheet/sheetData.js';
import { openSlowSound } from '../workers/slowSound.js';
import { waveInWorker, type MeasuredWave } from '../workers/recordings.js';

interface Decoded extends MeasuredWave {
  readonly buffer: AudioBuffer;
}

async function fetchDecoded(player: Player, hash: string): Promise<Decoded> {
  const response = await fetch(`/api/assets/${hash}`);
  if (!response.ok) throw new Error('The recording could not be loaded. Reload the page to try again.');
  const buffer = await player.decode(await response.arrayBuffer());
  return { buffer, ...(await waveInWorker(buffer.getChannelData(0).slice(), HEARD_BLOCK)) };
}

export interface SceneSound {
  readonly player: Player;
  readonly playhead: Playhead;
  readonly waves: readonly PlacedWave[];
  /** What the mouths of a speaker hear, in this scene or one it may become. */
  readonly heardOf: HeardOf;
  /** Some samples of a recording at 48 kHz; nothing before it has been fetched. */
  readonly samplesOf: (audio: string, part: Span) => Float32Array | undefined;
  /** What is in each recording, by its hash, once it has been fetched. */
  readonly facts: ReadonlyMap<string, ClipFacts>;
}

export function useSceneSound({ settings, clips }: SoundsOf): SceneSound {
  const player = useMemo(() => openPlayer(openSlowSound), []);
  const playhead = useMemo(() => openPlayhead(player), [player]);
  const [decoded, setDecoded] = useState<ReadonlyMap<string, Decoded>>(new Map());
  const hashes = clips.map((clip) => clip.audio).join();

  useEffect(
    () => () => {
      playhead.close();
      player.close();
    },
    [player, playhead],
  );

  const known = useRef(decoded);
  useEffect(() => {
    known.current = decoded;
  }, [decoded]);
  useEffect(() => {
    let current = true;
    const wanted = [...new Set(hashes.split(',').filter((hash) => hash && !known.current.has(hash)))];
    // What has been fetched stays: a take that is put back by undo is there at once.
    Promise.all(wanted.map(async (hash) => [hash, await fetchDecoded(player, hash)] as const))
      .then((entries) => current && setDecoded((before) => new Map([...before, ...entries])))
      .catch((error: unknown) => current && toast.error(error instanceof Error ? error.message : 'The recording could not be played.'));
    return () => {
      current = false;
    };
  }, [player, hashes]);

  const { frameRate, lengthFrames } = sceneSettings({ settings });
  useEffect(() => {
    const gains = clipGains(clips);
    const sounds = clips.flatMap(({ id, audio, atFrame, fromSample, toSample }) => {
      const found = decoded.get(audio);
      if (!found) return [];
      return [{ atSample: sampleAtFrame(frameRate, atFrame), buffer: found.buffer, fromSample, toSample, gain: gains.get(id)! }];
    });
    player.setScene(sounds, frameRate, sounds.length === clips.length);
  }, [clips, frameRate, decoded, player]);

  useEffect(() => playhead.setLength(lengthFrames), [lengthFrames, playhead]);

  const waves = useMemo(() => placedWaves({ settings, clips }, decoded), [settings, clips, decoded]);
  const heardOf = useMemo(() => rememberedHearing((audio) => decoded.get(audio)?.pyramid), [decoded]);
  const facts = useMemo(() => new Map([...decoded].map(([hash, found]) => [hash, found.facts])), [decoded]);
  const samplesOf = useCallback(
    (audio: string, { from, to }: Span) => decoded.get(audio)?.buffer.getChannelData(0).subarray(Math.max(0, from), Math.max(0, to)),
    [decoded],
  );
  return { player, playhead, waves, heardOf, samplesOf, facts };
}
