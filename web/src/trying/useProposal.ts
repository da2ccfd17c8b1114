/** Other rules tried on a track: its pencil planned with them in a worker, shown before it is taken. */
import {
  applyPatch,
  isRefusal,
  SCENE_KIND,
  framesPerSecond,
  maybePhraseRules,
  sceneSettings,
  type HeardFrames,
  type KeyingRules,
  type Patch,
  type Refusal,
  type SceneDocument,
  type Span,
} from '@zest-jaw/core';
import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { phraseAt } from '../barSheet/phraseAt.js';
import { sheetExposures, type SheetData } from '../barSheet/sheetData.js';
import { useHearing, useOpenScene, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { keyer } from '../workers/keyer.js';
import { useAnswer } from '../workers/useAnswer.js';
import { useChartChanges } from './useChartChanges.js';

/** What rules are tried on: the whole track, or the selected frames, else the phrase at the playhead. */
export type Reach = 'track' | 'phrase';

interface Wanted {
  /** The same from the first wish until it is taken or left. */
  readonly trial: object;
  /** Whose mouth it is tried on; another speaker's has nothing to do with it. */
  readonly track: string;
  /** Null for a phrase to go by its track again. */
  readonly rules: KeyingRules | null;
  /** The frames of the phrase; undefined for the track. */
  readonly span?: Span | undefined;
}

interface Refused extends Refusal {
  readonly trial: object;
}

interface Planned {
  readonly trial: object;
  readonly track: string;
  /** The scene it was planned for, and the one it would become. */
  readonly before: SceneDocument;
  readonly after: SceneDocument;
  readonly patch: Patch;
}

export interface Proposal {
  /** The rules at hand: those tried, else those that hold. */
  readonly rules: KeyingRules;
  readonly reach: Reach;
  readonly setReach: (reach: Reach) => void;
  /** The frames of the phrase the rules are for; undefined when they are the track's. */
  readonly span: Span | undefined;
  /** The phrase has rules of its own. */
  readonly hasOwn: boolean;
  readonly isTrying: boolean;
  /** What is tried has been worked out, for the scene as it is: it can be taken. */
  readonly isPlanned: boolean;
  /** The sheet as it would be; as it is when nothing is tried. */
  readonly data: SheetData;
  /** Mouths that would change. */
  readonly changes: number;
  readonly propose: (rules: KeyingRules) => void;
  /** Tries the phrase by the rules of its track. */
  readonly proposeTrack: () => void;
  /** Answers whether it was taken. */
  readonly take: () => boolean;
  readonly leave: () => void;
}

/** What is heard of the speaker of the track. */
export function useHeard(): HeardFrames | undefined {
  const clips = useSceneDocument((document) => document.clips);
  const settings = useSceneDocument((document) => document.settings);
  const { track } = useSpeaker();
  const { heardOf } = useHearing();
  return useMemo(() => heardOf({ clips, settings }, track.characterId), [clips, settings, track.characterId, heardOf]);
}

/** The selected frames, else the phrase at the playhead; undefined when it is not asked for. */
function usePhraseAtHand(isWanted: boolean): Span | undefined {
  const { playhead } = useOpenScene();
  const document = useSceneDocument();
  const { data } = useSheet();
  const { frameRate, lengthFrames } = sceneSettings(document);
  const key = useStore(playhead.store, ({ frame, selection }) => {
    if (!isWanted) return '';
    const { from, to } = selection ?? phraseAt(data.words, frame, framesPerSecond(frameRate), lengthFrames);
    return `${from} ${to}`;
  });
  return useMemo(() => {
    if (key === '') return undefined;
    const [from, to] = key.split(' ').map(Number) as [number, number];
    return { from, to };
  }, [key]);
}

/** The rules as they are, tried on charts that play other sounds than before, until that is decided on. */
export function useChartProposal(proposal: Proposal, onChange?: () => void): Proposal {
  const { track } = useSpeaker();
  const { changed, settle } = useChartChanges();
  const { propose, take, leave } = proposal;
  const begun = useRef(false);
  const tell = useEffectEvent(() => onChange?.());
  useEffect(() => {
    if (changed === begun.current) return;
    begun.current = changed;
    if (changed) propose(track.rules);
    else leave();
  }, [changed, propose, leave, track.rules]);
  // A chart that changes no mouth is not told of; one that does once, however often it is planned anew.
  const differs = changed && proposal.changes > 0;
  const told = useRef(false);
  useEffect(() => {
    if (differs && !told.current) tell();
    told.current = changed && (told.current || differs);
  }, [differs, changed]);
  return {
    ...proposal,
    take: () => {
      const taken = take();
      if (taken) settle();
      return taken;
    },
    leave: () => {
      leave();
      settle();
    },
  };
}

export function useProposal(heard: HeardFrames | undefined): Proposal {
  const { session } = useOpenScene();
  const document = useSceneDocument();
  const { track, charts } = useSpeaker();
  const { data } = useSheet();
  const [asked, setWanted] = useState<Wanted>();
  const ours = asked?.track === track.id ? asked : undefined;
  const [reach, reachFor] = useState<Reach>('track');
  const live = usePhraseAtHand(reach === 'phrase');
  const ask = async ({ trial, rules, span }: Wanted): Promise<Planned | Refused | undefined> => {
    const patch = await keyer.tryRules({ scene: document, trackId: track.id, charts, heard }, rules, span);
    if (!patch) return undefined;
    if (isRefusal(patch)) return { trial, ...patch };
    return { trial, track: track.id, before: document, after: applyPatch(SCENE_KIND, document, patch), patch };
  };
  const answer = useAnswer('try', [ours, document, track.id, charts, heard], ours && (() => ask(ours)));
  const answered = answer?.trial === ours?.trial ? answer : undefined;
  const planned = answered && !isRefusal(answered) ? answered : undefined;
  const refused = answered && isRefusal(answered) ? answered : undefined;
  useEffect(() => {
    if (refused) toast.message(refused.refusal);
  }, [refused]);
  // Nothing is tried that cannot be.
  const wanted = refused ? undefined : ours;

  const isTried = wanted !== undefined;
  const leave = useCallback(() => setWanted(undefined), []);
  const setReach = useCallback(
    (next: Reach) => {
      leave();
      reachFor(next);
    },
    [leave],
  );
  // What is tried is tried where it was begun, wherever the playhead goes.
  const span = wanted ? wanted.span : live;
  const own = useMemo(
    () => (span ? maybePhraseRules(document, track, Math.floor((span.from + span.to) / 2)) : undefined),
    [span, document, track],
  );
  const wish = useCallback(
    (rules: KeyingRules | null) => setWanted((now) => ({ trial: (isTried ? now?.trial : undefined) ?? {}, track: track.id, rules, span })),
    [track.id, span, isTried],
  );
  const propose = useCallback((rules: KeyingRules) => wish(rules), [wish]);
  const proposeTrack = useCallback(() => wish(null), [wish]);
  const isCurrent = planned?.track === track.id && wanted !== undefined && planned.before === document;
  const exposures = useMemo(() => {
    if (!planned || !isCurrent) return data.exposures;
    const now = new Set(data.exposures.map(({ from, to, drawing }) => `${from} ${to} ${drawing}`));
    return sheetExposures(planned.after, track.id, charts).map((exposure) =>
      now.has(`${exposure.from} ${exposure.to} ${exposure.drawing}`) ? exposure : { ...exposure, isProposed: true },
    );
  }, [planned, isCurrent, data.exposures, track.id, charts]);
  const shown = useMemo(() => (exposures === data.exposures ? data : { ...data, exposures }), [data, exposures]);
  const take = useCallback(() => {
    if (planned?.track !== track.id || planned.before !== session.store.getState().document || !session.change(planned.patch)) return false;
    toast.success('Taken. The ink stayed.');
    leave();
    return true;
  }, [planned, track.id, session, leave]);
  return {
    rules: wanted ? (wanted.rules ?? track.rules) : (own ?? track.rules),
    reach,
    setReach,
    span,
    hasOwn: own !== undefined,
    isTrying: wanted !== undefined,
    isPlanned: isCurrent,
    data: shown,
    changes: exposures === data.exposures ? 0 : exposures.filter((exposure) => exposure.isProposed).length,
    propose,
    proposeTrack,
    take,
    leave,
  };
}
