import fc from 'fast-check';
import { anyJob, anySounds } from '../testing/anyJob.js';
import {
  checkRules,
  DEFAULT_RULES,
  drawingForGroup,
  keySounds,
  maybeGroupOfPhoneme,
  SAMPLE_RATE,
  starterChart,
  type ChartDocument,
  type KeyingJob,
  type OnesFor,
  type SceneSound,
} from '../index.js';

const chart = starterChart('Test', 'brush');

const withoutInk = anyJob.map((job) => ({ ...job, ink: [] }));

describe('keying by the plan', () => {
  it('covers the scene, with the ink, with no gap and no overlap', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const spans = [...keySounds(job).exposures, ...(job.ink ?? [])].sort((a, b) => a.from - b.from);
        let end = 0;
        for (const span of spans) {
          expect(span.from).toBe(end);
          expect(span.to).toBeGreaterThan(span.from);
          end = span.to;
        }
        expect(end).toBe(job.lengthFrames);
      }),
    );
  });

  it('keeps every least hold but for closures, and for frames walled in by ink', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const { exposures } = keySounds(job);
        const walls = new Set((job.ink ?? []).flatMap((span) => [span.from, span.to]).concat([0, job.lengthFrames]));
        for (const { from, to, drawing } of exposures) {
          const isClosure = drawing === 'press' || drawing === 'bite';
          const walledIn = walls.has(from) && walls.has(to);
          const cutByInk = job.rules.strict && (walls.has(from) || walls.has(to));
          if (!isClosure && !walledIn && !cutByInk) expect(to - from).toBeGreaterThanOrEqual(job.rules.holdFrames);
        }
      }),
    );
  });

  it('changes only with the body when strict', () => {
    fc.assert(
      fc.property(withoutInk, (job) => {
        const strict = { ...job, rules: { ...job.rules, strict: true } };
        for (const { from } of keySounds(strict).exposures) expect(from % job.rules.holdFrames).toBe(0);
      }),
    );
  });

  it('shows every closure inside its window, or says which sound took its frames', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const { exposures, notShown } = keySounds(job);
        const shown = [...exposures, ...(job.ink ?? [])];
        const excused = new Set(notShown.map((entry) => entry.sound));
        job.sounds.forEach((sound, index) => {
          const group = maybeGroupOfPhoneme(chart.groups, sound.symbol);
          if (!group?.must) return;
          const perSample = job.frameRate.num / job.frameRate.den / SAMPLE_RATE;
          const first = Math.ceil(sound.from * perSample - job.rules.leadFrames - 1);
          const seen = shown.some((span) => span.drawing === group.id && span.to > first && span.from < sound.to * perSample);
          expect(seen).toBe(!excused.has(index));
        });
        for (const entry of notShown) expect(entry.reason).toMatch(/frame/);
      }),
    );
  });

  it('loses no closure of ordinary speech at 24 fps on twos', () => {
    fc.assert(
      fc.property(anySounds, (sounds) => {
        // Two closures that touch and differ can need the same frame; ordinary speech has a vowel between.
        const spoken = sounds.map((sound, index) =>
          index % 2 ? { ...sound, symbol: 'AH', to: Math.max(sound.to, sound.from + 2000) } : sound,
        );
        let at = 0;
        const spaced = spoken.map((sound) => {
          const from = Math.max(sound.from, at);
          at = from + (sound.to - sound.from);
          return { ...sound, from, to: at };
        });
        const job = {
          sounds: spaced,
          frameRate: { num: 24, den: 1 },
          lengthFrames: Math.ceil(at / 2000) + 5,
          chart,
          rules: { holdFrames: 2, leadFrames: 1, strict: false },
        };
        expect(keySounds(job).notShown).toEqual([]);
      }),
    );
  });

  it('does the same twice', () => {
    fc.assert(fc.property(anyJob, (job) => expect(keySounds(job)).toEqual(keySounds(job))));
  });

  const long: SceneSound[] = [{ symbol: 'AA', from: 20_000, to: 40_000 }];
  const at24 = (sounds: readonly SceneSound[], rules: Partial<KeyingJob['rules']> = {}, own = chart, loudness?: Float32Array): string[] =>
    keySounds({
      sounds,
      frameRate: { num: 24, den: 1 },
      lengthFrames: 30,
      chart: own,
      rules: { holdFrames: 2, leadFrames: 1, strict: false, settleFrames: 0, anticipationFrames: 0, ...rules },
      ...(loudness ? { loudness } : {}),
    }).exposures.map(({ from, drawing }) => `${from} ${drawing}`);

  it('leads its sound by the lead: a mouth changes one frame before its sound at 24 fps (common practice, no source)', () => {
    expect(at24(long)).toEqual(['0 rest', '9 drop', '19 rest']);
    expect(at24(long, { leadFrames: 2 })).toEqual(['0 rest', '8 drop', '18 rest']);
  });

  it('settles for some frames before it rests, and opens before a phrase (common practice, no source)', () => {
    expect(at24(long, { settleFrames: 2 })).toEqual(['0 rest', '9 drop', '21 rest']);
    expect(at24(long, { anticipationFrames: 1 })).toEqual(['0 rest', '8 drop', '19 rest']);
  });

  it('opens before the first phrase however soon it comes, and as far wherever the line is slid', () => {
    const line = (at: number): SceneSound[] => [
      { symbol: 'P', from: at, to: at + 3000 },
      { symbol: 'IY', stress: 1, from: at + 3000, to: at + 14_000 },
    ];
    const startOf = (at: number): number => Number(at24(line(at), { anticipationFrames: 1 })[1]!.split(' ')[0]);
    // Slid by six frames, from a fifth of a second of silence to almost half a second.
    expect(startOf(10_600 + 6 * 2000) - startOf(10_600)).toBe(6);
    expect(startOf(10_600)).toBeLessThan(Number(at24(line(10_600))[1]!.split(' ')[0]));
  });

  it('relaxes in a pause between the one that holds and the one that rests', () => {
    const around = (pause: number): string[] =>
      at24([
        { symbol: 'AA', from: 4000, to: 16_000 },
        { symbol: 'AA', from: 16_000 + pause, to: 36_000 + pause },
      ]).slice(1, -1);
    expect(around(7000)).toEqual(['2 drop']);
    const relaxed = around(15_000);
    expect(relaxed).toHaveLength(3);
    expect(['rest', 'press', 'bite', 'drop']).not.toContain(relaxed[1]!.split(' ')[1]);
    expect(around(22_000)[1]).toMatch(/rest$/);
  });

  it('gives a diphthong two shapes where there is room for both', () => {
    expect(at24([{ symbol: 'AY', stress: 1, from: 20_000, to: 40_000 }]).map((entry) => entry.split(' ')[1])).toEqual([
      'rest',
      'drop',
      'spread',
      'rest',
    ]);
    expect(at24([{ symbol: 'AY', stress: 1, from: 20_000, to: 23_000 }]).map((entry) => entry.split(' ')[1])).toEqual([
      'rest',
      'drop',
      'rest',
    ]);
    expect(at24([{ symbol: 'OW', stress: 1, from: 20_000, to: 40_000 }]).map((entry) => entry.split(' ')[1])).toEqual([
      'rest',
      'ring',
      'pucker',
      'rest',
    ]);
  });

  it('takes the wider of several drawings of a group for a louder or a stressed sound', () => {
    const drop = chart.drawings.find((drawing) => drawing.id === 'drop')!;
    const built = drop.art.kind === 'built' ? drop.art : undefined;
    const sized = (id: string, jaw: number): (typeof chart.drawings)[number] => ({
      ...drop,
      id,
      number: 20 + jaw,
      keycap: '',
      art: { ...built!, shape: { ...built!.shape, jaw: built!.shape.jaw * jaw } },
    });
    const three: ChartDocument = {
      ...chart,
      drawings: [...chart.drawings.filter(({ id }) => id !== 'drop'), sized('small', 0.4), sized('normal', 0.7), sized('large', 1)],
    };
    const shown = (stress: 0 | 1 | 2, level?: number, accents = true): string =>
      at24(
        [{ symbol: 'AA', stress, from: 20_000, to: 40_000 }],
        { accents },
        three,
        level === undefined ? undefined : new Float32Array(30).fill(level),
      )[1]!.split(' ')[1]!;
    expect([shown(0), shown(2), shown(1)]).toEqual(['small', 'normal', 'large']);
    expect([shown(2, 0.1), shown(2, 0.5), shown(2, 1)]).toEqual(['small', 'normal', 'large']);
    expect(shown(1, 1, false)).toBe('normal');
  });

  it('changes no more often in a phrase than it may', () => {
    const quick = Array.from({ length: 24 }, (_, index): SceneSound => ({
      symbol: ['AA', 'S', 'UW', 'IY'][index % 4]!,
      stress: 1,
      from: 4000 + index * 2400,
      to: 4000 + (index + 1) * 2400,
    }));
    const changes = (mostChanges: number): number => at24(quick, { holdFrames: 1, calm: 0, mostChanges }).length;
    expect(changes(0)).toBeGreaterThan(15);
    expect(changes(5)).toBeLessThanOrEqual(8);
  });

  it('breaks to ones for what the rules allow: for nothing, for lips that meet, for quick sounds too', () => {
    // “Stamps, please” at a frame and a half a sound.
    const sounds = 'S T AE M P S P L IY Z M AA B AE V'.split(' ').map((symbol, index): SceneSound => ({
      symbol,
      ...(['AE', 'IY', 'AA'].includes(symbol) ? { stress: 1 as const } : {}),
      from: 8000 + index * 3000,
      to: 8000 + (index + 1) * 3000,
    }));
    const key = (onesFor: OnesFor): ReturnType<typeof keySounds> =>
      keySounds({
        sounds,
        frameRate: { num: 24, den: 1 },
        lengthFrames: 32,
        chart,
        rules: { holdFrames: 3, leadFrames: 1, strict: false, calm: 0.05, onesFor },
      });
    const shorter = (onesFor: OnesFor): string[] =>
      key(onesFor)
        .exposures.filter(({ from, to }) => to - from < 3)
        .map(({ drawing }) => drawing);
    expect(shorter('nothing')).toEqual([]);
    expect(shorter('closures').length).toBeGreaterThan(0);
    expect(shorter('closures').every((drawing) => ['press', 'bite'].includes(drawing))).toBe(true);
    expect(key('closures').notShown).toEqual([]);
    expect(shorter('quick').some((drawing) => !['press', 'bite'].includes(drawing))).toBe(true);
    expect(key('quick').exposures.length).toBeGreaterThan(key('closures').exposures.length);
  });

  it('names frames as the scene counts them where it knows how', () => {
    const walled: KeyingJob = {
      sounds: [{ symbol: 'M', from: 20_000, to: 24_000 }],
      frameRate: { num: 24, den: 1 },
      lengthFrames: 24,
      chart,
      rules: { holdFrames: 2, leadFrames: 1, strict: false },
      ink: [{ from: 0, to: 24, drawing: 'ring' }],
    };
    expect(keySounds(walled).notShown.map(({ reason }) => reason)).toEqual([
      'M can only be seen in frames 8 to 11, counted from 0, which are inked.',
    ]);
    expect(keySounds({ ...walled, firstFrame: 1001 }).notShown.map(({ reason }) => reason)).toEqual([
      'M can only be seen in frames 1009 to 1012, which are inked.',
    ]);
  });

  it('closes the lips on the frame before p and b are released (common practice, no source)', () => {
    // A p of 60 ms that falls between the samples of twos.
    const sounds = [
      { symbol: 'AA', from: 8000, to: 21_000 },
      { symbol: 'P', from: 21_000, to: 23_880 },
      { symbol: 'AA', from: 23_880, to: 40_000 },
    ];
    const keyed = keySounds({
      sounds,
      frameRate: { num: 24, den: 1 },
      lengthFrames: 24,
      chart,
      rules: { holdFrames: 2, leadFrames: 1, strict: false },
    });
    const releaseFrame = Math.floor(23_880 / 2000);
    const press = keyed.exposures.find((exposure) => exposure.drawing === 'press')!;
    expect(press.from).toBeLessThanOrEqual(releaseFrame - 1);
    expect(press.to).toBeGreaterThan(releaseFrame - 2);
  });

  it('holds the mouth through a short pause and rests in a long one', () => {
    const key = (pause: number): string[] =>
      keySounds({
        sounds: [
          { symbol: 'AA', from: 4000, to: 20_000 },
          { symbol: 'IY', from: 20_000 + pause, to: 40_000 + pause },
        ],
        frameRate: { num: 24, den: 1 },
        lengthFrames: 60,
        chart,
        rules: { holdFrames: 2, leadFrames: 1, strict: false },
      }).exposures.map((exposure) => exposure.drawing);
    expect(key(6000)).toEqual(['rest', 'drop', 'spread', 'rest']);
    expect(key(24_000)).toEqual(['rest', 'drop', 'rest', 'spread', 'rest']);
  });

  it('plays every group with a chart of three', () => {
    const three: ChartDocument = { ...chart, drawings: chart.drawings.filter((drawing) => ['press', 'mid', 'drop'].includes(drawing.id)) };
    expect(drawingForGroup(three, 'press').id).toBe('press');
    expect(drawingForGroup(three, 'rest').id).toBe('press');
    for (const group of chart.groups) expect(three.drawings.map((drawing) => drawing.id)).toContain(drawingForGroup(three, group.id).id);
  });
});

