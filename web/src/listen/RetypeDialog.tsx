/** What a word is and how it is said: each way it may be laid on what is heard, the sounds typed among them. */
import {
  arpabetOf,
  insertWord,
  ipaOfSounds,
  maybeSounds,
  retypeWord,
  wordToLookUp,
  type Patch,
  type Pronunciation,
  type Refusal,
  type SceneDocument,
  type WaySource,
  type WordWay,
} from '@zest-jaw/core';
import { keepPreviousData, skipToken, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { clsx } from 'clsx';
import { useDeferredValue, useState, type FormEvent, type ReactElement } from 'react';
import { toast } from 'sonner';
import { api, sendJson, sentenceOf } from '../api/http.js';
import type { SheetWord } from '../barSheet/sheetData.js';
import { useOpenScene, useSceneDocument, useSheet } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { WayOnWave } from './WayOnWave.js';

/** A way as it is offered: as it is now, or one that the recogniser laid there. */
type ShownWay = Omit<WordWay, 'source' | 'fit'> & { readonly source: WaySource | 'now'; readonly fit?: number | null };

const FROM: Readonly<Record<WaySource | 'now', string>> = {
  now: 'as it is now',
  typed: 'as you wrote it',
  production: 'as this production says it',
  dictionary: 'from the dictionary',
  spelling: 'guessed from its spelling',
};

const NO_SOUNDS =
  'These are no sounds. Write IPA between slashes (/stæmp/), ARPAbet in capitals (S T AE M P), or as it is spelled (stamp, oh-DET).';

/** How well a way fits, as a share and a bar. */
function Fit({ fit }: Pick<ShownWay, 'fit'>): ReactElement | null {
  if (fit === undefined) return null;
  if (fit === null) return <span className="text-[13px] text-ink-soft">not heard here</span>;
  return (
    <span className="flex items-center gap-2 text-[13px] text-ink-soft">
      <span className="h-[5px] w-[52px] overflow-hidden rounded-full bg-rule-soft" aria-hidden>
        <span className="block h-full" style={{ width: `${Math.round(100 * fit)}%`, background: 'var(--voice)' }} />
      </span>
      {`fits ${Math.round(100 * fit)} %`}
    </span>
  );
}

/** Where a word is to be put in; samples of the recording. */
export interface NewWordAt {
  readonly clip: string;
  readonly fromSample: number;
  readonly toSample: number;
}

/** The ways a word may be said in its own span, asked of the recogniser. */
function useWays(record: NewWordAt | undefined, text: string, said: string | undefined) {
  const { sceneId } = useOpenScene();
  const asked =
    record && text.trim() !== ''
      ? { clipId: record.clip, fromSample: record.fromSample, toSample: record.toSample, text, ...(said === undefined ? {} : { said }) }
      : undefined;
  return useQuery({
    queryKey: ['ways', sceneId, asked],
    queryFn: asked ? ({ signal }) => sendJson<readonly WordWay[]>('POST', `/scenes/${sceneId}/words/ways`, asked, signal) : skipToken,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 0,
  });
}

/** Keeps how a word is said for the whole production. */
function useAlways() {
  const { productionId } = useOpenScene();
  const client = useQueryClient();
  const path = `/productions/${productionId}/pronunciations`;
  return useMutation({
    mutationFn: async (entry: Pronunciation) => {
      const entries = await api<Pronunciation[]>(path);
      return sendJson<Pronunciation[]>('PUT', path, { entries: [...entries.filter(({ word }) => word !== entry.word), entry] });
    },
    onSuccess: (entries, { word }) => {
      client.setQueryData(['pronunciations', productionId], entries);
      toast.success(`“${word}” is said so in this production from now on.`);
    },
    onError: (error) => toast.error(sentenceOf(error)),
  });
}

interface RetypeDialogProps {
  /** A word of the reading, or the place of one that is to be put in. */
  readonly word: SheetWord | NewWordAt;
  readonly onClose: () => void;
}

export function RetypeDialog({ word: opened, onClose }: RetypeDialogProps): ReactElement {
  const phonemes = useSceneDocument((document) => document.phonemes);
  const word = 'text' in opened ? opened : undefined;
  const record = useSceneDocument((document) => document.words.find(({ id }) => id === word?.id));
  const place = 'text' in opened ? record : opened;
  const clips = useSceneDocument((document) => document.clips);
  const { waves } = useSheet().data;
  const changeAndKey = useChangeAndKey();
  const always = useAlways();
  const [text, setText] = useState(word?.text ?? '');
  const before = ipaOfSounds(word ? phonemes.filter((sound) => sound.word === word.id) : []);
  const [said, setSaid] = useState(word ? `/${before}/` : '');
  const [isAlways, setAlways] = useState(false);
  const [chosen, choose] = useState<string>();
  const [fault, setFault] = useState<string>();
  const isTyped = said.trim() !== `/${before}/` && said.trim() !== '';
  const typed = isTyped ? maybeSounds(said) : undefined;
  const asked = useDeferredValue(typed ? said : undefined);
  const ways = useWays(place, useDeferredValue(text), asked);
  const keyOf = ({ source, sounds }: ShownWay): string => `${source === 'now' ? 'now ' : ''}${ipaOfSounds(sounds)}`;
  const isSame = text.trim() === word?.text && !isTyped;
  const own = word ? phonemes.filter((sound) => sound.word === word.id) : [];
  const list: readonly ShownWay[] = [...(isSame && own.length > 0 ? [{ source: 'now' as const, sounds: own }] : []), ...(ways.data ?? [])];
  // What was typed is meant; another word is said the way that fits best; the same one stays as it is until another way is chosen.
  const taken = list.find((way) => keyOf(way) === chosen) ?? list[0];
  const audio = clips.find(({ id }) => id === opened.clip)?.audio;
  const pyramid = waves.find((wave) => wave.audio === audio)?.pyramid;
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (isTyped && !typed) {
      setFault(NO_SOUNDS);
      return;
    }
    const sounds = taken?.source === 'now' ? [] : (taken?.sounds ?? typed ?? []);
    const make = (scene: SceneDocument): Patch | Refusal =>
      word
        ? retypeWord(scene, { clip: word.clip, id: word.id, text, sounds }, newId)
        : insertWord(scene, { ...(opened as NewWordAt), text, sounds }, newId);
    if (!changeAndKey(make)) return;
    const kept = sounds.length > 0 ? sounds : own;
    if (isAlways && wordToLookUp(text) !== '') always.mutate({ word: wordToLookUp(text), said: arpabetOf(kept) });
    onClose();
  };
  return (
    <Modal open title={word ? 'What is said here' : 'A word put in'} onClose={onClose}>
      <form className="mt-3 flex flex-col gap-3" onSubmit={submit}>
        <div className="grid grid-cols-2 gap-4">
          <label className="flex flex-col gap-1 font-semibold">
            Word
            <input className="field font-normal" value={text} maxLength={200} autoFocus onChange={(event) => setText(event.target.value)} />
          </label>
          <label className="flex flex-col gap-1 font-semibold">
            Its sounds
            <input
              className="field font-normal"
              value={said}
              aria-invalid={fault !== undefined}
              onChange={(event) => {
                setSaid(event.target.value);
                setFault(undefined);
                choose(undefined);
              }}
            />
          </label>
        </div>
        {fault !== undefined && (
          <p role="alert" className="text-[14px] text-bad">
            {fault}
          </p>
        )}
        <fieldset className="flex min-h-[124px] flex-col gap-2" aria-busy={ways.isFetching}>
          <legend className="mb-1 font-semibold">How it is said</legend>
          {text.trim() !== '' && ways.isPending && <p className="text-[14px] text-ink-soft">Listening to it…</p>}
          {ways.isError && <p className="text-[14px] text-bad">{sentenceOf(ways.error)}</p>}
          <div className="flex max-h-[40vh] flex-col gap-2 overflow-y-auto p-[3px]">
            {list.map((way) => (
              <label
                key={keyOf(way)}
                className={clsx(
                  'block cursor-pointer rounded-xl border px-3 py-1.5 has-[:focus-visible]:outline-2',
                  way === taken ? 'border-ink bg-lift' : 'border-rule-soft hover:border-graphite',
                )}
              >
                <span className="flex items-center gap-3">
                  <input type="radio" name="way" checked={way === taken} onChange={() => choose(keyOf(way))} />
                  <span className="text-[17px]">{`/${ipaOfSounds(way.sounds)}/`}</span>
                  <span className="flex-1 text-[13px] text-ink-soft">{FROM[way.source]}</span>
                  <Fit fit={way.fit} />
                </span>
                <WayOnWave way={way} pyramid={pyramid} />
              </label>
            ))}
          </div>
        </fieldset>
        <label className="flex items-center gap-2 text-[15px]">
          <input type="checkbox" checked={isAlways} onChange={({ target }) => setAlways(target.checked)} />
          Always in this production
        </label>
        <div className="flex items-center justify-end gap-3">
          <p className="flex-1 text-[14px] text-ink-soft">The words beside it stay. What is set here is ink.</p>
          <Button onClick={onClose}>Not now</Button>
          <Button weight="main" type="submit">
            Set
          </Button>
        </div>
      </form>
    </Modal>
  );
}
