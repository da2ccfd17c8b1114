/** What can be done on a page: one table, of which keys, the list of commands, menus and the page of keys are made. */
import type { KeyMap } from '../ui/useKeys.js';

export const GROUPS = ['Hear', 'Choose frames', 'Put mouths', 'Change mouths', 'Change words', 'Time', 'Look', 'Whole scene'] as const;
export type CommandGroup = (typeof GROUPS)[number];

export interface Command {
  readonly id: string;
  /** What it does, as a person would say it. */
  readonly title: string;
  readonly group: CommandGroup;
  /** The keys that do it, by their place on the keyboard (`useKeys`); none for one that is only listed. */
  readonly keys: readonly string[];
  /** Words somebody may look for it by. */
  readonly also?: string;
  /** Why it cannot be done now; undefined when it can. */
  readonly closed?: string | undefined;
  readonly run: (event?: KeyboardEvent) => void;
}

/** The keys of commands. One that is closed still answers, for it says why. */
export function keyMapOf(commands: readonly Command[]): KeyMap {
  return Object.fromEntries(commands.flatMap(({ keys, run }) => keys.map((key) => [key, run] as const)));
}

/** Keys by what they are for: the keys, a word on each. */
export type KeyList = readonly (readonly [title: string, entries: readonly (readonly [keys: readonly string[], text: string])[]])[];

/** The page of keys. What has a key for each drawing is one line: the tray shows them. */
export function keyListOf(commands: readonly Command[]): KeyList {
  return GROUPS.map((group) => {
    const own = commands.filter((command) => command.group === group && command.keys.length > 0);
    const put = own.filter(({ id }) => id.startsWith('put:')).flatMap(({ keys }) => keyParts(keys[0]!));
    const perDrawing = own.filter(({ id }) => id.includes(':'));
    return [
      group,
      [
        ...(put.length > 0
          ? [
              [put, 'A mouth of the tray, in ink; over all that is selected where something is'] as const,
              [['Shift', put[0]!, '…'], 'It takes the place of the one at the playhead, all through the selection or the lane'] as const,
            ]
          : []),
        ...own.filter((command) => !perDrawing.includes(command)).map(({ keys, title }) => [keyParts(keys[0]!), title] as const),
      ],
    ] as const;
  }).filter(([, entries]) => entries.length > 0);
}

/** Names of keys that are not letters. */
const KEY_NAMES: Readonly<Record<string, string>> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  Semicolon: ';',
  Quote: "'",
  Comma: ',',
  Period: '.',
  Slash: '/',
  Backslash: '\\',
  BracketLeft: '[',
  BracketRight: ']',
  Minus: '−',
  Equal: '=',
  Escape: 'Esc',
};

/** A key as it is printed on a keyboard: `Shift+KeyI` is Shift and I. */
export function keyParts(key: string): string[] {
  return key.split('+').map((part) => KEY_NAMES[part] ?? part.replace(/^(Key|Digit)/, ''));
}
