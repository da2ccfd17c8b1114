/** Which sound it is: found by its letters, its word, IPA or ARPAbet, and taken with one press. */
import { maybeHeardSounds, ALL_SOUNDS, retypeSound, splitSound, type Phoneme } from '@zest-jaw/core';
import { Command as List } from 'cmdk';
import { useMemo, type ReactElement } from 'react';
import type { SheetSound } from '../barSheet/sheetData.js';
import { useSceneDocument } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { Example } from '../ui/Example.js';
import { Modal } from '../ui/Modal.js';

/** Higher fits better: written as it is heard, by its name or its IPA; else a word it is in. */
function fits(value: string, looked: string): number {
  const sound = ALL_SOUNDS.find(({ symbol }) => symbol === value);
  const wanted = looked.trim();
  if (!sound) return 0;
  if (wanted === '') return 1;
  if (sound.ipa === wanted || sound.symbol === wanted) return 1;
  const heard = maybeHeardSounds(wanted);
  if (heard?.length === 1 && heard[0]!.symbol === sound.symbol) return 0.9;
  if (sound.symbol.startsWith(wanted.toUpperCase())) return 0.6;
  return sound.example.replaceAll('*', '').startsWith(wanted.toLowerCase()) ? 0.5 : 0;
}

interface SoundDialogProps {
  readonly sound: SheetSound;
  /** The chosen one is put in after it, from here on; samples of the recording. */
  readonly atSample?: number | undefined;
  readonly onClose: () => void;
}

export function SoundDialog({ sound, atSample, onClose }: SoundDialogProps): ReactElement {
  const phonemes = useSceneDocument((document) => document.phonemes);
  const changeAndKey = useChangeAndKey();
  const record = useMemo(() => phonemes.find(({ id }) => id === sound.id), [phonemes, sound.id]);
  const take = ({ symbol, ipa }: Phoneme): void => {
    if (!record) return;
    const of = { clip: record.clip, id: record.id, symbol };
    const isMade =
      atSample === undefined
        ? symbol === record.symbol || changeAndKey((scene) => retypeSound(scene, of, newId))
        : changeAndKey((scene) => splitSound(scene, { ...of, atSample }, newId));
    if (isMade) {
      announce(`The sound is ${ipa}.`);
      onClose();
    }
  };
  return (
    <Modal
      open
      title={atSample === undefined ? `Which sound is it? It is read as ${sound.ipa}` : `Which sound follows ${sound.ipa} here?`}
      onClose={onClose}
    >
      <List label="Sounds" filter={fits} loop className="mt-3 flex flex-col gap-2" defaultValue={sound.symbol}>
        <List.Input autoFocus placeholder="ee, sh, /æ/, AE, tide …" className="field" />
        <List.List className="max-h-[48vh] overflow-y-auto">
          <List.Empty className="px-2 py-3 text-ink-soft">No sound is written so. Try its letters, or a word it is in.</List.Empty>
          {ALL_SOUNDS.map((phoneme) => (
            <List.Item
              key={phoneme.symbol}
              value={phoneme.symbol}
              onSelect={() => take(phoneme)}
              className="flex cursor-default items-baseline gap-3 rounded-[9px] px-2 py-1 data-[selected=true]:bg-word"
            >
              <span className="w-[42px] text-[17px]">{phoneme.ipa}</span>
              <span className="flex-1">
                as in <Example example={phoneme.example} />
              </span>
              <span className="text-[13px] text-ink-soft">{phoneme.kind}</span>
            </List.Item>
          ))}
        </List.List>
      </List>
    </Modal>
  );
}
