/** The parameters of a built mouth, by the part of the mouth they move. */
import { limitsOfParameter, setShape, type MouthShape } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { newId } from '../session/newId.js';
import { Slider } from '../ui/Slider.js';
import { useOpenChart } from './openChart.js';

type Parameter = readonly [key: keyof MouthShape, label: string];

const PARTS: readonly (readonly [string, readonly Parameter[]])[] = [
  [
    'Jaw and lips',
    [
      ['jaw', 'Jaw down'],
      ['width', 'Width'],
      ['round', 'Rounded'],
      ['upperLip', 'Upper lip'],
      ['lowerLip', 'Lower lip'],
      ['press', 'Lips together'],
      ['bite', 'Lip on teeth'],
      ['smile', 'Corners'],
      ['skew', 'To one side'],
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

export function ShapePanel(): ReactElement | null {
  const { drawing, look, lookIndex, change } = useOpenChart();
  if (look.art.kind !== 'built') return null;
  const { shape } = look.art;
  return (
    <>
      {PARTS.map(([title, parameters]) => (
        <fieldset key={title} className="min-w-0">
          <legend className="mb-0.5 font-semibold">{title}</legend>
          {parameters.map(([key, label]) => {
            const { least, most } = limitsOfParameter(key);
            return (
              <Slider
                key={key}
                label={label}
                value={shape[key]}
                least={least}
                most={most}
                step={0.01}
                onChange={(value) => change((now) => setShape(now, drawing.id, { [key]: value }, newId, lookIndex))}
              />
            );
          })}
        </fieldset>
      ))}
    </>
  );
}
