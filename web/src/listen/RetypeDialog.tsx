/** What a word is, and its sounds: as one writes them, in IPA, in ARPAbet. */
import { ipaOfSounds, maybeSounds, retypeWord, type StressedSymbol } from '@zest-jaw/core';
import { useState, type FormEvent, type ReactElement } from 'react';
import type { SheetWord } from '../barSheet/sheetData.js';
import { useSceneDocument } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/documentSession.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';

export function RetypeDialog({ word, onClose }: { word: SheetWord; onClose: () => void }): ReactElement {
  const phonemes = useSceneDocument((document) => document.phonemes);
  const changeAndKey = useChangeAndKey();
  const [text, setText] = useState(word.text);
  const before = ipaOfSounds(phonemes.filter((sound) => sound.word === word.id));
  const [said, setSaid] = useState(`/${before}/`);
  const [fault, setFault] = useState<string>();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const isSame = said.trim() === `/${before}/`;
    const sounds: readonly StressedSymbol[] | undefined = isSame ? [] : maybeSounds(said);
    if (!sounds) {
      setFault(
        'These are no sounds. Write IPA between slashes (/stæmp/), ARPAbet in capitals (S T AE M P), or as it is spelled (stamp, oh-DET).',
      );
      return;
    }
    if (changeAndKey((scene) => retypeWord(scene, { clip: word.clip, id: word.id, text, sounds }, newId))) onClose();
  };
  return (
    <Modal open title="What is said here" onClose={onClose}>
      <form className="mt-3 flex flex-col gap-3" onSubmit={submit}>
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
            }}
          />
        </label>
        {fault !== undefined && (
          <p role="alert" className="text-[14px] text-bad">
            {fault}
          </p>
        )}
        <p className="text-[14px] text-ink-soft">
          Other sounds share the time of the word evenly; drag their edges then. What is set here is ink.
        </p>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" weight="main">
            Set
          </Button>
        </div>
      </form>
    </Modal>
  );
}
