import fc from 'fast-check';
import { keySounds, measureLook, starterChart, type KeyingJob } from '../index.js';

const chart = starterChart('Test', 'brush');
const opening = new Map(chart.drawings.map((drawing) => [drawing.id, measureLook(drawing).opening]));

const job = (levels: readonly number[], rules: Partial<KeyingJob['rules']> = {}): KeyingJob => ({
  sounds: [],
  frameRate: { num: 24, den: 1 },
  lengthFrames: levels.length,
  chart,
  loudness: Float32Array.from(levels),
  rules: { leadFrames: 0, holdFrames: 1, strict: false, source: 'loudness', ...rules },
});
/** The drawing of every frame. */
const shown = (keying: KeyingJob): string[] =>
  keySounds(keying).exposures.flatMap(({ from, to, drawing }) => Array.from({ length: to - from }, () => drawing));

describe('keying by loudness', () => {
  it('rests in silence and opens wider the louder it is, by measure', () => {
    const ramp = shown(job(Array.from({ length: 40 }, (_, frame) => frame / 39)));
    expect(ramp[0]).toBe('rest');
    const openings = ramp.map((id) => opening.get(id)!);
    for (let frame = 4; frame < ramp.length; frame++) expect(openings[frame]!).toBeGreaterThanOrEqual(openings[frame - 1]! - 1e-9);
    expect(ramp.at(-1)).toBe(chart.drawings.reduce((widest, { id }) => (opening.get(id)! > opening.get(widest)! ? id : widest), 'rest'));
  });

  it('closes the lips on the frame before a sudden rise', () => {
    const burst = shown(job([...Array<number>(10).fill(0.02), ...Array<number>(10).fill(0.9)]));
    expect(burst[9]).toBe('press');
    expect(burst[10]).not.toBe('press');
  });

  it('closes slowly, and does not flutter between two drawings', () => {
    const falls = shown(job([...Array<number>(6).fill(0.9), ...Array<number>(14).fill(0)]));
    expect(opening.get(falls[6]!)!).toBeGreaterThan(0);
    expect(falls.at(-1)).toBe('rest');
    const trembling = shown(job(Array.from({ length: 40 }, (_, frame) => 0.5 + 0.01 * (frame % 2))));
    expect(new Set(trembling).size).toBe(1);
  });

  it('shows the teeth where it hisses, and not where the same loudness is voice', () => {
    const levels = Array<number>(12).fill(0.7);
    const hissing = shown({ ...job(levels), hiss: Float32Array.from(levels, (_, frame) => (frame >= 4 && frame < 8 ? 0.9 : 0.1)) });
    for (let frame = 0; frame < 12; frame++) expect(['teeth', 'push'].includes(hissing[frame]!)).toBe(frame >= 4 && frame < 8);
  });

  it('leads the sound', () => {
    const levels = [...Array<number>(10).fill(0), ...Array<number>(10).fill(0.3)];
    const first = (lead: number): number => shown(job(levels, { leadFrames: lead })).findIndex((id) => id !== 'rest' && id !== 'press');
    expect(first(0) - first(2)).toBe(2);
  });

  it('keeps holds and ink, and covers the scene', () => {
    fc.assert(
      fc.property(
        fc.array(fc.float({ min: 0, max: 1, noNaN: true }), { minLength: 4, maxLength: 80 }),
        fc.integer({ min: 1, max: 4 }),
        fc.boolean(),
        fc.option(fc.nat(60), { nil: undefined }),
        (levels, holdFrames, strict, at) => {
          const ink = at === undefined || at + 2 > levels.length ? [] : [{ from: at, to: at + 2, drawing: 'drop' }];
          const { exposures } = keySounds({ ...job(levels, { holdFrames, strict }), ink });
          let end = 0;
          for (const span of [...exposures, ...ink].sort((a, b) => a.from - b.from)) {
            expect(span.from).toBe(end);
            end = span.to;
          }
          expect(end).toBe(levels.length);
          const walls = new Set([0, levels.length, ...ink.flatMap((span) => [span.from, span.to])]);
          for (const { from, to, drawing } of exposures)
            if (drawing !== 'press' && !walls.has(from) && !walls.has(to)) expect(to - from).toBeGreaterThanOrEqual(holdFrames);
        },
      ),
    );
  });
});
