/** What is handed off as files, read back by programs that are not ours: a PDF reader and a picture decoder. */
import { execFileSync } from 'node:child_process';
import { writeFileSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import {
  looksOfFrames,
  pullListOf,
  maybeFrameRate,
  MOUTH_BOX,
  pictureSvg,
  PLAIN_COUNTING,
  sceneOfKeyed,
  starterChart,
  type ChartDocument,
} from '@zest-jaw/core';
import { exposureSheetPdf, rowsOfPage } from './exposureSheetPdf.js';
import { svgToPng } from '../rasterise.js';
import { shootingListPdf } from './shootingListPdf.js';
import { spriteSheet } from './spriteSheet.js';

const chart = starterChart('Test', 'brush');

/** Text and size of every page, by pdf.js in a program of its own: it comes as an ES module only. */
function readPdf(pdf: Uint8Array): { readonly text: string; readonly width: number; readonly height: number }[] {
  const file = join(mkdtempSync(join(tmpdir(), 'zest-pdf-')), 'sheet.pdf');
  writeFileSync(file, pdf);
  const script = `
    import { readFileSync } from 'node:fs';
    import { getDocumentProxy } from 'unpdf';
    const pdf = await getDocumentProxy(new Uint8Array(readFileSync(${JSON.stringify(file)})));
    const pages = [];
    for (let number = 1; number <= pdf.numPages; number++) {
      const page = await pdf.getPage(number);
      const { width, height } = page.getViewport({ scale: 1 });
      const { items } = await page.getTextContent();
      pages.push({ width, height, text: items.map(({ str }) => str).join(' ') });
    }
    process.stdout.write(JSON.stringify(pages));`;
  return JSON.parse(
    execFileSync(process.execPath, ['--input-type=module', '-e', script], { encoding: 'utf8', cwd: __dirname }),
  ) as ReturnType<typeof readPdf>;
}

describe('the exposure sheet as PDF', () => {
  const sheet = (rate: string, length: number, firstFrame: number, paper: 'A4' | 'Letter'): Promise<Uint8Array> => {
    const exposures = Array.from({ length: Math.floor(length / 6) }, (_, index) => ({
      from: index * 6,
      to: index * 6 + 6,
      drawing: chart.drawings[index % 13]!.id,
    }));
    const scene = sceneOfKeyed({ frameRate: maybeFrameRate(rate)!, length, exposures }, firstFrame);
    const charts = new Map([[scene.tracks[0]!.chartId, chart]]);
    return exposureSheetPdf(scene, [{ trackId: scene.tracks[0]!.id, name: 'Bramble', charts }], {
      paper,
      counting: PLAIN_COUNTING,
      production: 'Night Post — ʃøθ',
      date: '26 November 2026',
    });
  };

  it.each([
    ['24', 200, 1001, 'A4', 595.28, 841.89],
    ['25', 130, 1, 'Letter', 612, 792],
    ['29.97', 61, 0, 'A4', 595.28, 841.89],
    ['12', 400, 101, 'A4', 595.28, 841.89],
  ] as const)('at %s has every frame once, on pages of its size', async (rate, length, first, paper, width, height) => {
    const pages = readPdf(await sheet(rate, length, first, paper));
    const numbers = new Set<number>();
    for (const { text, width: across, height: down } of pages) {
      expect(Math.abs(across - width)).toBeLessThan(0.1);
      expect(Math.abs(down - height)).toBeLessThan(0.1);
      expect(text).toContain(`of ${pages.length}`);
      // The extra letters of other alphabets are there, too.
      expect(text.replace(/\s/g, '')).toContain('NightPost—ʃøθ');
      for (const token of text.split(/\s+/)) if (/^\d+$/.test(token)) numbers.add(Number(token));
    }
    for (let frame = 0; frame < length; frame++) expect(numbers.has(first + frame)).toBe(true);
    for (const { label } of chart.drawings.slice(0, Math.min(13, Math.floor(length / 6))))
      expect(pages.some(({ text }) => text.includes(label))).toBe(true);
  });

  it('gives a page whole seconds, where a second fits', () => {
    expect(rowsOfPage(700, 24)).toBe(72);
    expect(rowsOfPage(700, 25)).toBe(75);
    expect(rowsOfPage(700, 30)).toBe(90);
    expect(rowsOfPage(700, 120)).toBe(95);
  });
});

describe('a shooting list as PDF', () => {
  it('has the mouths to pull, every shot once over its pages, and what comes next', async () => {
    const exposures = Array.from({ length: 120 }, (_, index) => ({
      from: index * 3,
      to: index * 3 + 3,
      drawing: chart.drawings[index % 13]!.id,
    }));
    const scene = sceneOfKeyed({ frameRate: maybeFrameRate('12')!, length: 360, exposures }, 1);
    const charts = new Map([[scene.tracks[0]!.chartId, chart]]);
    const pull = pullListOf(looksOfFrames(scene, scene.tracks[0]!.id, charts), charts, 1);
    const list = await shootingListPdf(scene, pull, {
      paper: 'A4',
      counting: PLAIN_COUNTING,
      production: 'Night Post',
      character: 'Bramble',
      cameraOn: 1,
      date: '26 November 2026',
    });
    const pages = readPdf(list);
    expect(pages.length).toBeGreaterThan(1);
    expect(pages[0]!.text).toContain('To pull: 13 mouths, 119 swaps');
    const words = pages.flatMap(({ text }) => text.split(/\s+/));
    for (let shot = 0; shot < 120; shot++) expect(words).toContain(String(1 + shot * 3));
    for (const [index, { text }] of pages.entries()) expect(text).toContain(`Page ${index + 1} of ${pages.length}`);
  });
});

describe('a sprite sheet', () => {
  it.each([
    [true, 248],
    [false, 124],
  ])(
    'has each drawing cut to its ink, none over another, its cross where the chart has it (powers of two: %s)',
    async (powersOfTwo, cell) => {
      const varied: ChartDocument = {
        ...chart,
        drawings: chart.drawings.map((drawing, index) => (index === 3 ? { ...drawing, variants: [chart.drawings[4]!] } : drawing)),
      };
      const made = await spriteSheet(varied, { cell, powersOfTwo }, () => '');
      if ('refusal' in made) throw new Error(made.refusal);
      const { png, svg, table } = made;
      const sheet = await sharp(png).raw().toBuffer({ resolveWithObject: true });
      expect([sheet.info.width, sheet.info.height]).toEqual([table.width, table.height]);
      if (powersOfTwo) for (const side of [table.width, table.height]) expect(Math.log2(side) % 1).toBe(0);
      expect(table.sprites).toHaveLength(14);
      // The same sheet as shapes, drawn by librsvg, which is not ours: the ink is where it is on the picture.
      expect([...svg.matchAll(/<g id="([^"]+)" transform="translate/g)].map(([, id]) => id)).toEqual(
        table.sprites.map(({ id, look }) => (look === 0 ? id : `${id}-${look}`)),
      );
      const shapes = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
      expect([shapes.info.width, shapes.info.height]).toEqual([table.width, table.height]);
      let away = 0;
      for (let at = 3; at < sheet.data.length; at += 4) away += Math.abs(sheet.data[at]! - shapes.data[at]!);
      expect(away / (table.width * table.height)).toBeLessThan(4);
      for (const [index, a] of table.sprites.entries())
        for (const b of table.sprites.slice(index + 1))
          expect(a.x + a.width < b.x || b.x + b.width < a.x || a.y + a.height < b.y || b.y + b.height < a.y).toBe(true);
      // Laid back on the cell by its cross, each is the picture of its drawing, pixel for pixel.
      const height = Math.round((cell * MOUTH_BOX.height) / MOUTH_BOX.width);
      for (const { id, look, x, y, width, height: down, cross } of table.sprites) {
        const whole = await sharp(svgToPng(pictureSvg(varied, { drawing: id, look }, { width: cell, height, withHead: false })))
          .raw()
          .toBuffer({ resolveWithObject: true });
        const [left, top] = [-MOUTH_BOX.x * table.scale - cross.x, -MOUTH_BOX.y * table.scale - cross.y].map(Math.round) as [
          number,
          number,
        ];
        let [outside, differs] = [0, 0];
        for (let py = 0; py < whole.info.height; py++)
          for (let px = 0; px < whole.info.width; px++) {
            const at = (py * whole.info.width + px) * 4;
            const [sx, sy] = [px - left, py - top];
            if (sx < 0 || sy < 0 || sx >= width || sy >= down) outside += whole.data[at + 3]!;
            else {
              const on = ((y + sy) * sheet.info.width + x + sx) * 4;
              if (Math.abs(sheet.data[on + 3]! - whole.data[at + 3]!) > 1) differs += 1;
            }
          }
        expect({ id, outside, differs }).toEqual({ id, outside: 0, differs: 0 });
      }
    },
  );
});
