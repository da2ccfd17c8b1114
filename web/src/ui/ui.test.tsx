import { DEFAULT_SOUND_GROUPS, starterChart } from '@zest-jaw/core';
import { fireEvent, render } from '@testing-library/react';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { mostHeard } from '../scene/Readout.js';
import { Mouth } from '../mouth/Mouth.js';
import { nameOfKey, useKeys, type KeyMap } from './useKeys.js';

/** Contrast of two colours, 1 to 21 (WCAG 2.1, "contrast ratio" and "relative luminance"). */
function contrast(a: string, b: string): number {
  const luminance = (colour: string): number => {
    const [red, green, blue] = [1, 3, 5].map((at) => {
      const part = parseInt(colour.slice(at, at + 2), 16) / 255;
      return part <= 0.03928 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
    }) as [number, number, number];
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
  };
  const [dark, light] = [luminance(a), luminance(b)].sort((x, y) => x - y) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

describe('the colours', () => {
  const css = readFileSync(join(__dirname, '../styles.css'), 'utf8');
  const tokens = (block: string): Record<string, string> =>
    Object.fromEntries([...block.matchAll(/--([a-z-]+): (#[0-9a-f]{6});/g)].map((match) => [match[1]!, match[2]!]));
  const [day, night] = [tokens(css.split("[data-theme='night']")[0]!), tokens(css.split("[data-theme='night']")[1]!)];

  it.each([
    ['by day', day],
    ['by night', night],
  ])('of every text on its ground reach 4.5 to 1 %s', (_, theme) => {
    const pairs = [
      ['ink', 'paper'],
      ['ink', 'sheet'],
      ['ink', 'lift'],
      ['ink', 'word'],
      ['ink', 'zest-soft'],
      ['ink-soft', 'paper'],
      ['ink-soft', 'sheet'],
      ['ink-soft', 'lift'],
      ['on-ink', 'ink'],
      ['on-zest', 'zest'],
      ['on-ground', 'ground'],
      ['bad', 'sheet'],
      ['bad', 'paper'],
    ] as const;
    const tooLow = pairs.filter(([text, ground]) => contrast(theme[text]!, theme[ground]!) < 4.5);
    expect(tooLow).toEqual([]);
  });

  it('of the sound groups are each their own, and none is the only sign: every group has a mouth', () => {
    expect(new Set(DEFAULT_SOUND_GROUPS.map((group) => group.colour)).size).toBe(13);
    const chart = starterChart('Test', 'brush');
    for (const group of DEFAULT_SOUND_GROUPS) expect(chart.drawings.some((drawing) => drawing.groups.includes(group.id))).toBe(true);
  });
});

describe('keys', () => {
  const key = (changes: Partial<Parameters<typeof nameOfKey>[0]>) =>
    nameOfKey({ code: 'KeyZ', key: 'z', ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...changes });

  it('go by their place, with Ctrl standing for the command key', () => {
    expect(key({})).toBe('KeyZ');
    expect(key({ metaKey: true, shiftKey: true })).toBe('Ctrl+Shift+KeyZ');
    // On a French keyboard the key in Q's place writes an a.
    expect(key({ code: 'KeyQ', key: 'a' })).toBe('KeyQ');
    expect(key({ code: 'Slash', key: '?', shiftKey: true })).toBe('?');
  });

  function Page({ keys }: { keys: KeyMap }) {
    useKeys(keys);
    return (
      <>
        <input aria-label="field" />
        <button type="button">press</button>
      </>
    );
  }

  it('leave text fields alone, leave Space to a focused button, and end with the page', () => {
    const heard: string[] = [];
    const keys = { KeyQ: () => heard.push('Q'), Space: () => heard.push('space') };
    const { getByLabelText, getByText, unmount } = render(<Page keys={keys} />);
    fireEvent.keyDown(getByLabelText('field'), { code: 'KeyQ', key: 'q' });
    fireEvent.keyDown(getByText('press'), { code: 'Space', key: ' ' });
    expect(heard).toEqual([]);
    fireEvent.keyDown(getByText('press'), { code: 'KeyQ', key: 'q' });
    fireEvent.keyDown(document.body, { code: 'Space', key: ' ' });
    expect(heard).toEqual(['Q', 'space']);
    unmount();
    fireEvent.keyDown(document.body, { code: 'KeyQ', key: 'q' });
    expect(heard).toHaveLength(2);
  });
});

describe('small parts', () => {
  it('a mouth is drawn with clip paths of its own', () => {
    const chart = starterChart('Test', 'brush');
    const { container } = render(
      <>
        <Mouth chart={chart} drawing={chart.drawings[10]!} />
        <Mouth chart={chart} drawing={chart.drawings[10]!} />
      </>,
    );
    const ids = [...container.querySelectorAll('clipPath')].map((clip) => clip.id);
    expect(ids.length).toBeGreaterThanOrEqual(2);
    expect(new Set(ids).size).toBe(ids.length);
  });

  it('the word of a frame is the one that fills most of it', () => {
    const words = [
      { from: 0, to: 5.3 },
      { from: 5.3, to: 9 },
    ];
    expect(mostHeard(words, 5)).toBe(words[1]);
    expect(mostHeard(words, 4)).toBe(words[0]);
    expect(mostHeard(words, 9)).toBeUndefined();
  });
});
