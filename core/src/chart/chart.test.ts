import {
  checkChart,
  checkPictureOptions,
  coverageOfChart,
  looksOfFrames,
  pictureName,
  pictureSvg,
  restDrawing,
  STARTER_SHAPES,
  starterChart,
} from '../index.js';
import { emptyScene, TEST_CHARTS } from '../testing/testPatch.js';

const chart = starterChart('Starter', 'brush');

describe('a chart', () => {
  it('from a starter covers every default group, one keycap each', () => {
    expect(checkChart(chart)).toEqual([]);
    expect(coverageOfChart(chart)).toEqual({ covered: 13, missing: [], shared: [] });
    expect(new Set(chart.drawings.map((drawing) => drawing.keycap)).size).toBe(13);
  });

  it('without a rest drawing rests on the least open', () => {
    const without = { ...chart, drawings: chart.drawings.filter((drawing) => drawing.id !== 'rest' && drawing.id !== 'press') };
    expect(['pucker', 'bite', 'teeth', 'spread']).toContain(restDrawing(without).id);
    expect(coverageOfChart(without).missing.map((group) => group.id)).toEqual(['rest', 'press']);
  });

  it.each<[string, unknown, RegExp]>([
    ['something else', { a: 1 }, /not a mouth chart/],
    ['no drawing', { ...chart, drawings: [] }, /no drawing/],
    ['a group that is not there', { ...chart, drawings: [{ ...chart.drawings[0], groups: ['grin'] }] }, /“grin”/],
    [
      'a shape out of range',
      { ...chart, drawings: [{ ...chart.drawings[0], art: { kind: 'built', shape: { ...STARTER_SHAPES.drop!, jaw: 3 } } }] },
      /out of range/,
    ],
    ['one id twice', { ...chart, drawings: [chart.drawings[0], chart.drawings[0]] }, /id of its own/],
  ])('with %s is named', (_, candidate, message) => expect(checkChart(candidate).join(' ')).toMatch(message));
});

describe('numbered pictures', () => {
  const good = { baseName: 'bramble', firstNumber: 1, width: 640, height: 360 };
  it('are named by four digits after a name without any', () => {
    expect(pictureName('bramble', 7)).toBe('bramble0007.png');
    expect(checkPictureOptions(good, 100)).toEqual([]);
  });
  it.each<[string, object, RegExp]>([
    ['a digit in the name', { baseName: 'shot2' }, /no digits/],
    ['a path in the name', { baseName: '../x' }, /base name/],
    ['an empty name', { baseName: '' }, /base name/],
    ['a first number below 0', { firstNumber: -1 }, /first number/],
    ['a last number above 9999', { firstNumber: 9950 }, /Start at 9900 or below/],
    ['a picture of no width', { width: 0 }, /width is 0/],
    ['a picture too high', { height: 90_000 }, /height is 90000/],
    ['a cut on a colour', { cut: true, ground: '#ffffff' }, /no ink to be cut to/],
    ['a template that is none', { template: { picture: 'x', width: 0, height: 1, mouth: {} } }, /no picture with a place/],
  ])('refuse %s', (_, changes, message) => expect(checkPictureOptions({ ...good, ...changes }, 100).join(' ')).toMatch(message));
  it('are not more than a zip holds, unless only changes are asked for', () => {
    const long = { ...good, digits: 6 };
    expect(checkPictureOptions(long, 65_001).join(' ')).toMatch(/too many for one zip/);
    expect(checkPictureOptions(long, 65_000)).toEqual([]);
    expect(checkPictureOptions({ ...long, which: 'changes' }, 65_001)).toEqual([]);
  });

  it('hold a drawing over its frames and leave gaps empty', () => {
    const scene = emptyScene(4);
    const exposures = [{ ...scene.exposures[0]!, from: 1, to: 3, drawing: 'drop' }];
    const shown = { chartId: 'chart', drawing: 'drop', look: 0 };
    expect(looksOfFrames({ ...scene, exposures }, 'mouth1', TEST_CHARTS)).toEqual([undefined, shown, shown, undefined]);
  });

  it('put the mouth on the head where its cross is', () => {
    const picture = 'a'.repeat(64);
    const head = {
      id: 'head' as const,
      art: { kind: 'picture' as const, picture },
      width: 400,
      height: 400,
      mouth: { x: 200, y: 250, scale: 1.2, angle: 3 },
      backdrop: ['#ffffff', '#ffffff', '#ffffff'],
    };
    const svg = pictureSvg({ ...chart, head: [head] }, { drawing: 'drop', look: 0 }, { ...good, withHead: true }, (hash) => `data:${hash}`);
    expect(svg).toContain(`href="data:${picture}"`);
    expect(svg).toContain('translate(200 250) rotate(3) scale(1.2)');
    expect(svg).toContain('viewBox="0 0 400 400"');
    expect(pictureSvg(chart, undefined, { ...good, withHead: true })).not.toContain('<path');
  });
});
