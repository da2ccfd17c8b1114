/**
 * The scene document: one shot as plain frozen JSON. Exposures and everything keyed are
 * in integer frames counted from 0 (the scene's first frame *number* is only how they are
 * shown); readings are in integer samples at 48 000 Hz from their recording's start.
 */
import type { Drawing } from '../chart/chart.js';
import type { DocumentKind } from '../document/documentKind.js';
import type { BlinkRules } from '../keying/blinks.js';
import type { LaneLink } from '../keying/links.js';
import type { LiftRules } from '../keying/lifts.js';
import type { RuledPhrase } from '../keying/keyingJob.js';
import type { KeyingRules } from '../keying/rules.js';
import type { NotSpeech } from '../reading/noises.js';
import type { ScriptLanguage } from '../reading/scriptWords.js';
import type { FrameRate } from '../time/frameRate.js';

export interface SceneSettings {
  readonly id: 'scene';
  readonly title: string;
  readonly frameRate: FrameRate;
  /** The number shown for frame 0: 0, 1, 101, 1001 … */
  readonly firstFrame: number;
  readonly lengthFrames: number;
}

/** A recording placed in the scene. */
export interface Clip {
  readonly id: string;
  readonly characterId: string;
  /** Content hash of the 48 kHz recording. */
  readonly audio: string;
  /** What the animator's file was called. */
  readonly fileName: string;
  /** The scene frame at which its first heard sample is. */
  readonly atFrame: number;
  /** Of the whole recording. */
  readonly lengthSamples: number;
  /** What is heard of the recording: `[fromSample, toSample)`, the rest is trimmed away. */
  readonly fromSample: number;
  readonly toSample: number;
  readonly gainDb: number;
  /** Not heard. Its mouths stay. */
  readonly muted: boolean;
  /** While any clip is soloed, only soloed ones are heard. */
  readonly soloed: boolean;
  /** The recording its reading was made from, by hash; null before it is read. Another than `audio` after a better take came. */
  readonly readOf: string | null;
  /** The line as it is spoken. */
  readonly script: string;
  /** English, French, or any language whose script is spelled in IPA. */
  readonly language: ScriptLanguage;
  /** Where its recording is not speech, by its reading; samples of the recording, sorted. */
  readonly notSpeech?: readonly NotSpeech[];
  /** Where its mouths are keyed by other rules than their track's; samples of the recording, sorted and disjoint. */
  readonly phrases?: readonly RuledPhrase[];
}

export interface SceneWord {
  readonly id: string;
  readonly clip: string;
  readonly text: string;
  readonly fromSample: number;
  readonly toSample: number;
  readonly confidence: number;
  /** Its sounds were guessed from its spelling. */
  readonly guessed?: true;
  /** Set or accepted by the animator: no reading moves it. */
  readonly inked?: true;
}

export interface ScenePhoneme {
  readonly id: string;
  readonly clip: string;
  readonly word: string | null;
  readonly symbol: string;
  readonly stress?: 0 | 1 | 2;
  readonly fromSample: number;
  readonly toSample: number;
  readonly confidence: number;
  /** Set by the animator, or of a word that is. */
  readonly inked?: true;
}

/** What somebody heard at a frame: a word, or a sound. It lasts until the next one. */
export interface EarMark {
  readonly id: string;
  readonly characterId: string;
  readonly frame: number;
  /** A word, a sound in plain spelling, IPA or ARPAbet; a dash for silence. */
  readonly text: string;
}

/** A lane of exposures: one character's mouth, or another part of the face. */
export interface Track {
  readonly id: string;
  readonly kind: 'mouth' | 'part';
  readonly characterId: string;
  readonly chartId: string;
  readonly order: number;
  readonly rules: KeyingRules;
  /** The name of the part, where it is one. */
  readonly part?: string;
  /** How its pencil blinks, where it does. */
  readonly blinks?: BlinkRules;
  /** How its pencil goes up on stressed words, where it does. */
  readonly lifts?: LiftRules;
  /** What its pencil shows when another lane of the face shows something. */
  readonly links?: readonly LaneLink[];
  /** At rest wherever nothing else is inked or ruled: drawings tagged “idle” are gone through in turn, each held so many frames. */
  readonly idle?: number;
  /** Folded to a line on the sheet of other lanes. */
  readonly folded?: true;
  /** Keyed, and not played: the part, or the mouth, rests. */
  readonly muted?: true;
  /** How much its lines live while a drawing is held, 0 to 1; without it they hold still. */
  readonly boil?: number;
  /** Frames over which a drawing comes in as a mix with the one before it; without it drawings cut. */
  readonly blend?: number;
  /** Not drawn at all. */
  readonly hidden?: true;
  /** No edit and no keying changes it. */
  readonly locked?: true;
}

/** From a frame on, a track's mouths are on another chart of its character: the head has turned. */
export interface TrackView {
  readonly id: string;
  readonly track: string;
  /** Later than frame 0, where the track's own chart begins. */
  readonly from: number;
  readonly chartId: string;
}

