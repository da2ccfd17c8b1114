/** The parameters of a built mouth, by the part of the mouth they move. */
import type { MouthShape } from '@zest-jaw/core';
import type { ReactElement } from 'react';

type Parameter = readonly [key: keyof MouthShape, label: string, lowest?: -1];

const PARTS: readonly (readonly [string, readonly Parameter[]])[] = [
  [
    'Jaw and lips',
    [
      ['jaw', 'Jaw down'],
      ['width', 'Width'],
      ['round', 'Rounded'],
      ['lips', 'Lips turned out'],
      ['press', 'Lips together'],
      ['bite', 'Lip on teeth'],
      ['smile', 'Corners', -1],
      ['skew', 'To one side', -1],
    ],
  ],
  [
    'Inside',
    [
      ['teethUpper', 'Upper teeth'],
      ['teethLower', 'Lower teeth'],
      ['tongue', 'Tongue'],
      ['tipUp', 'Tip raised'],
      ['tipOut', 'Tip out'],
    ],
  ],
];

export function ShapePanel({ shape, onChange }: { shape: MouthShape; onChange: (changes: Partial<MouthShape>) => void }): ReactElement {
  return (
    <>
      {PARTS.map(([title, parameters]) => (
        <fieldset key={title} className="min-w-0">
          <legend className="mb-1 font-semibold">{title}</legend>
          {parameters.map(([key, label, lowest = 0]) => (
            <label key={key} className="flex h-[27px] items-center gap-3 text-[14px]">
              <span className="w-[104px] text-ink-soft">{label}</span>
              <input
                type="range"
                min={lowest}
                max={1}
                step={0.01}
                value={shape[key]}
                onChange={(event) => onChange({ [key]: Number(event.target.value) })}
                className="w-0 flex-1"
              />
              <output className="w-[38px] text-right text-ink-soft">{shape[key].toFixed(2)}</output>
            </label>
          ))}
        </fieldset>
      ))}
    </>
  );
}