describe('several drawings of a group', () => {
  const sounds = Array.from({ length: 8 }, (_, index) => ({
    symbol: 'AA',
    stress: 1 as const,
    from: index * 40_000,
    to: index * 40_000 + 24_000,
  }));
  const starter = starterChart('Test', 'brush');
  const drop = starter.drawings.find(({ id }) => id === 'drop')!;
  const withDrops = (inTurn: boolean, tags: readonly (readonly string[])[]): KeyingJob['chart'] => ({
    ...starter,
    groups: starter.groups.map((group) => (group.id === 'drop' && inTurn ? { ...group, inTurn: true as const } : group)),
    drawings: [
      ...starter.drawings.filter(({ id }) => id !== 'drop'),
      ...tags.map((own, index) => ({ ...drop, id: `drop${index}`, number: 50 + index, keycap: '', tags: own })),
    ],
  });
  const drops = (chart: KeyingJob['chart'], rules: Partial<KeyingJob['rules']> = {}, kept = sounds): string[] =>
    keySounds({
      sounds: kept,
      frameRate: { num: 24, den: 1 },
      lengthFrames: 170,
      chart,
      rules: { ...DEFAULT_RULES, restPause: 0.25, holdPause: 0.1, calm: 0, ...rules },
    })
      .exposures.map(({ drawing }) => drawing)
      .filter((id) => id.startsWith('drop'));

  it('take turns where the group says so, each phrase from the next one on', () => {
    const chart = withDrops(true, [[], [], []]);
    const shown = drops(chart);
    expect(shown).toEqual(['drop0', 'drop1', 'drop2', 'drop0', 'drop1', 'drop2', 'drop0', 'drop1']);
    // What is said otherwise in one phrase moves nothing in the others.
    const other = sounds.map((sound, index) => (index === 2 ? { ...sound, symbol: 'UW' } : sound));
    expect(drops(chart, {}, other)).toEqual([...shown.slice(0, 2), ...shown.slice(3)]);
    expect(new Set(drops(withDrops(false, [[], [], []])))).toHaveProperty('size', 1);
  });

  it('are those with the tag that is asked for, else the plain ones', () => {
    const chart = withDrops(false, [[], ['angry']]);
    expect(new Set(drops(chart))).toEqual(new Set(['drop0']));
    expect(new Set(drops(chart, { tag: 'angry' }))).toEqual(new Set(['drop1']));
    expect(new Set(drops(chart, { tag: 'sly' }))).toEqual(new Set(['drop0']));
    // Where all of them carry tags, any may be shown.
    expect(new Set(drops(withDrops(false, [['angry'], ['angry']])))).toHaveProperty('size', 1);
    expect(checkRules({ ...DEFAULT_RULES, tag: '' })).toHaveLength(1);
    expect(checkRules({ ...DEFAULT_RULES, tag: 'angry' })).toEqual([]);
  });

  it('a rest takes turns too', () => {
    const chart = {
      ...starter,
      groups: starter.groups.map((group) => (group.id === 'rest' ? { ...group, inTurn: true as const } : group)),
      drawings: [...starter.drawings, { ...starter.drawings[0]!, id: 'rest2', number: 60, keycap: '' }],
    };
    const rests = keySounds({
      sounds,
      frameRate: { num: 24, den: 1 },
      lengthFrames: 170,
      chart,
      rules: { ...DEFAULT_RULES, restPause: 0.25, holdPause: 0.1 },
    })
      .exposures.map(({ drawing }) => drawing)
      .filter((id) => id.startsWith('rest'));
    expect(new Set(rests).size).toBe(2);
  });
});
