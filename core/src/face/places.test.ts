/** Where things are over time: keys that hold and ease, what moves with them, and a jaw that follows the mouth. */
import fc from 'fast-check';
import {
  addPartLane,
  changeFrameRate,
  checkScene,
  curvesCsv,
  curvesOf,
  faceAt,
  facesOfFrames,
  insertFrames,
  insertTime,
  jawAt,
  jawCurve,
  jawOf,
  keyOfLook,
  looksOfFrames,
  maybePlaceAt,
  movePlace,
  movePlacesAt,
  pictureSvg,
  PLACE_EASES,
  placesOf,
  placeTransform,
  removeFrames,
  removePartLane,
  removePlace,
  removeTime,
  setLaneState,
  setPlace,
  slideFrames,
  upgradeScene,
  type ChartHead,
  type Patch,
  type PlaceKey,
  type PlaceOf,
  type PlaceValue,
  type Refusal,
  type SceneDocument,
} from '../index.js';
import { spokenScene } from '../testing/spokenScene.js';
import { countedIds, emptyScene, TEST_CHARTS, testPatch } from '../testing/testPatch.js';
import { chartsOn, HEAD } from '../testing/wholeFace.js';

const CHARTS = chartsOn(HEAD);
const ids = countedIds('p');
const OWN: PlaceOf = { track: 'mouth1', of: 'own' };
const WHOLE: PlaceOf = { track: 'mouth1', of: 'head' };
const patched = (scene: SceneDocument, patch: Patch | Refusal): SceneDocument => testPatch(scene, patch, CHARTS);
const keyed = (
  scene: SceneDocument,
  what: PlaceOf,
  frame: number,
  value: Partial<PlaceValue>,
  ease: PlaceKey['ease'] = 'even',
): SceneDocument => patched(scene, setPlace(scene, { ...what, frame, ease }, value, ids));

const aValue = fc.record({
  x: fc.integer({ min: -300, max: 300 }),
  y: fc.integer({ min: -300, max: 300 }),
  scale: fc.integer({ min: 10, max: 400 }).map((percent) => percent / 100),
  angle: fc.integer({ min: -180, max: 180 }),
  skew: fc.integer({ min: -40, max: 40 }),
  flip: fc.boolean(),
});

