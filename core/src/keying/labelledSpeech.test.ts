/**
 * The plan on labelled speech: 48 lines of two synthetic voices, whose labels come from the
 * synthesiser and not from our reading (core/fixtures/speech/README.md).
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  FEELS,
  isVowel,
  keySounds,
  maybeArpabet,
  maybeDrawingOfGroup,
  SAMPLE_RATE,
  starterChart,
  type KeyedExposure,
  type SceneSound,
} from '../index.js';

const chart = starterChart('Test', 'brush');

function soundsOf(file: string): SceneSound[] {
  return readFileSync(join(__dirname, '../../fixtures/speech', file), 'utf8')
    .trim()
    .split('\n')
    .map((row) => row.split('\t') as [string, string, string])
    .filter(([, , label]) => label !== 'pau')
    .map(([from, to, label]) => ({
      symbol: maybeArpabet(label)!.symbol,
      from: Math.round(Number(from) * SAMPLE_RATE),
      to: Math.round(Number(to) * SAMPLE_RATE),
    }));
}

const lines = ['slt', 'kal16'].flatMap((voice) =>
  Array.from({ length: 24 }, (_, line) => soundsOf(`${voice}-${String(line).padStart(2, '0')}.lab`)),
);

const SHUT = ['rest', 'press', 'bite'].map((group) => maybeDrawingOfGroup(chart, group)!.id);

function keyed(sounds: readonly SceneSound[], fps: number, feel: string): ReturnType<typeof keySounds> {
  const lengthFrames = Math.ceil((sounds.at(-1)!.to / SAMPLE_RATE) * fps) + 8;
  const { rules } = FEELS.find(({ name }) => name === feel)!;
  return keySounds({ sounds, frameRate: { num: fps, den: 1 }, lengthFrames, chart, rules });
}

describe('on labelled speech', () => {
  it.each([24, 25, 30, 12])('every closure is seen at %i fps, by every feel that may break to ones', (fps) => {
    for (const feel of ['Crisp', 'Natural', 'Replacement'])
      for (const sounds of lines) expect(keyed(sounds, fps, feel).notShown).toEqual([]);
  });

  it('no vowel of two frames or more is said with the mouth shut, crisp, natural or limited', () => {
    let vowels = 0;
    for (const feel of ['Crisp', 'Natural', 'Limited'])
      for (const sounds of lines) {
        const { exposures } = keyed(sounds, 24, feel);
        for (const { symbol, from, to } of sounds) {
          const [first, last] = [(from / SAMPLE_RATE) * 24 - 1, (to / SAMPLE_RATE) * 24 - 1];
          if (!isVowel(symbol) || last - first < 2) continue;
          vowels += 1;
          const isOpen = (exposure: KeyedExposure): boolean =>
            !SHUT.includes(exposure.drawing) && exposure.from < last + 1 && exposure.to > first - 1;
          expect(exposures.some(isOpen)).toBe(true);
        }
      }
    expect(vowels).toBeGreaterThan(500);
  });

  it('a limit of changes is kept over every phrase, counted in drawings: two groups that share one do not change', () => {
    const few = {
      ...chart,
      drawings: chart.drawings.map((drawing) =>
        drawing.id === 'mid' ? { ...drawing, groups: ['mid', 'spread'] } : drawing.id === 'spread' ? { ...drawing, groups: [] } : drawing,
      ),
    };
    const sounds = 'IY EH IY EH AA IY EH IY EH'.split(' ').map((symbol, index): SceneSound => ({
      symbol,
      stress: 1,
      from: 12_000 + index * 4800,
      to: 12_000 + (index + 1) * 4800,
    }));
    const { rules } = FEELS.find(({ name }) => name === 'Replacement')!;
    const withLimit = (mostChanges: number): string[] =>
      keySounds({ sounds, frameRate: { num: 24, den: 1 }, lengthFrames: 56, chart: few, rules: { ...rules, mostChanges } }).exposures.map(
        ({ from, drawing }) => `${from} ${drawing}`,
      );
    expect(withLimit(5)).toEqual(withLimit(0));
    expect(withLimit(5).some((exposure) => exposure.endsWith('drop'))).toBe(true);
  });
});
