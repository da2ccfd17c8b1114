/** Phrases keyed by rules of their own, in a track that goes by others. */
import fc from 'fast-check';
import {
  fullRules,
  keySounds,
  maybeFeel,
  maybeGroupOfPhoneme,
  rulesOfSounds,
  starterChart,
  explainFrame,
  FEELS,
  type KeyedExposure,
  type KeyingJob,
  type SceneSound,
} from '../index.js';
import { mixedJob } from '../testing/anyJob.js';

const chart = starterChart('Test', 'brush');
const NATURAL = FEELS.find(({ name }) => name === 'Natural')!.rules;
const feel = (name: string): typeof NATURAL => FEELS.find((one) => one.name === name)!.rules;

/** “Stamps, please” three times over, a second of silence between. */
const said = (at: number): SceneSound[] =>
  'S T AE M P S P L IY Z'.split(' ').map((symbol, index) => ({
    symbol,
    ...(['AE', 'IY'].includes(symbol) ? { stress: 1 as const } : {}),
    from: at + index * 3000,
    to: at + (index + 1) * 3000,
  }));
const sounds = [12_000, 90_000, 168_000].flatMap(said);
const job: KeyingJob = { sounds, frameRate: { num: 24, den: 1 }, lengthFrames: 108, chart, rules: NATURAL };
/** The second time, with the silence around it. */
const SECOND = { from: 66_000, to: 144_000 };
const inside = ({ from, to }: { from: number; to: number }, exposures: readonly KeyedExposure[]): KeyedExposure[] =>
  exposures.filter((exposure) => exposure.from < to && exposure.to > from);

describe('a phrase with rules of its own', () => {
  it('is keyed as a whole track would be by them, and the phrases around it as before', () => {
    const before = keySounds(job).exposures;
    for (const { name, rules } of FEELS) {
      const mixed = keySounds({ ...job, phrases: [{ ...SECOND, rules }] }).exposures;
      const wholly = keySounds({ ...job, rules }).exposures;
      // From the opening on; a rest before it may begin as the rules before it say.
      const own = (exposures: readonly KeyedExposure[]): KeyedExposure[] =>
        inside({ from: 40, to: 60 }, exposures).filter(({ from }) => from >= 40);
      expect({ name, keyed: own(mixed) }).toEqual({ name, keyed: own(wholly) });
      expect(inside({ from: 0, to: 22 }, mixed)).toEqual(inside({ from: 0, to: 22 }, before));
      expect(inside({ from: 82, to: 108 }, mixed).slice(1)).toEqual(inside({ from: 82, to: 108 }, before).slice(1));
    }
  });

  it('changes something: crisp has more changes there than natural, replacement fewer', () => {
    const changes = (name: string): number =>
      inside({ from: 43, to: 61 }, keySounds({ ...job, phrases: [{ ...SECOND, rules: feel(name) }] }).exposures).length;
    expect(changes('Crisp')).toBeGreaterThan(changes('Natural'));
    expect(changes('Replacement')).toBeLessThan(changes('Natural'));
  });

  it('keeps the hold of its phrase for every exposure that begins in it, and that of its track elsewhere', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 4 }), (track, phrase) => {
        const keyed = keySounds({
          ...job,
          rules: { ...NATURAL, holdFrames: track },
          phrases: [{ ...SECOND, rules: { ...NATURAL, holdFrames: phrase } }],
        }).exposures;
        for (const { from, to, drawing } of keyed) {
          if (['press', 'bite'].includes(drawing)) continue;
          expect(to - from).toBeGreaterThanOrEqual(
            from > 42 && from < 60 ? phrase : from < 22 || from > 80 ? track : Math.min(track, phrase),
          );
        }
      }),
    );
  });

  it('changes only with the body where it is strict', () => {
    const keyed = keySounds({
      ...job,
      rules: { ...NATURAL, holdFrames: 1 },
      phrases: [{ ...SECOND, rules: { ...NATURAL, holdFrames: 3, strict: true } }],
    }).exposures;
    const within = inside({ from: 43, to: 58 }, keyed).filter(({ from }) => from >= 43);
    expect(within.length).toBeGreaterThan(1);
    for (const { from } of within) expect(from % 3).toBe(0);
    expect(keyed.some(({ from }) => from % 3 !== 0)).toBe(true);
  });
});

