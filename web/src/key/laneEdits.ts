/** What a hand does to the mouths of a lane, as a table: each a step of undo, with its words and its keys. */
import {
  accentMouths,
  deleteMouths,
  holdMouth,
  insertFrames,
  joinMouth,
  removeFrames,
  retimeFrames,
  reverseFrames,
  setHolds,
  slideFrames,
  slideMouth,
  splitMouth,
  stepDrawing,
  type ChartDocument,
  type Patch,
  type Refusal,
  type SceneDocument,
  type Span,
} from '@zest-jaw/core';
import type { Command } from '../commands/command.js';
import { newId } from '../session/newId.js';

/** Where the hand is. */
export interface Hand {
  readonly scene: SceneDocument;
  readonly chart: ChartDocument;
  readonly track: string;
  /** Of the playhead. */
  readonly frame: number;
  /** The selected frames, else those of the mouth at the playhead. */
  readonly span: Span;
  readonly hasSelection: boolean;
  /** Frames of a step: those of a hold where mouths snap to its grid, else one. */
  readonly grid: number;
}

export interface LaneEdit extends Omit<Command, 'run' | 'closed'> {
  readonly needsSelection?: true;
  readonly make: (hand: Hand) => Patch | Refusal;
  /** The frames by which what is held moves, and the selection and the playhead with it. */
  readonly moves?: number;
  /** The frames by which the selection becomes longer; all of them when it goes. */
  readonly grows?: number | 'gone';
}

const over = ({ track, span }: Hand): Span & { readonly track: string } => ({ track, ...span });
const at = ({ track, frame }: Hand): { readonly track: string; readonly frame: number } => ({ track, frame });

const step = (by: number) => (hand: Hand) => stepDrawing(hand.scene, { ...over(hand), by }, hand.chart, newId);
const accent = (by: 1 | -1) => (hand: Hand) => accentMouths(hand.scene, { ...over(hand), by }, hand.chart, newId);
const hold = (by: number, pushing: boolean) => (hand: Hand) => holdMouth(hand.scene, { ...at(hand), by: by * hand.grid, pushing }, newId);
const slide = (by: number) => (hand: Hand) =>
  hand.hasSelection
    ? slideFrames(hand.scene, { ...over(hand), by: by * hand.grid }, newId)
    : slideMouth(hand.scene, { ...at(hand), by: by * hand.grid }, newId);
const join = (side: 'before' | 'after') => (hand: Hand) => joinMouth(hand.scene, { ...at(hand), side }, newId);
export const remove = (toRest: boolean) => (hand: Hand) => deleteMouths(hand.scene, { ...over(hand), toRest }, hand.chart, newId);
const onHold = (frames: number) => (hand: Hand) => setHolds(hand.scene, { ...over(hand), hold: frames }, hand.chart, newId);
const retime = (by: number) => (hand: Hand) =>
  retimeFrames(hand.scene, { ...over(hand), frames: hand.span.to - hand.span.from + by }, hand.chart, newId);
/** One frame where nothing is selected. */
const chosen = ({ hasSelection, span, frame }: Hand): Span => (hasSelection ? span : { from: frame, to: frame + 1 });

