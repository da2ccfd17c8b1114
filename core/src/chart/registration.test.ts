/** Lining up, matching names, and taking found mouths in. */
import fc from 'fast-check';
import {
  AS_IT_IS,
  addDrawings,
  applyPatch,
  areLettersInOrder,
  boxOfLook,
  CHART_KIND,
  checkChart,
  copyIntoOthers,
  fittedPlacement,
  invertPatch,
  isRefusal,
  KEYCAPS,
  lineUp,
  lookIndexAt,
  maybeMatchOfName,
  moveDrawingTo,
  orderByOpenness,
  placementsOfImport,
  removeVariant,
  addVariant,
  scaledAbout,
  setChart,
  setDrawing,
  setHead,
  setOwnStyle,
  setPlacement,
  setPlacements,
  starterChart,
  STARTER_SIZES,
  coverageOfChart,
  DEFAULT_SOUND_GROUPS,
  PLAIN_HEAD,
  takeImported,
  withoutCommonBeginning,
  type ChartDocument,
  type ChartHead,
  type Drawing,
  type ImportRow,
  type Patch,
  type PlacedArt,
  type Refusal,
} from '../index.js';
import { countedIds } from '../testing/testPatch.js';

const chart = starterChart('Test', 'brush');
const hash = (letter: string): string => letter.repeat(64);

/** A picture of `width` by `height` pixels of ink, at a place on its page. */
const placed = (width: number, height: number, page?: { x: number; y: number }, opening = height): PlacedArt => ({
  kind: 'placed',
  picture: hash('a'),
  preview: hash('b'),
  width: width + 4,
  height: height + 4,
  ink: { x: 2, y: 2, width, height },
  ...(page && { page }),
  measures: { opening, width, teeth: 0, darkness: 1 },
});

function changed(before: ChartDocument, patch: Patch | Refusal): ChartDocument {
  if (isRefusal(patch)) throw new Error(patch.refusal);
  const after = applyPatch(CHART_KIND, before, patch);
  expect(checkChart(after)).toEqual([]);
  expect(applyPatch(CHART_KIND, after, invertPatch(patch, 'i'))).toEqual(before);
  expect(applyPatch(CHART_KIND, before, JSON.parse(JSON.stringify(patch)) as Patch)).toEqual(after);
  return after;
}

const drawingOf = (document: ChartDocument, id: string): Drawing => document.drawings.find((drawing) => drawing.id === id)!;

describe('starters', () => {
  it.each(STARTER_SIZES)('of %i mouths have a mouth for every sound group and a keycap or two hands', (size) => {
    const starter = starterChart('S', 'clay', size);
    expect(checkChart(starter)).toEqual([]);
    expect(starter.drawings).toHaveLength(size);
    expect(coverageOfChart(starter).missing).toEqual([]);
    expect(new Set(starter.groups.flatMap((group) => group.phonemes)).size).toBe(39);
  });
});

describe('lining up', () => {
  it('by the upper lip brings every top edge and middle to the anchor’s, and again moves nothing', () => {
    const moved = changed(chart, setPlacement(chart, 'ring', { x: 14, y: -9, scale: 1.2 }, countedIds()));
    const { changes, left } = lineUp(moved, 'top', 'rest');
    expect(left).toEqual([]);
    const after = changed(moved, setPlacements(moved, changes, countedIds()));
    const anchor = boxOfLook(drawingOf(after, 'rest'));
    for (const drawing of after.drawings) {
      const box = boxOfLook(drawing);
      expect(box.y).toBeCloseTo(anchor.y, 2);
      expect(box.x + box.width / 2).toBeCloseTo(anchor.x + anchor.width / 2, 2);
    }
    expect(drawingOf(after, 'ring').placement.scale).toBe(1.2);
    expect(lineUp(after, 'top', 'rest').changes).toEqual([]);
  });

  it('by crosses brings each cross to the middle, whatever the scale, and leaves those without one', () => {
    const art = placed(100, 40);
    const rows: ImportRow[] = [
      { art, placement: { x: 3, y: 4, scale: 0.5 }, cross: { x: 52, y: 10 }, label: 'with', groups: [] },
      { art, placement: { x: 3, y: 4, scale: 0.5 }, label: 'without', groups: [] },
    ];
    const mixed = changed(chart, takeImported(chart, rows, countedIds()));
    const { changes, left } = lineUp(mixed, 'cross');
    expect(left.map((drawing) => drawing.label)).toEqual(['without']);
    expect(changes).toMatchObject([{ after: { x: -26, y: -5, scale: 0.5 } }]);
  });

  it('as on the page keeps the distances of the page', () => {
    const rows = [
      { art: placed(80, 20, { x: 100, y: 60 }), placement: AS_IT_IS, label: 'a', groups: [] },
      { art: placed(60, 50, { x: 110, y: 58 }), placement: AS_IT_IS, label: 'b', groups: [] },
    ];
    const imported = changed(chart, takeImported(chart, rows, countedIds()));
    const [a, b] = imported.drawings.slice(-2) as [Drawing, Drawing];
    const { changes, left } = lineUp(imported, 'page', a.id);
    expect(left).toHaveLength(13);
    expect(changes).toMatchObject([{ drawing: { id: b.id }, moved: { x: 10, y: -2 } }]);
  });

  it('scaling about a point leaves the point where it is', () => {
    const number = fc.double({ min: -50, max: 50, noNaN: true });
    fc.assert(
      fc.property(number, number, number, number, fc.double({ min: 0.1, max: 4, noNaN: true }), (x, y, aboutX, aboutY, by) => {
        const after = scaledAbout({ x, y, scale: 2 }, by, { x: aboutX, y: aboutY });
        const art = { x: (aboutX - x) / 2, y: (aboutY - y) / 2 };
        expect(art.x * after.scale + after.x).toBeCloseTo(aboutX, 6);
        expect(art.y * after.scale + after.y).toBeCloseTo(aboutY, 6);
      }),
    );
  });
});

