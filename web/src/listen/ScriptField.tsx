/** The script as it is written: the word that plays is lit, a word pressed goes there, and one that is changed is read anew where it is. */
import {
  applyPatch,
  isRefusal,
  patchBetween,
  retypeWord,
  rewrittenWords,
  SCENE_KIND,
  setScript,
  writtenWords,
  type Clip,
  type SceneDocument,
  type WordWay,
} from '@zest-jaw/core';
import { useMemo, useRef, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sendJson, sentenceOf } from '../api/http.js';
import { mostHeard } from '../scene/Readout.js';
import { useOpenScene, useSceneDocument, useSheet } from '../scene/sceneContext.js';
import { useKeyAfter } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';

/** More words than this rewritten at once are another script: that is read again, not word by word. */
const MOST_REWRITTEN = 12;

/** Keeps the script, then says the words it writes otherwise in the place of the old ones: both are one step. */
export function useSaveScript(clip: Clip): (script: string) => void {
  const { session, sceneId } = useOpenScene();
  const keyAfter = useKeyAfter();
  const say = async (words: ReturnType<typeof rewrittenWords>, ids: readonly string[]): Promise<void> => {
    const step = session.lastStep();
    const before = session.store.getState().document;
    const asked = words.flatMap(({ index, text }) => {
      const word = before.words.find(({ id }) => id === ids[index]);
      return word ? [{ word, text }] : [];
    });
    const ways = await Promise.all(
      asked.map(({ word, text }) =>
        // A word that cannot be said keeps its sounds.
        sendJson<readonly WordWay[]>('POST', `/scenes/${sceneId}/words/ways`, {
          clipId: clip.id,
          fromSample: word.fromSample,
          toSample: word.toSample,
          text,
        }).catch(() => []),
      ),
    );
    const now = session.store.getState().document;
    const after = asked.reduce<SceneDocument>((scene, { word, text }, index) => {
      const patch = retypeWord(scene, { clip: clip.id, id: word.id, text, sounds: ways[index]?.[0]?.sounds ?? [] }, newId);
      return isRefusal(patch) ? scene : applyPatch(SCENE_KIND, scene, patch);
    }, now);
    session.follow(step, patchBetween(SCENE_KIND, now, after, { id: newId(), reason: 'reading.word' }));
    keyAfter();
  };
  return (script) => {
    const { document } = session.store.getState();
    const own = document.words.filter((word) => word.clip === clip.id);
    const words = rewrittenWords(
      clip,
      { script, language: clip.language },
      own.map(({ text }) => text),
    );
    if (!session.change(setScript(document, clip.id, script, newId))) return;
    if (words.length === 0 || words.length > MOST_REWRITTEN) return;
    const ids = own.map(({ id }) => id);
    session.expect(say(words, ids).catch((error: unknown) => void toast.error(sentenceOf(error))));
  };
}

interface ScriptFieldProps {
  readonly clip: Clip;
  readonly script: string;
  readonly onType: (script: string) => void;
  readonly onLeave: () => void;
}

export function ScriptField({ clip, script, onType, onLeave }: ScriptFieldProps): ReactElement {
  const { playhead } = useOpenScene();
  const { data } = useSheet();
  const words = useSceneDocument((document) => document.words);
  const own = useMemo(() => words.filter((word) => word.clip === clip.id), [words, clip.id]);
  const places = useMemo(
    () =>
      writtenWords(
        { script, language: clip.language },
        own.map(({ text }) => text),
      ),
    [script, clip.language, own],
  );
  const here = useStore(playhead.store, ({ frame }) => mostHeard(data.words, frame)?.id);
  const lit = places[own.findIndex(({ id }) => id === here)];
  const behind = useRef<HTMLDivElement>(null);
  const goTo = (letter: number): void => {
    const index = places.findIndex((place) => place !== undefined && letter >= place.from && letter <= place.to);
    const word = data.words.find(({ id }) => id === own[index]?.id);
    if (word) playhead.moveTo(Math.round(word.from));
  };
  return (
    <div className="relative">
      <div
        ref={behind}
        aria-hidden
        className="field pointer-events-none absolute inset-0 overflow-hidden border-transparent! leading-relaxed break-words whitespace-pre-wrap text-transparent!"
      >
        {lit && (
          <>
            {script.slice(0, lit.from)}
            <mark data-testid="lit" className="rounded-sm bg-zest/45 text-transparent">
              {script.slice(lit.from, lit.to)}
            </mark>
            {script.slice(lit.to)}
          </>
        )}
      </div>
      <textarea
        id="script"
        value={script}
        rows={4}
        onChange={(event) => onType(event.target.value.normalize('NFC'))}
        onBlur={onLeave}
        onClick={({ currentTarget }) => {
          if (currentTarget.selectionStart === currentTarget.selectionEnd) goTo(currentTarget.selectionStart);
        }}
        onScroll={({ currentTarget }) => behind.current?.scrollTo({ top: currentTarget.scrollTop })}
        className="field relative w-full block resize-y bg-transparent! leading-relaxed"
      />
    </div>
  );
}
