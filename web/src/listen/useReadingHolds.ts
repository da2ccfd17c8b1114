/**
 * Words and sounds under the pointer: an edge is dragged, and what touches it gives way, with Alt
 * a gap opens; with Alt a word is slid by its middle. What lies at the edge is heard meanwhile,
 * and the pencil follows in the same step.
 */
import { framesPerSecond, moveSoundEdge, moveWordEdge, sceneSettings, slideWord, type EdgeMove, type Span } from '@zest-jaw/core';
import { useMemo } from 'react';
import type { Hit } from '../barSheet/plan.js';
import type { SheetSound, SheetWord } from '../barSheet/sheetData.js';
import type { Hold, Holds } from '../barSheet/useSheetPointer.js';
import { dragFrom } from '../scene/dragFrom.js';
import { useOpenScene, useSceneDocument, useSheet } from '../scene/sceneContext.js';
import { useKeyAfter } from '../scene/useChangeAndKey.js';
import { newId } from '../session/documentSession.js';

/** A press this near to an edge takes hold of it, in pixels. */
const NEAR = 5;

const TABLES = ['words', 'phonemes', 'exposures'] as const;

interface EdgeAt {
  readonly row: 'words' | 'sounds';
  readonly item: SheetWord | SheetSound;
  readonly edge: 'from' | 'to';
}

interface Opened {
  readonly onWord: (word: SheetWord) => void;
  readonly onSound: (sound: SheetSound) => void;
}

/** Pressed twice a word or a sound is opened. */
export function useReadingHolds({ onWord, onSound }: Opened): Holds {
  const { session, playhead } = useOpenScene();
  const { words, sounds } = useSheet().data;
  const { frameRate } = useSceneDocument(sceneSettings);
  const keyAfter = useKeyAfter();
  return useMemo(() => {
    const edgeAt = ({ row, position, perFrame }: Hit): EdgeAt | undefined => {
      if (row !== 'words' && row !== 'sounds') return undefined;
      const items: readonly (SheetWord | SheetSound)[] = row === 'words' ? words : sounds;
      const near = (at: number): boolean => Math.abs(position - at) * perFrame <= NEAR;
      // Between two that touch, it is the start of the later one.
      const starts = items.find(({ from }) => near(from));
      if (starts) return { row, item: starts, edge: 'from' };
      const ends = items.find(({ to }) => near(to));
      return ends && { row, item: ends, edge: 'to' };
    };
    const clipOf = (id: string, row: EdgeAt['row']): string | undefined => {
      const { words: all, phonemes } = session.store.getState().document;
      return (row === 'words' ? all : phonemes).find((one) => one.id === id)?.clip;
    };
    /** How many samples a press lies from where it was begun: the grid of the frames is not that of the sound. */
    const samplesBetween = (pressed: Hit, hit: Hit): number => ((hit.position - pressed.position) * 48_000) / framesPerSecond(frameRate);
    const heard = ({ frame }: Hit): void => {
      if (frame !== playhead.store.getState().frame) playhead.scrubTo(frame);
    };
    const onEnd = (isMoved: boolean): void => {
      if (isMoved) keyAfter();
    };
    const draggingEdge = ({ row, item, edge }: EdgeAt, pressed: Hit, opensGap: boolean): Hold | undefined => {
      const clip = clipOf(item.id, row);
      if (clip === undefined) return undefined;
      const { words: all, phonemes } = session.store.getState().document;
      const record = (row === 'words' ? all : phonemes).find(({ id }) => id === item.id)!;
      const began = edge === 'from' ? record.fromSample : record.toSample;
      const move = (hit: Hit): EdgeMove => ({
        clip,
        id: item.id,
        edge,
        toSample: Math.round(began + samplesBetween(pressed, hit)),
        opensGap,
      });
      return dragFrom(session, {
        tables: TABLES,
        make: (base, hit) => (row === 'words' ? moveWordEdge : moveSoundEdge)(base, move(hit), newId),
        onMade: heard,
        onEnd,
      });
    };
    const sliding = (word: SheetWord, pressed: Hit): Hold =>
      dragFrom(session, {
        tables: TABLES,
        make: (base, hit) => slideWord(base, { clip: word.clip, id: word.id, by: Math.round(samplesBetween(pressed, hit)) }, newId),
        onMade: heard,
        onEnd,
      });
    return {
      cursor: (hit) => (edgeAt(hit) ? 'ew-resize' : undefined),
      open: ({ row, position }) => {
        const isHere = ({ from, to }: Span): boolean => position >= from && position < to;
        const word = row === 'words' ? words.find(isHere) : undefined;
        const sound = row === 'sounds' ? sounds.find(isHere) : undefined;
        if (word) onWord(word);
        if (sound) onSound(sound);
        return word !== undefined || sound !== undefined;
      },
      takeHold: (hit, { alt }) => {
        const edge = edgeAt(hit);
        if (edge) return draggingEdge(edge, hit, alt);
        const word = alt && hit.row === 'words' ? words.find(({ from, to }) => hit.position >= from && hit.position < to) : undefined;
        return word && sliding(word, hit);
      },
    };
  }, [words, sounds, frameRate, session, playhead, keyAfter, onWord, onSound]);
}