export const LANE_EDITS: readonly LaneEdit[] = [
  { id: 'tray-before', title: 'The drawing before in the tray', group: 'Put mouths', keys: ['Comma'], make: step(-1) },
  { id: 'tray-after', title: 'The next drawing in the tray', group: 'Put mouths', keys: ['Period'], make: step(1) },
  {
    id: 'accent-larger',
    title: 'A larger mouth of the same sounds',
    group: 'Put mouths',
    keys: ['Shift+ArrowUp'],
    also: 'accent louder bigger wider',
    make: accent(1),
  },
  {
    id: 'accent-smaller',
    title: 'A smaller mouth of the same sounds',
    group: 'Put mouths',
    keys: ['Shift+ArrowDown'],
    also: 'accent softer',
    make: accent(-1),
  },
  {
    id: 'hold-longer',
    title: 'Hold a frame longer, the next gives way',
    group: 'Change mouths',
    keys: ['Equal'],
    also: 'extend',
    make: hold(1, false),
  },
  {
    id: 'hold-shorter',
    title: 'Hold a frame shorter, the next starts earlier',
    group: 'Change mouths',
    keys: ['Minus'],
    also: 'trim',
    make: hold(-1, false),
  },
  {
    id: 'hold-longer-pushing',
    title: 'Hold a frame longer, pushing the rest along',
    group: 'Change mouths',
    keys: ['Shift+Equal'],
    also: 'ripple push',
    make: hold(1, true),
  },
  {
    id: 'hold-shorter-pushing',
    title: 'Hold a frame shorter, pulling the rest up',
    group: 'Change mouths',
    keys: ['Shift+Minus'],
    also: 'ripple pull',
    make: hold(-1, true),
  },
  {
    id: 'slide-earlier',
    title: 'Slide the mouth, or the selection, a frame earlier',
    group: 'Change mouths',
    keys: ['Alt+ArrowLeft'],
    also: 'move',
    make: slide(-1),
    moves: -1,
  },
  {
    id: 'slide-later',
    title: 'Slide the mouth, or the selection, a frame later',
    group: 'Change mouths',
    keys: ['Alt+ArrowRight'],
    also: 'move',
    make: slide(1),
    moves: 1,
  },
  {
    id: 'split',
    title: 'Split the mouth at the playhead',
    group: 'Change mouths',
    keys: ['Slash'],
    also: 'cut two',
    make: (hand) => splitMouth(hand.scene, at(hand), newId),
  },
  { id: 'join-before', title: 'Join with the mouth before', group: 'Change mouths', keys: ['Backslash'], make: join('before') },
  { id: 'join-after', title: 'Join with the mouth after', group: 'Change mouths', keys: ['Shift+Backslash'], make: join('after') },
  {
    id: 'delete',
    title: 'Delete, the mouth before holds on',
    group: 'Change mouths',
    keys: ['Backspace', 'Delete'],
    also: 'remove clear',
    make: remove(false),
  },
  {
    id: 'delete-to-rest',
    title: 'Delete to rest',
    group: 'Change mouths',
    keys: ['Shift+Backspace', 'Shift+Delete'],
    also: 'remove close',
    make: remove(true),
  },
  {
    id: 'reverse',
    title: 'Reverse the selected mouths',
    group: 'Change mouths',
    keys: ['Ctrl+KeyB'],
    also: 'backwards',
    needsSelection: true,
    make: (hand) => reverseFrames(hand.scene, over(hand), newId),
  },
  ...['ones', 'twos', 'threes', 'fours'].map((name, index): LaneEdit => ({
    id: `on-${name}`,
    title: `Set the selection on ${name}`,
    group: 'Time',
    keys: [`Alt+Digit${index + 1}`],
    also: 'hold exposure grid',
    make: onHold(index + 1),
  })),
  {
    id: 'insert-frames',
    title: 'Insert a frame, or as many as are selected',
    group: 'Time',
    keys: ['Ctrl+Enter', 'Insert'],
    also: 'add pause',
    make: (hand) => {
      const { from, to } = chosen(hand);
      return insertFrames(hand.scene, { track: hand.track, frame: from, count: to - from }, newId);
    },
  },
  {
    id: 'remove-frames',
    title: 'Remove the selected frames, the rest moves up',
    group: 'Time',
    keys: ['Ctrl+Backspace', 'Ctrl+Delete'],
    also: 'delete ripple',
    make: (hand) => removeFrames(hand.scene, { track: hand.track, ...chosen(hand) }, newId),
    grows: 'gone',
  },
  {
    id: 'retime-longer',
    title: 'Retime the selection a frame longer',
    group: 'Time',
    keys: ['Alt+Equal'],
    also: 'stretch slower',
    needsSelection: true,
    make: retime(1),
    grows: 1,
  },
  {
    id: 'retime-shorter',
    title: 'Retime the selection a frame shorter',
    group: 'Time',
    keys: ['Alt+Minus'],
    also: 'squeeze faster',
    needsSelection: true,
    make: retime(-1),
    grows: -1,
  },
];
