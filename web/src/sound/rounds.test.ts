/** What is heard when, round after round. */
import fc from 'fast-check';
import { goingOn, heardAt, lengthOfRound, period, soundsFrom, startOf, type Rounds } from './rounds.js';

const anyRounds: fc.Arbitrary<Rounds> = fc
  .record({
    from: fc.nat(100_000),
    length: fc.integer({ min: 2000, max: 200_000 }),
    slowness: fc.constantFrom(1, 2, 4, 8),
    gap: fc.constantFrom(0, 4800, 96_000),
    startsAt: fc.nat(1_000_000),
    first: fc.double({ min: 0, max: 0.99, noNaN: true }),
  })
  .map(({ length, first, ...rest }) => ({
    ...rest,
    to: rest.from + length,
    loop: true,
    firstSample: rest.from + Math.floor(length * first),
  }));

it('what is heard at a time is what was laid there: in any round, to a sample', () => {
  fc.assert(
    fc.property(anyRounds, fc.nat(40), fc.double({ min: 0, max: 0.999, noNaN: true }), (rounds, round, share) => {
      const within = Math.floor(lengthOfRound(rounds) * share);
      const sample = rounds.from + Math.floor(within / rounds.slowness);
      if (round === 0 && sample < rounds.firstSample) return;
      const at = startOf(rounds, round) + within;
      if (at < soundsFrom(rounds, round)) return;
      expect(heardAt(rounds, at)).toEqual({ kind: 'sound', round, sample });
    }),
  );
});

it('rounds follow one another without a hole that was not asked for', () => {
  fc.assert(
    fc.property(anyRounds, fc.nat(40), (rounds, round) => {
      expect(startOf(rounds, round + 1) - startOf(rounds, round)).toBe(lengthOfRound(rounds) + rounds.gap);
      expect(heardAt(rounds, startOf(rounds, round + 1)).kind).toBe('sound');
      if (rounds.gap > 0) expect(heardAt(rounds, startOf(rounds, round + 1) - 1)).toEqual({ kind: 'gap', round });
    }),
  );
});

it('once is once', () => {
  const once: Rounds = { from: 0, to: 4800, loop: false, slowness: 2, gap: 0, startsAt: 100, firstSample: 2400 };
  expect(heardAt(once, 4899)).toEqual({ kind: 'before' });
  expect(heardAt(once, 4900)).toEqual({ kind: 'sound', round: 0, sample: 2400 });
  expect(heardAt(once, 100 + period(once))).toEqual({ kind: 'over' });
});

it('goes on with other ends or at another speed from where it was', () => {
  fc.assert(
    fc.property(anyRounds, fc.nat(5), fc.integer({ min: -4000, max: 4000 }), fc.constantFrom(1, 2, 4, 8), (rounds, round, by, slowness) => {
      const at = startOf(rounds, round) + Math.floor(lengthOfRound(rounds) / 2);
      const before = heardAt(rounds, at);
      if (before.kind === 'before') return;
      for (const change of [{ to: rounds.to + by }, { from: Math.max(0, rounds.from - Math.abs(by)) }, { slowness }]) {
        if ('to' in change && change.to! <= rounds.from) continue;
        const next = goingOn(rounds, at, change);
        const after = heardAt(next, at);
        if (before.kind === 'sound' && before.sample >= next.from && before.sample < next.to)
          expect(after).toEqual({ kind: 'sound', round: 0, sample: before.sample });
        else expect(after).toEqual({ kind: 'sound', round: 0, sample: next.from });
      }
    }),
  );
});
