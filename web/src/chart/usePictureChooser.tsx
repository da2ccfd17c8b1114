/** Choosing a picture from the disk and bringing it in at once. */
import type { PlacedArt } from '@zest-jaw/core';
import { useRef, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { importOne } from '../api/imports.js';

export interface PictureChooser {
  readonly busy: boolean;
  /** Asks for a picture; what it is for comes with it. */
  ask(onPicture: (art: PlacedArt) => void): void;
  /** Must be on the page. */
  readonly input: ReactElement;
}

export function usePictureChooser(label: string): PictureChooser {
  const input = useRef<HTMLInputElement>(null);
  const taker = useRef<((art: PlacedArt) => void) | undefined>(undefined);
  const [busy, setBusy] = useState(false);
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setBusy(true);
    try {
      taker.current?.(await importOne(file));
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  return {
    busy,
    ask: (onPicture) => {
      taker.current = onPicture;
      input.current?.click();
    },
    input: (
      <input
        ref={input}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        accept="image/png,image/jpeg,image/webp,image/svg+xml"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    ),
  };
}
