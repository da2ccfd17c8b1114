/** What a feel adds to a plan: in-betweens, holds that settle, breaths; and what it never takes. */
import fc from 'fast-check';
import { exposuresOfTrack, FEELS, keySounds, madeOf, maybeDrawing, maybeFeel, type KeyedExposure, type KeyingJob } from '../index.js';
import { anyJob } from '../testing/anyJob.js';
import { LINE, spokenScene } from '../testing/spokenScene.js';
import { TEST_CHART } from '../testing/testPatch.js';

const FULL = FEELS.find(({ name }) => name === 'Full')!;
const musts = new Set(TEST_CHART.groups.flatMap(({ id, must }) => (must ? [id] : [])));
const isMust = (id: string): boolean => maybeDrawing(TEST_CHART, id)?.groups.some((group) => musts.has(group)) ?? false;
/** What each frame shows; undefined under ink. */
function byFrame({ lengthFrames }: KeyingJob, exposures: readonly KeyedExposure[]): (string | undefined)[] {
  const frames = new Array<string | undefined>(lengthFrames).fill(undefined);
  for (const { from, to, drawing } of exposures) frames.fill(drawing, from, to);
  return frames;
}

const ADDS = { betweens: 0.8, settlesHolds: true, breathAfter: 0.5 } as const;
const plainly = (job: KeyingJob): KeyingJob => ({ ...job, rules: { ...job.rules, betweens: 0, settlesHolds: false, breathAfter: 0 } });

describe('what a feel adds', () => {
  it('takes no frame of a mouth that must be seen, adds none to it, and covers what was covered', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const plain = keySounds(plainly(job));
        const added = keySounds({ ...job, rules: { ...job.rules, ...ADDS } });
        const [was, is] = [byFrame(job, plain.exposures), byFrame(job, added.exposures)];
        was.forEach((drawing, frame) => {
          expect(is[frame] === undefined).toBe(drawing === undefined);
          if (drawing === undefined) return;
          if (isMust(drawing)) expect(is[frame]).toBe(drawing);
          else expect(isMust(is[frame]!)).toBe(false);
        });
        expect(added.notShown).toEqual(plain.notShown);
        for (const [index, one] of added.exposures.entries()) {
          expect(one.from).toBeLessThan(one.to);
          if (index > 0) expect(one.from).toBeGreaterThanOrEqual(added.exposures[index - 1]!.to);
        }
        // What it adds plays nothing, and what it shortens keeps what it plays.
        expect(added.exposures.flatMap(({ plays }) => plays).sort()).toEqual(plain.exposures.flatMap(({ plays }) => plays).sort());
      }),
      { numRuns: 150 },
    );
  });

  it('holds what it adds for one hold, and leaves what it takes from at least one', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const { exposures } = keySounds({ ...job, rules: { ...job.rules, ...ADDS, breathAfter: 0 } });
        exposures.forEach(({ from, to, drawing }, index) => {
          const { mix, push } = madeOf(drawing);
          if (!mix && !push) return;
          expect(to - from).toBe(job.rules.holdFrames);
          const next = exposures[index + 1]!;
          expect(next.from).toBe(to);
          expect(next.to - next.from).toBeGreaterThanOrEqual(job.rules.holdFrames);
        });
      }),
      { numRuns: 150 },
    );
  });

  it('a mouth that opens far gets an in-between of the two, at the feel’s own measure', () => {
    const lane = exposuresOfTrack(spokenScene(LINE, { rules: FULL.rules }), 'mouth1');
    const betweens = lane.filter(({ drawing }) => madeOf(drawing).mix && !madeOf(drawing).push);
    expect(betweens.length).toBeGreaterThan(0);
    for (const between of betweens) {
      const at = lane.indexOf(between);
      const { a, b } = madeOf(between.drawing).mix!;
      // A breath is made of rest and the widest mouth, and is not one of these.
      if (lane[at - 1]!.drawing === 'rest' && lane[at + 1]!.drawing === 'rest') continue;
      expect([lane[at - 1]!.drawing, lane[at + 1]!.drawing].map((id) => madeOf(id).plain)).toEqual([a, b]);
    }
    const natural = exposuresOfTrack(spokenScene(LINE), 'mouth1');
    expect(natural.every(({ drawing }) => madeOf(drawing).plain === drawing && !madeOf(drawing).mix)).toBe(true);
  });

  it('a rest before a phrase ends in a breath, from so many seconds on', () => {
    const breaths = (breathAfter: number): number => {
      const lane = exposuresOfTrack(spokenScene(LINE, { rules: { ...FEELS[1]!.rules, breathAfter } }), 'mouth1');
      return lane.filter(({ drawing, plays }, index) => {
        const { mix } = madeOf(drawing);
        return mix && plays.length === 0 && lane[index - 1]!.drawing === 'rest';
      }).length;
    };
    // Pauses of 0.9 and 0.7 s lie between the phrases.
    expect(breaths(0)).toBe(0);
    expect(breaths(0.4)).toBeGreaterThan(breaths(5));
  });

  it('a long hold of an open mouth begins larger and settles', () => {
    const lane = exposuresOfTrack(spokenScene('ah=AA700 -=500', { rules: { ...FEELS[1]!.rules, settlesHolds: true } }), 'mouth1');
    const at = lane.findIndex(({ drawing }) => madeOf(drawing).push);
    expect(at).toBeGreaterThan(-1);
    expect(madeOf(lane[at]!.drawing).plain).toBe(lane[at + 1]!.drawing);
    expect(lane[at]!.to - lane[at]!.from).toBe(2);
  });

  it('is a feel of its own', () => expect(maybeFeel(FULL.rules)).toBe(FULL));
});
