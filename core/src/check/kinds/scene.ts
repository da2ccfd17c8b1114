/** What concerns the scene or its recordings: its length, how it was recorded, who speaks at once, charts that are not there. */
import { GAIN_LIMITS, clipStart } from '../../scene/clipPlace.js';
import { sceneSettings, type Clip } from '../../scene/sceneDocument.js';
import { SAMPLE_RATE, framesPerSecond } from '../../time/frameRate.js';
import { chartStretches } from '../../scene/trackCharts.js';
import type { SceneKind } from '../checkedScene.js';
import type { CheckedScene } from '../checkedScene.js';
import type { Found, Mend } from '../note.js';
import { MAX_SCENE_FRAMES } from '../../scene/checkScene.js';

const fpsOf = ({ scene }: CheckedScene): number => framesPerSecond(sceneSettings(scene).frameRate);

/** The frame after the last word, and after the last sound of a recording. */
function endsOf(checked: CheckedScene): { spoken: number; recorded: number } {
  const perSample = fpsOf(checked) / SAMPLE_RATE;
  const { scene } = checked;
  const starts = new Map(scene.clips.map((clip) => [clip.id, clipStart(scene, clip)]));
  const clips = new Map(scene.clips.map((clip) => [clip.id, clip]));
  let spoken = 0;
  for (const { clip, fromSample, toSample } of scene.words) {
    const own = clips.get(clip);
    if (own && fromSample < own.toSample) spoken = Math.max(spoken, (starts.get(clip)! + Math.min(toSample, own.toSample)) * perSample);
  }
  const recorded = Math.max(0, ...scene.clips.map((clip) => (starts.get(clip.id)! + clip.toSample) * perSample));
  return { spoken, recorded };
}

export const pastEnd: SceneKind = {
  id: 'past-end',
  name: 'Dialogue past the end',
  about: 'Words that lie behind the last frame of the scene: they are heard by nobody.',
  find: (checked) => {
    const { lengthFrames, firstFrame } = sceneSettings(checked.scene);
    const end = Math.ceil(endsOf(checked).spoken - 0.02);
    if (end <= lengthFrames) return [];
    const frames = Math.min(MAX_SCENE_FRAMES, end + Math.round(fpsOf(checked) / 2));
    return [
      {
        from: lengthFrames - 1,
        to: lengthFrames,
        why: `Words go on for ${end - lengthFrames} frames after the last one, frame ${lengthFrames - 1 + firstFrame}.`,
        sure: 1,
        weight: 3,
        mends: [{ do: 'length', frames }],
      },
    ];
  },
};

export const longTail: SceneKind = {
  id: 'long-tail',
  name: 'A scene past its dialogue',
  about: 'A scene that goes on long after its last word. It may be meant.',
  find: (checked) => {
    const { lengthFrames } = sceneSettings(checked.scene);
    const fps = fpsOf(checked);
    const { spoken } = endsOf(checked);
    const over = lengthFrames - spoken;
    const most = Math.min(...checked.lanes.map(({ limits }) => limits.tail));
    if (spoken === 0 || over / fps <= most) return [];
    return [
      {
        from: Math.min(lengthFrames - 1, Math.ceil(spoken)),
        to: lengthFrames,
        why: `The last word ends ${(over / fps).toFixed(1)} s before the scene does.`,
        sure: 1,
        weight: 1,
        mends: [{ do: 'length', frames: Math.max(1, Math.ceil(spoken + most * fps * 0.9)) }],
      },
    ];
  },
};

/** A note on each recording that a question is true of. */
function ofClips(
  checked: CheckedScene,
  ask: (clip: Clip, facts: NonNullable<ReturnType<CheckedScene['facts']['get']>>) => Pick<Found, 'why' | 'weight' | 'mends'> | undefined,
): Found[] {
  const { scene, facts } = checked;
  const fps = fpsOf(checked);
  const { lengthFrames } = sceneSettings(scene);
  return scene.clips.flatMap((clip): Found[] => {
    const own = facts.get(clip.audio);
    const told = own && ask(clip, own);
    if (!told || clip.atFrame >= lengthFrames) return [];
    const to = Math.min(lengthFrames, clip.atFrame + Math.max(1, Math.ceil(((clip.toSample - clip.fromSample) / SAMPLE_RATE) * fps)));
    return [{ from: clip.atFrame, to, sure: 0.9, of: clip.id, ...told }];
  });
}

