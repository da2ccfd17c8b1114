/** What the menu under the right button holds, by what it was pressed on. */
import { flushSync } from 'react-dom';
import type { RowName } from '../barSheet/plan.js';

/** Ids of commands, a rule between the parts. */
type Parts = readonly (readonly string[])[];

const TIME = ['insert-time', 'remove-time'] as const;

const ON_MOUTHS: Parts = [
  ['ink', 'pencil', 'one-off', 'why'],
  ['hold-longer', 'hold-shorter', 'hold-longer-pushing', 'hold-shorter-pushing'],
  ['split', 'join-before', 'join-after', 'delete', 'delete-to-rest'],
  ['choose-mouth', 'choose-alike'],
  ['copy', 'cut', 'paste', 'paste-lined-up', 'paste-pushing'],
  ['insert-frames', 'remove-frames', ...TIME],
];

const ON_WORDS: Parts = [
  ['play-word', 'select-word', 'select-phrase'],
  ['play-part', 'loop'],
  ['word-accept', 'word-retype', 'word-insert', 'word-split', 'word-join', 'word-delete', 'word-pencil'],
  ['sound-retype', 'sound-insert', 'sound-join', 'sound-delete'],
  ['pause', 'not-speech', 'noise:breath', 'noise:laugh', 'noise:hum', 'speech'],
  ['mark'],
  ['insert-time', 'remove-time'],
];

const ON_CLIPS: Parts = [
  ['play-part', 'loop'],
  ['clip-slide', 'clip-trim-from', 'clip-trim-to'],
  ['clip-mute', 'clip-solo', 'clip-read', 'clip-remove'],
  TIME,
];

const ON_RULER: Parts = [
  ['play', 'play-part', 'loop'],
  ['select-phrase', 'select-all', 'select-none'],
  TIME,
  ['zoom-in', 'zoom-out', 'zoom-fits', 'zoom-whole', 'snap', 'upright'],
];

const PARTS: Partial<Record<RowName, Parts>> = {
  words: ON_WORDS,
  sounds: ON_WORDS,
  marks: ON_WORDS,
  clips: ON_CLIPS,
  wave: ON_CLIPS,
  ruler: ON_RULER,
  mouth: ON_MOUTHS,
  crib: ON_MOUTHS,
};

export const partsFor = (row: RowName | undefined): Parts => (row && PARTS[row]) ?? ON_RULER;

/** Opens it by a key, where the playhead is. */
export function openMenuAtPlayhead(row: RowName, point: (row: RowName) => void): void {
  const line = document.querySelector('[data-testid=playhead]');
  if (!line) return;
  // What it holds must be there when it opens.
  flushSync(() => point(row));
  const { left, top, width, height } = line.getBoundingClientRect();
  const at = { clientX: Math.min(left + width / 2, left + 60), clientY: top + height / 2 };
  // Not through the sheet, which would take it for the pointer at this very place.
  line.parentElement?.parentElement?.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, ...at }));
}
