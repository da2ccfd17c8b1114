/** Which sound it is: found by its letters, its word, IPA or ARPAbet, and taken with one press. */
import { maybeHeardSounds, PHONEMES, retypeSound, type Phoneme } from '@zest-jaw/core';
import { Command as List } from 'cmdk';
import { useMemo, type ReactElement } from 'react';
import type { SheetSound } from '../barSheet/sheetData.js';
import { useSceneDocument } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/documentSession.js';
import { announce } from '../ui/Announced.js';
import { Modal } from '../ui/Modal.js';

/** A word with the letters of a sound set off. */
function Example({ example }: { example: string }): ReactElement {
  const [before, letters, after] = example.split('*');
  return (
    <span>
      as in {before}
      <b className="font-bold underline decoration-2 underline-offset-2">{letters}</b>
      {after}
    </span>
  );
}

/** Higher fits better: written as it is heard, by its name or its IPA; else a word it is in. */
function fits(value: string, looked: string): number {
  const sound = PHONEMES.find(({ symbol }) => symbol === value);
  const wanted = looked.trim();
  if (!sound) return 0;
  if (wanted === '') return 1;
  if (sound.ipa === wanted || sound.symbol === wanted) return 1;
  const heard = maybeHeardSounds(wanted);
  if (heard?.length === 1 && heard[0]!.symbol === sound.symbol) return 0.9;
  if (sound.symbol.startsWith(wanted.toUpperCase())) return 0.6;
  return sound.example.replaceAll('*', '').startsWith(wanted.toLowerCase()) ? 0.5 : 0;
}

export function SoundDialog({ sound, onClose }: { sound: SheetSound; onClose: () => void }): ReactElement {
  const phonemes = useSceneDocument((document) => document.phonemes);
  const changeAndKey = useChangeAndKey();
  const record = useMemo(() => phonemes.find(({ id }) => id === sound.id), [phonemes, sound.id]);
  const take = ({ symbol, ipa }: Phoneme): void => {
    if (!record) return;
    if (symbol === record.symbol || changeAndKey((scene) => retypeSound(scene, { clip: record.clip, id: record.id, symbol }, newId))) {
      announce(`The sound is ${ipa}.`);
      onClose();
    }
  };
  return (
    <Modal open title={`Which sound is it? It is read as ${sound.ipa}`} onClose={onClose}>
      <List label="Sounds" filter={fits} loop className="mt-3 flex flex-col gap-2" defaultValue={sound.symbol}>
        <List.Input autoFocus placeholder="ee, sh, /æ/, AE, tide …" className="field" />
        <List.List className="max-h-[48vh] overflow-y-auto">
          <List.Empty className="px-2 py-3 text-ink-soft">No sound is written so. Try its letters, or a word it is in.</List.Empty>
          {PHONEMES.map((phoneme) => (
            <List.Item
              key={phoneme.symbol}
              value={phoneme.symbol}
              onSelect={() => take(phoneme)}
              className="flex cursor-default items-baseline gap-3 rounded-[9px] px-2 py-1 data-[selected=true]:bg-word"
            >
              <span className="w-[42px] text-[17px]">{phoneme.ipa}</span>
              <span className="flex-1">
                <Example example={phoneme.example} />
              </span>
              <span className="text-[13px] text-ink-soft">{phoneme.kind}</span>
            </List.Item>
          ))}
        </List.List>
      </List>
    </Modal>
  );
}
