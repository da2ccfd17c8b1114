/** Arrow keys in a group of radios made by hand: the next one is chosen and has the focus, round at the ends. */
import type { KeyboardEvent } from 'react';

const STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 };

/** For the `onKeyDown` of what has `role="radiogroup"`. */
export function moveByArrows(event: KeyboardEvent<HTMLElement>): void {
  const step = STEPS[event.key];
  const radios = [...event.currentTarget.querySelectorAll<HTMLElement>('[role="radio"]:not([disabled])')];
  const at = radios.indexOf(event.target as HTMLElement);
  if (step === undefined || at < 0) return;
  event.preventDefault();
  event.stopPropagation();
  const next = radios[(at + step + radios.length) % radios.length]!;
  next.focus();
  next.click();
}

/** One stop of the tab key a group: the chosen one. */
export const tabStop = (isChosen: boolean): 0 | -1 => (isChosen ? 0 : -1);
