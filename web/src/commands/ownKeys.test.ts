/** Keys as one person likes them. */
import type { Command } from './command.js';
import { giveBack, giveKey, keysFromJson, keysToJson, maybeClash, ownKeys, refusalOfKey, withOwnKeys } from './ownKeys.js';

const command = (id: string, ...keys: string[]): Command => ({ id, title: id, group: 'Time', keys, run: () => undefined });
const table = [command('split', 'Slash'), command('join', 'Backslash'), command('put:drop', 'KeyZ')];
const now = (): readonly Command[] => withOwnKeys(table, ownKeys.getState().keys);
const keysOf = (id: string): readonly string[] => now().find((one) => one.id === id)!.keys;

beforeEach(() => ownKeys.setState({ keys: {} }));

it('gives a key, takes it from whoever had it, and gives it back', () => {
  expect(maybeClash(now(), { id: 'split', key: 'Backslash' })?.id).toBe('join');
  giveKey(now(), { id: 'split', key: 'Backslash' });
  expect([keysOf('split'), keysOf('join')]).toEqual([['Backslash'], []]);
  giveBack('split');
  expect(keysOf('split')).toEqual(['Slash']);
  giveBack('join');
  expect(keysOf('join')).toEqual(['Backslash']);
});

it('leaves the keycaps of drawings to their chart, though a key given goes before them', () => {
  giveKey(now(), { id: 'split', key: 'KeyZ' });
  expect([keysOf('split'), keysOf('put:drop')]).toEqual([['KeyZ'], []]);
  giveBack('split');
  expect(keysOf('put:drop')).toEqual(['KeyZ']);
});

it('refuses keys that mean the same everywhere, and modifiers alone', () => {
  expect(refusalOfKey('Escape')).toContain('everywhere');
  expect(refusalOfKey('Shift+ShiftLeft')).toContain('Press a key');
  expect(refusalOfKey('Ctrl+Alt+KeyJ')).toBeUndefined();
});

it('goes out and comes in as JSON, and says when a file holds no keys', () => {
  giveKey(now(), { id: 'split', key: 'F4' });
  const text = keysToJson(ownKeys.getState().keys);
  expect(keysFromJson(text)).toEqual({ split: ['F4'] });
  for (const bad of ['', '{}', '[]', text.replace('zest-jaw', 'other'), text.replace('"F4"', '7'), text.replace('"F4"', '"no key"')])
    expect(keysFromJson(bad)).toHaveProperty('refusal');
});
