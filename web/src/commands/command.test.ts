/** The table of commands, and what is made of it. */
import { keyListOf, keyMapOf, keyParts, type Command } from './command.js';

const command = (id: string, keys: readonly string[], run = (): void => undefined): Command => ({
  id,
  title: `Do ${id}`,
  group: 'Time',
  keys,
  run,
});

it('answers each of its keys', () => {
  const run = jest.fn();
  const keys = keyMapOf([command('insert', ['Insert', 'Ctrl+Enter'], run)]);
  keys['Ctrl+Enter']!({} as KeyboardEvent);
  keys['Insert']!({} as KeyboardEvent);
  expect(run).toHaveBeenCalledTimes(2);
});

it('writes keys as they are printed', () => {
  expect(keyParts('Shift+Comma')).toEqual(['Shift', ',']);
  expect(keyParts('Ctrl+Shift+KeyV')).toEqual(['Ctrl', 'Shift', 'V']);
  expect(keyParts('Alt+Digit3')).toEqual(['Alt', '3']);
});

it('lists what has a key, the keycaps of drawings in one line', () => {
  const put = (key: string): Command => ({ ...command(`put:${key}`, [`Key${key}`]), group: 'Put mouths' });
  const list = keyListOf([put('Q'), put('W'), command('split', ['Slash']), command('unkeyed', [])]);
  expect(list.map(([group, entries]) => [group, entries.length])).toEqual([
    ['Put mouths', 2],
    ['Time', 1],
  ]);
  expect(list[0]![1][0]![0]).toEqual(['Q', 'W']);
});