/** A drawing held from frame `from` up to, not including, `to`. */
export interface Exposure {
  readonly id: string;
  readonly track: string;
  readonly from: number;
  readonly to: number;
  readonly drawing: string;
  /** Decided by the animator (true) or suggested (false). */
  readonly inked: boolean;
  /** The phonemes it plays, by id. */
  readonly plays: readonly string[];
}

/** A mouth drawn for some frames of this scene, and kept in no chart. */
export interface OneOff {
  /** That of its drawing. */
  readonly id: string;
  /** The chart it was made on: where that is in force it can be shown. */
  readonly chartId: string;
  readonly drawing: Drawing;
}

/** A note of the checker that somebody has set aside: it is meant. */
export interface Aside {
  readonly id: string;
  /** The note it is of, by what the checker calls it. */
  readonly note: string;
  /** What was there when it was set aside: when that changes, the note is back. */
  readonly look: string;
  /** Why, in words of whoever did it; may be empty. */
  readonly reason: string;
}

/** A stroke over the picture, in hundredths of the easel's square: x and y in turn. */
export type RemarkStroke = readonly number[];

/** What somebody who looked at the scene says of a frame. */
export interface Remark {
  readonly id: string;
  readonly frame: number;
  /** The name they gave. */
  readonly by: string;
  readonly text: string;
  readonly strokes?: readonly RemarkStroke[];
  /** It has been seen to. */
  readonly done?: true;
}

/** How a place goes on to the next: not until there, evenly, gently into it, gently out of this one, or both. */
export type PlaceEase = 'hold' | 'even' | 'in' | 'out' | 'both';

/** From a frame on, something is elsewhere than its head's record has it: what is added to that. */
export interface PlaceKey {
  readonly id: string;
  /** A lane. */
  readonly track: string;
  /** What the lane moves: its own drawings, or, a mouth's, the whole head. */
  readonly of: 'own' | 'head';
  readonly frame: number;
  readonly x: number;
  readonly y: number;
  readonly scale: number;
  readonly angle: number;
  readonly skew: number;
  readonly flip: boolean;
  readonly ease: PlaceEase;
  /** Found by following a patch of pictures, not set by hand: what is followed again takes its place. */
  readonly pencil?: true;
}

export interface SceneDocument {
  readonly settings: readonly SceneSettings[];
  readonly clips: readonly Clip[];
  readonly words: readonly SceneWord[];
  readonly phonemes: readonly ScenePhoneme[];
  readonly tracks: readonly Track[];
  readonly views: readonly TrackView[];
  readonly marks: readonly EarMark[];
  readonly oneOffs: readonly OneOff[];
  readonly asides: readonly Aside[];
  readonly remarks: readonly Remark[];
  readonly places: readonly PlaceKey[];
  readonly exposures: readonly Exposure[];
}

const compareText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

export const SCENE_KIND: DocumentKind<SceneDocument> = {
  settings: { compare: () => 0 },
  clips: { compare: (a, b) => a.atFrame - b.atFrame },
  words: { compare: (a, b) => compareText(a.clip, b.clip) || a.fromSample - b.fromSample },
  phonemes: { compare: (a, b) => compareText(a.clip, b.clip) || a.fromSample - b.fromSample },
  tracks: { compare: (a, b) => a.order - b.order },
  views: { compare: (a, b) => compareText(a.track, b.track) || a.from - b.from },
  marks: { compare: (a, b) => compareText(a.characterId, b.characterId) || a.frame - b.frame },
  oneOffs: { compare: (a, b) => compareText(a.chartId, b.chartId) || a.drawing.number - b.drawing.number },
  asides: { compare: (a, b) => compareText(a.note, b.note) },
  remarks: { compare: (a, b) => a.frame - b.frame },
  places: { compare: (a, b) => compareText(a.track, b.track) || compareText(a.of, b.of) || a.frame - b.frame },
  exposures: {
    compare: (a, b) => compareText(a.track, b.track) || a.from - b.from,
    span: {
      trackOf: (exposure) => exposure.track,
      from: (exposure) => exposure.from,
      to: (exposure) => exposure.to,
      moved: (exposure, from, to) => ({ ...exposure, from, to }),
    },
  },
};

/** The one record of a scene that holds what is said of the whole of it. */
export type SettingsOf = Pick<SceneDocument, 'settings'>;

/** What says where the recordings of a scene are heard. */
export type SoundsOf = Pick<SceneDocument, 'settings' | 'clips'>;

export function sceneSettings(scene: SettingsOf): SceneSettings {
  return scene.settings[0]!;
}

/** The lanes that speak, without those of other parts of the face. */
export function mouthLanes(scene: Pick<SceneDocument, 'tracks'>): readonly Track[] {
  return scene.tracks.filter(({ kind }) => kind === 'mouth');
}

/** The mouth of the face whose lane it is; the lane itself where there is none. */
export function mouthLaneOf(scene: Pick<SceneDocument, 'tracks'>, lane: Track): Track {
  return lane.kind === 'mouth' ? lane : (mouthLanes(scene).find(({ characterId }) => characterId === lane.characterId) ?? lane);
}

/** The number shown for a frame counted from 0. */
export function frameNumber(scene: SceneDocument, frame: number): number {
  return frame + sceneSettings(scene).firstFrame;
}
