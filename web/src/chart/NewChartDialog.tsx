/** A new chart: a starter of some size in a style of ours, or a copy of this one, for this character or a new one. */
import {
  chartSettings,
  lookToSvg,
  STARTER_SIZES,
  STARTER_STYLE_WORDS,
  STARTER_STYLES,
  starterChart,
  type StarterSize,
} from '@zest-jaw/core';
import { useQueryClient } from '@tanstack/react-query';
import { useMemo, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { Pills } from '../ui/Pills.js';
import { moveByArrows, tabStop } from '../ui/radioKeys.js';

interface NewChartDialogProps {
  /** The character it is for; a new one when there is none. */
  readonly character?: { readonly id: string; readonly name: string };
  /** The production a new character is in. */
  readonly productionId?: string;
  /** A chart that may be copied. */
  readonly current?: { readonly id: string; readonly name: string };
  readonly onMade: (chartId: string) => void;
  readonly onClose: () => void;
}

/** A few mouths of a starter in a row. */
function StyleSample({ style }: { style: string }): ReactElement {
  const markup = useMemo(() => {
    const chart = starterChart('sample', style);
    return ['rest', 'drop', 'pucker', 'teeth']
      .map((id, index) => {
        const drawing = chart.drawings.find((candidate) => candidate.id === id)!;
        return `<g transform="translate(${50 + index * 100} 22)">${lookToSvg(chartSettings(chart).style, drawing, { idPrefix: `${style}${index}` })}</g>`;
      })
      .join('');
  }, [style]);
  return <svg viewBox="0 -4 400 92" className="h-[74px] w-full" aria-hidden dangerouslySetInnerHTML={{ __html: markup }} />;
}

export function NewChartDialog({ character, productionId, current, onMade, onClose }: NewChartDialogProps): ReactElement {
  const client = useQueryClient();
  const [who, setWho] = useState('');
  const [view, setView] = useState(character ? 'three-quarter' : 'front');
  const [from, setFrom] = useState<'starter' | 'empty' | 'copy'>('starter');
  const [size, setSize] = useState<StarterSize>(13);
  const [style, setStyle] = useState('brush');
  const [busy, setBusy] = useState(false);
  const make = async (): Promise<void> => {
    setBusy(true);
    try {
      const name = `${character?.name ?? who.trim()}, ${view.trim()}`;
      const { id } = await sendJson<{ id: string }>('POST', '/charts', {
        name,
        ...(character ? { characterId: character.id } : { characterName: who.trim(), ...(productionId !== undefined && { productionId }) }),
        ...(from === 'copy' && current ? { copyOf: current.id } : { size: from === 'empty' ? 0 : size, style }),
      });
      await Promise.all([client.invalidateQueries({ queryKey: ['charts'] }), client.invalidateQueries({ queryKey: ['productions'] })]);
      onMade(id);
    } catch (error) {
      toast.error(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Modal
      open
      wide
      title={character ? `New chart for ${character.name}` : 'New character'}
      description="A chart is one view of one face. Every mouth of a starter can be changed, drawn anew or replaced by your own."
      onClose={onClose}
    >
      <form
        className="mt-4 flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        <div className="flex gap-3">
          {!character && (
            <label className="flex flex-1 flex-col gap-1 font-semibold">
              Who
              <input
                className="field font-normal"
                value={who}
                maxLength={60}
                required
                autoFocus
                onChange={(event) => setWho(event.target.value)}
              />
            </label>
          )}
          <label className="flex flex-1 flex-col gap-1 font-semibold">
            Which view or mood
            <input className="field font-normal" value={view} maxLength={40} required onChange={(event) => setView(event.target.value)} />
          </label>
        </div>
        <Pills
          label="Begin from"
          options={[
            ['starter', 'A starter'] as const,
            ['empty', 'Nothing: I bring my own'] as const,
            ...(current ? [['copy', `A copy of “${current.name}”`] as const] : []),
          ]}
          value={from}
          onChange={setFrom}
        />
        {from === 'empty' && (
          <p className="text-[14px] text-ink-soft">
            One resting mouth, with nothing drawn yet. Import your drawings into it, or take up the pen.
          </p>
        )}
        {from === 'starter' && (
          <>
            <Pills label="How many mouths" options={STARTER_SIZES.map((count) => [count, count] as const)} value={size} onChange={setSize}>
              <span className="ml-2 text-ink-soft">mouths</span>
            </Pills>
            <div className="grid grid-cols-2 gap-2.5" role="radiogroup" aria-label="Style" onKeyDown={moveByArrows}>
              {Object.keys(STARTER_STYLES).map((name) => (
                <button
                  key={name}
                  type="button"
                  role="radio"
                  aria-checked={style === name}
                  tabIndex={tabStop(style === name)}
                  onClick={() => setStyle(name)}
                  className="rounded-xl border border-rule bg-ground p-2 text-left text-[#1e2a44] aria-checked:border-zest aria-checked:ring-2 aria-checked:ring-zest-soft"
                >
                  <StyleSample style={name} />
                  <span className="px-1 text-[14px]">{STARTER_STYLE_WORDS[name]}</span>
                </button>
              ))}
            </div>
          </>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button weight="main" type="submit" disabled={busy || view.trim() === '' || (!character && who.trim() === '')}>
            Make the chart
          </Button>
        </div>
      </form>
    </Modal>
  );
}
