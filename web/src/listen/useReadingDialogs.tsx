/** What is opened of the reading: a word or a sound said otherwise, or one put in. */
import { lazy, Suspense, useCallback, useMemo, useState, type ReactElement } from 'react';
import { useNavigate } from 'react-router';
import type { SheetSound, SheetWord } from '../barSheet/sheetData.js';
import type { NewWordAt } from './RetypeDialog.js';
import type { OpensReading } from './useReadingCommands.js';

const RetypeDialog = lazy(async () => ({ default: (await import('./RetypeDialog.js')).RetypeDialog }));
const SoundDialog = lazy(async () => ({ default: (await import('./SoundDialog.js')).SoundDialog }));

type Opened = { readonly word: SheetWord | NewWordAt } | { readonly sound: SheetSound; readonly atSample?: number };

export function useReadingDialogs(): { readonly opens: OpensReading; readonly dialogs: ReactElement | null } {
  const [opened, open] = useState<Opened>();
  const navigate = useNavigate();
  const close = useCallback(() => open(undefined), []);
  const opens = useMemo<OpensReading>(
    () => ({
      onWord: (word) => open({ word }),
      onNewWord: (word) => open({ word }),
      onSound: (sound) => open({ sound }),
      onMap: (symbol) => void navigate(`../chart?map=${symbol}`, { relative: 'path' }),
      onNewSound: (sound, atSample) => open({ sound, atSample }),
    }),
    [navigate],
  );
  if (!opened) return { opens, dialogs: null };
  const dialogs =
    'word' in opened ? (
      <RetypeDialog word={opened.word} onClose={close} />
    ) : (
      <SoundDialog sound={opened.sound} atSample={opened.atSample} onClose={close} />
    );
  return { opens, dialogs: <Suspense>{dialogs}</Suspense> };
}
