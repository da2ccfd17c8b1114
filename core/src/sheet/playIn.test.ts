/** Mouths played in: made of presses whose true times are known. */
import fc from 'fast-check';
import {
  exposuresOfTrack,
  isRefusal,
  layPlayed,
  meantAt,
  playedMouths,
  reactionTo,
  type KeyPress,
  type PlayedMouth,
  type PlayInRules,
  type Reaction,
} from '../index.js';
import { countedIds, emptyScene, testPatch } from '../testing/testPatch.js';

const rules: PlayInRules = { after: 'holds', grid: 1, rest: 'rest' };
const run = { from: 0, to: 48 };
const press = (drawing: string, down: number, up = down + 1): KeyPress => ({ drawing, down, up });
const told = (mouths: readonly PlayedMouth[]): string => mouths.map(({ drawing, from, to }) => `${drawing} ${from}-${to}`).join(', ');

describe('a run', () => {
  it('holds each mouth to the next press, and the last to the end of the run', () => {
    expect(told(playedMouths([], [press('drop', 4.2), press('ring', 9.6), press('rest', 30)], run, rules))).toBe(
      'drop 4-10, ring 10-30, rest 30-48',
    );
  });
  it('or goes to rest when a keycap is let go', () => {
    expect(told(playedMouths([], [press('drop', 4, 7), press('ring', 9, 12)], run, { ...rules, after: 'rests' }))).toBe(
      'drop 4-7, rest 7-9, ring 9-12, rest 12-48',
    );
  });
  it('lays its mouths on the grid of the hold, each for a hold at least', () => {
    expect(told(playedMouths([], [press('drop', 4.9, 5), press('ring', 10.4)], run, { ...rules, grid: 2 }))).toBe('drop 4-10, ring 10-48');
    expect(told(playedMouths([], [press('drop', 6, 6.1)], run, { ...rules, grid: 2, after: 'rests' }))).toBe('drop 6-8, rest 8-48');
  });
  it('over an earlier one replaces only where one pressed', () => {
    const first = playedMouths([], [press('drop', 4), press('ring', 12), press('rest', 20)], run, rules);
    expect(told(playedMouths(first, [press('tip', 13, 14)], run, rules))).toBe('drop 4-12, ring 12-13, tip 13-20, rest 20-48');
    // Held down it replaces what passes.
    expect(told(playedMouths(first, [press('tip', 6, 15)], run, rules))).toBe('drop 4-6, tip 6-20, rest 20-48');
  });
  it('never overlaps, never leaves the run, whatever was pressed', () => {
    const anyPress = fc.tuple(
      fc.constantFrom('a', 'b', 'c'),
      fc.double({ min: -5, max: 60, noNaN: true }),
      fc.double({ min: 0, max: 20, noNaN: true }),
    );
    fc.assert(
      fc.property(
        fc.array(fc.array(anyPress, { maxLength: 8 }), { maxLength: 3 }),
        fc.constantFrom(1, 2, 3),
        fc.boolean(),
        (runs, grid, rests) => {
          const mouths = runs.reduce<readonly PlayedMouth[]>((before, presses) => {
            const sorted = presses.map(([drawing, down, length]) => ({ drawing, down, up: down + length })).sort((a, b) => a.down - b.down);
            return playedMouths(before, sorted, run, { ...rules, grid, after: rests ? 'rests' : 'holds' });
          }, []);
          mouths.forEach(({ from, to }, index) => {
            expect(from).toBeLessThan(to);
            expect(from).toBeGreaterThanOrEqual(mouths[index - 1]?.to ?? run.from);
            expect(to).toBeLessThanOrEqual(run.to);
          });
        },
      ),
    );
  });
});

describe('the hand', () => {
  /** Presses of a hand that is so late, and so unsteady, at a speed: how far from where they were meant they are laid, in frames. */
  function errors({
    lateMs,
    jitterMs,
    slowness,
    correctedMs,
  }: {
    lateMs: number;
    jitterMs: number;
    slowness: number;
    correctedMs: number;
  }): number[] {
    let state = 4711;
    const chance = (): number => (state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32;
    // The sum of twelve is near enough to normal.
    const normal = (): number => Array.from({ length: 12 }, chance).reduce((sum, one) => sum + one, -6);
    return Array.from({ length: 4000 }, (_, index) => {
      const meant = 10 + index * 7.3;
      const came = meant + (((lateMs + jitterMs * normal()) / 1000) * 24) / slowness;
      return Math.abs(meantAt(came, { reactionMs: correctedMs, slowness, framesPerSecond: 24 }) - meant);
    });
  }
  it('is laid within half a frame of where it was meant when it is exact, at every speed', () => {
    for (const slowness of [1, 2, 4]) {
      const off = errors({ lateMs: 180, jitterMs: 0, slowness, correctedMs: 180 });
      expect(off.filter((error) => error <= 0.5).length / off.length).toBeGreaterThanOrEqual(0.95);
    }
    // Not corrected it is more than four frames late.
    expect(Math.min(...errors({ lateMs: 180, jitterMs: 0, slowness: 1, correctedMs: 0 }))).toBeGreaterThan(4);
  });
  it('jittered by 60 ms is off by about 1.15 frames on average, at half speed by half of that', () => {
    const mean = (values: number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
    const [full, half] = [1, 2].map((slowness) => mean(errors({ lateMs: 180, jitterMs: 60, slowness, correctedMs: 180 })));
    // The mean distance of a normal spread is √(2/π) of it: 60 ms × 24 × 0.798 = 1.149 frames.
    expect(full).toBeCloseTo(1.149, 1);
    expect(half).toBeCloseTo(full! / 2, 5);
  });
  it('is measured by claps: the median of its delays, whatever is missed or tapped twice', () => {
    const claps = Array.from({ length: 12 }, (_, index) => index * 1100);
    const taps = claps.map((clap, index) => clap + 200 + (index % 3) * 10);
    expect(reactionTo(claps, taps)).toEqual({ medianMs: 210, spreadMs: 10, answered: 12 });
    const untidy = [...taps.slice(2), 5000.5, 5600];
    expect((reactionTo(claps, untidy) as Reaction).medianMs).toBeCloseTo(210, -1);
    const few = reactionTo(claps, taps.slice(6));
    expect(isRefusal(few) && few.refusal).toContain('6 of 12');
  });
});

it('lays what was played in over the lane, as ink, in one step', () => {
  const scene = emptyScene(48);
  const [rest] = exposuresOfTrack(scene, 'mouth1');
  const after = testPatch(
    scene,
    layPlayed(
      scene,
      'mouth1',
      [
        { drawing: 'drop', from: 4, to: 8 },
        { drawing: 'ring', from: 8, to: 20 },
      ],
      countedIds('n'),
    ),
  );
  expect(exposuresOfTrack(after, 'mouth1').map(({ drawing, from, to, inked }) => [drawing, from, to, inked])).toEqual([
    [rest!.drawing, 0, 4, false],
    ['drop', 4, 8, true],
    ['ring', 8, 20, true],
    [rest!.drawing, 20, 48, false],
  ]);
  expect(isRefusal(layPlayed(scene, 'mouth1', [], countedIds()))).toBe(true);
});
