import fc from 'fast-check';
import {
  applyPatch,
  checkScene,
  cutIntoSystems,
  erasePencil,
  exposureSheetCsv,
  exposuresOfTrack,
  fullRules,
  inkedShare,
  inkSpan,
  invertPatch,
  isRefusal,
  keyPencil,
  maybeExposureAt,
  placedSounds,
  putDrawing,
  SCENE_KIND,
  setInk,
  setRules,
  setScript,
  setSettings,
  takeReading,
  type Patch,
  type SceneDocument,
  type SystemStretch,
} from '../index.js';
import { countedIds, emptyScene, readingOf, sceneWithReading, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const track = 'mouth1';
const lane = (scene: SceneDocument): string[] =>
  exposuresOfTrack(scene, track).map((exposure) => `${exposure.from}-${exposure.to} ${exposure.drawing}${exposure.inked ? ' ink' : ''}`);

let keyings = 0;

function keyed(scene: SceneDocument): SceneDocument {
  const result = keyPencil(scene, track, TEST_CHARTS, countedIds(`k${(keyings += 1)}.`));
  if (isRefusal(result)) throw new Error(result.refusal);
  return testPatch(scene, result.patch);
}

/** With its pencil erased; as it is where there is none. */
function erased(scene: SceneDocument, from: number, to: number): SceneDocument {
  const result = erasePencil(scene, { track, from, to }, TEST_CHARTS, countedIds('e'));
  return isRefusal(result) ? scene : testPatch(scene, result);
}

describe('a keycap', () => {
  it('splits the exposure at the playhead and holds the new mouth to its end, in ink', () => {
    const scene = testPatch(emptyScene(), putDrawing(emptyScene(), { track, frame: 10, drawing: 'drop' }, TEST_CHART, countedIds()));
    expect(lane(scene)).toEqual(['0-10 rest', '10-24 drop ink']);
  });

  it('replaces the exposure that starts at the playhead', () => {
    const scene = testPatch(emptyScene(), putDrawing(emptyScene(), { track, frame: 0, drawing: 'drop' }, TEST_CHART, countedIds()));
    expect(lane(scene)).toEqual(['0-24 drop ink']);
  });

  it('inks the whole exposure when it already shows that mouth', () => {
    const scene = testPatch(emptyScene(), putDrawing(emptyScene(), { track, frame: 7, drawing: 'rest' }, TEST_CHART, countedIds()));
    expect(lane(scene)).toEqual(['0-24 rest ink']);
    expect(putDrawing(scene, { track, frame: 9, drawing: 'rest' }, TEST_CHART, countedIds())).toHaveProperty('refusal');
  });

  it('fills a gap up to the next exposure', () => {
    const scene = emptyScene();
    const gap: Patch = {
      id: 'g',
      reason: 'exposure.put',
      ops: [
        { op: 'put', table: 'exposures', id: 'rest0', before: scene.exposures[0]!, after: { ...scene.exposures[0]!, from: 12 } as never },
      ],
    };
    const after = testPatch(scene, gap);
    expect(lane(testPatch(after, putDrawing(after, { track, frame: 4, drawing: 'ring' }, TEST_CHART, countedIds())))).toEqual([
      '4-12 ring ink',
      '12-24 rest',
    ]);
  });

  it('refuses a drawing or a frame that is not there, in a sentence', () => {
    expect(putDrawing(emptyScene(), { track, frame: 3, drawing: 'smirk' }, TEST_CHART, countedIds())).toEqual({
      refusal: expect.stringContaining('smirk'),
    });
    expect(putDrawing(emptyScene(), { track, frame: 24, drawing: 'drop' }, TEST_CHART, countedIds())).toEqual({
      refusal: expect.stringContaining('24'),
    });
  });
});

describe('pencil and ink', () => {
  const scene = keyed(sceneWithReading(['P', 'L', 'IY', 'Z', 'M', 'AA', 'P'], 6000));

  it('keying twice changes nothing', () => {
    const again = keyPencil(scene, track, TEST_CHARTS, countedIds('z'));
    expect(!isRefusal(again) && again.patch.ops).toEqual([]);
  });

  it('keying again with other rules moves only pencil', () => {
    const inkedScene = testPatch(scene, putDrawing(scene, { track, frame: 11, drawing: 'ring' }, TEST_CHART, countedIds('i')));
    const ink = inkedScene.exposures.filter((exposure) => exposure.inked);
    const ruled = testPatch(inkedScene, setRules(inkedScene, track, { leadFrames: 3, holdFrames: 4, strict: true }, countedIds('s')));
    const after = keyed(ruled);
    expect(after.exposures.filter((exposure) => exposure.inked)).toEqual(ink);
    expect(lane(after)).not.toEqual(lane(inkedScene));
  });

  it('keying a part alone gives there what keying the whole gives, and leaves the rest as it was', () => {
    fc.assert(
      fc.property(fc.nat(46), fc.nat(46), fc.boolean(), (a, b, erasedFirst) => {
        const [from, to] = [Math.min(a, b), Math.max(a, b) + 1];
        const ruled = testPatch(scene, setRules(scene, track, { leadFrames: 2, holdFrames: 1, strict: false, calm: 0 }, countedIds('s')));
        const start = erasedFirst ? erased(ruled, from, to) : ruled;
        const part = keyPencil(start, track, TEST_CHARTS, countedIds('p'), { from, to });
        if (isRefusal(part)) throw new Error(part.refusal);
        const frames = (document: typeof scene): string[] =>
          exposuresOfTrack(document, track).flatMap((exposure) => Array<string>(exposure.to - exposure.from).fill(exposure.drawing));
        const [before, whole, after] = [frames(ruled), frames(keyed(ruled)), frames(testPatch(start, part.patch))];
        expect(after.slice(from, to)).toEqual(whole.slice(from, to));
        expect([...after.slice(0, from), ...after.slice(to)]).toEqual([...before.slice(0, from), ...before.slice(to)]);
      }),
    );
  });

  it('erases pencil to rest, never ink, and says when there is none', () => {
    const inked = testPatch(scene, inkSpan(scene, { track, from: 0, to: 8, inked: true }, countedIds('i')));
    const left = erased(inked, 0, 48);
    expect(left.exposures.filter((exposure) => exposure.inked)).toEqual(inked.exposures.filter((exposure) => exposure.inked));
    expect(new Set(left.exposures.filter((exposure) => !exposure.inked).map((exposure) => exposure.drawing))).toEqual(new Set(['rest']));
    expect(erasePencil(left, { track, from: 0, to: 48 }, TEST_CHARTS, countedIds())).toHaveProperty('refusal');
  });

  it('inks and turns back all that reaches into some frames', () => {
    const some = testPatch(scene, inkSpan(scene, { track, from: 5, to: 9, inked: true }, countedIds('i')));
    for (const exposure of some.exposures) expect(exposure.inked).toBe(exposure.from < 9 && exposure.to > 5);
    expect(inkSpan(some, { track, from: 5, to: 9, inked: true }, countedIds())).toHaveProperty('refusal');
    expect(testPatch(some, inkSpan(some, { track, from: 0, to: 48, inked: false }, countedIds('j'))).exposures).toEqual(scene.exposures);
  });

  it('refuses to key by loudness what has not been heard', () => {
    const loud = testPatch(
      scene,
      setRules(scene, track, { ...fullRules({ leadFrames: 1, holdFrames: 2, strict: false }), source: 'loudness' }, countedIds('s')),
    );
    expect(keyPencil(loud, track, TEST_CHARTS, countedIds())).toHaveProperty('refusal');
    const heard = keyPencil(loud, track, TEST_CHARTS, countedIds('h'), {
      heard: { levels: new Float32Array(48).map((_, frame) => (frame < 20 ? -60 : -10 - (frame % 7))), hiss: new Float32Array(48) },
    });
    if (isRefusal(heard)) throw new Error(heard.refusal);
    const lanes = lane(testPatch(loud, heard.patch));
    expect(lanes[0]).toContain('rest');
    expect(lanes.length).toBeGreaterThan(1);
  });

  it('ink can go back to pencil, and says so when it is already', () => {
    const inked = testPatch(scene, setInk(scene, { track, frame: 6, inked: true }, countedIds('i')));
    expect(inkedShare(exposuresOfTrack(inked, track), 48)).toBeGreaterThan(0);
    expect(setInk(inked, { track, frame: 6, inked: true }, countedIds())).toHaveProperty('refusal');
    expect(testPatch(inked, setInk(inked, { track, frame: 6, inked: false }, countedIds('j'))).exposures).toEqual(scene.exposures);
  });

  it('tells which sounds an exposure plays', () => {
    const sounds = new Map(placedSounds(scene, 'bramble').map((sound) => [sound.id, sound.symbol]));
    const first = scene.exposures.find((exposure) => exposure.drawing === 'press')!;
    expect(first.plays.map((id) => sounds.get(id))).toEqual(['P']);
  });
});

describe('a reading', () => {
  it('taken again replaces words and sounds, keeps ink, and forgets what no longer sounds', () => {
    const scene = keyed(sceneWithReading(['P', 'L', 'IY', 'Z', 'M', 'AA', 'P'], 6000));
    const inked = testPatch(scene, setInk(scene, { track, frame: 24, inked: true }, countedIds('i')));
    const after = testPatch(inked, takeReading(inked, 'clip1', readingOf(['AA'], 9000, 96_000), countedIds('r')));
    expect(after.phonemes.map((phoneme) => phoneme.symbol)).toEqual(['AA']);
    expect(after.words).toHaveLength(1);
    const where = ({ from, to, drawing }: { from: number; to: number; drawing: string }): unknown => ({ from, to, drawing });
    expect(after.exposures.filter((exposure) => exposure.inked).map(where)).toEqual(
      inked.exposures.filter((exposure) => exposure.inked).map(where),
    );
    const known = new Set(after.phonemes.map((phoneme) => phoneme.id));
    for (const exposure of after.exposures) for (const id of exposure.plays) expect(known.has(id)).toBe(true);
  });

  it('of a clip that is gone is refused', () => {
    expect(takeReading(emptyScene(), 'clip9', readingOf(['AA'], 900, 48_000), countedIds())).toHaveProperty('refusal');
    expect(setScript(emptyScene(), 'clip9', 'x', countedIds())).toHaveProperty('refusal');
    expect(setRules(emptyScene(), 'eyes', { leadFrames: 1, holdFrames: 1, strict: false }, countedIds())).toHaveProperty('refusal');
    expect(keyPencil(emptyScene(), 'eyes', TEST_CHARTS, countedIds())).toHaveProperty('refusal');
  });
});

describe('checkScene', () => {
  const scene = keyed(sceneWithReading(['P', 'AA', 'M'], 8000));
  const faults = (changed: Partial<SceneDocument>): string[] => checkScene({ ...scene, ...changed }, TEST_CHARTS);

  it('finds nothing in a sound scene', () => expect(faults({})).toEqual([]));

  it.each<[string, Partial<SceneDocument>, RegExp]>([
    ['a frame rate of 0', { settings: [{ ...scene.settings[0]!, frameRate: { num: 0, den: 1 } }] }, /frame rate/],
    ['no length', { settings: [{ ...scene.settings[0]!, lengthFrames: 0 }] }, /frames long/],
    [
      'an overlap',
      { exposures: [scene.exposures[0]!, { ...scene.exposures[1]!, from: scene.exposures[0]!.to - 1 }] },
      /before the one before it ends/,
    ],
    ['an exposure past the end', { exposures: [{ ...scene.exposures[0]!, to: 900 }] }, /inside the scene/],
    ['half a frame', { exposures: [{ ...scene.exposures[0]!, to: 1.5 }] }, /inside the scene/],
    ['a drawing that is not in the chart', { exposures: [{ ...scene.exposures[0]!, drawing: 'grin' }] }, /not in its chart/],
    ['a word past its clip', { words: [{ ...scene.words[0]!, toSample: 1e7 }] }, /inside its clip/],
    ['a sound that is none', { phonemes: [{ ...scene.phonemes[0]!, symbol: 'QQ' }] }, /no phoneme/],
    ['records out of order', { phonemes: [...scene.phonemes].reverse() }, /out of order/],
    ['two records of one id', { phonemes: [scene.phonemes[0]!, scene.phonemes[0]!] }, /same id/],
    ['a chart that is gone', { tracks: [{ ...scene.tracks[0]!, chartId: 'lost' }] }, /chart lost/],
    ['a hold of 0', { tracks: [{ ...scene.tracks[0]!, rules: { leadFrames: 1, holdFrames: 0, strict: false } }] }, /hold is 0/],
  ])('names %s', (_, changed, message) => {
    expect(faults(changed).join(' ')).toMatch(message);
  });
});

const wholeFrames = (rows: readonly SystemStretch[]): unknown => rows.map(({ from, to }) => ({ from, to }));

describe('systems of the bar sheet', () => {
  const words = [
    { from: 2, to: 10 },
    { from: 10, to: 30 },
    { from: 60, to: 80 },
    { from: 80.5, to: 100 },
  ];
  it('cover the scene and break at the pause', () => {
    expect(wholeFrames(cutIntoSystems(words, 110, 70, 8).stretches)).toEqual([
      { from: 0, to: 56 },
      { from: 56, to: 110 },
    ]);
  });
  it('break between words where there is no pause, never inside one', () => {
    const running = Array.from({ length: 40 }, (_, index) => ({ from: index * 9, to: index * 9 + 9 }));
    const systems = cutIntoSystems(running, 360, 70, 8).stretches;
    expect(systems.at(-1)!.to).toBe(360);
    for (const { from, to } of systems) {
      expect(to - from).toBeLessThanOrEqual(70);
      expect(from % 9).toBe(0);
    }
  });
  it('share a phrase too long for one row evenly, as lines of a paragraph', () => {
    const running = Array.from({ length: 10 }, (_, index) => ({ from: index * 8, to: index * 8 + 8 }));
    expect(wholeFrames(cutIntoSystems([...running, { from: 100, to: 160 }], 160, 66, 8).stretches)).toEqual([
      { from: 0, to: 48 },
      { from: 48, to: 96 },
      { from: 96, to: 160 },
    ]);
  });
  it('cover every scene in rows that fit, and never cut a word in two', () => {
    const anyWords = fc.array(fc.tuple(fc.integer({ min: 2, max: 9 }), fc.constantFrom(0, 0, 0, 12)), { minLength: 1, maxLength: 9 });
    fc.assert(
      fc.property(anyWords, (parts) => {
        let at = 0;
        const spoken = parts.map(([length, gap]) => ({ from: (at += gap), to: (at += length) }));
        const { stretches, cost } = cutIntoSystems(spoken, at, 20, 8);
        expect(stretches[0]!.from).toBe(0);
        expect(stretches.at(-1)!.to).toBe(at);
        for (const [index, { from, to }] of stretches.entries()) {
          expect(to - from).toBeLessThanOrEqual(20);
          if (index > 0) expect(from).toBe(stretches[index - 1]!.to);
          // A word is never cut in two.
          for (const word of spoken) expect(word.from < from && word.to > from).toBe(false);
        }
        expect(cost).toBeGreaterThanOrEqual(Math.ceil(at / 20) * 0.6 - 1e-9);
      }),
    );
  });
  it('give each word wholly to one row, though it ends inside a frame of the next', () => {
    const running = Array.from({ length: 20 }, (_, index) => ({ from: index * 7.3, to: index * 7.3 + 7.3 }));
    const { stretches } = cutIntoSystems(running, 146, 50, 8);
    expect(stretches.length).toBeGreaterThan(2);
    for (const { from, to, wordsFrom, wordsTo } of stretches) {
      expect(wordsFrom - from).toBeLessThan(1);
      expect(wordsTo - to).toBeLessThan(1);
      for (const word of running) expect(word.from < wordsTo - 1e-9 && word.to > wordsTo + 1e-9).toBe(false);
    }
  });
  it('are whole rows where nothing is said', () => {
    expect(wholeFrames(cutIntoSystems([], 150, 70, 8).stretches)).toEqual([
      { from: 0, to: 70 },
      { from: 70, to: 140 },
      { from: 140, to: 150 },
    ]);
  });
});

describe('the exposure sheet as CSV', () => {
  const scene = keyed(sceneWithReading(['P', 'AA', 'M'], 8000));
  const rows = (document: SceneDocument): string[] =>
    exposureSheetCsv(document, [{ trackId: track, name: 'Bramble', charts: TEST_CHARTS }]).split('\r\n');

  it('has one row a frame, numbers from the first frame, and a bar for a hold', () => {
    const sheet = rows(scene);
    expect(sheet[0]).toBe('frame,timecode,words,sounds,Bramble mouth,Bramble drawing,Bramble keyed');
    expect(sheet[1]).toBe('1,00:00:00:00,,,1,Rest,pencil');
    expect(sheet[2]).toBe('2,00:00:00:01,,,|,|,');
    expect(sheet).toHaveLength(48 + 2);
    const number = setSettings(scene, { firstFrame: 1001 }, countedIds());
    expect(rows(testPatch(scene, number))[1]).toMatch(/^1001,/);
  });

  it('quotes text that a spreadsheet would run as a formula', () => {
    const words = scene.words.map((word) => ({ ...word, text: '=2+2' }));
    expect(rows({ ...scene, words }).join('\n')).toContain("'=2+2");
  });
});

it('finds the exposure at a frame by bisection', () => {
  const scene = keyed(sceneWithReading(['P', 'AA', 'M', 'IY'], 8000));
  const list = exposuresOfTrack(scene, track);
  for (let frame = 0; frame < 48; frame++)
    expect(maybeExposureAt(list, frame)).toBe(list.find((exposure) => exposure.from <= frame && frame < exposure.to));
  expect(maybeExposureAt(list, 48)).toBeUndefined();
});

it('undoes a keycap exactly', () => {
  const scene = emptyScene();
  const patch = putDrawing(scene, { track, frame: 10, drawing: 'drop' }, TEST_CHART, countedIds()) as Patch;
  expect(applyPatch(SCENE_KIND, applyPatch(SCENE_KIND, scene, patch), invertPatch(patch, 'u'))).toEqual(scene);
});
