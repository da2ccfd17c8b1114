/** How a production says its own words: searched, added, changed, removed, brought in and taken out as text. */
import {
  ipaOfSounds,
  maybePronunciationFault,
  maybeSounds,
  readPronunciations,
  wordToLookUp,
  writePronunciations,
  type Pronunciation,
} from '@zest-jaw/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Download, Plus, Search, Trash2, Upload } from 'lucide-react';
import { useRef, useState, type FormEvent, type ReactElement } from 'react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { useProductions } from '../api/queries.js';
import { AlonePage } from '../ui/AlonePage.js';
import { saveText } from '../ui/saveText.js';
import { Button } from '../ui/Button.js';
import { TopBar } from '../ui/Frame.js';
import { Round } from '../ui/Round.js';

/** How it will be said, in IPA; a dash for what cannot be read. */
const ipaOf = (said: string): string => {
  const sounds = maybeSounds(said);
  return sounds ? `/${ipaOfSounds(sounds)}/` : '–';
};

interface RowProps {
  readonly entry: Pronunciation;
  readonly onChange: (said: string) => void;
  readonly onRemove: () => void;
}

function Row({ entry, onChange, onRemove }: RowProps): ReactElement {
  const [draft, setDraft] = useState<string>();
  const said = draft ?? entry.said;
  const fault = maybePronunciationFault({ word: entry.word, said });
  const keep = (): void => {
    if (draft !== undefined && draft.trim() !== entry.said && !fault) onChange(draft.trim());
    setDraft(undefined);
  };
  return (
    <li className="grid grid-cols-[1fr_1.4fr_1.2fr_44px] items-center gap-4 border-b border-rule-soft py-1.5">
      <span className="truncate font-semibold">{entry.word}</span>
      <input
        className="field py-1!"
        aria-label={`How ${entry.word} is said`}
        aria-invalid={fault !== undefined}
        value={said}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      <span className={fault ? 'text-[14px] leading-tight text-bad' : 'text-ink-soft'}>{fault ?? ipaOf(said)}</span>
      <Round label={`Remove ${entry.word}`} onClick={onRemove}>
        <Trash2 size={16} />
      </Round>
    </li>
  );
}

