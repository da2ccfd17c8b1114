/** Hearing a sound by itself, as the synthesiser says it. */
import { useEffect, useRef } from 'react';
import { maybeSpokenSound } from '../sound/spokenSounds.js';
import { createAsker } from '../workers/asking.js';

const speech = createAsker<{ voice: string; said: string }>(
  () => new Worker(new URL('../workers/speech.worker.ts', import.meta.url), { type: 'module' }),
);

/** What was said already, by symbol. */
const said = new Map<string, Promise<string>>();

/** Where a sound can be played from. */
function urlOf(symbol: string): Promise<string> | undefined {
  const spoken = maybeSpokenSound(symbol);
  if (!spoken) return undefined;
  let url = said.get(symbol);
  if (!url) {
    url = speech.ask<Uint8Array<ArrayBuffer>>(spoken).then((wave) => URL.createObjectURL(new Blob([wave], { type: 'audio/wav' })));
    said.set(symbol, url);
    // One that failed is asked for again.
    url.catch(() => said.delete(symbol));
  }
  return url;
}

/** Whether there is a way of saying a sound. */
export const canBeSaid = (symbol: string): boolean => maybeSpokenSound(symbol) !== undefined;

/**
 * Says a sound, one at a time: a newer one takes the place of one that still sounds.
 *
 * @param onFailed called where the synthesiser does not run here
 */
export function useSaidSound(onFailed: (symbol: string) => void): (symbol: string) => void {
  const sounding = useRef<HTMLAudioElement>(undefined);
  const wanted = useRef<string>(undefined);
  useEffect(
    () => () => {
      wanted.current = undefined;
      sounding.current?.pause();
    },
    [],
  );
  return (symbol) => {
    wanted.current = symbol;
    sounding.current?.pause();
    urlOf(symbol)
      ?.then((url) => {
        if (wanted.current !== symbol) return undefined;
        sounding.current = new Audio(url);
        return sounding.current.play();
      })
      .catch(() => wanted.current === symbol && onFailed(symbol));
  };
}
