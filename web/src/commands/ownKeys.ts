/**
 * Keys as one person likes them: kept in this browser, taken out and brought in as JSON. What
 * is not changed keeps the key it comes with. Keycaps of drawings are the chart's.
 */
import { createStore } from 'zustand/vanilla';
import { createJSONStorage, persist } from 'zustand/middleware';
import type { Command } from './command.js';

/** The keys of commands that have been changed, by the command's id; an empty list takes its keys away. */
export type OwnKeys = Readonly<Record<string, readonly string[]>>;

// What is kept is read as soon as the store is made: what reads it must stand before.
const KEY = /^(Ctrl\+)?(Alt\+)?(Shift\+)?(\?|[A-Z][A-Za-z0-9]*)$/;
const MOST_KEYS = 4;
/** Keys that mean the same everywhere. */
const FIXED = ['Escape', 'Tab', 'Enter', '?'];

const isKey = (key: unknown): key is string => typeof key === 'string' && KEY.test(key);

export const ownKeys = createStore<{ readonly keys: OwnKeys }>()(
  // Without a store they hold for this page.
  persist(() => ({ keys: {} as OwnKeys }), {
    name: 'zest-keys',
    storage: createJSONStorage(() => localStorage),
    merge: (kept, now) => ({ ...now, keys: readable((kept as { keys?: unknown } | undefined)?.keys) ?? {} }),
  }),
);

/** A table of keys, where it is one. */
function readable(value: unknown): OwnKeys | undefined {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return undefined;
  const entries = Object.entries(value);
  const isOwn = ([id, keys]: [string, unknown]): boolean =>
    id.length <= 60 && Array.isArray(keys) && keys.length <= MOST_KEYS && keys.every(isKey);
  return entries.length <= 500 && entries.every(isOwn) ? (Object.fromEntries(entries) as OwnKeys) : undefined;
}

/** Whether a command's key is anyone's to change: those of drawings are in their chart. */
export const isChangeable = ({ id }: Command): boolean => !id.includes(':');

/** Commands with the keys somebody gave them; a key that was given to one is no longer another's. */
export function withOwnKeys(commands: readonly Command[], own: OwnKeys): readonly Command[] {
  if (Object.keys(own).length === 0) return commands;
  const given = new Set(commands.flatMap((command) => (isChangeable(command) ? (own[command.id] ?? []) : [])));
  return commands.map((command) => {
    const keys = isChangeable(command) ? own[command.id] : undefined;
    return { ...command, keys: keys ?? command.keys.filter((key) => !given.has(key)) };
  });
}

export interface KeyWish {
  readonly id: string;
  readonly key: string;
}

/** Why a key cannot be given at all; undefined where it can. */
export function refusalOfKey(key: string): string | undefined {
  if (FIXED.includes(key) || !isKey(key)) return 'This key means the same everywhere. Choose another.';
  return /^(Ctrl|Alt|Shift)/.test(key.split('+').at(-1)!) ? 'Press a key with it.' : undefined;
}

/** The command that has a key already, among commands as they are now. */
export function maybeClash(commands: readonly Command[], { id, key }: KeyWish): Command | undefined {
  return commands.find((command) => command.id !== id && command.keys.includes(key));
}

/** Gives a command a key of its own; whichever command had it loses it. */
export function giveKey(commands: readonly Command[], { id, key }: KeyWish): void {
  const clash = maybeClash(commands, { id, key });
  ownKeys.setState(({ keys }) => ({
    keys: { ...keys, ...(clash && isChangeable(clash) && { [clash.id]: clash.keys.filter((one) => one !== key) }), [id]: [key] },
  }));
}

/** A command has again the keys it comes with. */
export function giveBack(id: string): void {
  ownKeys.setState(({ keys }) => ({ keys: Object.fromEntries(Object.entries(keys).filter(([own]) => own !== id)) }));
}

const FORMAT = 'zest-jaw keys';

export const keysToJson = (keys: OwnKeys): string => `${JSON.stringify({ format: FORMAT, version: 1, keys }, null, 2)}\n`;

/** Keys from a file; a sentence where it holds none. */
export function keysFromJson(text: string): OwnKeys | { readonly refusal: string } {
  try {
    const read = JSON.parse(text) as { format?: unknown; version?: unknown; keys?: unknown };
    const keys = read.format === FORMAT && read.version === 1 ? readable(read.keys) : undefined;
    if (keys) return keys;
  } catch {
    // Said below.
  }
  return { refusal: 'This file has no keys of Zest Jaw. Choose one that was taken out here, a JSON file.' };
}
