import { pictureSvg, starterChart } from '@zest-jaw/core';
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

  it('are numbered from the first, one a frame, each distinct one rendered once', () => {
    const made: { name: string; png: Uint8Array }[] = [];
    const [rest, drop] = [
      { chartId: 'chart', drawing: 'rest', look: 0 },
      { chartId: 'chart', drawing: 'drop', look: 0 },
    ];
    renderPictures(
      [rest, drop, rest, undefined],
      new Map([['chart', chart]]),
      options,
      () => '',
      (picture) => made.push(picture),
    );
    expect(made.map(({ name }) => name)).toEqual(['mouth0007.png', 'mouth0008.png', 'mouth0009.png', 'mouth0010.png']);
    expect(made[2]!.png).toBe(made[0]!.png);
    expect(Buffer.from(made[1]!.png).equals(Buffer.from(made[0]!.png))).toBe(false);
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