describe('a phrase keyed by loudness', () => {
  const loudness = new Float32Array(108).fill(0);
  for (let frame = 36; frame < 72; frame++) loudness[frame] = frame % 9 < 5 ? 0.95 : 0;
  const rules = { ...NATURAL, source: 'loudness' as const };
  const mixed: KeyingJob = { ...job, loudness, hiss: new Float32Array(108), phrases: [{ ...SECOND, rules }] };

  it('has mouths as open as it is loud, that play no sounds, and leaves the rest to the plan', () => {
    const { exposures } = keySounds(mixed);
    for (const { from, plays } of inside({ from: 36, to: 70 }, exposures)) if (from >= 34) expect(plays).toEqual([]);
    expect(new Set(exposures.flatMap(({ plays }) => plays))).toEqual(
      new Set(
        sounds
          .flatMap((_, index) => (index < 10 || index >= 20 ? [index] : []))
          .filter((index) => exposures.some(({ plays }) => plays.includes(index))),
      ),
    );
    const at = (frame: number): string => exposures.find(({ from, to }) => frame >= from && frame < to)!.drawing;
    expect(at(38)).toBe('drop');
    expect(at(43)).not.toBe('drop');
    expect(at(47)).toBe('drop');
    expect(inside({ from: 0, to: 20 }, exposures)).toEqual(inside({ from: 0, to: 20 }, keySounds(job).exposures));
  });

  it('covers the scene with no gap, misses no lips in it, and is explained around it only', () => {
    const { exposures, notShown } = keySounds(mixed);
    let end = 0;
    for (const { from, to } of exposures) {
      expect(from).toBe(end);
      end = to;
    }
    expect(end).toBe(108);
    expect(notShown).toEqual([]);
    expect(explainFrame(mixed, 10)).toBeDefined();
    expect(explainFrame(mixed, 46)).toBeUndefined();
  });

  it('has a floor and a peak of its own', () => {
    const own = loudness.map((level) => level / 3);
    const softer = keySounds({ ...mixed, phrases: [{ ...SECOND, rules, loudness: own }] }).exposures;
    expect(softer.some(({ drawing, plays, from }) => drawing === 'drop' && plays.length === 0 && from >= 34 && from < 70)).toBe(false);
  });

  it('stands in a track keyed by loudness the other way round: the phrase from its sounds', () => {
    const turned: KeyingJob = { ...mixed, rules, phrases: [{ ...SECOND, rules: NATURAL }] };
    const { exposures } = keySounds(turned);
    expect(inside({ from: 0, to: 20 }, exposures).every(({ drawing, plays }) => drawing === 'rest' && plays.length === 0)).toBe(true);
    expect(inside({ from: 43, to: 61 }, exposures).flatMap(({ plays }) => plays).length).toBeGreaterThan(3);
  });
});

describe('phrases of any rules, in any speech', () => {
  it('cover the scene with the ink, no gap and no overlap, twice the same', () => {
    fc.assert(
      fc.property(mixedJob, (mixed) => {
        const keyed = keySounds(mixed);
        const spans = [...keyed.exposures, ...(mixed.ink ?? [])].sort((a, b) => a.from - b.from);
        let end = 0;
        for (const { from, to } of spans) {
          expect(from).toBe(end);
          expect(to).toBeGreaterThan(from);
          end = to;
        }
        expect(end).toBe(mixed.lengthFrames);
        expect(keySounds(mixed)).toEqual(keyed);
      }),
    );
  });

  it('show every closure that is planned from its sound, or say which one could not be', () => {
    fc.assert(
      fc.property(mixedJob, (mixed) => {
        const { exposures, notShown } = keySounds(mixed);
        const shown = [...exposures, ...(mixed.ink ?? [])];
        const excused = new Set(notShown.map(({ sound }) => sound));
        const perSample = mixed.frameRate.num / mixed.frameRate.den / 48_000;
        rulesOfSounds(mixed).forEach((rules, index) => {
          const sound = mixed.sounds[index]!;
          const group = maybeGroupOfPhoneme(mixed.chart.groups, sound.symbol);
          if (!group?.must || rules.source === 'loudness') return;
          const first = Math.ceil(sound.from * perSample - rules.leadFrames - 1);
          const isSeen = shown.some((span) => span.drawing === group.id && span.to > first && span.from < sound.to * perSample);
          if (!isSeen) expect(excused).toContain(index);
        });
      }),
    );
  });
});

it('knows each feel by its rules, also when they are not all said', () => {
  for (const one of FEELS) expect(maybeFeel(one.rules)?.name).toBe(one.name);
  expect(maybeFeel(fullRules({ leadFrames: 1, holdFrames: 2, strict: false }))?.name).toBe('Natural');
});
