/** What the server answers with, as JSON: shared by the server that writes it and the interface that reads it. */
import type { PlacedArt } from '../draw/art.js';
import type { Accent } from '../phonetics/accents.js';
import type { ChartDocument } from '../chart/chart.js';
import type { Reading } from '../reading/reading.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import type { LayerChoice } from '../formats/layerLevels.js';
import type { FrameRate } from '../time/frameRate.js';

export interface CharacterView {
  readonly id: string;
  readonly name: string;
  /** The chart that new scenes begin with. */
  readonly chartId: string;
  /** How it speaks English. */
  readonly accent: Accent;
}

export interface ProductionView {
  readonly id: string;
  readonly name: string;
  readonly characters: readonly CharacterView[];
}

/** A scene as the home page shows it. */
export interface SceneCard {
  readonly id: string;
  readonly productionId: string;
  readonly title: string;
  readonly frameRate: FrameRate;
  readonly lengthFrames: number;
  readonly holdFrames: number;
  /** Share of the frames that are inked, 0 to 1. */
  readonly inked: number;
  readonly characterId: string | null;
  /** The chart its mouths are on. */
  readonly chartId: string | null;
  /** The drawing of a telling frame: the longest one that plays a sound. */
  readonly posterDrawing: string | null;
  /** What the checker found, where it was checked since it was changed. */
  readonly notes: NoteCounts | null;
  /** ISO 8601. */
  readonly touchedAt: string;
  /** Why it cannot be shown, when its record is damaged; everything else is a stand-in then. */
  readonly fault?: string;
}

export const JOB_STATES = ['waiting', 'running', 'done', 'failed', 'cancelled'] as const;
export type JobState = (typeof JOB_STATES)[number];

/** Long work, as it stands. */
export interface JobView {
  readonly id: string;
  readonly kind: string;
  readonly sceneId: string | null;
  readonly state: JobState;
  /** Share done, 0 to 1. */
  readonly done: number;
  /** What is being done, or how it ended, for the user. */
  readonly message: string;
  readonly warnings: readonly string[];
  /** It has read something that waits to be taken or left. */
  readonly offers: boolean;
}

/** What was read again of a clip that has a reading. */
export interface OfferView {
  readonly clipId: string;
  readonly reading: Reading;
}

/** How many notes a scene has open, and of which revision that is. */
export interface NoteCounts {
  readonly revision: number;
  /** Seen by everybody, seen, to know; remarks of people that are not seen to. */
  readonly heavy: number;
  readonly seen: number;
  readonly small: number;
  readonly remarks: number;
}

/** What a list shows of a pass. */
export interface PassFacts {
  readonly lengthFrames: number;
  /** Share of the frames that are inked, 0 to 1. */
  readonly inked: number;
  /** Changes a second, over all lanes. */
  readonly changes: number;
  /** Notes that were open; null where it was not checked. */
  readonly notes: Omit<NoteCounts, 'revision'> | null;
  /** The drawing of a telling frame, and its chart. */
  readonly chartId: string | null;
  readonly posterDrawing: string | null;
}

/** A saved state of a scene. */
export interface PassView {
  readonly id: string;
  readonly name: string;
  readonly why: string;
  readonly byItself: boolean;
  readonly revision: number;
  readonly facts: PassFacts;
  /** ISO 8601. */
  readonly at: string;
}

/** A recording that has been decoded and can be placed. */
export interface RecordingView {
  readonly id: string;
  /** Content hash of its 48 kHz sound. */
  readonly audio: string;
  readonly fileName: string;
  readonly lengthSamples: number;
}

/** A picture that a camera took of a lane. */
export interface ShotPictureView {
  /** Which picture of the lane, from 0. */
  readonly picture: number;
  /** Content hash of the JPEG. */
  readonly asset: string;
  /** The mouth that was asked for; null where none was. */
  readonly chartId: string | null;
  readonly drawing: string | null;
  /** Taken by the practice camera. */
  readonly practice: boolean;
}

export function hasEnded({ state }: Pick<JobView, 'state'>): boolean {
  return state === 'done' || state === 'failed' || state === 'cancelled';
}

export interface SceneView {
  readonly id: string;
  readonly productionId: string;
  readonly revision: number;
  readonly document: SceneDocument;
  /** The newest reading job, when there is one. */
  readonly reading: JobView | null;
}

export interface ChartView {
  readonly id: string;
  /** Whose mouths these are. */
  readonly characterId: string;
  readonly name: string;
  readonly revision: number;
  readonly document: ChartDocument;
}

/** A mouth that an import found, not in any chart yet. */
export interface FoundMouthView {
  readonly index: number;
  /** What its file, layer or group is called. */
  readonly name: string;
  readonly file: string;
  /** Where it was found, in words: “group 3 of 12”. */
  readonly as: string;
  /** The outermost layer that holds it, where layers lie inside layers. */
  readonly within?: string;
  /** Mouths of one page lie on it as they were drawn. */
  readonly pageKey: string;
  readonly art: Omit<PlacedArt, 'picture' | 'preview'>;
}

/** What an import found, once its job has ended. */
export interface ImportView {
  readonly mouths: readonly FoundMouthView[];
  readonly refused: readonly { readonly file: string; readonly sentence: string }[];
  readonly warnings: readonly string[];
  /** Some picture shows paper around its mouths. */
  readonly hasPaper: boolean;
  /** Of the first file with layers inside layers. */
  readonly choice?: LayerChoice;
}

/** How an import takes pictures: what `POST /api/imports` is told beside the files. */
export interface ImportRequest {
  /**
   * `whole` takes groups, layers and frames apart; `single` takes every file as one picture, `pages` every frame of every file,
   * to its edges.
   */
  readonly cut: 'whole' | 'single' | 'pages' | 'figures' | 'grid';
  readonly columns?: number;
  readonly rows?: number;
  readonly clearPaper: boolean;
  /** How often layers inside layers are opened; by their names where it is not given. */
  readonly level?: number;
}

/** Where a browser stands with a server that a room shares. */
export interface RoomView {
  /** Whether people sign in here at all. */
  readonly isRoom: boolean;
  /** Why nothing may be changed, as a sentence; null where it may. */
  readonly readOnly: string | null;
  /** Who has signed in from this browser. */
  readonly me: RoomMember | null;
}

export interface RoomMember {
  readonly name: string;
  /** Came by a link: looks, shoots, and says what it sees. */
  readonly isGuest: boolean;
}

/** A browser that has signed in, as the others see it. */
export interface RoomSessionView extends RoomMember {
  readonly id: string;
  /** ISO 8601 dates. */
  readonly createdAt: string;
  readonly seenAt: string;
  /** Is the one that asks. */
  readonly isMine: boolean;
}

/** A link by which devices come in to look and to shoot. */
export interface RoomLinkView {
  readonly id: string;
  readonly name: string;
  /** ISO 8601 date. */
  readonly createdAt: string;
}

/** Another window that has the same document open. */
export interface CompanyView {
  readonly id: string;
  /** Whose it is, where people sign in. */
  readonly name: string | null;
  /** Where its playhead is, in frames from the scene's first; null where it has none. */
  readonly frame: number | null;
}

/** A document that has changed, whoever changed it. */
export interface DocumentChange {
  readonly table: 'scenes' | 'charts';
  readonly id: string;
  /** That of the document now. */
  readonly revision: number;
}

/** What a window is told that has a document open: whatever of the two is new. A scene's window hears of every chart too. */
export interface CompanyNews {
  readonly changed?: DocumentChange;
  readonly others?: readonly CompanyView[];
}
