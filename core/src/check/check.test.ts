/** The checker: each kind of note planted and clean, and its mends. */
import fc from 'fast-check';
import {
  applyPatch,
  checkLimits,
  checkNotes,
  FEELS,
  fullRules,
  isRefusal,
  kindInWords,
  LIMIT_WORDS,
  limitsOf,
  mendAll,
  mendInWords,
  mendOfNote,
  NOTE_KINDS,
  notesAside,
  SCENE_KIND,
  setNotesAside,
  starterChart,
  takeNotesBack,
  type ChartDocument,
  type CheckJob,
  type ClipFacts,
  type Note,
  type NoteKindId,
  type SceneDocument,
} from '../index.js';
import { LINE, mouthOf, spokenScene, withFrames } from '../testing/spokenScene.js';
import { countedIds, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const CLEAN = spokenScene();
const jobOf = (scene: SceneDocument, more: Partial<CheckJob> = {}): CheckJob => ({ scene, charts: TEST_CHARTS, ...more });
const kindsOf = (notes: readonly Note[]): NoteKindId[] => notes.map(({ kind }) => kind);
const WEIGHTY = (notes: readonly Note[]): Note[] => notes.filter(({ weight }) => weight > 1);

/** The note of a kind on a scene; it must be the only one of it. */
function only(scene: SceneDocument, kind: NoteKindId, more: Partial<CheckJob> = {}): Note {
  const found = checkNotes(jobOf(scene, more)).filter((note) => note.kind === kind);
  expect(found).toHaveLength(1);
  return found[0]!;
}

/** What a mend must prove: its note is gone, no other of weight came, its inverse, the invariants. */
function mended(scene: SceneDocument, note: Note, more: Partial<CheckJob> = {}): SceneDocument {
  const tried = mendOfNote(jobOf(scene, more), note, countedIds('m'));
  if (isRefusal(tried)) throw new Error(tried.refusal);
  const after = testPatch(scene, tried.patch);
  const [before, now] = [checkNotes(jobOf(scene, more)), checkNotes(jobOf(after, more))];
  expect(now.filter(({ kind, of, from }) => kind === note.kind && of === note.of && Math.abs(from - note.from) < 5)).toEqual([]);
  expect(WEIGHTY(now).filter(({ kind }) => !kindsOf(before).includes(kind))).toEqual([]);
  return after;
}

it.each(FEELS.map(({ name, rules }) => [name, rules] as const))(
  'finds nothing that is seen in a line keyed by its plan: %s',
  (_, rules) => {
    expect(WEIGHTY(checkNotes(jobOf(spokenScene(LINE, { rules }))))).toEqual([]);
  },
);

it('names every kind, and says what it is', () => {
  for (const kind of NOTE_KINDS) {
    expect(kindInWords(kind).name).toMatch(/^[A-Z]/);
    expect(kindInWords(kind).about).toMatch(/\.$/);
  }
});

it('finds lips that never meet, and lets them meet where they may', () => {
  // The p of “parcel”, frames 25 and 26, as the open mouth before it.
  const scene = withFrames(CLEAN, (frames) => frames.fill(frames[24]!, 25, 27));
  const note = only(scene, 'closure-missing');
  expect(note).toMatchObject({ weight: 3, from: 25, to: 28, isInk: false });
  expect(note.why).toBe('/p/ in “parcel” can be seen in frames 26 to 28 (3 frames), and “Mid” and “Drop” are there.');
  const after = mended(scene, note);
  expect(after.exposures.find(({ from }) => from === 25)).toMatchObject({ drawing: 'press', inked: true });
});

it('lets be what lies away from a mend: pencil stays pencil, mouths that were two stay two', () => {
  const scene = withFrames(CLEAN, (all) => {
    all.fill(mouthOf('drop'), 45, 55);
    // The last vowel in two parts, one of them ink.
    all.fill({ ...all[110]!, inked: true }, 110, 117);
  });
  const after = mended(scene, only(scene, 'open-in-pause'));
  const away = ({ exposures }: SceneDocument) => exposures.filter(({ from }) => from >= 60);
  expect(away(after)).toEqual(away(scene));
  expect(after.exposures.filter(({ inked }) => inked).map(({ from, to, drawing }) => [from, to, drawing])).toEqual([
    [40, 59, 'rest'],
    [110, 117, 'spread'],
  ]);
});

it('finds lips that meet too early, and lips that stay shut after a p has opened', () => {
  const early = withFrames(CLEAN, (frames) => {
    const press = frames[25]!;
    frames.fill(frames[27]!, 25, 27);
    frames.fill(press, 22, 24);
  });
  const note = only(early, 'closure-off');
  expect(note.why).toBe('/p/ in “parcel” is seen 2 frames too early: its lips may meet in frames 26 to 28.');
  mended(early, note);
  const shut = withFrames(CLEAN, (frames) => frames.fill(frames[25]!, 27, 31));
  const long = only(shut, 'closure-off');
  expect(long.why).toMatch(/^The lips of \/p\/ in “parcel” stay shut \d frames after it has opened\.$/);
  expect(mended(shut, long).exposures.find(({ from, to }) => from <= 29 && 29 < to)!.drawing).not.toBe('press');
});

it('finds a mouth late against its sound, and one early', () => {
  const saw = spokenScene('saw=S150 AO420 -=900');
  const ring = saw.exposures.find(({ drawing }) => drawing === 'ring')!;
  const late = withFrames(saw, (all) => all.fill(all[ring.from - 1]!, ring.from, ring.from + 5));
  const note = only(late, 'mouth-off');
  expect(note).toMatchObject({ from: ring.from + 5, weight: 2 });
  expect(note.why).toMatch(/^“Ring” for \/ɔ\/ in “saw” begins [45](\.\d)? frames \(0\.\d\d s\) later than the feel asks for\.$/);
  const after = mended(late, note).exposures.find(({ drawing }) => drawing === 'ring')!;
  expect(Math.abs(after.from - ring.from)).toBeLessThan(2);
  const early = withFrames(CLEAN, (all) => all.fill(all[100]!, 91, 100));
  expect(only(early, 'mouth-off').why).toMatch(/earlier than the feel asks for/);
});

it('finds a lane that is late as a whole, as one note, and slides it back', () => {
  // Long enough for most of its mouths to agree.
  const long = spokenScene(`${LINE} ${LINE.replace(/(\w+)=/g, 'x$1=')}`.replaceAll('x-=', '-='));
  const late = withFrames(long, (frames) => {
    const was = [...frames];
    frames.forEach((_, frame) => (frames[frame] = was[Math.max(0, frame - 3)]!));
  });
  const note = only(late, 'lane-off');
  expect(note).toMatchObject({ from: 0, to: frames(late), weight: 3, mends: [{ do: 'slide', by: -3 }] });
  expect(kindsOf(checkNotes(jobOf(late)))).not.toContain('mouth-off');
  expect(kindsOf(checkNotes(jobOf(mended(late, note))))).not.toContain('lane-off');
});
const frames = ({ settings }: SceneDocument): number => settings[0]!.lengthFrames;

it('finds an open mouth in a pause, a rest cut short, and a mouth that snaps shut', () => {
  const open = withFrames(CLEAN, (all) => all.fill(mouthOf('drop'), 45, 55));
  const note = only(open, 'open-in-pause');
  expect(note).toMatchObject({ from: 45, to: 55, isInk: true });
  expect(note.why).toBe('“Drop” stands open for 10 frames (0.42 s) in frames 46 to 55, and nobody speaks.');
  expect(
    mended(open, note)
      .exposures.filter(({ from, to }) => from < 55 && to > 45)
      .map(({ drawing }) => drawing),
  ).toEqual(['rest']);
  const snapped = withFrames(CLEAN, (all) => all.fill(all[50]!, 34, 40));
  expect(kindsOf(checkNotes(jobOf(snapped))).filter((kind) => kind === 'settle-missing')).toHaveLength(1);
  mended(snapped, only(snapped, 'settle-missing'));
  const short = withFrames(spokenScene('one=W90 AH150 N80 -=500 two=T90 UW190 -=600'), (all) => {
    const rest = all.findIndex(({ drawing }, frame) => frame > 14 && drawing === 'rest');
    const next = all.findIndex(({ drawing }, frame) => frame > rest && drawing !== 'rest');
    const middle = Math.floor((rest + next) / 2);
    all.fill(all[rest - 1]!, rest, middle);
    all.fill(all[next]!, middle + 1, next);
  });
  expect(kindsOf(checkNotes(jobOf(short))).some((kind) => kind === 'rest-short' || kind === 'open-in-pause')).toBe(true);
});

it('finds a mouth that stands open though its owner has nothing to say; of a recording that is not read it says nothing', () => {
  const [track] = CLEAN.tracks;
  const listener: SceneDocument = {
    ...CLEAN,
    tracks: [track!, { ...track!, id: 'mouth2', characterId: 'odette', order: 1 }],
    exposures: [...CLEAN.exposures, { ...mouthOf('drop'), id: 'agape', track: 'mouth2', from: 0, to: frames(CLEAN) }],
  };
  expect(checkNotes(jobOf(listener)).filter(({ kind, track: of }) => kind === 'open-in-pause' && of === 'mouth2')).toHaveLength(1);
  const unread = { ...withFrames(CLEAN, (all) => all.fill(mouthOf('drop'), 0, all.length)), phonemes: [], words: [] };
  expect(kindsOf(checkNotes(jobOf(unread)))).not.toContain('open-in-pause');
});

it('finds a shut mouth under a vowel, where the vowel is heard well', () => {
  const shut = withFrames(CLEAN, (all) => all.fill(mouthOf('rest'), 103, 118));
  expect(kindsOf(checkNotes(jobOf(shut)))).toContain('vowel-shut');
  // Whispered, it is let be.
  const levels = new Float32Array(frames(shut)).map((_, frame) => (frame > 95 ? -60 : -20));
  levels.fill(-70, 45, 55);
  const heardOf = () => ({ levels, hiss: new Float32Array(frames(shut)) });
  expect(kindsOf(checkNotes(jobOf(shut, { heardOf })))).not.toContain('vowel-shut');
  const notes = checkNotes(jobOf(shut)).filter(({ kind }) => kind === 'vowel-shut');
  mended(shut, notes[0]!);
});

it('finds the loudest vowel without the widest mouth that the chart has for it', () => {
  const mid = TEST_CHART.drawings.find(({ id }) => id === 'mid')!;
  if (mid.art.kind !== 'built') throw new Error('The test chart is built.');
  const wide = {
    ...TEST_CHART.drawings.find(({ id }) => id === 'drop')!,
    id: 'wide',
    label: 'Wide',
    groups: ['mid'],
    keycap: '',
    number: 90,
    place: 90,
  };
  const charts = new Map([['chart', { ...TEST_CHART, drawings: [...TEST_CHART.drawings, wide] }]]);
  const scene = spokenScene(LINE, { charts });
  const levels = new Float32Array(frames(scene)).fill(-40).fill(-10, 14, 18).fill(-70, 45, 55);
  const heardOf = () => ({ levels, hiss: new Float32Array(frames(scene)) });
  const small = { ...scene, exposures: scene.exposures.map((one) => (one.drawing === 'wide' ? { ...one, drawing: 'mid' } : one)) };
  const note = only(small, 'vowel-small', { charts, heardOf });
  expect(note.why).toMatch(/\/æ\/ in “bramble” is at its loudest at frame \d+, and “Mid” is there; the chart’s widest for it is “Wide”\./);
});

it('finds flapping, mouths of one frame, a mouth that is stuck, the same ones in turn', () => {
  const flap = withFrames(CLEAN, (all) => {
    for (let frame = 60; frame < 86; frame++) all[frame] = mouthOf(['mid', 'spread', 'ring', 'drop', 'teeth'][frame % 5]!);
  });
  expect(only(flap, 'flapping').why).toMatch(/the mouth changes \d+ times in one second; the feel has 13 at most\./);
  const once = withFrames(CLEAN, (all) => (all[110] = mouthOf('ring')));
  expect(only(once, 'one-frame')).toMatchObject({ from: 110, to: 111 });
  mended(once, only(once, 'one-frame'));
  // On ones a mouth of a frame is a mouth.
  const crisp = { ...once, tracks: once.tracks.map((track) => ({ ...track, rules: FEELS[0]!.rules })) };
  expect(kindsOf(checkNotes(jobOf(crisp)))).not.toContain('one-frame');
  const stuck = withFrames(CLEAN, (all) => all.fill(mouthOf('mid'), 10, 40));
  const note = only(stuck, 'long-hold');
  expect(note.why).toMatch(/“Mid” is held through 1\.\d\d s of speech, and \d+ sounds in it look otherwise\./);
  expect(mended(stuck, note).exposures.length).toBeGreaterThan(stuck.exposures.length);
  const machine = withFrames(CLEAN, (all) => {
    const round = ['mid', 'ring', 'teeth'];
    for (let place = 0; place < 9; place++) all.fill(mouthOf(round[place % 3]!), 60 + place * 3, 63 + place * 3);
  });
  expect(only(machine, 'same-turn')).toMatchObject({ from: 60, to: 87 });
});

it('finds a change that nobody sees, and a jump that has room for a mouth between', () => {
  const mid = TEST_CHART.drawings.find(({ id }) => id === 'mid')!;
  const twin = { ...mid, id: 'twin', label: 'Twin', groups: [], keycap: '', number: 91, place: 91 };
  const charts = new Map<string, ChartDocument>([['chart', { ...TEST_CHART, drawings: [...TEST_CHART.drawings, twin] }]]);
  const scene = withFrames(CLEAN, (all) => all.fill(mouthOf('twin'), 37, 40));
  const note = only(scene, 'alike', { charts });
  expect(note.why).toBe('“Mid” and “Twin” differ by 0.0 % of the chart’s widest: nobody sees a change.');
  const jump = withFrames(CLEAN, (all) => all.fill(mouthOf('drop'), 100, 103));
  expect(only(jump, 'unlike').why).toMatch(/“Rest” to “Drop” is a jump of 9\d % of the widest/);
  mended(jump, only(jump, 'unlike'));
});

it('finds ink whose sound has moved, and mends it only as itself', () => {
  const inked = { ...CLEAN, exposures: CLEAN.exposures.map((one) => (one.from === 59 ? { ...one, inked: true } : one)) };
  expect(WEIGHTY(checkNotes(jobOf(inked)))).toEqual([]);
  const [first] = inked.exposures.find(({ from }) => from === 59)!.plays;
  const moved = {
    ...inked,
    phonemes: inked.phonemes.map((one) =>
      one.id >= first! ? { ...one, fromSample: one.fromSample + 20_000, toSample: one.toSample + 20_000 } : one,
    ),
    words: inked.words.map((one) =>
      one.id >= 'w003' ? { ...one, fromSample: one.fromSample + 20_000, toSample: one.toSample + 20_000 } : one,
    ),
    clips: inked.clips.map((clip) => ({ ...clip, lengthSamples: clip.lengthSamples + 20_000, toSample: clip.toSample + 20_000 })),
  };
  const note = only(moved, 'ink-adrift');
  expect(note.isInk).toBe(true);
  const all = mendAll(
    jobOf(moved),
    checkNotes(jobOf(moved)).filter(({ kind }) => kind === 'ink-adrift'),
    countedIds('a'),
  );
  expect(all).toEqual({ refusal: expect.stringMatching(/Look at it by hand/) });
});

it('finds drawings that are gone, unused or used once, and groups without one', () => {
  const gone = { ...CLEAN, exposures: CLEAN.exposures.map((one) => (one.from === 103 ? { ...one, drawing: 'lost' } : one)) };
  const note = only(gone, 'drawing-gone');
  expect(note).toMatchObject({ weight: 3, from: 103 });
  const tried = mendOfNote(jobOf(gone), note, countedIds('m'));
  if (isRefusal(tried)) throw new Error(tried.refusal);
  expect(kindsOf(checkNotes(jobOf(applyPatch(SCENE_KIND, gone, tried.patch))))).not.toContain('drawing-gone');
  const long = spokenScene(`${LINE} ${LINE}`);
  expect(kindsOf(checkNotes(jobOf(long)))).not.toContain('group-empty');
  const chart = { ...TEST_CHART, drawings: TEST_CHART.drawings.filter(({ id }) => id !== 'bite') };
  const charts = new Map([['chart', chart]]);
  const empty = only(spokenScene(LINE, { charts }), 'group-empty', { charts });
  expect(empty.why).toBe('“Bite” (/f/ and what looks like it) is heard 2 times, and the chart has no drawing for it.');
  expect(empty.weight).toBe(3);
});

it('finds two groups on one drawing where they follow each other in a word', () => {
  const three = starterChart('Three', 'brush', 3);
  const charts = new Map([['chart', three]]);
  const notes = checkNotes(jobOf(spokenScene('dot=D90 AA200 T90 -=600', { charts }), { charts }));
  expect(notes.filter(({ kind }) => kind === 'groups-alike').map(({ why }) => why)).toContainEqual(
    expect.stringMatching(/are both played by “Open”/),
  );
  expect(kindsOf(checkNotes(jobOf(CLEAN)))).not.toContain('groups-alike');
});

it('finds doubtful words in pencil, and words without sounds', () => {
  const doubted = { ...CLEAN, words: CLEAN.words.map((word) => (word.text === 'parcel' ? { ...word, confidence: 0.3 } : word)) };
  expect(only(doubted, 'doubtful-word').why).toBe('“parcel” was read with 30 % confidence, and its mouths are in pencil.');
  const inked = { ...doubted, exposures: doubted.exposures.map((one) => ({ ...one, inked: true })) };
  expect(kindsOf(checkNotes(jobOf(inked)))).not.toContain('doubtful-word');
  const silent = { ...CLEAN, phonemes: CLEAN.phonemes.filter(({ word }) => word !== CLEAN.words[1]!.id) };
  expect(only(silent, 'word-silent').why).toMatch(/^“parcel” has no sounds\./);
});

it('finds words behind the end and a scene behind its words, and mends both by its length', () => {
  const cut = spokenScene(LINE, { lengthFrames: 110 });
  const note = only(cut, 'past-end');
  expect(note.weight).toBe(3);
  expect(frames(mended(cut, note))).toBeGreaterThan(117);
  // The words that come with it have their mouths.
  const half = spokenScene(LINE, { lengthFrames: 66 });
  const grown = mended(half, only(half, 'past-end'));
  expect(WEIGHTY(checkNotes(jobOf(grown)))).toEqual([]);
  expect(grown.exposures.filter(({ from }) => from >= 66).length).toBeGreaterThan(8);
  const long = spokenScene(LINE, { lengthFrames: 200 });
  expect(only(long, 'long-tail').why).toMatch(/^The last word ends 3\.\d s before the scene does\.$/);
  expect(kindsOf(checkNotes(jobOf(mended(long, only(long, 'long-tail')))))).not.toContain('long-tail');
});

it('tells what is wrong with a recording, and raises a quiet one', () => {
  const facts = (more: Partial<ClipFacts>): ReadonlyMap<string, ClipFacts> =>
    new Map([['a'.repeat(64), { peakDb: -4, speechDb: -22, floorDb: -70, clipped: 0, speech: 0.6, ground: 'quiet', advice: [], ...more }]]);
  expect(kindsOf(checkNotes(jobOf(CLEAN, { facts: facts({}) })))).toEqual(kindsOf(checkNotes(jobOf(CLEAN))));
  expect(only(CLEAN, 'clipping', { facts: facts({ clipped: 0.02 }) }).why).toMatch(/^2\.0 % of “line\.wav” is cut off at the top\./);
  expect(only(CLEAN, 'under-voice', { facts: facts({ ground: 'tones', floorDb: -40 }) }).why).toMatch(/music or a hum .* 18 dB below it/);
  const quiet = { facts: facts({ speechDb: -44, peakDb: -30 }) };
  const note = only(CLEAN, 'too-quiet', quiet);
  expect(mended(CLEAN, note, quiet).clips[0]!.gainDb).toBe(20);
});

it('finds two who speak at once, and a lane whose chart is gone', () => {
  const [track] = CLEAN.tracks;
  const both: SceneDocument = {
    ...CLEAN,
    clips: [...CLEAN.clips, { ...CLEAN.clips[0]!, id: 'clip9', characterId: 'odette' }],
    words: [...CLEAN.words, ...CLEAN.words.map((word) => ({ ...word, id: `o${word.id}`, clip: 'clip9' }))],
    tracks: [track!, { ...track!, id: 'mouth2', characterId: 'odette', order: 1 }],
  };
  expect(checkNotes(jobOf(both)).find(({ kind }) => kind === 'two-speak')!.why).toBe('“bramble” and “bramble” are said at the same time.');
  const lost = { ...CLEAN, tracks: [{ ...track!, chartId: 'gone' }] };
  expect(only(lost, 'chart-missing')).toMatchObject({ from: 0, weight: 3, track: null });
});

it('holds a note aside as long as nothing changes there', () => {
  const scene = withFrames(CLEAN, (all) => all.fill(mouthOf('drop'), 45, 55));
  const note = only(scene, 'open-in-pause');
  const aside = testPatch(scene, setNotesAside(scene, [note], ' a gasp ', countedIds('s')));
  const told = (one: SceneDocument) => notesAside(checkNotes(jobOf(one)), one.asides);
  expect(told(aside).open.map(({ kind }) => kind)).not.toContain('open-in-pause');
  expect(told(aside).aside).toMatchObject([{ note: { kind: 'open-in-pause' }, aside: { reason: 'a gasp' } }]);
  // Changed elsewhere it stays aside; changed there it is back.
  const elsewhere = { ...aside, exposures: aside.exposures.map((one) => (one.from > 100 ? { ...one, inked: true } : one)) };
  expect(told(elsewhere).aside).toHaveLength(1);
  const here = withFrames(aside, (all) => all.fill(mouthOf('mid'), 50, 55));
  expect(told(here).open.map(({ kind }) => kind)).toContain('open-in-pause');
  const back = testPatch(aside, takeNotesBack(aside, aside.asides, countedIds('b')));
  expect(told(back).open.map(({ kind }) => kind)).toContain('open-in-pause');
  expect(setNotesAside(scene, [], '', countedIds())).toHaveProperty('refusal');
  expect(takeNotesBack(scene, aside.asides, countedIds())).toHaveProperty('refusal');
});

it('goes by the limits of the feel, or those that are given', () => {
  const once = withFrames(CLEAN, (all) => all.fill(all[102]!, 103, 108));
  expect(kindsOf(checkNotes(jobOf(once, { limits: { late: 0.4 } })))).not.toContain('mouth-off');
  for (const { rules } of FEELS) expect(checkLimits(limitsOf(fullRules(rules)))).toEqual([]);
  expect(checkLimits({ late: 7 })).toEqual(['The limit “Late” is 7. It may be 0.04 to 0.4 s.']);
  expect(checkLimits({ worst: 1 } as never)[0]).toMatch(/There is no limit “worst”/);
  expect(Object.keys(LIMIT_WORDS).sort()).toEqual(Object.keys(limitsOf(fullRules(FEELS[1]!.rules))).sort());
});

it('mends all of a kind in one step, and says what a mend does', () => {
  const scene = withFrames(CLEAN, (all) => {
    all.fill(all[24]!, 25, 27);
    all.fill(all[76]!, 72, 75);
    all.fill(all[81]!, 82, 86);
  });
  const notes = checkNotes(jobOf(scene)).filter(({ kind }) => kind === 'closure-missing');
  expect(notes.length).toBeGreaterThan(1);
  const all = mendAll(jobOf(scene), notes, countedIds('a'));
  if (isRefusal(all)) throw new Error(all.refusal);
  const after = testPatch(scene, all.patch);
  expect(all.mended).toBe(notes.length);
  expect(kindsOf(checkNotes(jobOf(after)))).not.toContain('closure-missing');
  expect(mendAll(jobOf(scene), notes, countedIds('a'), () => false)).toEqual({ refusal: expect.stringMatching(/Given up/) });
  const says = { labelOf: (id: string) => id, firstFrame: 1 };
  expect(mendInWords({ do: 'lay', track: 't', from: 4, to: 6, pieces: [{ from: 4, to: 6, drawing: 'drop' }] }, says)).toBe(
    '“drop” in frames 5 to 6',
  );
  expect(mendInWords({ do: 'slide', track: 't', by: -1 }, says)).toBe('The whole lane 1 frame earlier');
});

const anyHand = fc.array(
  fc.record({
    from: fc.nat(134),
    length: fc.integer({ min: 1, max: 20 }),
    drawing: fc.constantFrom(...TEST_CHART.drawings.map(({ id }) => id)),
  }),
  { maxLength: 8 },
);
const handled = (marks: readonly { from: number; length: number; drawing: string }[]): SceneDocument =>
  withFrames(CLEAN, (all) => {
    for (const { from, length, drawing } of marks) all.fill(mouthOf(drawing), from, Math.min(all.length, from + length));
  });

it('is pure, and every note lies in the scene: any hand', () => {
  fc.assert(
    fc.property(anyHand, (marks) => {
      const scene = handled(marks);
      const notes = checkNotes(jobOf(scene));
      expect(checkNotes(jobOf(JSON.parse(JSON.stringify(scene)) as SceneDocument))).toEqual(notes);
      expect(new Set(notes.map(({ id }) => id)).size).toBe(notes.length);
      for (const { from, to, sure, why } of notes) {
        expect(from).toBeGreaterThanOrEqual(0);
        expect(from).toBeLessThan(to);
        expect(to).toBeLessThanOrEqual(frames(scene));
        expect(sure).toBeGreaterThan(0);
        expect(sure).toBeLessThanOrEqual(1);
        expect(why).toMatch(/\.$/);
      }
    }),
    { numRuns: 60, seed: 18 },
  );
});

it('every mend makes its note go and none of weight come, whatever a hand has done', () => {
  fc.assert(
    fc.property(anyHand, fc.nat(20), (marks, pick) => {
      const scene = handled(marks);
      const notes = checkNotes(jobOf(scene)).filter(({ mends }) => mends.length > 0);
      const note = notes[pick % Math.max(1, notes.length)];
      if (!note) return;
      const tried = mendOfNote(jobOf(scene), note, countedIds('m'));
      if (isRefusal(tried)) return;
      const after = testPatch(scene, tried.patch);
      const now = checkNotes(jobOf(after));
      expect(now.some(({ id, why }) => id === note.id && why === note.why)).toBe(false);
      const before = checkNotes(jobOf(scene));
      const fresh = WEIGHTY(now).filter(
        (one) => !before.some((other) => other.kind === one.kind && other.from <= one.to + 1 && one.from <= other.to + 1),
      );
      expect(fresh).toEqual([]);
    }),
    { numRuns: 80, seed: 18 },
  );
});
