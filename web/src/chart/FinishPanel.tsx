/** How built mouths are finished: colours, line and rim, for the whole chart or for one mouth. */
import { chartSettings, setChart, setOwnStyle, STARTER_STYLE_WORDS, STARTER_STYLES, type MouthStyle } from '@zest-jaw/core';
import { useState, type ReactElement } from 'react';
import { newId } from '../session/newId.js';
import { Slider } from '../ui/Slider.js';
import { useOpenChart } from './openChart.js';
import { Toggle } from '../ui/Toggle.js';

const COLOURS: readonly (readonly [keyof MouthStyle, string])[] = [
  ['line', 'Line'],
  ['lip', 'Lips'],
  ['inside', 'Inside'],
  ['teeth', 'Teeth'],
  ['tongue', 'Tongue'],
];

export function FinishPanel(): ReactElement {
  const { chart, drawing, look, lookIndex, change } = useOpenChart();
  const isBuilt = look.art.kind === 'built';
  const own = look.art.kind === 'built' ? look.art.style : undefined;
  const [wantsOwn, setWantsOwn] = useState(false);
  const isOwn = isBuilt && (own !== undefined || wantsOwn);
  const style = { ...chartSettings(chart).style, ...own };
  const set = (changes: Partial<MouthStyle>): void =>
    void change((now) => (isOwn ? setOwnStyle(now, drawing.id, changes, newId, lookIndex) : setChart(now, { style: changes }, newId)));
  return (
    <section className="flex flex-col gap-3" aria-label="Finish">
      <fieldset className="flex gap-1">
        <legend className="name mb-1 text-[18px]">Finish</legend>
        {[false, true].map((single) => (
          <Toggle
            key={String(single)}
            on={isOwn === single}
            disabled={single && !isBuilt}
            onToggle={() => {
              setWantsOwn(single);
              if (!single && own !== undefined) change((now) => setOwnStyle(now, drawing.id, null, newId, lookIndex));
            }}
          >
            {single ? `Only ${drawing.label}` : 'All built mouths'}
          </Toggle>
        ))}
      </fieldset>
      <div className="flex flex-wrap gap-x-4 gap-y-2">
        {COLOURS.map(([key, label]) => (
          <label key={key} className="flex items-center gap-2 text-[14px]">
            <input
              type="color"
              value={String(style[key])}
              onChange={(event) => set({ [key]: event.target.value })}
              className="h-7 w-9 cursor-pointer rounded-md border border-rule bg-lift p-0.5"
            />
            {label}
          </label>
        ))}
      </div>
      {(
        [
          ['weight', 'Line weight', 0, 10],
          ['rim', 'Rim of the lips', 0, 1],
        ] as const
      ).map(([key, label, least, most]) => (
        <Slider
          key={key}
          label={label}
          value={style[key]}
          least={least}
          most={most}
          step={most / 100}
          onChange={(value) => set({ [key]: value })}
        />
      ))}
      <div>
        <p className="mb-1 text-[14px] font-semibold">Begin from</p>
        <div className="flex flex-wrap gap-1">
          {Object.entries(STARTER_STYLES).map(([name, starter]) => (
            <button
              key={name}
              type="button"
              title={STARTER_STYLE_WORDS[name]}
              onClick={() => set(starter)}
              className="flex items-center gap-1.5 rounded-full border border-rule bg-lift px-2.5 py-0.5 text-[14px] hover:border-graphite"
            >
              <span className="size-3 rounded-full" style={{ background: starter.lip, boxShadow: `0 0 0 2px ${starter.line}` }} />
              {STARTER_STYLE_WORDS[name]!.split(':')[0]}
            </button>
          ))}
        </div>
      </div>
    </section>
  );
}
