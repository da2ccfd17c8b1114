/** The commands of a hand on the mouths of the track at hand: those of the table, the whole lane, and copies. */
import {
  chartStretchAt,
  copyFrames,
  exchangeDrawing,
  exposuresOfTrack,
  isRefusal,
  maybeExposureAt,
  maybeMouthSpan,
  pasteFrames,
  reasonInWords,
  sceneSettings,
  slideFrames,
  spanInWords,
  type CopiedMouths,
  type Drawing,
} from '@zest-jaw/core';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import type { Command } from '../commands/command.js';
import { useOpenScene, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/documentSession.js';
import { announce } from '../ui/Announced.js';
import { LANE_EDITS, remove, type Hand, type LaneEdit } from './laneEdits.js';

/** What was copied last: kept from scene to scene, as long as the page is open. */
const clipboard = createStore<{ readonly copied: CopiedMouths | undefined }>(() => ({ copied: undefined }));

export function useMouthCommands(): readonly Command[] {
  const { session, playhead } = useOpenScene();
  const { track, chart, chartId } = useSpeaker();
  const hasCopied = useStore(clipboard, ({ copied }) => copied !== undefined);
  const hasSelection = useStore(playhead.store, ({ selection }) => selection !== null);
  const on = { chartId, chart };

  const handNow = (): Hand => {
    const { frame, selection } = playhead.store.getState();
    const scene = session.store.getState().document;
    const span = selection ?? maybeMouthSpan(scene, { track: track.id, frame }) ?? { from: frame, to: frame + 1 };
    return { scene, chart, track: track.id, frame, span, hasSelection: selection !== null };
  };
  const apply = ({ make, moves = 0, grows = 0 }: Pick<LaneEdit, 'make' | 'moves' | 'grows'>): void => {
    playhead.stay();
    const hand = handNow();
    const patch = make(hand);
    if (!session.change(patch) || isRefusal(patch)) return;
    const { frame, span, scene } = hand;
    if (grows === 'gone') {
      playhead.select(null);
      if (hand.hasSelection) playhead.moveTo(span.from);
    } else if (hand.hasSelection) playhead.select({ from: span.from + moves, to: span.to + moves + grows });
    if (moves !== 0) playhead.scrubTo(frame + moves);
    announce(`Done, ${spanInWords(scene, span)}: ${reasonInWords(patch.reason)}.`);
  };
  const slideLane = (by: number) => (): void => {
    playhead.stay();
    const { scene, frame } = handNow();
    const { from, to } = chartStretchAt(scene, track.id, frame) ?? { from: 0, to: sceneSettings(scene).lengthFrames };
    if (session.change(slideFrames(scene, { track: track.id, from, to, by }, newId)))
      announce(`The whole lane is a frame ${by > 0 ? 'later' : 'earlier'}.`);
  };
  const copy = (): boolean => {
    const { scene, span } = handNow();
    const copied = copyFrames(scene, { track: track.id, ...span }, on);
    if (isRefusal(copied)) {
      toast.message(copied.refusal);
      return false;
    }
    clipboard.setState({ copied });
    announce(`Copied ${copied.mouths.length === 1 ? 'a mouth' : `${copied.mouths.length} mouths`}.`);
    return true;
  };
  const paste = (pushing: boolean) => (): void => {
    const { copied } = clipboard.getState();
    if (!copied) return;
    playhead.stay();
    const { scene, frame } = handNow();
    const { from, to } = playhead.store.getState().selection ?? { from: frame, to: undefined };
    const { patch, missing } = pasteFrames(scene, { track: track.id, from, to, pushing }, copied, on, newId);
    if (missing.length > 0)
      toast.message(
        `This chart has no mouth that plays what ${missing.join(', ')} ${missing.length === 1 ? 'plays' : 'play'}: what was there stays.`,
      );
    if (session.change(patch)) announce(`Pasted at ${spanInWords(scene, { from, to: from + 1 })}.`);
  };
  /** Another takes the place of the one at the playhead, all through the selection, or as far as the chart is in force. */
  const exchange =
    ({ id: by, label }: Drawing) =>
    (): void => {
      playhead.stay();
      const { scene, frame } = handNow();
      const there = maybeExposureAt(exposuresOfTrack(scene, track.id), frame);
      const { selection } = playhead.store.getState();
      const { from, to } = selection ?? chartStretchAt(scene, track.id, frame) ?? { from: frame, to: frame + 1 };
      const patch = there
        ? exchangeDrawing(scene, { track: track.id, from, to, drawing: there.drawing, by }, chart, newId)
        : { refusal: 'There is no mouth at the playhead whose place another could take.' };
      if (session.change(patch)) announce(`${label} has taken its place, ${spanInWords(scene, { from, to })}.`);
    };
  const needsCopy = { closed: hasCopied ? undefined : 'copy some first' };
  return [
    ...chart.drawings.map((drawing): Command => ({
      id: `exchange:${drawing.id}`,
      title: `${drawing.label} in the place of the mouth at the playhead, everywhere`,
      group: 'Put mouths',
      keys: drawing.keycap ? [`Shift+Key${drawing.keycap}`] : [],
      also: `replace swap all ${drawing.tags.join(' ')}`,
      run: exchange(drawing),
    })),
    ...LANE_EDITS.map(({ needsSelection, make, moves, grows, ...rest }): Command => ({
      ...rest,
      closed: needsSelection && !hasSelection ? 'select frames first' : undefined,
      run: () => apply({ make, ...(moves !== undefined && { moves }), ...(grows !== undefined && { grows }) }),
    })),
    { id: 'copy', title: 'Copy the mouths', group: 'Change mouths', keys: ['Ctrl+KeyC'], run: () => void copy() },
    {
      id: 'cut',
      title: 'Cut the mouths out to rest',
      group: 'Change mouths',
      keys: ['Ctrl+KeyX'],
      run: () => copy() && apply({ make: remove(true) }),
    },
    {
      id: 'paste',
      title: 'Paste over what is there; over a selection, repeated',
      group: 'Change mouths',
      keys: ['Ctrl+KeyV'],
      also: 'repeat fill',
      ...needsCopy,
      run: paste(false),
    },
    {
      id: 'paste-pushing',
      title: 'Paste, pushing what is there along',
      group: 'Change mouths',
      keys: ['Ctrl+Shift+KeyV'],
      also: 'ripple',
      ...needsCopy,
      run: paste(true),
    },
    {
      id: 'lane-earlier',
      title: 'The whole lane a frame earlier',
      group: 'Time',
      keys: ['Shift+Comma'],
      also: 'late early sync',
      run: slideLane(-1),
    },
    {
      id: 'lane-later',
      title: 'The whole lane a frame later',
      group: 'Time',
      keys: ['Shift+Period'],
      also: 'late early sync',
      run: slideLane(1),
    },
  ];
}
