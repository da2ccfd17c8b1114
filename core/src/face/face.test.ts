/** Parts of a face: their places, their lanes, and what the whole face shows. */
import fc from 'fast-check';
import {
  addPartLane,
  checkChart,
  checkScene,
  faceAt,
  facesOfFrames,
  isRefusal,
  keyPencil,
  maybeFaultOfParts,
  maybePartLane,
  nameOfLane,
  pictureSvg,
  placesOfPart,
  poseOfFace,
  plannedPictures,
  putDrawing,
  putPose,
  removePartLane,
  setBlinks,
  setLifts,
  shownParts,
  starterParts,
  stressedWords,
  STARTER_STYLES,
  switchChart,
  type ChartDocument,
  type ChartHead,
  type Exposure,
  type HeadPart,
  type HeadPose,
  type Patch,
  type Refusal,
  type SceneDocument,
} from '../index.js';
import { blinkJobOf } from '../scene/partLanes.js';
import { LINE, spokenScene } from '../testing/spokenScene.js';
import { countedIds, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';
import { chartsOn, EYES, HEAD, PARTS } from '../testing/wholeFace.js';

const LIDS = HEAD.parts!.find(({ id }) => id === 'lids')!;
const [MOUTH_CHART] = [...TEST_CHARTS.keys()];
const CHARTS = chartsOn(HEAD);

const applied = (scene: SceneDocument, patch: Patch | Refusal, charts = CHARTS): SceneDocument => testPatch(scene, patch, charts);

/** A spoken scene with a lane of lids that blinks. */
function blinking(line = LINE, blinks = { perMinute: 20, seed: 3 }, charts = CHARTS): SceneDocument {
  const plain = spokenScene(line);
  const withLane = applied(plain, addPartLane(plain, { mouth: 'mouth1', part: LIDS }, CHARTS.get(LIDS.chartId)!, countedIds('lane')));
  const lane = maybePartLane(withLane, plain.tracks[0]!.characterId, 'Lids')!;
  const ruled = applied(withLane, setBlinks(withLane, lane.id, blinks, countedIds('rule')));
  const keyed = keyPencil(ruled, lane.id, charts, countedIds('key'));
  if (isRefusal(keyed)) throw new Error(keyed.refusal);
  return applied(ruled, keyed.patch);
}

const laneOf = (scene: SceneDocument): Exposure[] => scene.exposures.filter(({ track }) => track !== 'mouth1');
const lidsLane = (scene: SceneDocument): string => scene.tracks.find(({ kind }) => kind === 'part')!.id;
const drawingsByFrame = (exposures: readonly Exposure[]): string[] =>
  exposures.flatMap(({ from, to, drawing }) => Array<string>(to - from).fill(drawing));

/** Many phrases: a minute and more. */
const LONG = Array.from({ length: 14 }, () => LINE).join(' -=900 ');

describe('parts of a head', () => {
  it.each(Object.entries(STARTER_STYLES))('starter parts are whole charts in the finish %s', (_, style) => {
    const parts = starterParts('Odette', style, { ...EYES, iris: '#e8b23a' });
    expect(parts.map(({ part }) => part.name)).toEqual(['Eyes', 'Lids', 'Brows']);
    for (const { chart } of parts) expect(checkChart(chart)).toEqual([]);
  });

  it.each<[string, (part: HeadPart) => HeadPart[], RegExp]>([
    ['follows itself', (part) => [{ ...part, follows: part.id }], /follows itself/],
    [
      'follows in a ring',
      (part) => [
        { ...part, follows: 'b' },
        { ...part, id: 'b', name: 'B', follows: part.id },
      ],
      /follows itself/,
    ],
    ['follows nobody', (part) => [{ ...part, follows: 'gone' }], /not there/],
    ['two of a name', (part) => [part, { ...part, id: 'b', name: part.name.toUpperCase() }], /another name/],
    ['no name', (part) => [{ ...part, name: ' ' }], /needs a name/],
    ['nowhere', (part) => [{ ...part, at: { ...part.at, scale: 0 } }], /needs a place/],
  ])('are refused in a sentence: %s', (_, make, sentence) => {
    expect(maybeFaultOfParts(make(LIDS))).toMatch(sentence);
    expect(checkChart({ ...TEST_CHART, head: [{ ...HEAD, parts: make(LIDS) }] }).join(' ')).toMatch(sentence);
  });

  it('one that follows another is placed on it', () => {
    const pupil: HeadPart = { ...LIDS, id: 'pupil', name: 'Pupil', follows: 'lids', at: { x: 3, y: 4, scale: 0.5, angle: 10 } };
    expect(placesOfPart({ ...HEAD, parts: [...HEAD.parts!, pupil] }, pupil)).toEqual([LIDS.at, pupil.at]);
  });

  it('a chart of a part has no sound groups', () => {
    const { chart } = PARTS[0]!;
    expect(checkChart({ ...chart, groups: TEST_CHART.groups })).toEqual([expect.stringMatching(/no sound groups/)]);
  });
});

describe('lanes of parts', () => {
  it('are made at rest, once, after the mouth, and taken away whole', () => {
    const plain = spokenScene();
    const add = (scene: SceneDocument): Patch | Refusal =>
      addPartLane(scene, { mouth: 'mouth1', part: LIDS }, CHARTS.get(LIDS.chartId)!, countedIds('lane'));
    const scene = applied(plain, add(plain));
    expect(scene.tracks.map(({ kind, part }) => [kind, part])).toEqual([
      ['mouth', undefined],
      ['part', 'Lids'],
    ]);
    expect(nameOfLane(scene.tracks[1]!, 'Bramble')).toBe('Bramble lids');
    expect(checkScene(scene, CHARTS)).toEqual([]);
    expect(add(scene)).toEqual({ refusal: 'There is a lane for “Lids” already.' });
    expect(applied(scene, removePartLane(scene, lidsLane(scene), countedIds('r')))).toEqual(plain);
    expect(removePartLane(scene, 'mouth1', countedIds('r'))).toHaveProperty('refusal');
  });

  it('the same edits put a drawing there, in ink, and a chart of the head that turns is followed by name', () => {
    const scene = blinking();
    const lane = lidsLane(scene);
    const lids = CHARTS.get(LIDS.chartId)!;
    const put = applied(scene, putDrawing(scene, { track: lane, frame: 10, drawing: 'half' }, lids, countedIds('p')));
    expect(faceAt(put, 'mouth1', CHARTS, 10).find(({ part }) => part === 'lids')).toMatchObject({ drawing: 'half' });
    // Another view of the head with lids of its own.
    const side: ChartDocument = { ...lids, drawings: lids.drawings.map((drawing) => ({ ...drawing, id: `side-${drawing.id}` })) };
    const turnedHead: ChartHead = {
      ...HEAD,
      parts: HEAD.parts!.map((part) => (part.id === 'lids' ? { ...part, chartId: 'side-lids' } : part)),
    };
    const charts = new Map([...CHARTS, ['side-lids', side], ['side', { ...TEST_CHART, head: [turnedHead] }]] as const);
    const turned = applied(put, switchChart(put, { track: 'mouth1', frame: 5, chartId: 'side' }, charts, countedIds('s')), charts);
    expect(faceAt(turned, 'mouth1', charts, 10).find(({ part }) => part === 'lids')).toMatchObject({
      chartId: 'side-lids',
      drawing: 'side-half',
    });
  });
});

describe('blinks', () => {
  it('are as many as asked for, and the same each time', () => {
    const scene = blinking(LONG);
    const minutes = scene.settings[0]!.lengthFrames / 24 / 60;
    const shut = laneOf(scene).filter(({ drawing }) => drawing === 'shut');
    expect(shut.length).toBeGreaterThan(20 * minutes * 0.65);
    expect(shut.length).toBeLessThan(20 * minutes * 1.35);
    expect(laneOf(blinking(LONG)).map(({ from, drawing }) => [from, drawing])).toEqual(
      laneOf(scene).map(({ from, drawing }) => [from, drawing]),
    );
    expect(laneOf(blinking(LONG, { perMinute: 20, seed: 4 })).map(({ from }) => from)).not.toEqual(laneOf(scene).map(({ from }) => from));
  });

  it('close in one frame, are shut for one or two and open in two', () => {
    const lane = laneOf(blinking(LONG));
    lane.forEach(({ drawing, from, to }, index) => {
      if (drawing !== 'shut') return;
      expect([1, 2]).toContain(to - from);
      expect(lane[index - 1]).toMatchObject({ drawing: 'half', from: from - 1 });
      expect(lane[index + 1]).toMatchObject({ drawing: 'half', to: to + 2 });
    });
  });

  it('keep their promises over random readings: no closure’s frame, no middle of a stressed word, no ink', () => {
    const sound = fc.constantFrom('B', 'P', 'M', 'AA', 'IY', 'S', 'T', 'OW', 'EH', 'L');
    const word = fc.array(fc.tuple(sound, fc.integer({ min: 40, max: 260 })), { minLength: 1, maxLength: 5 });
    const part = fc.oneof(
      word.map((sounds) => `w=${sounds.map(([symbol, length]) => `${symbol}${length}`).join(' ')}`),
      fc.integer({ min: 200, max: 2500 }).map((length) => `-=${length}`),
    );
    const lines = fc.array(part, { minLength: 6, maxLength: 40 }).map((parts) => ['first=AA200', ...parts].join(' '));
    fc.assert(
      fc.property(lines, fc.integer({ min: 0, max: 99 }), fc.integer({ min: 6, max: 40 }), (line, seed, perMinute) => {
        const scene = blinking(line, { perMinute, seed });
        const lids = drawingsByFrame(laneOf(scene));
        expect(lids).toHaveLength(scene.settings[0]!.lengthFrames);
        expect(checkScene(scene, CHARTS)).toEqual([]);
        const closures = new Set(scene.phonemes.filter(({ symbol }) => ['M', 'B', 'P'].includes(symbol)).map(({ id }) => id));
        for (const { track, from, to, plays } of scene.exposures) {
          if (track !== 'mouth1' || !plays.some((id) => closures.has(id))) continue;
          // Pressed together with what follows a mouth may be held longer than its closure: its own frames are what counts.
          if (!plays.every((id) => closures.has(id))) continue;
          expect(lids.slice(from, to).filter((drawing) => drawing !== 'open')).toEqual([]);
        }
        for (const { id, fromSample, toSample } of scene.words) {
          if (!scene.phonemes.some((sound) => sound.word === id && sound.stress === 1)) continue;
          const middle = Math.floor(((fromSample + toSample) / 2 / 48_000) * 24);
          expect(lids[middle] ?? 'open').toBe('open');
        }
      }),
      { numRuns: 60 },
    );
  });

  it('ink is a wall: none lies on it, and none is changed', () => {
    const plain = blinking(LONG, { perMinute: 30, seed: 1 });
    const lane = lidsLane(plain);
    const lids = CHARTS.get(LIDS.chartId)!;
    let scene = plain;
    for (const frame of [20, 90, 200, 310])
      scene = applied(scene, putDrawing(scene, { track: lane, frame, drawing: 'wide' }, lids, countedIds(`p${frame}`)));
    const ink = laneOf(scene).filter(({ inked }) => inked);
    const keyed = keyPencil(scene, lane, CHARTS, countedIds('again'));
    if (isRefusal(keyed)) throw new Error(keyed.refusal);
    const after = applied(scene, keyed.patch);
    expect(laneOf(after).filter(({ inked }) => inked)).toEqual(ink);
    expect(blinkJobOf(after, after.tracks[1]!, { perMinute: 30, seed: 1 }).barred).toEqual(expect.arrayContaining(ink));
    expect(checkScene(after, CHARTS)).toEqual([]);
  });

  it('without a drawing for shut eyes they are refused, and a lane that does not blink rests', () => {
    const lids = CHARTS.get(LIDS.chartId)!;
    const without = new Map([...CHARTS, [LIDS.chartId, { ...lids, drawings: lids.drawings.filter(({ id }) => id !== 'shut') }]]);
    expect(() => blinking(LINE, { perMinute: 12, seed: 1 }, without)).toThrow(/No drawing of this lane is called “Shut”/);
    const scene = blinking();
    const still = applied(scene, setBlinks(scene, lidsLane(scene), null, countedIds('s')));
    const keyed = keyPencil(still, lidsLane(still), CHARTS, countedIds('k'));
    expect(isRefusal(keyed) ? keyed : laneOf(applied(still, keyed.patch)).map(({ drawing }) => drawing)).toEqual(['open']);
    expect(setBlinks(scene, lidsLane(scene), { perMinute: 900, seed: 1 }, countedIds('s'))).toHaveProperty('refusal');
  });
});

describe('brows that go up by themselves', () => {
  const BROWS = HEAD.parts!.find(({ id }) => id === 'brows')!;
  const lifted = (share: number, line = LONG): SceneDocument => {
    const plain = spokenScene(line);
    const withLane = applied(plain, addPartLane(plain, { mouth: 'mouth1', part: BROWS }, CHARTS.get(BROWS.chartId)!, countedIds('lane')));
    const ruled = applied(withLane, setLifts(withLane, lidsLane(withLane), { share }, countedIds('rule')));
    const keyed = keyPencil(ruled, lidsLane(ruled), CHARTS, countedIds('key'));
    if (isRefusal(keyed)) throw new Error(keyed.refusal);
    return applied(ruled, keyed.patch);
  };

  it('do so on the stressed words whose vowels are held longest, two frames before them', () => {
    // Of `my`, `mop`, `five`, `we`, `see` and the parcel's words the longest vowel is that of `see`.
    const scene = lifted(0.15, LINE);
    const words = stressedWords(scene, 'bramble');
    const longest = [...words].sort((a, b) => b.held - a.held)[0]!;
    const up = laneOf(scene).filter(({ drawing }) => drawing === 'up');
    expect(up.map(({ from, to }) => [from, to])).toEqual([[longest.from - 2, longest.to]]);
  });

  it('more of them where more are asked for, and all of those at 1; near ones stay up between', () => {
    const shares = [0.1, 0.3, 0.6, 1].map((share) => drawingsByFrame(laneOf(lifted(share))).filter((drawing) => drawing === 'up').length);
    expect([...shares].sort((a, b) => a - b)).toEqual(shares);
    const all = drawingsByFrame(laneOf(lifted(1)));
    const scene = lifted(1);
    for (const { from, to } of stressedWords(scene, 'bramble')) expect(all.slice(from, to)).toEqual(Array(to - from).fill('up'));
    const downs = laneOf(scene).filter(({ drawing, from }) => drawing === 'level' && from > 0);
    expect(Math.min(...downs.map(({ from, to }) => to - from))).toBeGreaterThanOrEqual(6 - 2);
  });

  it('never on ink; a share out of range and a chart without that drawing are refused', () => {
    const scene = lifted(1);
    const lane = lidsLane(scene);
    const inked = applied(
      scene,
      putDrawing(scene, { track: lane, frame: 20, drawing: 'sly' }, CHARTS.get(BROWS.chartId)!, countedIds('p')),
    );
    const ink = laneOf(inked).filter((one) => one.inked);
    const keyed = keyPencil(inked, lane, CHARTS, countedIds('k'));
    expect(isRefusal(keyed) ? keyed : laneOf(applied(inked, keyed.patch)).filter((one) => one.inked)).toEqual(ink);
    expect(setLifts(scene, lane, { share: 0 }, countedIds('r'))).toHaveProperty('refusal');
    const lids = blinking();
    expect(
      keyPencil(applied(lids, setLifts(lids, lidsLane(lids), { share: 0.5 }, countedIds('r'))), lidsLane(lids), CHARTS, countedIds('k')),
    ).toEqual({
      refusal: expect.stringMatching(/No drawing of this lane is called “Up”/),
    });
  });
});

describe('poses', () => {
  const sly = {
    id: 'p1',
    name: 'Sly',
    drawings: [
      { part: 'brows', drawing: 'sly' },
      { part: 'lids', drawing: 'half' },
    ],
  };

  it('are put into the lane of each part in one change, in ink; a lane that is missing is made', () => {
    const scene = blinking(LONG);
    const put = applied(scene, putPose(scene, { mouth: 'mouth1', head: HEAD, pose: sly, from: 30, to: 50 }, CHARTS, countedIds('p')));
    expect(put.tracks.map(({ part }) => part)).toEqual([undefined, 'Lids', 'Brows']);
    for (const frame of [30, 49])
      expect(faceAt(put, 'mouth1', CHARTS, frame).map(({ drawing }) => drawing)).toEqual(['ahead', 'half', 'sly']);
    for (const frame of [29, 50]) expect(faceAt(put, 'mouth1', CHARTS, frame).at(-1)).toMatchObject({ drawing: 'level' });
    expect(put.exposures.filter(({ inked }) => inked).map(({ from, to }) => [from, to])).toEqual([
      [30, 50],
      [30, 50],
    ]);
    // What the face shows is that pose again.
    const kept = poseOfFace(put, 'bramble', HEAD, faceAt(put, 'mouth1', CHARTS, 40), ' Sly ', () => 'kept');
    expect(kept).toEqual({
      id: 'kept',
      name: 'Sly',
      drawings: [
        { part: 'lids', drawing: 'half' },
        { part: 'brows', drawing: 'sly' },
      ],
    });
  });

  it('of which nothing is left on the head, or which is there already, is refused', () => {
    const scene = blinking();
    const at = { mouth: 'mouth1', head: HEAD, from: 5, to: 9 };
    const gone = { ...sly, drawings: [{ part: 'hat', drawing: 'off' }] };
    expect(putPose(scene, { ...at, pose: gone }, CHARTS, countedIds('p'))).toEqual({
      refusal: expect.stringMatching(/Nothing of the pose “Sly”/),
    });
    const put = applied(scene, putPose(scene, { ...at, pose: sly }, CHARTS, countedIds('p')));
    expect(putPose(put, { ...at, pose: sly }, CHARTS, countedIds('q'))).toHaveProperty('refusal');
  });

  it.each<[string, HeadPose[], RegExp]>([
    ['without a name', [{ ...sly, name: '' }], /needs a name/],
    ['empty', [{ ...sly, drawings: [] }], /holds no drawing/],
    ['two of a name', [sly, { ...sly, id: 'p2', name: 'sly' }], /another name/],
  ])('are refused in a sentence: %s', (_, poses, sentence) =>
    expect(checkChart({ ...TEST_CHART, head: [{ ...HEAD, poses }] }).join(' ')).toMatch(sentence),
  );
});

describe('what a face shows', () => {
  it('a picture of the head changes when the lids do; a mouth by itself does not', () => {
    const scene = blinking(LONG);
    const faces = facesOfFrames(scene, 'mouth1', CHARTS);
    const lids = drawingsByFrame(laneOf(scene));
    faces.forEach((face, frame) => expect(face!.face!.find(({ part }) => part === 'lids')!.drawing).toBe(lids[frame]));
    const shut = lids.indexOf('shut');
    const [before, now] = [shut - 3, shut].map((frame) =>
      pictureSvg({ ...CHARTS.get(MOUTH_CHART!)! }, faces[frame], { width: 200, height: 200, withHead: true, charts: CHARTS }),
    );
    expect(now).not.toBe(before);
    const options = { firstNumber: 0, which: 'changes' } as const;
    const alone = plannedPictures(
      faces.map((face) => face && { ...face, face: [] }),
      CHARTS,
      options,
    ).length;
    expect(plannedPictures(faces, CHARTS, options).length).toBeGreaterThan(alone);
  });

  it('a muted lane is at rest, a hidden one is not drawn, a part whose chart is gone is not seen, one without a lane is at rest', () => {
    const scene = blinking(LONG);
    const shut = drawingsByFrame(laneOf(scene)).indexOf('shut');
    const turned = (state: 'muted' | 'hidden'): SceneDocument => ({
      ...scene,
      tracks: scene.tracks.map((track) => (track.kind === 'part' ? { ...track, [state]: true as const } : track)),
    });
    const at = (of: SceneDocument, charts = CHARTS): [string, string][] =>
      faceAt(of, 'mouth1', charts, shut).map(({ part, drawing }) => [part, drawing]);
    expect(at(scene)).toEqual([
      ['eyes', 'ahead'],
      ['lids', 'shut'],
      ['brows', 'level'],
    ]);
    expect(at(turned('muted'))).toContainEqual(['lids', 'open']);
    const drawn = shownParts(HEAD, CHARTS, faceAt(turned('hidden'), 'mouth1', CHARTS, shut));
    expect(drawn.map(({ part }) => part.id)).toEqual(['eyes', 'brows']);
    expect(at(scene, new Map([...CHARTS].filter(([id]) => id !== LIDS.chartId))).map(([part]) => part)).toEqual(['eyes', 'brows']);
  });
});
