/** The passes of the scene, and what else it can be held against. */
import { maybeDrawing, type PassView, type SceneDocument } from '@zest-jaw/core';
import { clsx } from 'clsx';
import { Trash2 } from 'lucide-react';
import { useRef, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { api, sentenceOf } from '../api/http.js';
import { countsOf, useNotes } from '../check/NotesRoom.js';
import { Easel } from '../mouth/Easel.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { compared, onOwnCharts } from './compared.js';
import { sheetOfText } from './sheetOfText.js';
import { usePasses } from './usePasses.js';

const clock = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });

function factsInWords({ facts: { inked, changes, notes } }: PassView): string {
  const parts = [`${Math.round(inked * 100)} % ink`, `${changes.toFixed(1)} changes a second`];
  if (notes) parts.push(`${notes.heavy + notes.seen} notes seen`);
  return parts.join(', ');
}

export function PassList(): ReactElement {
  const { sceneId, session } = useOpenScene();
  const document = useSceneDocument();
  const { character, track, chart, chartId, allCharts } = useSpeaker();
  const { passes, keep, remove } = usePasses(sceneId);
  const notes = useNotes();
  const other = useStore(compared, (state) => (state.other?.sceneId === sceneId ? state.other : null));
  const [isNaming, setNaming] = useState(false);
  const [name, setName] = useState('');
  const [why, setWhy] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const against = (title: string, passId: string | null, what: SceneDocument | 'crib'): void =>
    compared.setState({ other: { sceneId, title, passId, document: what } });
  const open = async (pass: PassView): Promise<void> => {
    try {
      against(pass.name, pass.id, await api<SceneDocument>(`/scenes/${sceneId}/passes/${pass.id}`));
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const openFile = async (chosen: File): Promise<void> => {
    try {
      if (/\.zip$/i.test(chosen.name)) {
        const body = new FormData();
        body.set('bundle', chosen);
        const scenes = await api<SceneDocument[]>('/bundles/scenes', { method: 'POST', body });
        const same = scenes.find(({ settings }) => settings[0]?.title === document.settings[0]!.title) ?? scenes[0];
        if (!same) throw new Error('There is no scene in this bundle. Choose one that Hand off made of a scene.');
        against(chosen.name, null, onOwnCharts(document, same));
      } else against(chosen.name, null, sheetOfText(await chosen.text(), document, { track: track.id, chart, chartId }));
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const keepIt = async (): Promise<void> => {
    await session.flush();
    await keep({ name: name.trim() === '' ? 'A pass' : name, why, byItself: false, ...(notes.open && { notes: countsOf(notes) }) });
    setNaming(false);
    setName('');
    setWhy('');
  };
  return (
    <section aria-label="Passes" className="flex min-h-0 w-[270px] shrink-0 flex-col gap-2">
      {isNaming ? (
        <form
          className="flex flex-col gap-1.5 rounded-[12px] border border-rule bg-sheet p-2 text-[14px]"
          onSubmit={(event) => {
            event.preventDefault();
            void keepIt();
          }}
        >
          <input
            autoFocus
            className="field"
            aria-label="Name of the pass"
            placeholder="Name of the pass"
            maxLength={120}
            value={name}
            onChange={({ target }) => setName(target.value)}
          />
          <input
            className="field"
            aria-label="Why it is kept"
            placeholder="Why it is kept"
            maxLength={500}
            value={why}
            onChange={({ target }) => setWhy(target.value)}
          />
          <div className="flex gap-1.5">
            <Button type="submit" weight="main" className="px-3! py-[3px]! text-[14px]!">
              Keep it
            </Button>
            <Button className="px-3! py-[3px]! text-[14px]!" onClick={() => setNaming(false)}>
              Leave it
            </Button>
          </div>
        </form>
      ) : (
        <div className="flex flex-wrap gap-1.5">
          <Button weight="main" className="px-3! py-[3px]! text-[14px]!" onClick={() => setNaming(true)}>
            Keep as a pass
          </Button>
          <Button
            className="px-3! py-[3px]! text-[14px]!"
            onClick={() => against('The crib', null, 'crib')}
            aria-pressed={other?.document === 'crib'}
          >
            The crib
          </Button>
          <Button className="px-3! py-[3px]! text-[14px]!" onClick={() => file.current?.click()}>
            A file
          </Button>
          <input
            ref={file}
            type="file"
            accept=".zip,.csv,.tsv,.txt"
            className="sr-only"
            tabIndex={-1}
            aria-label="Bundle or sheet to hold against this scene"
            onChange={({ target }) => {
              const [chosen] = target.files ?? [];
              target.value = '';
              if (chosen) void openFile(chosen);
            }}
          />
        </div>
      )}
      <ul className="min-h-0 flex-1 overflow-y-auto text-[14px]" tabIndex={0} aria-label="Passes of this scene">
        {passes?.length === 0 && (
          <li className="px-1 py-1 text-ink-soft">
            No pass is kept yet. One is made by itself before everything is keyed again, before going back, and before a sheet is brought
            in.
          </li>
        )}
        {passes?.map((pass) => {
          const own = allCharts.get(pass.facts.chartId ?? '');
          const drawing = own && pass.facts.posterDrawing ? maybeDrawing(own, pass.facts.posterDrawing) : undefined;
          return (
            <li
              key={pass.id}
              className={clsx(
                'flex items-center gap-1 rounded-[10px]',
                other?.passId === pass.id ? 'bg-sheet shadow-[inset_0_0_0_1px_var(--rule)]' : 'hover:bg-lift',
              )}
              data-testid="pass"
            >
              <button
                type="button"
                aria-pressed={other?.passId === pass.id}
                onClick={() => void open(pass)}
                className="flex min-w-0 flex-1 items-center gap-2 p-1 text-left leading-tight"
              >
                {own && <Easel name={character.name} chart={own} drawing={drawing} className="size-[44px] shrink-0 rounded-[8px]!" />}
                <span className="min-w-0 flex-1">
                  <span className="block truncate font-semibold">{pass.name}</span>
                  {pass.why !== '' && <span className="block truncate">{pass.why}</span>}
                  <span className="block truncate text-[13px] text-ink-soft">{`${clock.format(new Date(pass.at))} · ${factsInWords(pass)}`}</span>
                </span>
              </button>
              <button
                type="button"
                aria-label={`Remove the pass ${pass.name}`}
                onClick={() => void remove(pass)}
                className="rounded-full p-1 text-ink-soft hover:text-ink"
              >
                <Trash2 size={15} aria-hidden />
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
