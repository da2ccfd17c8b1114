/** One sound on the map: pressed it is chosen, dragged it goes to another group. */
import { nameOfSound, type SoundGroup } from '@zest-jaw/core';
import { useDraggable } from '@dnd-kit/core';
import { clsx } from 'clsx';
import type { ReactElement } from 'react';
import type { PlacedSound } from './soundMapPlaces.js';

interface SoundChipProps {
  readonly sound: PlacedSound;
  readonly group: SoundGroup | undefined;
  readonly isChosen: boolean;
  /** The one that Tab goes to. */
  readonly isCurrent: boolean;
  readonly onPress: (symbol: string, adds: boolean) => void;
}

export function SoundChip({ sound, group, isChosen, isCurrent, onPress }: SoundChipProps): ReactElement {
  const { attributes, listeners, setNodeRef, isDragging } = useDraggable({ id: `sound ${sound.symbol}` });
  const { symbol, ipa, example, at } = sound;
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...listeners}
      aria-describedby={attributes['aria-describedby']}
      aria-pressed={isChosen}
      aria-label={`${ipa}, as in ${example.replaceAll('*', '')}: ${group?.name ?? 'in no group'}`}
      title={`${nameOfSound(symbol)}; ${group?.name ?? 'in no group'}`}
      data-sound={symbol}
      tabIndex={isCurrent ? 0 : -1}
      onClick={(event) => onPress(symbol, event.ctrlKey || event.metaKey || event.shiftKey)}
      style={{
        left: at.x,
        top: at.y,
        borderColor: group?.colour ?? 'var(--bad)',
        background: group ? `color-mix(in srgb, ${group.colour} 22%, var(--sheet))` : 'var(--sheet)',
      }}
      className={clsx(
        'absolute z-[1] grid h-[29px] min-w-[35px] -translate-x-1/2 -translate-y-1/2 touch-none place-items-center rounded-full border-2 px-1.5 text-[17px] leading-none text-ink',
        !group && 'border-dashed',
        isChosen && 'ring-2 ring-ink ring-offset-1 ring-offset-sheet',
        isDragging && 'opacity-40',
      )}
    >
      {ipa}
    </button>
  );
}