describe('names matched to sounds by spelling', () => {
  it.each<[string, string[]]>([
    ['mouth_01_press', ['press']],
    ['MBP', ['press']],
    ['m-b-p.png', ['press']],
    ['ee', ['spread']],
    ['mouthEE', ['spread']],
    ['OO', ['pucker']],
    ['oh', ['ring']],
    ['f_v', ['bite']],
    ['th', ['tip']],
    ['ʃ', ['push']],
    ['Closed', ['rest']],
    ['neutral copy', ['rest']],
    ['L', ['lift']],
    ['ah + eh', ['drop', 'mid']],
    ['JH', ['push']],
  ])('%s plays %j', (name, groups) => {
    const match = maybeMatchOfName(name, DEFAULT_SOUND_GROUPS);
    expect(match?.groups).toEqual(groups);
    expect(match?.because).toMatch(/→/);
  });

  it.each<[string, string[] | undefined]>([
    ['AI', ['drop', 'spread']],
    ['MBP', ['press']],
    ['CDGKNRSTYZ', ['back', 'teeth', 'pucker', 'spread']],
    ['W-OO', ['pucker']],
    ['W OO Q', ['pucker']],
    ['sch', ['push']],
    ['TH v2', ['tip']],
    ['th_03', ['tip']],
    ['ee 2.png', ['spread']],
    ['mouth.ai', undefined],
    ['2b', undefined],
    ['v3', undefined],
    ['FV', ['bite']],
    ['L', ['lift']],
    ['U', ['pucker']],
    ['geschlossen', ['rest']],
    ['bouche fermée', ['rest']],
    ['boca cerrada', ['rest']],
    ['bocca chiusa', ['rest']],
  ])('“%s”, as animators spell them, is sure or stays open', (name, groups) => {
    const match = maybeMatchOfName(name, DEFAULT_SOUND_GROUPS);
    expect(match?.groups).toEqual(groups);
    if (match) expect(match.isWeak).toBe(false);
  });

  it.each<[string, string[]]>([
    ['Open big', ['drop']],
    ['open', ['mid']],
    ['smile', ['spread']],
    ['wide', ['spread']],
    ['round', ['ring']],
    ['pout', ['pucker']],
    ['Mund offen', ['mid']],
    ['weit offen', ['drop']],
    ['lächeln', ['spread']],
    ['bouche ronde', ['ring']],
    ['grand ouvert', ['drop']],
    ['sonrisa', ['spread']],
    ['boca abierta', ['mid']],
    ['bocca aperta', ['mid']],
    ['bacio', ['pucker']],
    ['dientes', ['teeth']],
  ])('“%s” only looks like something: it is a question', (name, groups) => {
    expect(maybeMatchOfName(name, DEFAULT_SOUND_GROUPS)).toMatchObject({ groups, isWeak: true });
  });

  it('what all begin with is no part of their labels', () => {
    expect(withoutCommonBeginning(['mouth ee.png', 'mouth oo.png', 'mouth closed.png'])).toEqual(['ee', 'oo', 'closed']);
    expect(withoutCommonBeginning(['bramble_front_A', 'bramble_front_B'])).toEqual(['A', 'B']);
    expect(withoutCommonBeginning(['ee', 'eh'])).toEqual(['ee', 'eh']);
    expect(withoutCommonBeginning(['mouth', 'mouth'])).toEqual(['mouth', 'mouth']);
    expect(withoutCommonBeginning(['alone ee'])).toEqual(['alone ee']);
  });

  it.each(['mouth 7', 'Layer 12', 'grumpy', 'IMG_2041.JPG', 'side view', ''])('“%s” says nothing', (name) =>
    expect(maybeMatchOfName(name, DEFAULT_SOUND_GROUPS)).toBeUndefined(),
  );

  it('letters in order number the mouths and name no sound', () => {
    expect(areLettersInOrder(['A', 'B', 'C', 'D'])).toBe(true);
    expect(areLettersInOrder(['mouth_b.png', 'mouth_a.png', 'mouth_c.png', 'mouth_d.png'])).toBe(true);
    expect(areLettersInOrder(['a', 'e', 'i', 'o'])).toBe(false);
    expect(areLettersInOrder(['A', 'B'])).toBe(false);
  });
});

