/** Pictures as the head of a scene or behind it: laid in a lane, seen in its frames alone, with a mouth that follows them. */
import {
  addPictures,
  applyPatch,
  CHART_KIND,
  chartOfPart,
  checkChart,
  checkScene,
  exposuresOfTrack,
  facesOfFrames,
  followPictures,
  invertPatch,
  isRefusal,
  layPictures,
  maybeFaultOfParts,
  maybePlaceAt,
  partOfPictures,
  picturesOnHead,
  pictureSvg,
  placesOf,
  removePartLane,
  SCENE_KIND,
  setHead,
  setPlace,
  type ChartDocument,
  type HeadPart,
  type Patch,
  type PartRole,
  type PlacedArt,
  type Refusal,
  type SceneDocument,
  type Track,
} from '../index.js';
import { countedIds, emptyScene, TEST_CHARTS, testPatch } from '../testing/testPatch.js';
import { chartsOn, HEAD } from '../testing/wholeFace.js';

const ids = countedIds('hp');
const hash = (digit: number): string => digit.toString(16).repeat(64).slice(0, 64);
const art = (index: number, width = 800, height = 600): PlacedArt => ({
  kind: 'placed',
  picture: hash(index + 1),
  preview: hash(index + 1),
  width,
  height,
  ink: { x: 0, y: 0, width, height },
  measures: { opening: 0, width: 0, teeth: 0, darkness: 0 } as PlacedArt['measures'],
});
const ARTS = [0, 1, 2, 3].map((index) => art(index));

function setting(role: PartRole): { charts: Map<string, ChartDocument>; part: HeadPart; chart: ChartDocument } {
  const made = partOfPictures(HEAD, role, ARTS);
  const [base] = [...TEST_CHARTS.values()];
  const { drawings, ...place } = made;
  const chart = chartOfPart(base!.settings[0]!, drawings, ids);
  const part: HeadPart = { ...place, id: `pictures-${role}`, chartId: `pictures-${role}` };
  return { charts: new Map([...chartsOn({ ...HEAD, parts: [...(HEAD.parts ?? []), part] }), [part.chartId, chart]]), part, chart };
}

const head = setting('head');
const plate = setting('plate');
const scene = emptyScene();
const done = (patch: Patch | Refusal, from: SceneDocument = scene, charts = head.charts): SceneDocument => testPatch(from, patch, charts);
const laneOf = (document: SceneDocument): Track => document.tracks.find(({ kind, part }) => kind === 'part' && part === head.part.name)!;
const bring = (then: 'loop' | 'hold' | 'stop', from = 4, every = 3): SceneDocument =>
  done(addPictures(scene, { mouth: 'mouth1', part: head.part, chart: head.chart }, { from, every, then }, ids));
const spans = (document: SceneDocument): [number, number, number][] =>
  exposuresOfTrack(document, laneOf(document).id).map(({ from, to, drawing }) => [
    from,
    to,
    head.chart.drawings.findIndex(({ id }) => id === drawing),
  ]);

