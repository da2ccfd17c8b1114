/** What the camera sees, with the last picture over it like a thin sheet, so that it is seen what has moved. */
import { clsx } from 'clsx';
import { useState, type ReactElement } from 'react';
import type { Camera } from '../stage/camera.js';

interface LivePictureProps {
  readonly camera: Camera | undefined;
  /** Why nothing is seen, or was not taken. */
  readonly trouble: string | undefined;
  readonly last: { readonly asset: string; readonly said: string } | undefined;
  readonly isOnion: boolean;
  readonly onOnion: (isOnion: boolean) => void;
}

export function LivePicture({ camera, trouble, last, isOnion, onOnion }: LivePictureProps): ReactElement {
  const [strength, setStrength] = useState(40);
  // The camera has its own picture: it is hung here, and taken down with it.
  const hang = (frame: HTMLDivElement | null): void => {
    if (!frame || !camera || camera.view.parentElement === frame) return;
    frame.replaceChildren(camera.view);
  };
  return (
    <div className="flex w-[560px] flex-col gap-2">
      <div
        className="relative aspect-video w-full overflow-hidden rounded-2xl bg-black"
        data-testid="live"
        data-open={camera !== undefined}
      >
        <div ref={hang} className="absolute inset-0 [&>*]:size-full [&>*]:object-contain" role="img" aria-label="What the camera sees" />
        {isOnion && last && camera && (
          <img
            src={`/api/assets/${last.asset}`}
            alt={`The last picture, ${last.said}`}
            style={{ opacity: strength / 100 }}
            className="pointer-events-none absolute inset-0 size-full object-contain"
          />
        )}
        {!camera && !trouble && <p className="absolute inset-0 grid place-items-center text-[20px] text-[#b9bfce]">Opening the camera…</p>}
      </div>
      <div className="flex items-center gap-3 text-[16px] text-[#b9bfce]">
        <button
          type="button"
          aria-pressed={isOnion}
          onClick={() => onOnion(!isOnion)}
          className={clsx('rounded-lg border px-3 py-1.5', isOnion ? 'border-[#f5a400] text-[#f5a400]' : 'border-[#4b5672] text-[#f4efe2]')}
        >
          Last picture over it <kbd className="ml-1 text-[13px]">O</kbd>
        </button>
        <input
          type="range"
          min={10}
          max={90}
          step={5}
          aria-label="How strong the last picture is"
          value={strength}
          disabled={!isOnion}
          onChange={({ target }) => setStrength(Number(target.value))}
          className="flex-1 accent-[#f5a400]"
        />
      </div>
      <p className="min-h-[22px] text-[16px] text-[#ffb3a0]" role="alert">
        {trouble ?? ''}
      </p>
    </div>
  );
}