describe('taking found mouths in', () => {
  it('lays those of one page as they lie on it, the most closed at the cross, at one scale', () => {
    const page = [
      { art: placed(100, 12, { x: 200, y: 300 }, 0), pageKey: 'p' },
      { art: placed(80, 60, { x: 212, y: 297 }), pageKey: 'p' },
      { art: placed(50, 50), pageKey: 'alone' },
    ];
    const [closed, open, alone] = placementsOfImport(page);
    expect(new Set([closed!.scale, open!.scale, alone!.scale]).size).toBe(1);
    expect(closed!.scale).toBeCloseTo(0.88, 5);
    expect(open!.x - closed!.x).toBeCloseTo(12 * 0.88, 5);
    expect(open!.y - closed!.y).toBeCloseTo(-3 * 0.88, 5);
    const box = boxOfLook({ art: page[2]!.art, placement: alone! });
    expect(box.x + box.width / 2).toBeCloseTo(0, 6);
    expect(placementsOfImport([])).toEqual([]);
  });

  it('in the place of a drawing keeps its number, key and tags, and takes its groups over from others', () => {
    const rows: ImportRow[] = [
      { art: placed(100, 12), placement: AS_IT_IS, label: 'oh', groups: ['ring', 'pucker'], inPlaceOf: 'ring' },
      { art: placed(90, 40), placement: AS_IT_IS, label: 'more', groups: ['mid', 'ring'] },
    ];
    const after = changed(chart, takeImported(chart, rows, countedIds()));
    expect(after.drawings).toHaveLength(14);
    expect(drawingOf(after, 'ring')).toMatchObject({
      number: 12,
      keycap: 'X',
      label: 'oh',
      groups: ['ring', 'pucker'],
      art: { kind: 'placed' },
    });
    expect(drawingOf(after, 'pucker').groups).toEqual([]);
    expect(drawingOf(after, 'mid').groups).toEqual([]);
    expect(after.drawings.at(-1)).toMatchObject({ label: 'more', groups: ['mid'], keycap: 'V' });
    expect(takeImported(chart, [], countedIds())).toHaveProperty('refusal');
  });

  it('refuses more drawings than a chart may have, and changes nothing', () => {
    const many = Array.from({ length: 188 }, () => ({ art: placed(9, 9), placement: AS_IT_IS, label: 'x', groups: [] }));
    expect(takeImported(chart, many, countedIds())).toEqual({ refusal: expect.stringMatching(/201 drawings. It may have 200/) });
    expect(addDrawings(chart, many.slice(0, 187), countedIds())).not.toHaveProperty('refusal');
  });

  it('fits a single picture to the drawing it replaces', () => {
    const model = drawingOf(chart, 'drop');
    const art = placed(300, 200);
    const [was, is] = [boxOfLook(model), boxOfLook({ art, placement: fittedPlacement(art, model) })];
    expect(is.width).toBeCloseTo(was.width, 6);
    expect([is.x, is.y]).toEqual([expect.closeTo(was.x, 6), expect.closeTo(was.y, 6)]);
  });
});

