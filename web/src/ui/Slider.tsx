/** A number in a range, with its name before it and its value behind. */
import type { ReactElement } from 'react';

interface SliderProps {
  readonly label: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly onChange: (value: number) => void;
}

export function Slider({ label, value, least, most, step, onChange }: SliderProps): ReactElement {
  const shown = step < 0.1 ? value.toFixed(2) : String(Math.round(value * 10) / 10);
  return (
    <label className="flex h-[25px] items-center gap-3 text-[14px]">
      <span className="w-[94px] text-ink-soft">{label}</span>
      <input
        type="range"
        min={least}
        max={most}
        step={step}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
        className="w-0 flex-1"
      />
      <output className="w-[40px] text-right text-ink-soft">{shown}</output>
    </label>
  );
}