describe('a run of pictures', () => {
  it('is a part like any other: a chart of drawings that fill one frame, at the middle of the head', () => {
    expect(checkChart(head.chart)).toEqual([]);
    expect(maybeFaultOfParts([head.part])).toBeUndefined();
    expect(maybeFaultOfParts([{ ...head.part, role: 'sky' as PartRole }])).toMatch(/stands for "sky"/);
    const [first] = head.chart.drawings;
    const { scale, x, y } = picturesOnHead(head.part, first!);
    // As the head it fits into the head's frame, its middle at the middle of it; as the plate it covers that.
    expect(scale).toBeCloseTo(Math.min(HEAD.width / 800, HEAD.height / 600), 6);
    expect([x + 400 * scale, y + 300 * scale].map(Math.round)).toEqual([HEAD.width / 2, HEAD.height / 2].map(Math.round));
    expect(picturesOnHead(plate.part, plate.chart.drawings[0]!).scale).toBeCloseTo(Math.max(HEAD.width / 800, HEAD.height / 600), 6);
  });

  it('of pictures of other sizes fills the same width', () => {
    const made = partOfPictures(HEAD, 'head', [art(0), art(1, 400, 300)]);
    const [one, other] = made.drawings.map(({ art: { width }, placement }) => width * placement.scale);
    expect(one).toBeCloseTo(other!, 6);
  });

  it('is laid from a frame on, each held, from the first again, staying, or ending', () => {
    const { lengthFrames } = scene.settings[0]!;
    const loop = spans(bring('loop'));
    expect(loop.slice(0, 6)).toEqual([
      [4, 7, 0],
      [7, 10, 1],
      [10, 13, 2],
      [13, 16, 3],
      [16, 19, 0],
      [19, 22, 1],
    ]);
    expect(loop.at(-1)![1]).toBe(lengthFrames);
    expect(spans(bring('hold')).slice(3)).toEqual([[13, lengthFrames, 3]]);
    expect(spans(bring('stop')).at(-1)).toEqual([13, 16, 3]);
    expect(exposuresOfTrack(bring('loop'), laneOf(bring('loop')).id).every(({ inked }) => inked)).toBe(true);
  });

  it('refuses frames outside the scene, holds of none, and a lane that is locked or gone, in words', () => {
    const add = (from: number, every: number): Patch | Refusal =>
      addPictures(scene, { mouth: 'mouth1', part: head.part, chart: head.chart }, { from, every, then: 'loop' }, ids);
    expect(add(100_000, 1)).toEqual({ refusal: expect.stringMatching(/outside the scene/) as string });
    expect(add(0, 0)).toEqual({ refusal: expect.stringMatching(/1 to 48 frames, not 0/) as string });
    const laid = bring('loop');
    const locked = { ...laid, tracks: laid.tracks.map((one) => ({ ...one, locked: true as const })) };
    const lay = (document: SceneDocument, track: string): Patch | Refusal =>
      layPictures(document, { track, drawings: ['a'] }, { from: 0, every: 1, then: 'loop' }, ids);
    expect(lay(locked, laneOf(locked).id)).toEqual({ refusal: expect.stringMatching(/locked/) as string });
    expect(lay(scene, 'nowhere')).toEqual({ refusal: expect.stringMatching(/no longer/) as string });
  });

  it('is one step, and taking the lane away takes it all', () => {
    const patch = addPictures(scene, { mouth: 'mouth1', part: head.part, chart: head.chart }, { from: 0, every: 2, then: 'loop' }, ids);
    if (isRefusal(patch)) throw new Error(patch.refusal);
    const laid = applyPatch(SCENE_KIND, scene, patch);
    expect(checkScene(laid, head.charts)).toEqual([]);
    expect(applyPatch(SCENE_KIND, laid, invertPatch(patch, 'back'))).toEqual(scene);
    const without = done(removePartLane(laid, laneOf(laid).id, ids), laid);
    expect(without.exposures).toEqual(scene.exposures);
  });
});

describe('what is seen', () => {
  const svgOf = (document: SceneDocument, charts: Map<string, ChartDocument>, frame: number): string => {
    const look = facesOfFrames(document, 'mouth1', charts)[frame];
    const options = { width: 400, height: 400, withHead: true, charts };
    return pictureSvg(charts.get(document.tracks[0]!.chartId)!, look, options, (picture) => `asset:${picture}`);
  };

  it('is the picture in the place of the head’s own art, in its frames alone', () => {
    const laid = bring('stop');
    const own = svgOf(scene, head.charts, 0);
    expect(svgOf(laid, head.charts, 3)).toBe(own);
    expect(svgOf(laid, head.charts, 16)).toBe(own);
    const during = svgOf(laid, head.charts, 8);
    expect(during).toContain(`asset:${ARTS[1]!.picture}`);
    // The head's own art is a path of skin under everything: not there now, and the mouth still is.
    expect(during.length).toBeLessThan(own.length);
    expect(during).not.toContain('id="head');
    expect(svgOf(laid, head.charts, 13)).toContain(`asset:${ARTS[3]!.picture}`);
  });

  it('is the plate behind the head, which moves before it', () => {
    const add = addPictures(scene, { mouth: 'mouth1', part: plate.part, chart: plate.chart }, { from: 0, every: 1, then: 'hold' }, ids);
    const laid = done(add, scene, plate.charts);
    const moved = done(setPlace(laid, { track: 'mouth1', of: 'head', frame: 0 }, { x: 50 }, ids), laid, plate.charts);
    const svg = svgOf(moved, plate.charts, 0);
    const [picture, movedHead] = [svg.indexOf(`asset:${ARTS[0]!.picture}`), svg.indexOf('translate(50 0)')];
    expect(picture).toBeGreaterThan(0);
    expect(movedHead).toBeGreaterThan(picture);
  });

  it('is nothing of it in a scene that has no lane for it', () => {
    expect(svgOf(scene, head.charts, 5)).not.toContain('asset:');
  });
});