describe('the chart as a whole', () => {
  it('is ordered by openness and by dragging, and every number stays with its mouth', () => {
    const ordered = changed(chart, orderByOpenness(chart, countedIds()));
    expect(
      ordered.drawings
        .slice(0, 2)
        .map((drawing) => drawing.id)
        .sort(),
    ).toEqual(['press', 'rest']);
    expect(ordered.drawings.at(-1)!.id).toBe('drop');
    const moved = changed(chart, moveDrawingTo(chart, 'pucker', 1, countedIds()));
    expect(moved.drawings.map((drawing) => drawing.id).slice(0, 3)).toEqual(['rest', 'pucker', 'press']);
    expect(moved.drawings.map((drawing) => drawing.place)).toEqual(Array.from({ length: 13 }, (_, index) => index));
    expect(moved.drawings.find(({ id }) => id === 'pucker')!.number).toBe(chart.drawings.find(({ id }) => id === 'pucker')!.number);
    const keyed = changed(chart, orderByOpenness(chart, countedIds(), true));
    expect(keyed.drawings.map((drawing) => drawing.keycap)).toEqual(KEYCAPS.slice(0, 13));
    expect(keyed.drawings.map((drawing) => drawing.number)).not.toEqual(chart.drawings.map((drawing) => drawing.number));
  });

  it('copies one drawing into others, keeping their names, keys and groups', () => {
    const after = changed(chart, copyIntoOthers(chart, 'drop', ['mid', 'ring'], countedIds()));
    expect(drawingOf(after, 'mid')).toEqual({ ...drawingOf(chart, 'mid'), art: drawingOf(chart, 'drop').art });
    expect(copyIntoOthers(chart, 'drop', ['drop'], countedIds())).toHaveProperty('refusal');
  });

  it('finishes all built mouths, or one by itself', () => {
    expect(changed(chart, setChart(chart, { style: { lip: '#112233' } }, countedIds())).settings[0]!.style.lip).toBe('#112233');
    const own = changed(chart, setOwnStyle(chart, 'drop', { weight: 2 }, countedIds()));
    expect(drawingOf(own, 'drop').art).toMatchObject({ style: { weight: 2 } });
    expect(drawingOf(changed(own, setOwnStyle(own, 'drop', null, countedIds())), 'drop')).toEqual(drawingOf(chart, 'drop'));
    expect(setChart(chart, { style: { lip: 'red' } }, countedIds())).toEqual({ refusal: expect.stringMatching(/lip is “red”/) });
    expect(setChart(chart, { name: ' ' }, countedIds())).toEqual({ refusal: expect.stringMatching(/name of 1 to 80/) });
  });

  it('boils with the scene’s frames and cycles from an exposure’s first', () => {
    const once = changed(chart, addVariant(chart, 'drop', drawingOf(chart, 'mid'), countedIds()));
    const twice = changed(once, addVariant(once, 'drop', drawingOf(chart, 'ring'), countedIds()));
    const boiling = drawingOf(twice, 'drop');
    expect([0, 1, 2, 3, 4, 5, 6].map((frame) => lookIndexAt(boiling, frame + 10, 10))).toEqual([2, 2, 0, 0, 1, 1, 2]);
    const cycling = drawingOf(changed(twice, setDrawing(twice, 'drop', { motion: 'cycle', every: 1 }, countedIds())), 'drop');
    expect([0, 1, 2, 3].map((frame) => lookIndexAt(cycling, frame + 10, 10))).toEqual([0, 1, 2, 0]);
    expect(drawingOf(changed(twice, removeVariant(twice, 'drop', 1, countedIds())), 'drop').variants).toHaveLength(1);
    expect(setDrawing(chart, 'drop', { every: 0 }, countedIds())).toEqual({ refusal: expect.stringMatching(/held 1 to 24 frames/) });
  });

  it('has a head that is a picture or built, and says what is wrong with one', () => {
    const head: ChartHead = {
      id: 'head',
      art: { kind: 'built', shape: PLAIN_HEAD },
      width: 400,
      height: 400,
      mouth: { x: 200, y: 260, scale: 1.2, angle: 0 },
      backdrop: ['#ffffff', '#ffffff', '#ffffff'],
    };
    const headed = changed(chart, setHead(chart, head, countedIds()));
    expect(changed(headed, setHead(headed, null, countedIds())).head).toEqual([]);
    for (const [change, message] of [
      [{ width: 0 }, /size from 1/],
      [{ mouth: { ...head.mouth, scale: 0 } }, /size on the head/],
      [{ art: { kind: 'picture', picture: '../x' } }, /picture, or built/],
      [{ jaw: { picture: hash('c'), box: { x: 0, y: 0, width: 9, height: 9 }, travel: -1 } }, /travel/],
      [{ backdrop: ['red'] }, /three colours/],
    ] as const)
      expect(setHead(chart, { ...head, ...change } as ChartHead, countedIds())).toEqual({ refusal: expect.stringMatching(message) });
  });
});