describe('keys of a place', () => {
  it('go from one to the next within both, hold where they are held, and are exactly what they say at their frames', () => {
    fc.assert(
      fc.property(
        aValue,
        aValue,
        fc.constantFrom(...PLACE_EASES),
        fc.integer({ min: 1, max: 20 }),
        fc.integer({ min: 1, max: 3 }),
        (a, b, ease, length, hold) => {
          const first = keyed(emptyScene(60), OWN, 10, a, ease);
          const scene = keyed(first, OWN, 10 + length, b, 'hold');
          const plain = { x: 0, y: 0, scale: 1, angle: 0, skew: 0, flip: false };
          const at = (frame: number): PlaceValue => maybePlaceAt(scene, OWN, frame, hold) ?? plain;
          expect(maybePlaceAt(scene, OWN, 9)).toBeUndefined();
          expect(at(10)).toMatchObject(a);
          expect(at(10 + length)).toMatchObject(b);
          expect(at(59)).toMatchObject(b);
          for (let frame = 10; frame < 10 + length; frame++) {
            for (const key of ['x', 'y', 'scale', 'angle', 'skew'] as const) {
              expect(at(frame)[key]).toBeGreaterThanOrEqual(Math.min(a[key], b[key]) - 1e-9);
              expect(at(frame)[key]).toBeLessThanOrEqual(Math.max(a[key], b[key]) + 1e-9);
            }
            expect(at(frame).flip).toBe(a.flip);
            if (ease === 'hold') expect(at(frame)).toMatchObject(a);
            // On twos it changes on every second frame after its key.
            expect(at(frame)).toEqual(at(10 + Math.floor((frame - 10) / hold) * hold));
          }
          expect(checkScene(scene, CHARTS)).toEqual([]);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('a second at one frame changes the first; one is taken away; out of the scene, out of reach or locked they are refused', () => {
    const scene = keyed(keyed(emptyScene(40), OWN, 5, { x: 4 }), OWN, 5, { y: 3 });
    expect(placesOf(scene, OWN)).toHaveLength(1);
    expect(maybePlaceAt(scene, OWN, 8)).toMatchObject({ x: 4, y: 3 });
    expect(patched(scene, removePlace(scene, { ...OWN, frame: 5 }, ids)).places).toEqual([]);
    expect(removePlace(scene, { ...OWN, frame: 6 }, ids)).toHaveProperty('refusal');
    expect(setPlace(scene, { ...OWN, frame: 40 }, {}, ids)).toEqual({ refusal: expect.stringMatching(/outside the scene/) });
    expect(setPlace(scene, { ...OWN, frame: 4 }, { scale: 900 }, ids)).toEqual({ refusal: expect.stringMatching(/further than/) });
    const locked = patched(scene, setLaneState(scene, { track: 'mouth1', state: 'locked', on: true }, ids));
    expect(setPlace(locked, { ...OWN, frame: 4 }, { x: 1 }, ids)).toEqual({ refusal: expect.stringMatching(/locked/) });
  });

  it('move with the frames of the scene, go with those that go, and stay with their lane', () => {
    const scene = [4, 10, 20].reduce((now, frame) => keyed(now, OWN, frame, { x: frame }), emptyScene(30));
    const frames = (of: SceneDocument): number[] => placesOf(of, OWN).map(({ frame }) => frame);
    expect(frames(patched(scene, insertTime(scene, { frame: 10, count: 5 }, ids)))).toEqual([4, 15, 25]);
    expect(frames(patched(scene, removeTime(scene, { from: 8, to: 12 }, ids)))).toEqual([4, 16]);
    // With the drawings of their lane alone too.
    const lanes: SceneDocument = {
      ...scene,
      exposures: ['rest', 'drop', 'press'].map((drawing, at) => ({
        id: `e${at}`,
        track: 'mouth1',
        from: at * 10,
        to: at * 10 + 10,
        drawing,
        inked: true,
        plays: [],
      })),
    };
    expect(frames(patched(lanes, insertFrames(lanes, { track: 'mouth1', frame: 5, count: 3 }, ids)))).toEqual([4, 13, 23]);
    expect(frames(patched(lanes, removeFrames(lanes, { track: 'mouth1', from: 8, to: 12 }, ids)))).toEqual([4, 16]);
    expect(frames(patched(lanes, slideFrames(lanes, { track: 'mouth1', from: 10, to: 20, by: 2 }, ids)))).toEqual([4, 12, 20]);
    const half = changeFrameRate(scene, { num: 12, den: 1 }, TEST_CHARTS, ids);
    expect(frames(testPatch(scene, 'patch' in half ? half.patch : half))).toEqual([2, 5, 10]);
    const part = HEAD.parts![1]!;
    const spoken = spokenScene();
    const withLane = patched(spoken, addPartLane(spoken, { mouth: 'mouth1', part }, CHARTS.get(part.chartId)!, ids));
    const lane = withLane.tracks.find(({ kind }) => kind === 'part')!.id;
    const moved = keyed(withLane, { track: lane, of: 'own' }, 3, { x: 9 });
    expect(patched(moved, removePartLane(moved, lane, ids)).places).toEqual([]);
  });

  it('that point at no lane, lie twice on one frame, or move a head with a part’s lane are faults', () => {
    const key: PlaceKey = {
      id: 'k',
      track: 'mouth1',
      of: 'own',
      frame: 3,
      x: 0,
      y: 0,
      scale: 1,
      angle: 0,
      skew: 0,
      flip: false,
      ease: 'hold',
    };
    const faults = (...places: PlaceKey[]): string => checkScene({ ...emptyScene(), places }, TEST_CHARTS).join(' ');
    expect(faults({ ...key, track: 'gone' })).toMatch(/which is not there/);
    expect(faults(key, { ...key, id: 'l' })).toMatch(/two places/);
    expect(faults({ ...key, frame: 900 })).toMatch(/inside the scene/);
    const { places: _, ...old } = emptyScene();
    expect(upgradeScene(old as SceneDocument).places).toEqual([]);
  });
});

describe('what is moved', () => {
  const size = { width: 200, height: 200, withHead: true, charts: CHARTS };

  it('is where its keys say in the picture: the mouth on its head, the head in the picture, and what a part carries with it', () => {
    const plain = spokenScene();
    const scene = keyed(keyed(plain, OWN, 2, { x: 10, angle: 5 }), WHOLE, 2, { y: -6, scale: 1.1 });
    const look = facesOfFrames(scene, 'mouth1', CHARTS)[4]!;
    const svg = pictureSvg(CHARTS.get('chart')!, look, size);
    expect(svg).toContain('rotate(5)');
    expect(svg).toContain(placeTransform({ x: 0, y: -6, scale: 1.1, angle: 0, skew: 0, flip: false }));
    expect(keyOfLook(look)).not.toBe(keyOfLook(facesOfFrames(plain, 'mouth1', CHARTS)[4]));
    // Without a head nothing is moved: whoever lays the mouths on a head moves them there.
    expect(looksOfFrames(scene, 'mouth1', CHARTS)).toEqual(looksOfFrames(plain, 'mouth1', CHARTS));
    // An offset is in the head's units, whatever the mouth's size and turn there.
    const turned: ChartHead = { ...HEAD, mouth: { ...HEAD.mouth, angle: 90, scale: 2 } };
    const onTurned = facesOfFrames(keyed(plain, OWN, 0, { x: 10 }), 'mouth1', chartsOn(turned))[0]!;
    expect(onTurned.place?.moved).toBe('translate(0 -5)');
  });

  it('a part that another carries goes with it', () => {
    const carried: ChartHead = {
      ...HEAD,
      parts: HEAD.parts!.map((part) => (part.id === 'lids' ? { ...part, follows: 'eyes', at: { x: 0, y: 0, scale: 1, angle: 0 } } : part)),
    };
    const charts = chartsOn(carried);
    const eyes = carried.parts!.find(({ id }) => id === 'eyes')!;
    const plain = spokenScene();
    const withLane = testPatch(plain, addPartLane(plain, { mouth: 'mouth1', part: eyes }, charts.get(eyes.chartId)!, ids), charts);
    const lane = withLane.tracks.find(({ kind }) => kind === 'part')!.id;
    const scene = testPatch(withLane, setPlace(withLane, { track: lane, of: 'own', frame: 0 }, { x: 12 }, ids), charts);
    const face = faceAt(scene, 'mouth1', charts, 5);
    expect(face.find(({ part }) => part === 'eyes')?.moved).toBeDefined();
    const svg = pictureSvg(charts.get('chart')!, { ...facesOfFrames(scene, 'mouth1', charts)[5]! }, { ...size, charts });
    const moved = face.find(({ part }) => part === 'eyes')!.moved!;
    expect(svg.split(moved)).toHaveLength(3);
  });
});

describe('a jaw', () => {
  const pulse = (frame: number): number => (frame >= 10 && frame < 14 ? 1 : 0);

  it('leads, eases and shares: as much in all as the mouth, earlier, and smoother', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 10 }), (lead, ease, tenths) => {
        const share = tenths / 10;
        const jaw = Array.from({ length: 60 }, (_, index) => jawOf({ lead, ease, share }, pulse, index - 20));
        expect(jaw.reduce((sum, open) => sum + open, 0)).toBeCloseTo(4 * share, 6);
        expect(Math.max(...jaw)).toBeLessThanOrEqual(share + 1e-9);
        const middle = jaw.reduce((sum, open, index) => sum + open * (index - 20), 0) / Math.max(1e-9, 4 * share);
        if (share > 0) expect(middle).toBeCloseTo(11.5 - lead, 6);
      }),
    );
  });

  it('moves what hangs on it, and is handed off as a curve', () => {
    const bearded: ChartHead = {
      ...HEAD,
      jawMotion: { lead: 1, ease: 1, share: 0.8 },
      parts: HEAD.parts!.map((part) => (part.id === 'brows' ? { ...part, jaw: 20 } : part)),
    };
    const charts = chartsOn(bearded);
    const scene = spokenScene();
    const [track] = scene.tracks;
    const curve = jawCurve(scene, 'mouth1', charts);
    const widest = curve.indexOf(Math.max(...curve));
    expect(curve[widest]).toBeGreaterThan(0.3);
    expect(curve[widest]).toBeCloseTo(jawAt(scene, track!, charts, widest), 6);
    const look = facesOfFrames(scene, 'mouth1', charts)[widest]!;
    expect(look.place?.jaw).toBeCloseTo(curve[widest]!, 6);
    const brows = look.face!.find(({ part }) => part === 'brows')!;
    const down = Number(/translate\(\S+ (\S+)\)/.exec(brows.moved!)![1]);
    expect(down * bearded.parts!.find(({ id }) => id === 'brows')!.at.scale).toBeCloseTo(20 * curve[widest]!, 2);
    const counting = { unit: 'frames', first: 1 } as never;
    const csv = curvesCsv(scene, curvesOf(looksOfFrames(scene, 'mouth1', charts), charts, undefined, curve), counting);
    expect(csv.split('\r\n')[0]).toBe('frame,opening,width,rounding,loudness,jaw');
    expect(csv.split('\r\n')[widest + 1]!.split(',')[5]).toBe(String(Math.round(curve[widest]! * 1000) / 1000));
  });
});

