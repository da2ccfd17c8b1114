/** The colours of the page, read from its CSS for the canvas. */
import type { Theme } from '../ui/theme.js';

export interface Palette {
  readonly sheet: string;
  /** Under an inked mouth. */
  readonly ground: string;
  readonly rule: string;
  readonly ruleSoft: string;
  readonly ink: string;
  readonly inkSoft: string;
  readonly graphite: string;
  readonly zest: string;
  readonly zestSoft: string;
  readonly word: string;
  readonly voice: string;
  readonly hiss: string;
  readonly bad: string;
  readonly night: boolean;
}

export function readPalette(theme: Theme): Palette {
  const style = getComputedStyle(document.documentElement);
  const read = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  return {
    sheet: read('sheet'),
    ground: read('ground'),
    rule: read('rule'),
    ruleSoft: read('rule-soft'),
    ink: read('ink'),
    inkSoft: read('ink-soft'),
    graphite: read('graphite'),
    zest: read('zest'),
    zestSoft: read('zest-soft'),
    word: read('word'),
    voice: read('voice'),
    hiss: read('hiss'),
    bad: read('bad'),
    night: theme === 'night',
  };
}
