/**
 * Words and sounds under the pointer: an edge is dragged and keeps to where the sound changes, with
 * Ctrl it is free; what touches it gives way, with Alt a gap opens; with Alt a word is slid by its middle. What lies at the edge is heard meanwhile,
 * and the pencil follows in the same step.
 */
import { framesPerSecond, moveSoundEdge, moveWordEdge, sceneSettings, slideWord, type EdgeMove, type Span } from '@zest-jaw/core';
import { useMemo } from 'react';
import type { Hit } from '../barSheet/plan.js';
import type { SheetSound, SheetWord } from '../barSheet/sheetData.js';
import type { Hold, Holds, Press } from '../barSheet/useSheetPointer.js';
import { dragFrom } from '../scene/dragFrom.js';
import { openEdgeChanges } from './edgeChanges.js';
import { useHearing, useOpenScene, useSceneDocument, useSheet } from '../scene/sceneContext.js';
import { useKeyAfter } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';
import type { OpensReading } from './useReadingCommands.js';

/** A press this near to an edge takes hold of it, in pixels. */
const NEAR = 5;

const TABLES = ['words', 'phonemes', 'exposures'] as const;

/** A press that opens something holds nothing. */
const NOTHING_HELD: Hold = { move: () => undefined, end: () => undefined, cancel: () => undefined };

interface EdgeAt {
  readonly row: 'words' | 'sounds';
  readonly item: SheetWord | SheetSound;
  readonly edge: 'from' | 'to';
}

/** Pressed twice a word or a sound is opened. */
export function useReadingHolds({ onWord, onSound, onMap }: Pick<OpensReading, 'onWord' | 'onSound' | 'onMap'>): Holds {
  const { session, playhead } = useOpenScene();
  const { words, sounds } = useSheet().data;
  const { frameRate } = useSceneDocument(sceneSettings);
  const { samplesOf } = useHearing();
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
    const draggingEdge = ({ row, item, edge }: EdgeAt, pressed: Hit, { alt: opensGap, ctrl: isFree }: Press): Hold | undefined => {
      const clip = clipOf(item.id, row);
      if (clip === undefined) return undefined;
      const { words: all, phonemes } = session.store.getState().document;
      const record = (row === 'words' ? all : phonemes).find(({ id }) => id === item.id)!;
      const began = edge === 'from' ? record.fromSample : record.toSample;
      const document = session.store.getState().document;
      const changes = openEdgeChanges(
        document,
        document.clips.find(({ id }) => id === clip)!,
        samplesOf,
      );
      const samplesPerPixel = 48_000 / framesPerSecond(frameRate) / pressed.perFrame;
      const toSample = (hit: Hit): number => {
        const wanted = Math.round(began + samplesBetween(pressed, hit));
        const near = changes.near(wanted, samplesPerPixel);
        return isFree ? wanted : near;
      };
      const move = (hit: Hit): EdgeMove => ({ clip, id: item.id, edge, toSample: toSample(hit), opensGap });
      return dragFrom(session, {
        tables: TABLES,
        make: (base, hit) => (row === 'words' ? moveWordEdge : moveSoundEdge)(base, move(hit), newId),
        onMade: heard,
        onEnd: (isMoved) => {
          changes.end();
          onEnd(isMoved);
        },
        onCancel: changes.end,
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
      takeHold: (hit, press) => {
        const edge = edgeAt(hit);
        if (edge) return draggingEdge(edge, hit, press);
        const isHere = ({ from, to }: Span): boolean => hit.position >= from && hit.position < to;
        const sound = press.ctrl && hit.row === 'sounds' ? sounds.find(isHere) : undefined;
        if (sound) {
          onMap(sound.symbol);
          return NOTHING_HELD;
        }
        const word = press.alt && hit.row === 'words' ? words.find(isHere) : undefined;
        return word && sliding(word, hit);
      },
    };
  }, [words, sounds, frameRate, session, playhead, samplesOf, keyAfter, onWord, onSound, onMap]);
}