describe('a key moved apart from what is exposed', () => {
  const scene = keyed(keyed(emptyScene(), OWN, 4, { x: 10 }), OWN, 9, { x: 20 });
  const framesOf = (document: SceneDocument): number[] => placesOf(document, OWN).map(({ frame }) => frame);

  it('is the same key at another frame, and nothing else is different', () => {
    const moved = patched(scene, movePlace(scene, { ...OWN, frame: 4, by: 3 }, ids));
    expect(framesOf(moved)).toEqual([7, 9]);
    expect(moved.exposures).toBe(scene.exposures);
    expect(patched(moved, movePlace(moved, { ...OWN, frame: 7, by: -3 }, ids))).toEqual(scene);
  });

  it('is refused over another, out of the scene, in a locked lane, and where there is none', () => {
    const refusal = (frame: number, by: number, document = scene): unknown => movePlace(document, { ...OWN, frame, by }, ids);
    expect(refusal(4, 5)).toEqual({ refusal: expect.stringMatching(/already/) as string });
    expect(refusal(4, -5)).toEqual({ refusal: expect.stringMatching(/outside the scene/) as string });
    expect(refusal(5, 1)).toEqual({ refusal: expect.stringMatching(/no key/) as string });
    const locked = patched(scene, setLaneState(scene, { track: 'mouth1', state: 'locked', on: true }, ids));
    expect(refusal(4, 1, locked)).toEqual({ refusal: expect.stringMatching(/locked/) as string });
  });

  it('goes with that of the head at the same frame, or neither goes', () => {
    const HEAD = { ...OWN, of: 'head' } as const;
    const both = keyed(keyed(scene, HEAD, 4, { angle: 5 }), HEAD, 12, { angle: 0 });
    const at = (document: SceneDocument): number[][] => [OWN, HEAD].map((what) => placesOf(document, what).map(({ frame }) => frame));
    const all = (frame: number, by: number) => movePlacesAt(both, { track: OWN.track, frame, by }, ids);
    expect(at(patched(both, all(4, 2)))).toEqual([
      [6, 9],
      [6, 12],
    ]);
    expect(at(patched(both, all(12, -1)))).toEqual([
      [4, 9],
      [4, 11],
    ]);
    expect(all(4, 8)).toEqual({ refusal: expect.stringMatching(/already/) as string });
    expect(all(5, 1)).toEqual({ refusal: expect.stringMatching(/no key/) as string });
  });
});
