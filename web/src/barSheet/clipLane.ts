/** The lane of clips: which line each lies on, and what a press on it takes hold of. */
import { clipGains, framePositionOfSample, sceneSettings, type SceneDocument } from '@zest-jaw/core';

/** Height of one line, in pixels. */
export const CLIP_LINE = 20;
/** Pixels inside a clip's end that take hold of the end. */
const END_REACH = 7;

/** A clip in its lane, in frames. */
export interface SheetClip {
  readonly id: string;
  readonly name: string;
  readonly from: number;
  /** Fractions allowed: a recording ends where it ends. */
  readonly to: number;
  /** Lines of the lane from the top, so that clips that overlap lie under one another. */
  readonly level: number;
  readonly silent: boolean;
  /** Something of the recording is trimmed away at this end. */
  readonly trimmedFrom: boolean;
  readonly trimmedTo: boolean;
}

/** Clips laid so that none covers another: each in the first line that is free where it starts. */
export function layClips(scene: Pick<SceneDocument, 'settings' | 'clips'>, nameOf: (characterId: string) => string): SheetClip[] {
  const { frameRate } = sceneSettings(scene);
  const gains = clipGains(scene.clips);
  const ends: number[] = [];
  return scene.clips.map((clip) => {
    const from = clip.atFrame;
    const to = from + framePositionOfSample(frameRate, clip.toSample - clip.fromSample);
    const free = ends.findIndex((end) => end <= from);
    const level = free < 0 ? ends.length : free;
    ends[level] = to;
    return {
      id: clip.id,
      name: `${nameOf(clip.characterId)} · ${clip.fileName}`,
      from,
      to,
      level,
      silent: gains.get(clip.id) === 0,
      trimmedFrom: clip.fromSample > 0,
      trimmedTo: clip.toSample < clip.lengthSamples,
    };
  });
}

/** What of a clip is held: its start, its end, or the whole of it. */
export interface ClipHold {
  readonly clip: SheetClip;
  readonly part: 'from' | 'to' | 'whole';
}

/**
 * What lies under a point of the lane.
 *
 * @param position in frames, with its fraction
 * @param within pixels below the lane's top
 */
export function maybeClipAt(clips: readonly SheetClip[], position: number, within: number, perFrame: number): ClipHold | undefined {
  const level = Math.floor(within / CLIP_LINE);
  const clip = clips.find((candidate) => candidate.level === level && position >= candidate.from && position < candidate.to);
  if (!clip) return undefined;
  // Of a narrow clip a third at each end is its end.
  const reach = Math.min(END_REACH / perFrame, (clip.to - clip.from) / 3);
  const part = position < clip.from + reach ? 'from' : position >= clip.to - reach ? 'to' : 'whole';
  return { clip, part };
}
