/** What is in a file of labels, and what each of its tiers is taken for, before anything is kept. */
import {
  guessedTiers,
  isLabelFault,
  LABEL_KINDS,
  maybeLabelKind,
  ALL_SOUNDS,
  readingOfLabels,
  readLabels,
  scriptOfLines,
  setScript,
  takeReading,
  textOfLabels,
  timedLines,
  type Clip,
  type LabelFault,
  type LabelTier,
} from '@zest-jaw/core';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Modal } from '../ui/Modal.js';
import { Pills } from '../ui/Pills.js';
import { keepTable, labelTables, type LabelTable } from './labelTables.js';

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
  const { session, readAgain } = useOpenScene();
  const changeAndKey = useChangeAndKey();
  const lines = tiers.findIndex(({ name }) => name === 'lines');
  // Captions that say nothing of their words hold the recogniser to their times.
  const [asLines, setAsLines] = useState(lines >= 0 && tiers.length === 1);
  const [guess] = useState(() => guessedTiers(tiers));
  const [words, setWords] = useState(guess.words ?? NONE);
  const [sounds, setSounds] = useState(guess.sounds ?? NONE);
  const { tables } = useStore(labelTables);
  const [table, setTable] = useState('');
  const [own, setOwn] = useState<ReadonlyMap<string, string>>(new Map());
  const taken = new Map([...Object.entries(tables[table] ?? {}), ...own]);
  const setTaken = (next: ReadonlyMap<string, string>): void => {
    setTable('');
    setOwn(next);
  };
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
  const takeLines = (): void => {
    const timed = timedLines(tiers[lines]!, clip.lengthSamples);
    if (!session.change(setScript(session.store.getState().document, clip.id, scriptOfLines(timed), newId))) return;
    onClose();
    readAgain(clip.id, undefined, { lines: timed }).catch((error: unknown) => toast.error(sentenceOf(error)));
  };
  const take = (): void => {
    if (!changeAndKey((scene) => takeReading(scene, clip.id, reading, newId))) return;
    announce(
      `${count(reading.words.length, 'word', 'words')} and ${count(reading.phonemes.length, 'sound', 'sounds')} taken from the labels.`,
    );
    onClose();
  };
  return (
    <div className="mt-3 flex flex-col gap-3">
      {lines >= 0 && (
        <Pills
          label="What is taken of it"
          options={[
            ['lines', 'Lines: the recording is read by their times'],
            ['words', 'Words, as they stand'],
          ]}
          value={asLines ? 'lines' : 'words'}
          onChange={(value) => setAsLines(value === 'lines')}
        />
      )}
      {asLines ? (
        <Lines tier={tiers[lines]!} onTake={takeLines} onClose={onClose} />
      ) : (
        <>
          <div className="flex gap-3">
            {select('Words are in', words, setWords)}
            {select('Sounds are in', sounds, setSounds)}
          </div>
          {unknown.length > 0 && (
            <div>
              <div className="flex items-center gap-3">
                <p className="flex-1 text-ink-soft">These are no sounds that are known. Say what each is taken for, or it is left out.</p>
                {Object.keys(tables).length > 0 && (
                  <select
                    aria-label="A table that was kept"
                    className="field w-[180px]! py-[3px]! text-[14px]"
                    value={table}
                    onChange={({ target }) => setTable(target.value)}
                  >
                    <option value="">no table</option>
                    {Object.keys(tables).map((name) => (
                      <option key={name}>{name}</option>
                    ))}
                  </select>
                )}
              </div>
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
                      {ALL_SOUNDS.map(({ symbol, ipa, example }) => (
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
          {own.size > 0 && <KeepTable table={Object.fromEntries(taken)} onKept={setTable} />}
          <p role="status">
            {`${count(reading.words.length, 'word', 'words')} and ${count(reading.phonemes.length, 'sound', 'sounds')} become the reading of this recording. What your hand has set stays.`}
          </p>
          <div className="flex justify-end gap-2">
            <Button onClick={onClose}>Cancel</Button>
            <Button weight="main" disabled={reading.words.length + reading.phonemes.length === 0} onClick={take}>
              Take them
            </Button>
          </div>
        </>
      )}
    </div>
  );
}

/** The first lines of captions, and what comes of them. */
function Lines({ tier, onTake, onClose }: { tier: LabelTier; onTake: () => void; onClose: () => void }): ReactElement {
  const clock = (seconds: number): string => `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, '0')}`;
  return (
    <>
      <ol className="max-h-[38vh] overflow-y-auto rounded-[10px] border border-rule bg-lift px-3 py-1 text-[15px]">
        {tier.labels.slice(0, 200).map(({ from, to, text }) => (
          <li key={from} className="flex gap-3 border-b border-rule-soft py-1 last:border-0">
            <span className="w-[108px] shrink-0 text-[14px] text-ink-soft">{`${clock(from)} – ${clock(to)}`}</span>
            <span>{text}</span>
          </li>
        ))}
      </ol>
      <p role="status">
        {`${count(tier.labels.length, 'line becomes', 'lines become')} the script, and each is looked for around its own time, give or take a second. What your hand has set stays.`}
      </p>
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button weight="main" onClick={onTake}>
          Read by them
        </Button>
      </div>
    </>
  );
}

/** Keeps what symbols are taken for under a name, for the next file of the same kind. */
function KeepTable({ table, onKept }: { table: LabelTable; onKept: (name: string) => void }): ReactElement {
  const [name, setName] = useState('');
  return (
    <div className="flex items-center gap-2 text-[14px]">
      <label className="flex items-center gap-2">
        Keep this table as
        <input className="field w-[180px]! py-[3px]!" value={name} maxLength={60} onChange={({ target }) => setName(target.value)} />
      </label>
      <Button
        className="px-3! py-[3px]! text-[14px]!"
        disabled={name.trim() === ''}
        onClick={() => {
          keepTable(name.trim(), table);
          onKept(name.trim());
          announce(`Kept as ${name.trim()}.`);
        }}
      >
        Keep
      </Button>
    </div>
  );
}
