/** What the stage is made of: large to read from two metres and to press with gloves. */
import type { ChartDocument, Drawing } from '@zest-jaw/core';
import { clsx } from 'clsx';
import type { ReactElement, ReactNode } from 'react';
import { Mouth } from '../mouth/Mouth.js';

interface BigButtonProps {
  readonly label: string;
  readonly hint: string;
  readonly isMain?: boolean;
  readonly isOn?: boolean;
  readonly onPress: () => void;
}

export function BigButton({ label, hint, isMain = false, isOn, onPress }: BigButtonProps): ReactElement {
  return (
    <button
      type="button"
      aria-pressed={isOn}
      onClick={onPress}
      className={clsx(
        'flex min-h-[96px] flex-col items-center justify-center rounded-2xl px-6 text-[26px] leading-tight font-semibold',
        isMain ? 'flex-[2] bg-[#f5a400] text-[#1b1508]' : 'flex-1 border-2 border-[#4b5672] text-[#f4efe2]',
        isOn && 'border-[#f5a400]! text-[#f5a400]!',
      )}
    >
      {label}
      <span className={clsx('text-[15px] font-normal', isMain ? 'text-[#3a2c07]' : 'text-[#b9bfce]')}>{hint}</span>
    </button>
  );
}

const SIZES = { small: 'h-[120px] w-[170px]', middle: 'h-[200px] w-[290px]', large: 'h-[360px] w-[520px]' } as const;

export function Shown({
  chart,
  drawing,
  size = 'large',
}: {
  chart: ChartDocument | undefined;
  drawing: Drawing | null;
  size?: keyof typeof SIZES;
}): ReactElement {
  return (
    <div className={clsx('grid place-items-center rounded-3xl bg-[#f4efe2] text-[#1f2a44]', SIZES[size])}>
      {drawing && chart ? <Mouth chart={chart} drawing={drawing} className="size-[88%]" /> : <span className="text-[22px]">no mouth</span>}
    </div>
  );
}

export function Facts({ isBeside = true, children }: { isBeside?: boolean; children: ReactNode }): ReactElement {
  return <div className={clsx('flex flex-col gap-2', isBeside ? 'flex-1' : 'items-center text-center')}>{children}</div>;
}