export function PronunciationsPage(): ReactElement {
  const { productionId = '' } = useParams();
  const client = useQueryClient();
  const key = ['pronunciations', productionId];
  const path = `/productions/${productionId}/pronunciations`;
  const list = useQuery({ queryKey: key, queryFn: () => api<Pronunciation[]>(path) });
  const productions = useProductions();
  const keep = useMutation({
    mutationFn: (entries: readonly Pronunciation[]) =>
      api<Pronunciation[]>(path, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ entries }),
      }),
    onSuccess: (entries) => client.setQueryData(key, entries),
    onError: (error) => toast.error(sentenceOf(error)),
  });
  const [word, setWord] = useState('');
  const [said, setSaid] = useState('');
  const [sought, setSought] = useState('');
  const input = useRef<HTMLInputElement>(null);
  if (list.error) return <AlonePage title="These pronunciations cannot be shown" text={sentenceOf(list.error)} />;
  if (!list.data) return <AlonePage busy title="Opening the pronunciations…" />;
  const entries = list.data;
  const name = productions.data?.find((production) => production.id === productionId)?.name ?? '';
  const fault = word !== '' && said !== '' ? maybePronunciationFault({ word, said }) : undefined;
  const shown = entries.filter((entry) => entry.word.includes(wordToLookUp(sought)));

  const add = (event: FormEvent): void => {
    event.preventDefault();
    if (word.trim() === '' || said.trim() === '' || fault) return;
    keep.mutate([...entries, { word: wordToLookUp(word), said: said.trim() }]);
    setWord('');
    setSaid('');
  };
  const bringIn = async (file: File): Promise<void> => {
    const read = readPronunciations(await file.text());
    if ('fault' in read) {
      toast.error(`${file.name}: ${read.fault}`);
      return;
    }
    // A word that comes in takes the place of the one that is there.
    const words = new Set(read.map((entry) => entry.word));
    keep.mutate([...entries.filter((entry) => !words.has(entry.word)), ...read]);
    toast.success(`${read.length} ${read.length === 1 ? 'word' : 'words'} brought in from ${file.name}.`);
  };
  const takeOut = (): void => saveText('pronunciations.txt', writePronunciations(entries));
  return (
    <div className="flex h-full min-h-0 flex-col">
      <TopBar>
        <h1 className="min-w-0 truncate text-ink-soft">
          <Link to="/" className="hover:text-ink">
            {name}
          </Link>{' '}
          <span aria-hidden>/</span> <b className="font-semibold text-ink">Pronunciations</b>
        </h1>
        <span className="flex-1" />
      </TopBar>
      <main className="mx-auto flex min-h-0 w-full max-w-[980px] flex-1 flex-col gap-4 p-8">
        <div>
          <h2 className="name text-[28px]">How words are said</h2>
          <p className="text-ink-soft">
            Names and made-up words, before the dictionary. In IPA (/ˈbræmbəl/), in ARPAbet (B R AE1 M B AH0 L) or as you would spell it,
            the stressed syllable in capitals (BRAM-bul).
          </p>
        </div>
        <form className="grid grid-cols-[1fr_1.4fr_1.2fr_auto] items-end gap-4" onSubmit={add}>
          <label className="flex flex-col gap-1 font-semibold">
            Word
            <input className="field font-normal" value={word} maxLength={60} onChange={(event) => setWord(event.target.value)} />
          </label>
          <label className="flex flex-col gap-1 font-semibold">
            Said
            <input className="field font-normal" value={said} maxLength={200} onChange={(event) => setSaid(event.target.value)} />
          </label>
          <p className={`pb-2 text-[14px] leading-tight ${fault ? 'text-bad' : 'text-ink-soft'}`} role="status">
            {fault ?? (said === '' ? '' : ipaOf(said))}
          </p>
          <Button type="submit" weight="main" disabled={word.trim() === '' || said.trim() === '' || fault !== undefined}>
            <Plus size={16} aria-hidden /> Add
          </Button>
        </form>
        <div className="flex items-center gap-3">
          <label className="flex flex-1 items-center gap-2 rounded-full border border-rule bg-lift px-3 py-1">
            <Search size={15} aria-hidden className="text-ink-soft" />
            <input
              className="flex-1 bg-transparent outline-none"
              aria-label="Search the words"
              placeholder={`Search ${entries.length} ${entries.length === 1 ? 'word' : 'words'}`}
              value={sought}
              onChange={(event) => setSought(event.target.value)}
            />
          </label>
          <Button onClick={() => input.current?.click()}>
            <Upload size={15} aria-hidden /> From a text file…
          </Button>
          <Button onClick={takeOut} disabled={entries.length === 0}>
            <Download size={15} aria-hidden /> As a text file
          </Button>
          <input
            ref={input}
            type="file"
            accept=".txt,text/plain"
            hidden
            aria-label="Pronunciations to bring in"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              event.target.value = '';
              if (file) void bringIn(file);
            }}
          />
        </div>
        <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Pronunciations">
          {shown.map((entry) => (
            <Row
              key={`${entry.word} ${entry.said}`}
              entry={entry}
              onChange={(next) => keep.mutate(entries.map((other) => (other === entry ? { ...entry, said: next } : other)))}
              onRemove={() => keep.mutate(entries.filter((other) => other !== entry))}
            />
          ))}
          {entries.length === 0 && (
            <li className="py-6 text-center text-ink-soft">
              Nothing here yet. Words the dictionary does not know are guessed from their spelling until you say them here.
            </li>
          )}
          {entries.length > 0 && shown.length === 0 && <li className="py-6 text-center text-ink-soft">No word like that.</li>}
        </ul>
      </main>
    </div>
  );
}