describe('a mouth that follows', () => {
  const laid = bring('stop');
  const mouth = laid.tracks.find(({ id }) => id === 'mouth1')!;
  const lane = laneOf(laid);
  const marks = head.chart.drawings.map(({ id }, index) => ({ drawing: id, x: index * 10, y: 0 - index * 5, pencil: true as const }));
  const follow = (document: SceneDocument, which = marks): SceneDocument =>
    done(followPictures(document, { mouth, lane }, which, ids), document);
  const OWN = { track: 'mouth1', of: 'own' } as const;

  it('is where each picture has it for as long as that is shown, and back in its place after the last', () => {
    const after = follow(laid);
    expect(placesOf(after, OWN).map(({ frame, x, y, ease, pencil }) => [frame, x, y, ease, pencil])).toEqual([
      [4, 0, 0, 'hold', true],
      [7, 10, -5, 'hold', true],
      [10, 20, -10, 'hold', true],
      [13, 30, -15, 'hold', true],
      [16, 0, 0, 'hold', true],
    ]);
    expect(maybePlaceAt(after, OWN, 12)).toMatchObject({ x: 20, y: -10 });
    expect(maybePlaceAt(after, OWN, 17)).toBeUndefined();
  });

  it('goes round with pictures that begin again', () => {
    const loop = bring('loop');
    const after = done(followPictures(loop, { mouth, lane: laneOf(loop) }, marks, ids), loop);
    expect(maybePlaceAt(after, OWN, 8)).toMatchObject({ x: 10 });
    expect(maybePlaceAt(after, OWN, 8 + 12)).toMatchObject({ x: 10 });
  });

  it('keeps what a hand has set: what is followed is pencil', () => {
    const followed = follow(laid);
    const byHand = done(setPlace(followed, { ...OWN, frame: 10 }, { x: 99 }, ids), followed);
    expect(placesOf(byHand, OWN).find(({ frame }) => frame === 10)!.pencil).toBeUndefined();
    const again = follow(
      byHand,
      marks.map((mark) => ({ ...mark, x: 7 })),
    );
    expect(placesOf(again, OWN).map(({ frame, x }) => [frame, x])).toEqual([
      [4, 7],
      [7, 7],
      [10, 99],
      [13, 7],
      [16, 0],
    ]);
    // Pressed by hand it is ink, over ink too.
    const pressed = follow(again, [{ drawing: head.chart.drawings[2]!.id, x: 3, y: 0 } as (typeof marks)[number]]);
    expect(placesOf(pressed, OWN).find(({ frame }) => frame === 10)).toMatchObject({ x: 3 });
    // What was followed on the others before is not there any more; ink is.
    expect(placesOf(pressed, OWN).map(({ frame }) => frame)).toEqual([10, 16]);
  });

  it('refuses where nothing is marked, and what is too far', () => {
    expect(followPictures(laid, { mouth, lane }, [], ids)).toEqual({ refusal: expect.stringMatching(/Mark the mouth/) as string });
    expect(followPictures(laid, { mouth, lane }, [{ ...marks[0]!, x: 1e6 }], ids)).toEqual({
      refusal: expect.stringMatching(/further than/) as string,
    });
  });

  it('is a change of the chart’s head that can be taken back, too', () => {
    const [id] = [...TEST_CHARTS.keys()];
    const chart = head.charts.get(id!)!;
    const patch = setHead(chart, { ...chart.head[0]!, parts: [] }, ids);
    if (isRefusal(patch)) throw new Error(patch.refusal);
    const without = applyPatch(CHART_KIND, chart, patch);
    expect(applyPatch(CHART_KIND, without, invertPatch(patch, 'back'))).toEqual(chart);
  });
});
