import sharp from 'sharp';
import { pictureSvg, starterChart, holdsCsv, plannedPictures } from '@zest-jaw/core';
import { arpabetOfFrench } from './reading/frenchPhonemes.js';
import { svgToPng } from './rasterise.js';
import { renderPictures } from './renderPictures.js';

const chart = starterChart('Test', 'brush');
const options = { baseName: 'mouth', firstNumber: 7, width: 64, height: 48, withHead: false };

describe('pictures', () => {
  it('are PNGs of the size asked for, with an alpha channel (ISO/IEC 15948, IHDR)', () => {
    const png = Buffer.from(svgToPng(pictureSvg(chart, { drawing: 'drop', look: 0 }, options)));
    expect(png.subarray(1, 4).toString()).toBe('PNG');
    expect([png.readUInt32BE(16), png.readUInt32BE(20), png[25]]).toEqual([64, 48, 6]);
  });

  it('are numbered from the first, one a frame, each distinct one rendered once', async () => {
    const made: { name: string; bytes: Uint8Array }[] = [];
    const [rest, drop] = [
      { chartId: 'chart', drawing: 'rest', look: 0 },
      { chartId: 'chart', drawing: 'drop', look: 0 },
    ];
    const charts = new Map([['chart', chart]]);
    await renderPictures(
      plannedPictures([rest, drop, rest, undefined], charts, options),
      charts,
      options,
      () => '',
      (picture) => made.push(picture),
    );
    expect(made.map(({ name }) => name)).toEqual(['mouth0007.png', 'mouth0008.png', 'mouth0009.png', 'mouth0010.png']);
    expect(made[2]!.bytes).toBe(made[0]!.bytes);
    expect(Buffer.from(made[1]!.bytes).equals(Buffer.from(made[0]!.bytes))).toBe(false);
  });
});

describe('all lanes on one picture', () => {
  it('are side by side, each in its column the pixels it has by itself', async () => {
    const clay = starterChart('Other', 'clay');
    const charts = new Map([
      ['chart', chart],
      ['other', clay],
    ]);
    const look = (chartId: string, drawing: string) => ({ chartId, drawing, look: 0 });
    const wide = { ...options, width: 128 };
    const planned = plannedPictures([look('chart', 'drop'), look('chart', 'drop')], charts, wide, [[look('other', 'ring'), undefined]]);
    expect(planned.map(({ others }) => others)).toEqual([[look('other', 'ring')], [undefined]]);
    const made: Buffer[] = [];
    await renderPictures(
      planned,
      charts,
      wide,
      () => '',
      ({ bytes }) => made.push(Buffer.from(bytes)),
      ['chart', 'other'],
    );
    const half = (png: Buffer, left: number): Promise<Buffer> =>
      sharp(png).extract({ left, top: 0, width: 64, height: 48 }).raw().toBuffer();
    const alone = (of: typeof chart, drawing: string): Promise<Buffer> =>
      sharp(svgToPng(pictureSvg(of, { drawing, look: 0 }, options)))
        .raw()
        .toBuffer();
    expect((await half(made[0]!, 0)).equals(await alone(chart, 'drop'))).toBe(true);
    expect((await half(made[0]!, 64)).equals(await alone(clay, 'ring'))).toBe(true);
    expect((await half(made[1]!, 0)).equals(await half(made[0]!, 0))).toBe(true);
    expect((await half(made[1]!, 64)).every((value) => value === 0)).toBe(true);
    // Where only the other lane changes the picture does too.
    expect(
      plannedPictures([look('chart', 'drop'), look('chart', 'drop')], charts, { firstNumber: 1, which: 'changes' }, [
        [look('other', 'ring'), undefined],
      ]),
    ).toHaveLength(2);
  });
});

describe('pictures otherwise', () => {
  it('are written as lossless WebP on a ground, the same pixels as PNG', async () => {
    const charts = new Map([['chart', chart]]);
    const planned = plannedPictures([{ chartId: 'chart', drawing: 'drop', look: 0 }], charts, options);
    const made: Uint8Array[] = [];
    for (const format of ['png', 'webp'] as const)
      await renderPictures(
        planned,
        charts,
        { ...options, format, ground: '#336699', digits: 6 },
        () => '',
        ({ bytes, name }) => {
          expect(name).toBe(`mouth000007.${format}`);
          made.push(bytes);
        },
      );
    const [png, webp] = await Promise.all(made.map((bytes) => sharp(bytes).ensureAlpha().raw().toBuffer()));
    expect(webp!.equals(png!)).toBe(true);
    // The ground reaches the corners.
    expect([...png!.subarray(0, 4)]).toEqual([0x33, 0x66, 0x99, 255]);
    expect((await sharp(made[1]!).metadata()).format).toBe('webp');
  });

  it('are written only where they change, with the holds, or once for each drawing', () => {
    const charts = new Map([['chart', chart]]);
    const look = (drawing: string) => ({ chartId: 'chart', drawing, look: 0 });
    const frames = [look('rest'), look('rest'), look('drop'), undefined, undefined];
    const changes = plannedPictures(frames, charts, { firstNumber: 101, which: 'changes' });
    expect(changes.map(({ number, frames: length }) => [number, length])).toEqual([
      [101, 2],
      [103, 1],
      [104, 2],
    ]);
    expect(holdsCsv(changes, { baseName: 'mouth' }).split('\r\n').slice(0, 2)).toEqual([
      'picture,first frame,frames',
      'mouth0101.png,101,2',
    ]);
    const each = plannedPictures(frames, charts, { firstNumber: 101, which: 'chart' });
    expect(each.map(({ number }) => number)).toEqual(chart.drawings.map(({ number }) => number));
  });
});

describe('the French model’s phonemes', () => {
  // The IPA letter of each is in the model's phoneset.json; here the ones whose lips matter most.
  it.each([
    ['pp', 'P'],
    ['bb', 'B'],
    ['mm', 'M'],
    ['ff', 'F'],
    ['vv', 'V'],
    ['ou', 'UW'],
    ['ii', 'IY'],
    ['ch', 'SH'],
  ])('%s looks like %s', (symbol, expected) => expect(arpabetOfFrench(symbol)).toBe(expected));

  it('leave silence out', () => expect(arpabetOfFrench('SIL')).toBeUndefined());
});
