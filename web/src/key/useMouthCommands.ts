/** The commands of a hand on the mouths of the track at hand: those of the table, the whole lane, and copies. */
import {
  chartStretchAt,
  copyFrames,
  deleteChosen,
  exchangeDrawing,
  exposuresOfTrack,
  isRefusal,
  maybeExposureAt,
  maybeMouthSpan,
  overlaps,
  pasteFrames,
  reasonInWords,
  sceneSettings,
  slideFrames,
  spanInWords,
  type CopiedMouths,
  type Drawing,
  type Span,
} from '@zest-jaw/core';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import type { Command } from '../commands/command.js';
import { useOpenScene, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { useGrid } from './useGrid.js';
import { chooseNone, toggleChosen } from './chosen.js';
import { count } from '../ui/count.js';
import { LANE_EDITS, remove, type Hand, type LaneEdit } from './laneEdits.js';

interface Clipboard {
  readonly copied: CopiedMouths | undefined;
  /** Frames from the first of what was copied to the start of the first word in it; undefined without a word. */
  readonly lead: number | undefined;
}

/** What was copied last: kept from scene to scene, as long as the page is open. */
const clipboard = createStore<Clipboard>(() => ({ copied: undefined, lead: undefined }));

export function useMouthCommands(): readonly Command[] {
  const { session, playhead, chosen } = useOpenScene();
  const { track, chart, chartId, charts } = useSpeaker();
  const hasCopied = useStore(clipboard, ({ copied }) => copied !== undefined);
  const hasSelection = useStore(playhead.store, ({ selection }) => selection !== null);
  const { data } = useSheet();
  const grid = useGrid();
  const on = { chartId, chart };

  const handNow = (): Hand => {
    const { frame, selection } = playhead.store.getState();
    const scene = session.store.getState().document;
    const span = selection ?? maybeMouthSpan(scene, { track: track.id, frame }) ?? { from: frame, to: frame + 1 };
    return { scene, chart, track: track.id, frame, span, hasSelection: selection !== null, grid };
  };
  const apply = ({ make, moves = 0, grows = 0 }: Pick<LaneEdit, 'make' | 'moves' | 'grows'>): void => {
    playhead.stay();
    const hand = handNow();
    const patch = make(hand);
    if (!session.change(patch) || isRefusal(patch)) return;
    const { frame, span, scene } = hand;
    const by = moves * grid;
    if (grows === 'gone') {
      playhead.select(null);
      if (hand.hasSelection) playhead.moveTo(span.from);
    } else if (hand.hasSelection) playhead.select({ from: span.from + by, to: span.to + by + grows });
    if (by !== 0) playhead.scrubTo(frame + by);
    announce(`Done, ${spanInWords(scene, span)}: ${reasonInWords(patch.reason)}.`);
  };
  /** Deletes the mouths chosen one by one; answers whether there were any. */
  const removeChosen = (toRest: boolean): boolean => {
    const { ids } = chosen.getState();
    if (ids.size === 0) return false;
    if (session.change(deleteChosen(session.store.getState().document, { track: track.id, ids, toRest }, charts, newId))) {
      announce(`${count(ids.size, 'mouth is', 'mouths are')} deleted.`);
      chooseNone(chosen);
    }
    return true;
  };
  const chooseHere = (): void => {
    const { scene, frame } = handNow();
    const there = maybeExposureAt(exposuresOfTrack(scene, track.id), frame);
    if (!there) return;
    toggleChosen(chosen, there.id);
    announce(`${count(chosen.getState().ids.size, 'mouth', 'mouths')} chosen.`);
  };
  const chooseAlike = (): void => {
    const { scene, frame } = handNow();
    const own = exposuresOfTrack(scene, track.id);
    const there = maybeExposureAt(own, frame);
    if (!there) return;
    const { selection } = playhead.store.getState();
    const ids = own.filter((one) => one.drawing === there.drawing && (!selection || overlaps(one, selection))).map(({ id }) => id);
    chosen.setState({ ids: new Set(ids) });
    announce(`${count(ids.length, 'mouth', 'mouths')} chosen.`);
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
    const word = data.words.find(({ from, to }) => Math.round(from) >= span.from && to > span.from && from < span.to);
    clipboard.setState({ copied, lead: word && Math.round(word.from) - span.from });
    announce(`Copied ${copied.mouths.length === 1 ? 'a mouth' : `${copied.mouths.length} mouths`}.`);
    return true;
  };
  /** Where what was copied is laid for its first word to lie over the one at the playhead, or the next. */
  const linedUp = (): Span | undefined => {
    const { lead } = clipboard.getState();
    const { frame } = playhead.store.getState();
    const word = data.words.find(({ to }) => to > frame);
    const at = word && lead !== undefined ? Math.round(word.from) - lead : undefined;
    return at === undefined || at < 0 ? undefined : { from: at, to: at + 1 };
  };
  const pasteLinedUp = (): void => {
    const at = linedUp();
    if (!at) {
      toast.message('No word begins in what was copied, or there is none here to line it up with. Paste it where it should start.');
      return;
    }
    playhead.select(null);
    playhead.moveTo(at.from);
    paste(false)();
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
      run: () => {
        if ((rest.id === 'delete' || rest.id === 'delete-to-rest') && removeChosen(rest.id === 'delete-to-rest')) return;
        apply({ make, ...(moves !== undefined && { moves }), ...(grows !== undefined && { grows }) });
      },
    })),
    {
      id: 'choose-mouth',
      title: 'Choose the mouth at the playhead, beside others',
      group: 'Choose frames',
      keys: ['Shift+Enter'],
      also: 'multi select one by one',
      run: chooseHere,
    },
    {
      id: 'choose-alike',
      title: 'Choose every mouth like the one at the playhead',
      group: 'Choose frames',
      keys: ['Ctrl+Shift+KeyA'],
      also: 'multi select same drawing all',
      run: chooseAlike,
    },
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
      id: 'paste-lined-up',
      title: 'Paste, lined up by its first word with the word here',
      group: 'Change mouths',
      keys: ['Ctrl+Alt+KeyV'],
      also: 'align twin repetition phrase',
      ...needsCopy,
      run: pasteLinedUp,
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
