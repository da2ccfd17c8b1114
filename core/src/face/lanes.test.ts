/** Lanes beside each other: those that go with another, loop, rest, are hidden or locked; blends; poses of some strength. */
import fc from 'fast-check';
import {
  addPartLane,
  applyPatch,
  blendedDrawing,
  checkScene,
  exposuresOfTrack,
  faceAt,
  facesOfFrames,
  FEELS,
  inkSpan,
  isRefusal,
  keyOfLook,
  jawDropOf,
  linkedKeyed,
  looksOfFrames,
  madeOf,
  maybeDrawing,
  maybeLocked,
  maybeWhyAdded,
  pencilKeyed,
  pictureSvg,
  putDrawing,
  putPose,
  SCENE_KIND,
  seenAt,
  setBlend,
  setBlinks,
  setIdle,
  setLaneState,
  OPENINGS,
  setLinks,
  whyOfPart,
  type ChartDocument,
  type LaneLink,
  type LaneState,
  type Patch,
  type Refusal,
  type SceneDocument,
} from '../index.js';
import { LINE, spokenScene } from '../testing/spokenScene.js';
import { countedIds, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';
import { chartsOn, HEAD } from '../testing/wholeFace.js';

const CHARTS = chartsOn(HEAD);
const ids = countedIds('l');
const patched = (scene: SceneDocument, patch: Patch | Refusal): SceneDocument => testPatch(scene, patch, CHARTS);
const laneIdOf = (scene: SceneDocument, part: string): string => scene.tracks.find((track) => track.part === part)!.id;

/** A spoken scene whose face has lanes for some parts. */
function withLanes(...parts: string[]): SceneDocument {
  return parts.reduce((scene, name) => {
    const part = HEAD.parts!.find((one) => one.name === name)!;
    return patched(scene, addPartLane(scene, { mouth: 'mouth1', part }, CHARTS.get(part.chartId)!, ids));
  }, spokenScene());
}
const linked = (scene: SceneDocument, part: string, ...links: LaneLink[]): SceneDocument =>
  patched(scene, setLinks(scene, laneIdOf(scene, part), links, ids));
const keyed = (scene: SceneDocument): SceneDocument => applyPatch(SCENE_KIND, scene, pencilKeyed(scene, CHARTS, ids));
const shown = (scene: SceneDocument, part: string): string[] =>
  exposuresOfTrack(scene, laneIdOf(scene, part)).flatMap(({ from, to, drawing }) => Array<string>(to - from).fill(drawing));
const mouths = (scene: SceneDocument): string[] =>
  exposuresOfTrack(scene, 'mouth1').flatMap(({ from, to, drawing }) => Array<string>(to - from).fill(drawing));
const labelOf = (part: string, id: string): string => maybeDrawing(CHARTS.get(`chart-${part.toLowerCase()}`)!, id)!.label;
const ON_SPREAD: LaneLink = { of: null, shows: 'Spread', put: 'Half' };

describe('lanes that go with another', () => {
  it('show what the table says where the other shows what it says, and rest elsewhere', () => {
    const scene = keyed(linked(withLanes('Lids'), 'Lids', ON_SPREAD));
    const lids = shown(scene, 'Lids').map((id) => labelOf('Lids', id));
    const leads = mouths(scene);
    expect(leads).toContain('spread');
    lids.forEach((label, frame) => expect(label === 'Half').toBe(leads[frame] === 'spread'));
    expect(checkScene(scene, CHARTS)).toEqual([]);
  });

  it('never touch ink, whatever is inked where', () => {
    const plain = keyed(linked(withLanes('Lids'), 'Lids', ON_SPREAD));
    const { lengthFrames } = plain.settings[0]!;
    fc.assert(
      fc.property(
        fc.nat(lengthFrames - 2),
        fc.integer({ min: 1, max: 20 }),
        fc.constantFrom('rest', 'spread', 'drop'),
        (from, length, put) => {
          const lane = laneIdOf(plain, 'Lids');
          const to = Math.min(lengthFrames, from + length);
          const inked = patched(plain, inkSpan(plain, { track: lane, from, to, inked: true }, ids));
          const ink = exposuresOfTrack(inked, lane).filter((one) => one.inked);
          const changed = patched(inked, putDrawing(inked, { track: 'mouth1', frame: from, drawing: put }, TEST_CHART, ids));
          const after = applyPatch(SCENE_KIND, changed, linkedKeyed(changed, CHARTS, ids));
          expect(exposuresOfTrack(after, lane).filter((one) => one.inked)).toEqual(ink);
          expect(exposuresOfTrack(after, 'mouth1')).toEqual(exposuresOfTrack(changed, 'mouth1'));
        },
      ),
      { numRuns: 40 },
    );
  });

  it('follow one another in their order, and are each keyed once in a ring', () => {
    const chain = linked(linked(withLanes('Brows', 'Lids'), 'Lids', ON_SPREAD), 'Brows', { of: 'Lids', shows: 'Half', put: 'Up' });
    const scene = keyed(chain);
    const [lids, brows] = ['Lids', 'Brows'].map((part) => shown(scene, part).map((id) => labelOf(part, id)));
    expect(brows).toContain('Up');
    brows!.forEach((label, frame) => expect(label === 'Up').toBe(lids![frame] === 'Half'));
    const ring = linked(chain, 'Lids', { of: 'Brows', shows: 'Up', put: 'Half' });
    expect(checkScene(keyed(ring), CHARTS)).toEqual([]);
  });

  it('go with how far the mouth opens, whatever it shows then', () => {
    const [[, little], [half, byHalf]] = OPENINGS as [(typeof OPENINGS)[0], (typeof OPENINGS)[1]];
    const on = (opens: number, shows: string): string[] => {
      const scene = keyed(linked(withLanes('Lids'), 'Lids', { of: null, shows, opens, put: 'Half' }));
      expect(checkScene(scene, CHARTS)).toEqual([]);
      return shown(scene, 'Lids').map((id) => labelOf('Lids', id));
    };
    const lids = on(half, byHalf);
    const leads = mouths(keyed(withLanes('Lids')));
    const openings = leads.map((id) => jawDropOf(TEST_CHART, maybeDrawing(TEST_CHART, id)));
    expect(new Set(openings.map((open) => open >= half)).size).toBe(2);
    lids.forEach((label, frame) => expect(label === 'Half').toBe(openings[frame]! >= half));
    // What is asked for less is met more often, by every frame that met more.
    const wider = on(0.25, little);
    lids.forEach((label, frame) => label === 'Half' && expect(wider[frame]).toBe('Half'));
  });

  it('with how far anything but a mouth opens, or by no share, are refused', () => {
    const scene = withLanes('Lids', 'Brows');
    const link = (of: string | null, opens: number): Patch | Refusal =>
      setLinks(scene, laneIdOf(scene, 'Lids'), [{ of, shows: 'opens wide', opens, put: 'Half' }], ids);
    for (const refused of [link('Brows', 0.5), link(null, 0), link(null, 2), link(null, Number.NaN)])
      expect(refused).toEqual({ refusal: expect.stringMatching(/Only a mouth opens/) as string });
  });

  it('with themselves, or twice with one, are refused', () => {
    const scene = withLanes('Lids');
    const lane = laneIdOf(scene, 'Lids');
    expect(setLinks(scene, lane, [{ of: 'lids', shows: 'Half', put: 'Shut' }], ids)).toEqual({ refusal: expect.stringMatching(/itself/) });
    expect(setLinks(scene, lane, [ON_SPREAD, { ...ON_SPREAD, put: 'Shut' }], ids)).toEqual({ refusal: expect.stringMatching(/already/) });
  });
});

describe('an idle loop', () => {
  it('goes through the drawings tagged so where nothing else is keyed', () => {
    const plain = withLanes('Brows');
    const chart = CHARTS.get('chart-brows')!;
    const tagged: ChartDocument = {
      ...chart,
      drawings: chart.drawings.map((one) => (['Level', 'Up'].includes(one.label) ? { ...one, tags: ['idle'] } : one)),
    };
    const charts = new Map([...CHARTS, ['chart-brows', tagged]]);
    const set = patched(plain, setIdle(plain, laneIdOf(plain, 'Brows'), 5, ids));
    const scene = applyPatch(SCENE_KIND, set, pencilKeyed(set, charts, ids));
    const brows = shown(scene, 'Brows').map((id) => labelOf('Brows', id));
    brows.forEach((label, frame) => expect(label).toBe(Math.floor(frame / 5) % 2 === 0 ? 'Level' : 'Up'));
    expect(setIdle(plain, laneIdOf(plain, 'Brows'), 0, ids)).toHaveProperty('refusal');
  });
});

describe('how a lane stands', () => {
  const turned = (scene: SceneDocument, track: string, state: LaneState): SceneDocument =>
    patched(scene, setLaneState(scene, { track, state, on: true }, ids));

  it('muted it rests, hidden it is not drawn, and what is keyed stays', () => {
    const plain = withLanes('Lids');
    const lane = laneIdOf(plain, 'Lids');
    const scene = patched(plain, putDrawing(plain, { track: lane, frame: 0, drawing: 'shut' }, CHARTS.get('chart-lids')!, ids));
    const lids = (of: SceneDocument): unknown => faceAt(of, 'mouth1', CHARTS, 3).find(({ part }) => part === 'lids');
    expect(lids(scene)).toMatchObject({ drawing: 'shut' });
    expect(lids(turned(scene, lane, 'muted'))).toMatchObject({ drawing: 'open' });
    const hidden = turned(scene, lane, 'hidden');
    const [seen, gone] = [scene, hidden].map((of) => facesOfFrames(of, 'mouth1', CHARTS)[3]!);
    expect(keyOfLook(seen)).not.toBe(keyOfLook(gone));
    const size = { width: 100, height: 100, withHead: true, charts: CHARTS };
    const svg = (look: typeof seen): string => pictureSvg(CHARTS.get('chart')!, look, size);
    expect(svg(gone!).length).toBeLessThan(svg(seen!).length);
    expect(exposuresOfTrack(hidden, lane)).toEqual(exposuresOfTrack(scene, lane));
    const still = turned(scene, 'mouth1', 'muted');
    expect(new Set(looksOfFrames(still, 'mouth1', CHARTS).map((look) => look!.drawing))).toEqual(new Set(['rest']));
    expect(looksOfFrames(turned(scene, 'mouth1', 'hidden'), 'mouth1', CHARTS).every((look) => look === undefined)).toBe(true);
    expect(seenAt(still, still.tracks[0]!, CHARTS, 20)?.drawing?.id).toBe('rest');
  });

  it('locked no hand changes it and no keying does; others are changed as ever', () => {
    const plain = withLanes('Lids');
    const lane = laneIdOf(plain, 'Lids');
    const scene = turned(linked(plain, 'Lids', ON_SPREAD), lane, 'locked');
    const put = putDrawing(scene, { track: lane, frame: 0, drawing: 'shut' }, CHARTS.get('chart-lids')!, ids);
    expect(isRefusal(put) ? put : maybeLocked(scene, put)).toEqual({ refusal: expect.stringMatching(/lane of lids is locked/) });
    const mouth = putDrawing(scene, { track: 'mouth1', frame: 0, drawing: 'drop' }, TEST_CHART, ids);
    expect(isRefusal(mouth) ? mouth : maybeLocked(scene, mouth)).toBeUndefined();
    expect(exposuresOfTrack(keyed(scene), lane)).toEqual(exposuresOfTrack(scene, lane));
    const open = patched(scene, setLaneState(scene, { track: lane, state: 'locked', on: false }, ids));
    expect(isRefusal(put) ? put : maybeLocked(open, put)).toBeUndefined();
    expect(setLaneState(open, { track: lane, state: 'locked', on: false }, ids)).toHaveProperty('refusal');
  });
});

describe('a lane that blends', () => {
  it('has each mouth whole where it begins, leaves those that must be seen alone, and mixes before the others', () => {
    const plain = spokenScene(LINE);
    const scene = testPatch(plain, setBlend(plain, 'mouth1', 3, ids));
    const lane = exposuresOfTrack(scene, 'mouth1');
    const musts = new Set(TEST_CHART.groups.flatMap(({ id, must }) => (must ? [id] : [])));
    const isMust = (id: string): boolean => maybeDrawing(TEST_CHART, id)!.groups.some((group) => musts.has(group));
    let mixes = 0;
    lane.forEach(({ from, to, drawing }, index) => {
      const before = lane[index - 1];
      for (let frame = from; frame < to; frame++) {
        const seen = blendedDrawing(lane, index, frame, TEST_CHART, 3);
        if (isMust(drawing)) expect(seen).toBe(drawing);
        if (madeOf(seen).mix) mixes += 1;
        if (frame === from && !(before && isMust(before.drawing))) expect(seen).toBe(drawing);
      }
    });
    expect(mixes).toBeGreaterThan(5);
    const [blended, cut] = ['seen', 'keyed'].map((as) => looksOfFrames(scene, 'mouth1', TEST_CHARTS, as as 'seen'));
    expect(cut!.map((look) => look!.drawing)).toEqual(looksOfFrames(plain, 'mouth1', TEST_CHARTS).map((look) => look!.drawing));
    expect(blended!.filter((look) => madeOf(look!.drawing).mix)).toHaveLength(mixes);
    expect(setBlend(plain, 'mouth1', 90, ids)).toHaveProperty('refusal');
  });
});

it('a pose of some strength is that far from rest, in every lane of it', () => {
  const scene = withLanes('Lids', 'Brows');
  const pose = { id: 'p', name: 'Worried', drawings: [{ part: 'brows', drawing: 'up' }] };
  const brows = CHARTS.get('chart-brows')!;
  const up = brows.drawings.find(({ label }) => label === 'Up')!;
  const put = putPose(
    scene,
    { mouth: 'mouth1', head: HEAD, pose: { ...pose, drawings: [{ part: 'brows', drawing: up.id }] }, from: 4, to: 9, strength: 0.5 },
    CHARTS,
    ids,
  );
  const [there] = exposuresOfTrack(patched(scene, put), laneIdOf(scene, 'Brows')).filter(({ from }) => from === 4);
  expect(madeOf(there!.drawing).mix?.share ?? there!.drawing).not.toBe(up.id);
});

describe('why pencil is as it is', () => {
  const whyAt = (scene: SceneDocument, part: string, find: (label: string) => boolean): string => {
    const track = scene.tracks.find((one) => one.part === part)!;
    const chart = CHARTS.get(track.chartId)!;
    const exposure = exposuresOfTrack(scene, track.id).find(({ drawing }) => find(maybeDrawing(chart, drawing)!.label))!;
    return whyOfPart(scene, track, exposure, { chart, charts: CHARTS }).join(' ');
  };

  it('says which rule of a part’s lane put it: a blink, a link, ink, or none', () => {
    const plain = withLanes('Lids', 'Brows');
    const ruled = patched(plain, setBlinks(plain, laneIdOf(plain, 'Lids'), { perMinute: 30, seed: 2 }, ids));
    const scene = keyed(linked(ruled, 'Brows', { of: null, shows: 'Drop', put: 'Up' }));
    expect(whyAt(scene, 'Lids', (label) => label === 'Shut')).toMatch(/^A blink, shut from frame \d+: 30 a minute/);
    expect(whyAt(scene, 'Brows', (label) => label === 'Up')).toBe('It goes with the mouth: when that shows “Drop” this is “Up”.');
    expect(whyAt(scene, 'Brows', (label) => label === 'Level')).toBe('Nothing is keyed here: it is at rest.');
    const lids = laneIdOf(scene, 'Lids');
    const { lengthFrames } = scene.settings[0]!;
    const inked = patched(scene, inkSpan(scene, { track: lids, from: 0, to: lengthFrames, inked: true }, ids));
    expect(whyAt(inked, 'Lids', (label) => label === 'Shut')).toMatch(/You decided it/);
  });

  it('says what the feel added to a mouth’s plan, and nothing of a mouth of the plan', () => {
    const full = FEELS.find(({ name }) => name === 'Full')!;
    const lane = exposuresOfTrack(spokenScene(LINE, { rules: full.rules }), 'mouth1');
    const added = lane.filter((one) => maybeWhyAdded(one, TEST_CHART) !== undefined);
    expect(added.map(({ drawing }) => drawing)).toEqual(
      lane.map(({ drawing }) => drawing).filter((id) => madeOf(id).mix ?? madeOf(id).push),
    );
    expect(
      maybeWhyAdded(
        added.find(({ drawing }) => madeOf(drawing).mix)!,
        TEST_CHART,
      ),
    ).toMatch(/From “.+” to “.+”/);
    expect(maybeWhyAdded({ ...added[0]!, inked: true }, TEST_CHART)).toBeUndefined();
  });
});
