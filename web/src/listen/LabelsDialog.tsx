/** What is in a file of labels, and what each of its tiers is taken for, before anything is kept. */
import {
  guessedTiers,
  isLabelFault,
  LABEL_KINDS,
  maybeLabelKind,
  PHONEMES,
  readingOfLabels,
  readLabels,
  takeReading,
  textOfLabels,
  type Clip,
  type LabelFault,
  type LabelTier,
} from '@zest-jaw/core';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactElement } from 'react';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/documentSession.js';
import { announce } from '../ui/Announced.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Modal } from '../ui/Modal.js';

interface LabelsDialogProps {
  readonly clip: Clip;
  readonly file: File;
  readonly onClose: () => void;
}

async function tiersOf(file: File): Promise<readonly LabelTier[] | LabelFault> {
  const kind = maybeLabelKind(file.name);
  if (!kind)
    return { line: 1, sentence: `“${file.name}” is no file of labels by its name. It may end in ${LABEL_KINDS.join(', ')}, lab or txt.` };
  return readLabels(kind, textOfLabels(new Uint8Array(await file.arrayBuffer())));
}

export function LabelsDialog({ clip, file, onClose }: LabelsDialogProps): ReactElement {
  const read = useQuery({
    queryKey: ['labels', file.name, file.size, file.lastModified],
    queryFn: () => tiersOf(file),
    gcTime: 0,
    staleTime: Infinity,
  });
  return (
    <Modal open wide title={`Labels in ${file.name}`} onClose={onClose}>
      {read.data === undefined ? (
        <p className="mt-3 text-ink-soft">Reading the file…</p>
      ) : isLabelFault(read.data) ? (
        <>
          <p role="alert" className="mt-3 text-bad">
            {`Line ${read.data.line}: ${read.data.sentence}`}
          </p>
          <div className="mt-4 flex justify-end">
            <Button onClick={onClose}>Close</Button>
          </div>
        </>
      ) : (
        <Preview clip={clip} tiers={read.data} onClose={onClose} />
      )}
    </Modal>
  );
}

const NONE = -1;

function Preview({ clip, tiers, onClose }: { clip: Clip; tiers: readonly LabelTier[]; onClose: () => void }): ReactElement {
  const changeAndKey = useChangeAndKey();
  const [guess] = useState(() => guessedTiers(tiers));
  const [words, setWords] = useState(guess.words ?? NONE);
  const [sounds, setSounds] = useState(guess.sounds ?? NONE);
  const [taken, setTaken] = useState<ReadonlyMap<string, string>>(new Map());
  const made = { words: tiers[words]?.labels ?? [], sounds: tiers[sounds]?.labels ?? [] };
  const { reading } = readingOfLabels(made, clip.lengthSamples, taken);
  // Those that are taken for something are listed on, to be taken for something else.
  const { unknown } = readingOfLabels(made, clip.lengthSamples);
  const select = (label: string, value: number, onChange: (tier: number) => void): ReactElement => (
    <label className="flex flex-1 flex-col gap-1 font-semibold">
      {label}
      <select className="field font-normal" value={value} onChange={(event) => onChange(Number(event.target.value))}>
        <option value={NONE}>none of them</option>
        {tiers.map(({ name, labels }, index) => (
          <option key={`${name} ${index}`} value={index}>
            {`${name}: ${count(labels.length, 'label', 'labels')}, “${labels[0]?.text.slice(0, 24) ?? ''}” …`}
          </option>
        ))}
      </select>
    </label>
  );
  const take = (): void => {
    if (!changeAndKey((scene) => takeReading(scene, clip.id, reading, newId))) return;
    announce(
      `${count(reading.words.length, 'word', 'words')} and ${count(reading.phonemes.length, 'sound', 'sounds')} taken from the labels.`,
    );
    onClose();
  };
  return (
    <div className="mt-3 flex flex-col gap-3">
      <div className="flex gap-3">
        {select('Words are in', words, setWords)}
        {select('Sounds are in', sounds, setSounds)}
      </div>
      {unknown.length > 0 && (
        <div>
          <p className="text-ink-soft">These are no sounds that are known. Say what each is taken for, or it is left out.</p>
          <ul className="mt-2 flex max-h-[34vh] flex-wrap gap-2 overflow-y-auto p-0.5">
            {unknown.map(([text, times]) => (
              <li key={text} className="flex items-center gap-2 rounded-[10px] border border-rule bg-lift px-2 py-1">
                <b>{text}</b>
                <span className="text-[14px] text-ink-soft">{times} ×</span>
                <select
                  aria-label={`What ${text} is taken for`}
                  className="field w-[150px]! py-[3px]! text-[14px]"
                  value={taken.get(text) ?? ''}
                  onChange={(event) => {
                    const next = new Map(taken);
                    if (event.target.value === '') next.delete(text);
                    else next.set(text, event.target.value);
                    setTaken(next);
                  }}
                >
                  <option value="">left out</option>
                  {PHONEMES.map(({ symbol, ipa, example }) => (
                    <option key={symbol} value={symbol}>
                      {`${ipa} as in ${example.replaceAll('*', '')}`}
                    </option>
                  ))}
                </select>
              </li>
            ))}
          </ul>
        </div>
      )}
      <p role="status">
        {`${count(reading.words.length, 'word', 'words')} and ${count(reading.phonemes.length, 'sound', 'sounds')} become the reading of this recording. What your hand has set stays.`}
      </p>
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button weight="main" disabled={reading.words.length + reading.phonemes.length === 0} onClick={take}>
          Take them
        </Button>
      </div>
    </div>
  );
}
