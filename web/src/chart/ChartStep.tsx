/** The Chart step: every mouth of the character's chart, what it plays, and what it shows. */
import { chartSettings, coverageOfChart, ipaOf, measureShape, type ChartDocument, type Drawing } from '@zest-jaw/core';
import { useState, type ReactElement } from 'react';
import { Easel } from '../mouth/Easel.js';
import { Mouth } from '../mouth/Mouth.js';
import { useOpenScene } from '../scene/sceneContext.js';

function coverageInWords(chart: ChartDocument): string {
  const { covered, missing, shared } = coverageOfChart(chart);
  const parts = [`${covered} of ${chart.groups.length} sound groups have a mouth of their own.`];
  if (missing.length > 0) parts.push(`Missing: ${missing.map((group) => group.name).join(', ')}.`);
  for (const drawing of shared)
    parts.push(
      `${drawing.groups.map((id) => chart.groups.find((group) => group.id === id)?.name).join(' and ')} share ${drawing.label}: they will look alike.`,
    );
  return parts.join(' ');
}

function MeasureBar({ label, share }: { label: string; share: number }): ReactElement {
  return (
    <div className="flex items-center gap-2 text-[13px] text-ink-soft">
      <span className="w-[56px]">{label}</span>
      <div className="h-1.5 flex-1 rounded-full bg-rule-soft">
        <div className="h-full rounded-full bg-ink-soft" style={{ width: `${Math.round(share * 100)}%` }} />
      </div>
    </div>
  );
}

function DrawingCard({ drawing, isCurrent, onChoose }: { drawing: Drawing; isCurrent: boolean; onChoose: () => void }): ReactElement {
  const { chart } = useOpenScene();
  const groups = chart.groups.filter((group) => drawing.groups.includes(group.id));
  return (
    <button
      type="button"
      onClick={onChoose}
      onFocus={onChoose}
      aria-pressed={isCurrent}
      className="relative flex flex-col rounded-xl border border-rule bg-ground p-3 text-left text-[#1e2a44] aria-pressed:border-zest aria-pressed:ring-2 aria-pressed:ring-zest-soft"
    >
      <span className="flex items-center justify-between">
        <span className="text-[13px] text-on-ground">{drawing.number}</span>
        <span className="keycap">{drawing.keycap}</span>
      </span>
      <Mouth chart={chart} drawing={drawing} className="mx-auto h-[84px]" />
      <span className="name text-[17px]">{drawing.label}</span>
      <span className="text-[13px] leading-snug text-on-ground">
        {groups.flatMap((group) => group.phonemes.map(ipaOf)).join(' ') || 'silence'}
      </span>
      <span className="absolute inset-x-3 bottom-0 h-[3px] rounded-full" style={{ background: groups[0]?.colour }} />
    </button>
  );
}

export function ChartStep(): ReactElement {
  const { chart, character } = useOpenScene();
  const [chosenId, choose] = useState(chart.drawings[0]?.id);
  const chosen = chart.drawings.find((drawing) => drawing.id === chosenId);
  const most = chart.drawings
    .map((drawing) => measureShape(drawing.shape))
    .reduce((a, b) => ({ opening: Math.max(a.opening, b.opening), width: Math.max(a.width, b.width), teeth: 1 }), {
      opening: 1,
      width: 1,
      teeth: 1,
    });
  const measures = chosen && measureShape(chosen.shape);
  const group = chart.groups.find((candidate) => chosen?.groups.includes(candidate.id));
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[1fr_352px]">
      <section className="min-h-0 overflow-y-auto p-[16px_18px]" aria-label="Drawings">
        <h2 className="name text-[22px]">{chartSettings(chart).name}</h2>
        <p className="mb-4 text-ink-soft">{coverageInWords(chart)}</p>
        <div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-3">
          {chart.drawings.map((drawing) => (
            <DrawingCard key={drawing.id} drawing={drawing} isCurrent={drawing.id === chosenId} onChoose={() => choose(drawing.id)} />
          ))}
        </div>
      </section>
      <aside className="flex min-h-0 flex-col gap-3 overflow-y-auto p-[16px_18px_16px_0]" aria-label="The chosen drawing">
        <Easel character={character} chart={chart} drawing={chosen} className="h-[326px] shrink-0" />
        {chosen && measures && (
          <>
            <h3 className="name text-[20px]">{chosen.label}</h3>
            {group && (
              <p className="text-ink-soft">{`Shows: ${group.look}.${group.must ? ' Must be seen: keying keeps it whatever else gives way.' : ''}`}</p>
            )}
            <div className="space-y-1.5">
              <MeasureBar label="opening" share={measures.opening / most.opening} />
              <MeasureBar label="width" share={measures.width / most.width} />
              <MeasureBar label="teeth" share={measures.teeth} />
            </div>
          </>
        )}
      </aside>
    </main>
  );
}