export const clipping: SceneKind = {
  id: 'clipping',
  name: 'A recording that clips',
  about: 'Samples cut off at the top: hisses and bursts may be misheard, and it cannot be made good.',
  find: (checked) =>
    ofClips(checked, ({ fileName }, { clipped }) =>
      clipped <= 0.0005
        ? undefined
        : {
            why: `${(clipped * 100).toFixed(clipped < 0.01 ? 2 : 1)} % of “${fileName}” is cut off at the top. Record it again at a lower level.`,
            weight: 2,
            mends: [],
          },
    ),
};

/** Speech is set to about this level, in dBFS. */
const LOUD_ENOUGH = { least: -38, aim: -24 } as const;

export const tooQuiet: SceneKind = {
  id: 'too-quiet',
  name: 'A recording that is too quiet',
  about: 'A voice that is hard to hear beside the others.',
  find: (checked) =>
    ofClips(checked, (clip, { speechDb, peakDb }) => {
      const heard = speechDb + clip.gainDb;
      if (clip.muted || heard >= LOUD_ENOUGH.least) return undefined;
      // As loud as speech should be, and no sample over the top.
      const db = Math.min(GAIN_LIMITS.most, Math.floor(Math.min(LOUD_ENOUGH.aim - speechDb, -0.5 - peakDb) * 2) / 2);
      const mends: Mend[] = db > clip.gainDb && speechDb + db >= LOUD_ENOUGH.least ? [{ do: 'gain', clip: clip.id, db }] : [];
      return { why: `The voice of “${clip.fileName}” is at ${Math.round(heard)} dB, its gain included.`, weight: 1, mends };
    }),
};

export const underVoice: SceneKind = {
  id: 'under-voice',
  name: 'Something under the voice',
  about: 'Music, a hum or noise under the voice: words may be misheard.',
  find: (checked) =>
    ofClips(checked, ({ fileName }, { ground, speechDb, floorDb }) =>
      ground === 'quiet'
        ? undefined
        : {
            why: `There is ${ground === 'tones' ? 'music or a hum' : 'noise'} under the voice of “${fileName}”, ${Math.round(speechDb - floorDb)} dB below it.`,
            weight: 1,
            mends: [],
          },
    ),
};

/** Shorter than this two voices touch rather than speak at once, in seconds. */
const AT_ONCE = 0.15;

export const twoSpeak: SceneKind = {
  id: 'two-speak',
  name: 'Two who speak at once',
  about: 'Words of two characters at the same time. It may be meant.',
  find: ({ lanes }) =>
    lanes.flatMap((lane, index) =>
      lanes.slice(index + 1).flatMap((other): Found[] => {
        const found: Found[] = [];
        let at = 0;
        for (const word of lane.words) {
          while (at < other.words.length && other.words[at]!.to <= word.from) at += 1;
          for (let next = at; next < other.words.length && other.words[next]!.from < word.to; next++) {
            const [from, to] = [Math.max(word.from, other.words[next]!.from), Math.min(word.to, other.words[next]!.to)];
            const [first, last] = [Math.floor((from / SAMPLE_RATE) * lane.fps), Math.ceil((to / SAMPLE_RATE) * lane.fps)];
            const before = found.at(-1);
            if (before && first <= before.to + lane.fps / 2) found[found.length - 1] = { ...before, to: last };
            else if ((to - from) / SAMPLE_RATE > AT_ONCE)
              found.push({
                from: first,
                to: last,
                why: `“${word.text}” and “${other.words[next]!.text}” are said at the same time.`,
                sure: 0.9,
                weight: 1,
                of: `${lane.track.id} ${other.track.id}`,
                mends: [],
              });
          }
        }
        return found;
      }),
    ),
};

export const chartMissing: SceneKind = {
  id: 'chart-missing',
  name: 'A lane without its chart',
  about: 'A lane, or a stretch of one where the head has turned, whose chart is not there.',
  find: ({ scene, charts }) =>
    scene.tracks.flatMap(({ id }) =>
      chartStretches(scene, id).flatMap(({ from, to, chartId }): Found[] =>
        charts.has(chartId)
          ? []
          : [
              {
                from,
                to,
                why: `The chart that is in force here is gone. Choose another one for these frames.`,
                sure: 1,
                weight: 3,
                of: id,
                mends: [],
              },
            ],
      ),
    ),
};
