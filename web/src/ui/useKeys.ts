/**
 * Keys of a page. A key is named by its place (`KeyQ`, `Space`), so that the left hand's
 * rows are the same rows on every keyboard; text fields and open dialogs keep their keys.
 */
import { useEffect, useRef } from 'react';

/** `Ctrl+KeyZ`, `Shift+KeyI`, `ArrowLeft`: modifiers in the order Ctrl, Alt, Shift. Ctrl stands for the command key too. */
export type KeyMap = Readonly<Record<string, (event: KeyboardEvent) => void>>;

export function nameOfKey(event: Pick<KeyboardEvent, 'code' | 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string {
  if (event.key === '?') return '?';
  const modifiers = [event.ctrlKey || event.metaKey ? 'Ctrl+' : '', event.altKey ? 'Alt+' : '', event.shiftKey ? 'Shift+' : ''];
  return modifiers.join('') + event.code;
}

const SLIDER_KEYS = /^(Arrow|Home$|End$|Page)/;

function isTaken(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  // A slider moves by its own keys; every other key is the page's.
  if (target?.closest('input[type="range"]')) return SLIDER_KEYS.test(event.code);
  if (target?.closest('input, textarea, select, [contenteditable], [role="dialog"], [role="menu"], [role="alertdialog"]')) return true;
  // Space and Enter press the button that has the focus; every other key is the page's.
  return (event.code === 'Space' || event.code === 'Enter') && !!target?.closest('button, a, [role="radio"], [role="tab"]');
}

export function useKeys(keys: KeyMap): void {
  const current = useRef(keys);
  useEffect(() => {
    current.current = keys;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const action = current.current[nameOfKey(event)];
      if (!action || event.defaultPrevented || isTaken(event)) return;
      event.preventDefault();
      action(event);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

/**
 * A button or link pressed with the mouse gives Space back to playing: put on what surrounds the
 * buttons. One reached by keyboard keeps its focus, and so do those of dialogs and of what has keys of its own (`data-keeps-keys`).
 */
export function giveKeysBack(event: { readonly detail: number; readonly target: EventTarget }): void {
  const target = event.target as HTMLElement;
  if (event.detail > 0 && !target.closest('[role="dialog"], [role="menu"], [data-keeps-keys]'))
    target.closest<HTMLElement>('button, a')?.blur();
}
