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
  type SceneDocument,
  type Span,
} from '@zest-jaw/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import { phraseAt } from '../barSheet/phraseAt.js';
import { sheetExposures, type SheetData } from '../barSheet/sheetData.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { keyer } from '../workers/keyer.js';
import { useChartChanges } from './useChartChanges.js';

/** What rules are tried on: the whole track, or the selected frames, else the phrase at the playhead. */
export type Reach = 'track' | 'phrase';

interface Wanted {
  /** Whose mouth it is tried on; another speaker's has nothing to do with it. */
  readonly track: string;
  /** Null for a phrase to go by its track again. */
  readonly rules: KeyingRules | null;
  /** The frames of the phrase; undefined for the track. */
  readonly span?: Span | undefined;
}

interface Planned {
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
  const { document, track, heardOf } = useOpenScene();
  const { clips, settings } = document;
  // Mouths change nothing about what is heard.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => heardOf(document, track.characterId), [clips, settings, track.characterId, heardOf]);
}

/** The selected frames, else the phrase at the playhead; undefined when it is not asked for. */
function usePhraseAtHand(isWanted: boolean): Span | undefined {
  const { document, data, playhead } = useOpenScene();
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
  const { track } = useOpenScene();
  const { changed, settle } = useChartChanges();
  const { propose, take, leave } = proposal;
  const begun = useRef(false);
  const tell = useRef(onChange);
  useEffect(() => {
    tell.current = onChange;
  });
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
    if (differs && !told.current) tell.current?.();
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
  const { session, document, track, charts, data } = useOpenScene();
  const [asked, setWanted] = useState<Wanted>();
  const wanted = asked?.track === track.id ? asked : undefined;
  const [reach, reachFor] = useState<Reach>('track');
  const live = usePhraseAtHand(reach === 'phrase');
  const [planned, setPlanned] = useState<Planned>();
  const latest = useRef(0);

  useEffect(() => {
    const ask = ++latest.current;
    if (!wanted) return;
    const { rules, span } = wanted;
    keyer
      .tryRules({ scene: document, trackId: track.id, charts, heard }, rules, span)
      .then((patch) => {
        // A later wish has gone out meanwhile: this answer is stale.
        if (ask !== latest.current || patch === undefined) return;
        if (!isRefusal(patch)) {
          setPlanned({ track: track.id, before: document, after: applyPatch(SCENE_KIND, document, patch), patch });
          return;
        }
        toast.message(patch.refusal);
        // Nothing is tried that cannot be.
        setWanted((now) => (now === wanted ? undefined : now));
      })
      .catch((error: unknown) => toast.error(sentenceOf(error)));
  }, [wanted, document, track.id, charts, heard]);

  const leave = useCallback(() => {
    setWanted(undefined);
    setPlanned(undefined);
  }, []);
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
  const propose = useCallback((rules: KeyingRules) => setWanted({ track: track.id, rules, span }), [track.id, span]);
  const proposeTrack = useCallback(() => setWanted({ track: track.id, rules: null, span }), [track.id, span]);
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
    data: shown,
    changes: exposures.filter((exposure) => exposure.isProposed).length,
    propose,
    proposeTrack,
    take,
    leave,
  };
}
