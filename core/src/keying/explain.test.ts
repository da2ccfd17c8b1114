import fc from 'fast-check';
import {
  compareWithCrib,
  explainExposure,
  explainFrame,
  keySounds,
  planTrack,
  starterChart,
  type KeyingJob,
  type SceneSound,
} from '../index.js';

const chart = starterChart('Test', 'brush');
/** “Stamps, please” at speed: more sounds than frames. */
const sounds: SceneSound[] = 'S T AE M P S P L IY Z'.split(' ').map((symbol, index) => ({
  symbol,
  ...(['AE', 'IY'].includes(symbol) ? { stress: 1 as const } : {}),
  from: 8000 + index * 2600,
  to: 8000 + (index + 1) * 2600,
}));
const job: KeyingJob = {
  sounds,
  frameRate: { num: 24, den: 1 },
  lengthFrames: 24,
  chart,
  rules: { leadFrames: 1, holdFrames: 2, strict: false },
};

describe('an exposure in ink', () => {
  it('is told what the rules would have had in its place, with their reasons', () => {
    const press = keySounds(job).exposures.find((exposure) => exposure.drawing === 'press')!;
    const inked = { ...job, ink: [{ from: press.from, to: press.to, drawing: 'ring' }] };
    expect(explainFrame(inked, press.from)).toBeUndefined();
    const { plan, loudness } = explainExposure(inked, { from: press.from, inked: true });
    expect(loudness).toBeUndefined();
    expect(plan!.drawing).toBe('press');
    expect(plan!.because).toMatch(/must be seen/);
  });
});

describe('an exposure keyed by loudness', () => {
  const levels = [0, 0, 0, 0, 0, 0, 0.95, 0.95, 0.95, 0.95, 0.95, 0.95, 0.3, 0.3, 0.3, 0.3, 0.3, 0.3, 0, 0, 0, 0, 0, 0];
  const loud: KeyingJob = {
    ...job,
    sounds: [],
    loudness: Float32Array.from(levels),
    rules: { ...job.rules, leadFrames: 0, holdFrames: 1, source: 'loudness' },
  };
  const told = (frame: number): string => explainExposure(loud, { from: frame, inked: false }).loudness!;

  it('is told by how loud it is, and by its place among the drawings that open', () => {
    expect(told(0)).toMatch(/silent there: the mouth rests/);
    expect(told(5)).toMatch(/lips close before they burst open/);
    expect(told(8)).toMatch(/95 % of the way from the floor to the peak: of the drawings that open, number (\d+) of \1 /);
    expect(told(15)).toMatch(/number [1-5] of \d+ by how open they are/);
    const hiss: KeyingJob = { ...loud, hiss: new Float32Array(24).fill(0.9) };
    expect(explainExposure(hiss, { from: 8, inked: false }).loudness).toMatch(/It hisses, 95 %.*that show the teeth/);
  });

  it('is told by the rules of its own phrase where it has some', () => {
    const mixed: KeyingJob = { ...job, loudness: loud.loudness!, phrases: [{ from: 0, to: 24_000, rules: loud.rules }] };
    expect(explainExposure(mixed, { from: 8, inked: false }).loudness).toMatch(/95 %/);
    expect(explainExposure(mixed, { from: 20, inked: false }).plan).toBeDefined();
  });
});

describe('why a mouth is here', () => {
  const { exposures } = keySounds(job);

  it('says for every exposure what it plays, and every other sound of the line is dropped beside some', () => {
    const told = new Set<number>();
    for (const exposure of exposures) {
      const why = explainFrame(job, exposure.from)!;
      expect([why.from, why.drawing]).toEqual([exposure.from, exposure.drawing]);
      expect(why.because).toMatch(/\.$/);
      for (const sound of why.plays) told.add(sound);
      for (const { sound, why: reason } of why.dropped) {
        told.add(sound);
        expect(reason.length).toBeGreaterThan(10);
      }
    }
    expect([...told].sort((a, b) => a - b)).toEqual(sounds.map((_, index) => index));
  });

  it('tells of lips that must be seen, and that leaving them out would lose them', () => {
    const press = exposures.find((exposure) => exposure.drawing === 'press')!;
    const why = explainFrame(job, press.from)!;
    expect(why.because).toMatch(/must be seen/);
    expect(why.alternatives.find((other) => other.drawing === null)!.sentence).toMatch(/lose lips that must be seen/);
  });

  it('knows no cheaper mouth than the one that is there', () => {
    fc.assert(
      fc.property(fc.nat(23), fc.integer({ min: 1, max: 3 }), fc.constantFrom(0, 0.3, 0.8), (frame, holdFrames, calm) => {
        const other = { ...job, rules: { ...job.rules, holdFrames, calm } };
        for (const { costsMore } of explainFrame(other, frame)!.alternatives) expect(costsMore).toBeGreaterThanOrEqual(-1e-9);
      }),
    );
  });

  it('says nothing of ink', () => {
    const inked = { ...job, ink: [{ from: 4, to: 9, drawing: 'drop' }] };
    expect(explainFrame(inked, 6)).toBeUndefined();
    expect(explainFrame(inked, 3)).toBeDefined();
    expect(planTrack(inked).stretches).toHaveLength(2);
  });
});

describe('the crib beside the hand', () => {
  const crib = [
    { from: 0, to: 8, drawing: 'rest' },
    { from: 8, to: 12, drawing: 'drop' },
    { from: 12, to: 20, drawing: 'press' },
  ];

  it('is the same as itself', () => {
    expect(compareWithCrib(crib, crib)).toEqual({ frames: 20, same: 1, matched: 3, meanOffset: 0, differs: [] });
    expect(compareWithCrib([], crib)).toMatchObject({ frames: 0, same: 1, matched: 0 });
  });

  it('counts frames that differ and how late the hand is', () => {
    const hand = [
      { from: 9, to: 14, drawing: 'drop' },
      { from: 14, to: 20, drawing: 'press' },
    ];
    expect(compareWithCrib(hand, crib)).toEqual({
      frames: 11,
      same: 9 / 11,
      matched: 2,
      meanOffset: 1.5,
      differs: [{ from: 12, to: 14 }],
    });
  });
});
