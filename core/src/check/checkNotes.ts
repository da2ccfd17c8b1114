/** The checker: every kind of note, over every lane of a scene. */
import { heldIn, type CheckedLane } from './checkedLane.js';
import { checkedScene, type CheckedScene, type CheckJob, type SceneKind } from './checkedScene.js';
import type { Kind } from './kind.js';
import { alike } from './kinds/alike.js';
import { closureMissing } from './kinds/closureMissing.js';
import { closureOff } from './kinds/closureOff.js';
import { drawingGone } from './kinds/drawingGone.js';
import { drawingOnce, drawingUnused } from './kinds/drawingUse.js';
import { flapping } from './kinds/flapping.js';
import { groupEmpty, groupsAlike } from './kinds/groups.js';
import { inkAdrift } from './kinds/inkAdrift.js';
import { laneOff } from './kinds/laneOff.js';
import { longHold } from './kinds/longHold.js';
import { mouthOff } from './kinds/mouthOff.js';
import { oneFrame } from './kinds/oneFrame.js';
import { openInPause } from './kinds/openInPause.js';
import { doubtfulWord, wordSilent } from './kinds/reading.js';
import { restShort } from './kinds/restShort.js';
import { sameTurn } from './kinds/sameTurn.js';
import { chartMissing, clipping, longTail, pastEnd, tooQuiet, twoSpeak, underVoice } from './kinds/scene.js';
import { settleMissing } from './kinds/settleMissing.js';
import { unlike } from './kinds/unlike.js';
import { vowelShut } from './kinds/vowelShut.js';
import { vowelSmall } from './kinds/vowelSmall.js';
import { NOTE_KINDS, type Found, type Note, type NoteKindId } from './note.js';

export const LANE_KINDS: readonly Kind[] = [
  closureMissing,
  closureOff,
  laneOff,
  mouthOff,
  vowelShut,
  openInPause,
  restShort,
  settleMissing,
  vowelSmall,
  flapping,
  oneFrame,
  longHold,
  alike,
  unlike,
  sameTurn,
  inkAdrift,
  drawingGone,
  drawingUnused,
  drawingOnce,
  groupEmpty,
  groupsAlike,
  doubtfulWord,
  wordSilent,
];
export const SCENE_KINDS: readonly SceneKind[] = [pastEnd, longTail, clipping, tooQuiet, underVoice, twoSpeak, chartMissing];

const WORDS = new Map([...LANE_KINDS, ...SCENE_KINDS].map(({ id, name, about }) => [id, { name, about }]));

/** A kind as a heading, and what it is. */
export const kindInWords = (id: NoteKindId): { readonly name: string; readonly about: string } => WORDS.get(id)!;

/** FNV-1a, 32 bits (G. Fowler, L. Noll, K.-P. Vo): a short name for what is there. */
function shortNameOf(text: string): string {
  let hash = 0x811c9dc5;
  for (let index = 0; index < text.length; index++) hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193);
  return (hash >>> 0).toString(36);
}

/** What is held and said about some frames of a lane: while it stays, what was set aside stays so. */
function lookOf(lane: CheckedLane | undefined, { from, to, why }: Found): string {
  if (!lane) return shortNameOf(why);
  const isAll = to - from >= lane.lengthFrames;
  if (isAll) return shortNameOf(why);
  const held = heldIn(lane, from - 1, to + 1).map((one) => `${one.from} ${one.to} ${one.drawing}`);
  return shortNameOf(`${held.join(',')}|${why}`);
}

/** Frames about a place that tell it from another, however the frames before it have moved: the sound, or the frame. */
const placeOf = ({ from, of }: Found): string => of ?? String(from);

function notesOf(kind: NoteKindId, lane: CheckedLane | undefined, found: readonly Found[]): Note[] {
  const track = lane?.track.id ?? null;
  return found.map((one) => ({
    ...one,
    id: `${kind} ${track ?? ''} ${one.from} ${placeOf(one)}`,
    kind,
    track,
    look: lookOf(lane, one),
    isInk: lane !== undefined && one.to - one.from < lane.lengthFrames && heldIn(lane, one.from, one.to).some(({ inked }) => inked),
  }));
}

export const laneNotes = (lane: CheckedLane): Note[] => LANE_KINDS.flatMap((kind) => notesOf(kind.id, lane, kind.find(lane)));

export function notesOfChecked(checked: CheckedScene): Note[] {
  const ofScene = SCENE_KINDS.flatMap((kind) => notesOf(kind.id, undefined, kind.find(checked)));
  return [...checked.lanes.flatMap(laneNotes), ...ofScene].sort(
    (a, b) => a.from - b.from || NOTE_KINDS.indexOf(a.kind) - NOTE_KINDS.indexOf(b.kind),
  );
}

/** Every note on a scene, in order of their frames. Pure: the same scene has the same notes. */
export const checkNotes = (job: CheckJob): Note[] => notesOfChecked(checkedScene(job));
