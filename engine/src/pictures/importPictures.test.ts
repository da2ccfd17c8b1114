/** Every kind of file an animator's mouths may come in, and files made to harm. */
import { faceToSvg, measureLook, measurePicture, starterChart, type Raster } from '@zest-jaw/core';
import { strToU8, zipSync } from 'fflate';
import { deflateRawSync } from 'node:zlib';
import sharp from 'sharp';
import { svgToPng } from '../rasterise.js';
import { firstFrame, openPicture } from './decode.js';
import type { FoundMouth, ImportOptions } from './foundMouth.js';
import { importPictures, type ImportReport } from './importPictures.js';
import { maybeKindOfFile } from './kindOfFile.js';

const WHOLE: ImportOptions = { cut: { how: 'whole' }, clearPaper: false };

async function found(files: Record<string, Uint8Array | string>, options = WHOLE): Promise<ImportReport & { mouths: FoundMouth[] }> {
  const mouths: FoundMouth[] = [];
  const named = Object.entries(files).map(([name, bytes]) => ({ name, bytes: typeof bytes === 'string' ? strToU8(bytes) : bytes }));
  const report = await importPictures(named, options, (mouth) => void mouths.push(mouth));
  return { mouths, ...report };
}

const names = (mouths: readonly FoundMouth[]): string[] => mouths.map((mouth) => mouth.name);

/** A 200 × 160 page with an ellipse on it. */
const page = (cx: number, cy: number, rx: number, ry: number, ground = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="160" viewBox="0 0 200 160">${ground}<ellipse cx="${cx}" cy="${cy}" rx="${rx}" ry="${ry}" fill="#561f35"/></svg>`;
const png = (cx: number, cy: number, rx: number, ry: number): Uint8Array => svgToPng(page(cx, cy, rx, ry));

describe('a folder or a zip of pictures', () => {
  it('becomes one mouth a file, in the natural order of their names, cropped to the ink and knowing its page', async () => {
    const { mouths, refused } = await found({ 'set/mouth10.png': png(100, 80, 40, 20), 'set/mouth2.png': png(90, 70, 30, 10) });
    expect(refused).toEqual([]);
    expect(names(mouths)).toEqual(['mouth2', 'mouth10']);
    expect(mouths[1]!.art).toMatchObject({ width: 84, height: 44, ink: { x: 2, y: 2, width: 80, height: 40 }, page: { x: 58, y: 58 } });
    expect(mouths[0]!.pageKey).toBe(mouths[1]!.pageKey);
    expect(mouths[1]!.art.measures.opening).toBeCloseTo(40, -0.5);
  });

  it('is unpacked, and what systems leave in it passed over', async () => {
    const zip = zipSync({ 'lips/ee.png': png(100, 80, 40, 20), '__MACOSX/lips/._ee.png': strToU8('x'), '.DS_Store': strToU8('x') });
    expect(names((await found({ 'lips.zip': zip })).mouths)).toEqual(['ee']);
  });

  it('may be JPEG or WebP, whatever the name says, with a word about it', async () => {
    const jpeg = await sharp(Buffer.from(png(100, 80, 40, 20)))
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: 92 })
      .toBuffer();
    const webp = await sharp(Buffer.from(png(100, 80, 40, 20)))
      .webp({ lossless: true })
      .toBuffer();
    const { mouths, warnings, hasPaper } = await found({ 'a.png': jpeg, 'b.webp': webp }, { ...WHOLE, clearPaper: true });
    expect(mouths).toHaveLength(2);
    expect(warnings).toEqual(['a.png is a JPEG whatever its name says; it is taken as one.']);
    expect(hasPaper).toBe(true);
    const first = await firstFrame(await openPicture(mouths[0]!.picture, 'png', 'a'));
    expect(first.pixels[3]).toBe(0);
  });
});

describe('an outline on paper', () => {
  const outline = (line: string): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="160"><rect width="200" height="160" fill="#fbf8f0"/>${line}</svg>`;
  it('is measured as it is seen: bare inside, not teeth, with its paper taken off or not', async () => {
    const file = svgToPng(outline('<ellipse cx="100" cy="80" rx="60" ry="30" fill="none" stroke="#222" stroke-width="4"/>'));
    for (const clearPaper of [true, false]) {
      const { mouths } = await found({ 'ah.png': file }, { ...WHOLE, clearPaper });
      const { opening, teeth, darkness } = mouths[0]!.art.measures;
      expect(Math.abs(opening - 56)).toBeLessThan(3);
      expect([teeth, darkness]).toEqual([0, 1]);
    }
  });

  it('is looked for on a ground with a pattern, and what cannot be told is said', async () => {
    // A chessboard to the edges: half of it is the colour of the rest's ground.
    const squares = Array.from({ length: 320 }, (_, at) => {
      const [column, row] = [at % 20, Math.floor(at / 20)];
      return (column + row) % 2 ? '' : `<path d="M${column * 10} ${row * 10}h10v10h-10z" fill="#335"/>`;
    });
    const { mouths, warnings } = await found(
      { 'tiles.png': svgToPng(outline(squares.join(''))) },
      { cut: { how: 'figures' }, clearPaper: true },
    );
    expect(mouths).toHaveLength(1);
    expect(warnings.join()).toMatch(/no figure can be told from its ground/);
  });
});

/** Ten uses of ten uses of … a square: a few lines that draw a hundred million squares. */
const multiplying = (deep: number): string =>
  `<g id="g0"><rect width="4" height="4"/></g>${Array.from({ length: deep }, (_, level) => `<g id="g${level + 1}">${`<use href="#g${level}"/>`.repeat(10)}</g>`).join('')}`;
const chained = (long: number): string =>
  Array.from({ length: long }, (_, link) => `<g id="k${link}"><use href="#k${link + 1}"/></g>`).join('');
const clipsThatMultiply = `${Array.from({ length: 12 }, (_, level) => `<clipPath id="c${level + 1}">${`<rect width="9" height="9" clip-path="url(#c${level})"/>`.repeat(10)}</clipPath>`).join('')}<clipPath id="c0"><rect width="9" height="9"/></clipPath><rect width="9" height="9" clip-path="url(#c12)"/>`;

/** A PNG whose header says that it is 30 000 pixels a side, as base64. */
function hugePng(): string {
  const file = Buffer.from(png(10, 10, 5, 5));
  file.writeUInt32BE(30_000, 16);
  file.writeUInt32BE(30_000, 20);
  file.writeUInt32BE(crc32(file.subarray(12, 29)), 29);
  return file.toString('base64');
}

describe('an SVG', () => {
  const groups = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:draw="http://example.org/draw" viewBox="0 0 300 200">
    <style>.lip{fill:#d9785c}</style>
    <defs><linearGradient id="dark"><stop offset="0" stop-color="#200"/><stop offset="1" stop-color="#400"/></linearGradient></defs>
    <g id="sheet">
      <g id="g1" draw:label="Press"><path class="lip" d="M20 40H80V52H20Z"/></g>
      <g id="oh" style="display:none"><ellipse cx="150" cy="60" rx="30" ry="34" fill="url(#dark)"/></g>
      <g id="g3"><title>ee</title><rect x="200" y="50" width="80" height="20" style="fill:#561f35"/></g>
    </g></svg>`;

  it('is taken apart by its groups, named by layer name, title or id, shown or not', async () => {
    const { mouths, refused } = await found({ 'chart.svg': groups });
    expect(refused).toEqual([]);
    expect(names(mouths)).toEqual(['Press', 'oh', 'ee']);
    expect(mouths.every((mouth) => mouth.mediaType === 'image/svg+xml' && mouth.as === 'group')).toBe(true);
    const [press, oh] = mouths;
    expect(press!.art.page!.x).toBeCloseTo(20, -0.5);
    expect(press!.art.ink.width).toBeCloseTo(60, 0);
    const text = Buffer.from(oh!.picture).toString();
    expect(text).toContain('linearGradient');
    expect(text).not.toContain('display');
    expect(Buffer.from(press!.picture).toString()).toContain('fill="#d9785c"');
    expect(Buffer.from(press!.picture).toString()).not.toContain('linearGradient');
  });

  it('may be one picture all the same, with its page around it', async () => {
    const { mouths } = await found({ 'chart.svg': groups }, { ...WHOLE, cut: { how: 'single' } });
    expect(names(mouths)).toEqual(['chart']);
    expect(mouths[0]!.art).toMatchObject({ width: 300, height: 200, page: { x: 0, y: 0 } });
    expect(mouths[0]!.art.ink.x).toBeCloseTo(20, -0.5);
  });

  it('that is one opaque area is all ink', async () => {
    const { mouths } = await found({
      'jaw.svg': '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 40"><rect width="80" height="40"/></svg>',
    });
    expect(mouths[0]!.art.ink.width).toBeCloseTo(80, 0);
  });

  const around = (inner: string): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 40"><rect width="20" height="20"/>${inner}</svg>`;
  it.each<[string, string, RegExp]>([
    ['a script', around('<script>alert(1)</script>'), /contains a script/],
    ['something that runs when it loads', around('<g onload="alert(1)"/>'), /would run something \(onload\)/],
    ['a picture from outside', around('<image href="http://example.org/a.png"/>'), /outside the file/],
    ['a picture from the disk', around('<image xlink:href="file:///etc/passwd"/>'), /outside the file/],
    ['a paint from outside', around('<rect style="fill:url(http://example.org/p.svg#a)"/>'), /outside the file/],
    ['an SVG inside as data', around('<image href="data:image/svg+xml;base64,PHN2Zy8+"/>'), /neither a PNG nor a JPEG/],
    [
      'entities that multiply',
      `<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>${around('<title>&b;</title>')}`,
      /markup is broken/,
    ],
    [
      'an entity from the disk',
      `<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]>${around('<title>&a;</title>')}`,
      /outside the file/,
    ],
    ['parts that multiply a hundred million times', around(multiplying(8)), /draws its parts over and over, more than/],
    ['an endless chain of uses', around(chained(20_000)), /draws its parts over and over/],
    ['a clip that multiplies', around(clipsThatMultiply), /draws its parts over and over, more than/],
    [
      'a picture of 30 000 pixels inside',
      around(`<image width="9" height="9" href="data:image/png;base64,${hugePng()}"/>`),
      /inside bad.svg is 30000 by 30000/,
    ],
    [
      'a picture inside that is none',
      around('<image width="9" height="9" href="data:image/png;base64,AAAA"/>'),
      /inside bad.svg is damaged/,
    ],
    ['a million elements', around('<path/>'.repeat(1_000_000)), /more than 50000 elements/],
    ['endless nesting', around('<g>'.repeat(500)), /nested more than/],
    ['broken markup', '<svg xmlns="http://www.w3.org/2000/svg"><g', /markup is broken/],
    ['no size', '<svg xmlns="http://www.w3.org/2000/svg"><rect width="9" height="9"/></svg>', /how large it is/],
    ['nothing on it', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"/>', /nothing on it/],
  ])('with %s is refused in a sentence', async (_, svg, sentence) => {
    const { mouths, refused } = await found({ 'bad.svg': svg });
    expect(mouths).toEqual([]);
    expect(refused).toHaveLength(1);
    expect(refused[0]!.sentence).toMatch(sentence);
    expect(refused[0]!.sentence).toMatch(/bad\.svg /);
  });

  it('loses what has no place in a drawing without being refused', async () => {
    const { mouths, warnings } = await found({
      'a.svg': around('<foreignObject><body xmlns="x">hi</body></foreignObject><text>hi</text><metadata><a/></metadata>'),
    });
    expect(Buffer.from(mouths[0]!.picture).toString()).not.toMatch(/foreignObject|body|text|metadata/);
    expect(warnings.join()).toMatch(/lettering is left out/);
  });

  it('that uses itself in a circle ends', async () => {
    const circle = around('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/><rect width="4" height="4"/></g>');
    expect((await found({ 'a.svg': circle })).mouths.length + (await found({ 'a.svg': circle })).refused.length).toBeGreaterThan(0);
  });
});

describe('layers, sheets and frames', () => {
  it('takes the layers of an OpenRaster file, a stack of them as one mouth (OpenRaster 0.0.5)', async () => {
    const stack = `<?xml version="1.0"?><image w="200" h="160" version="0.0.3"><stack>
      <layer name="Press" src="data/a.png" x="0" y="0"/>
      <stack name="Drop" x="10" y="0"><layer name="line" src="data/b.png" x="0" y="0"/><layer name="fill" src="data/a.png" opacity="0.5" x="0" y="0"/></stack>
    </stack></image>`;
    const file = zipSync({
      mimetype: strToU8('image/openraster'),
      'stack.xml': strToU8(stack),
      'data/a.png': png(60, 80, 30, 10),
      'data/b.png': png(120, 80, 20, 30),
    });
    const { mouths, refused } = await found({ 'mouths.ora': file });
    expect(refused).toEqual([]);
    expect(names(mouths)).toEqual(['Press', 'Drop']);
    // The stack's own x moves both of its layers: from 30 + 10 to 140 + 10.
    expect(mouths[1]!.art.page!.x + mouths[1]!.art.ink.x).toBe(40);
    expect(mouths[1]!.art.ink.width).toBe(110);
    expect((await found({ 'mouths.ora': file }, { ...WHOLE, cut: { how: 'single' } })).mouths).toHaveLength(1);
  });

  it('cuts a sheet by its figures or by a grid, in reading order', async () => {
    const sheet = svgToPng(
      `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><rect width="300" height="200" fill="#fff"/><g fill="#561f35"><ellipse cx="50" cy="50" rx="30" ry="8"/><ellipse cx="150" cy="50" rx="30" ry="30"/><ellipse cx="250" cy="50" rx="20" ry="14"/><ellipse cx="50" cy="150" rx="24" ry="24"/><ellipse cx="150" cy="150" rx="30" ry="6"/></g></svg>`,
    );
    const figures = await found({ 'sheet.png': sheet }, { cut: { how: 'figures' }, clearPaper: true });
    expect(figures.mouths.map(({ name, as, index, of }) => [name, as, index, of])).toEqual(
      [1, 2, 3, 4, 5].map((number) => [`sheet ${number}`, 'figure', number, 5]),
    );
    expect(figures.mouths.map((mouth) => Math.round(mouth.art.ink.width))).toEqual([60, 60, 40, 48, 60]);
    const cells = await found({ 'sheet.png': sheet }, { cut: { how: 'grid', columns: 3, rows: 2 }, clearPaper: true });
    // The sixth cell is empty and gives nothing.
    expect(cells.mouths.map((mouth) => mouth.index)).toEqual([1, 2, 3, 4, 5]);
  });

  const frame = (ry: number): Buffer => Buffer.from(svgToPng(page(100, 80, 40, ry)));

  it('takes the frames of a GIF', async () => {
    const gif = await sharp([frame(5), frame(20), frame(40)], { join: { animated: true } })
      .gif()
      .toBuffer();
    const { mouths } = await found({ 'talk.gif': gif });
    expect(mouths.map(({ as, index, of }) => [as, index, of])).toEqual([
      ['frame', 1, 3],
      ['frame', 2, 3],
      ['frame', 3, 3],
    ]);
    expect(mouths.map((mouth) => mouth.art.ink.height)).toEqual([10, 40, 80]);
  });

  it('takes pages to their edges, every frame of every file: what moves on them stays where it is', async () => {
    const gif = await sharp([frame(5), frame(40)], { join: { animated: true } })
      .gif()
      .toBuffer();
    const pages = { cut: { how: 'pages' as const }, clearPaper: false };
    const { mouths } = await found(
      { 'a.1.png': png(20, 30, 10, 10), 'a.2.png': png(150, 90, 10, 10), 'b.svg': page(60, 70, 9, 9), 'c.gif': gif },
      pages,
    );
    expect(mouths.map(({ name, art: { width, height } }) => [name, width, height])).toEqual([
      ['a.1', 200, 160],
      ['a.2', 200, 160],
      ['b', 200, 160],
      ['c 1', 200, 160],
      ['c 2', 200, 160],
    ]);
    expect(mouths.slice(0, 2).map(({ art: { ink } }) => [ink.x, ink.y])).toEqual([
      [10, 20],
      [140, 80],
    ]);
  });

  it('takes the frames of an APNG, made by the chunks of the standard (PNG, third edition, 11.3.5)', async () => {
    const chunk = (type: string, content: Buffer): Buffer => {
      const body = Buffer.concat([Buffer.from(type, 'latin1'), content]);
      const out = Buffer.alloc(body.length + 8);
      out.writeUInt32BE(content.length, 0);
      body.copy(out, 4);
      out.writeUInt32BE(crc32(body), body.length + 4);
      return out;
    };
    const dataOf = (file: Buffer): { header: Buffer; data: Buffer } => {
      const parts: Buffer[] = [];
      let header: Buffer = Buffer.alloc(0);
      for (let at = 8; at < file.length;) {
        const length = file.readUInt32BE(at);
        const type = file.toString('latin1', at + 4, at + 8);
        if (type === 'IHDR') header = file.subarray(at + 8, at + 8 + length);
        if (type === 'IDAT') parts.push(file.subarray(at + 8, at + 8 + length));
        at += 12 + length;
      }
      return { header, data: Buffer.concat(parts) };
    };
    const control = (sequence: number): Buffer => {
      const out = Buffer.alloc(26);
      [sequence, 200, 160, 0, 0].forEach((value, index) => out.writeUInt32BE(value, index * 4));
      out.writeUInt16BE(1, 20);
      out.writeUInt16BE(12, 22);
      return out;
    };
    const [first, second] = [dataOf(frame(10)), dataOf(frame(30))];
    const number = (value: number): Buffer => Buffer.from([0, 0, 0, value]);
    const apng = Buffer.concat([
      Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
      chunk('IHDR', first.header),
      chunk('acTL', Buffer.concat([number(2), number(0)])),
      chunk('fcTL', control(0)),
      chunk('IDAT', first.data),
      chunk('fcTL', control(1)),
      chunk('fdAT', Buffer.concat([number(2), second.data])),
      chunk('IEND', Buffer.alloc(0)),
    ]);
    const { mouths, refused } = await found({ 'talk.png': apng });
    expect(refused).toEqual([]);
    expect(mouths.map((mouth) => mouth.art.ink.height)).toEqual([20, 60]);
  });
});

/** CRC-32 as PNG's annex D gives it. */
function crc32(bytes: Buffer): number {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1;
  }
  return (crc ^ 0xffffffff) >>> 0;
}

describe('files made to harm, or just wrong', () => {
  /** One entry that unpacks to half a gigabyte of nothing (APPNOTE 4.3.7, a local file header; sizes as declared). */
  const bomb = (): Buffer => {
    const packed = deflateRawSync(Buffer.alloc(512 * 1_048_576), { level: 1 });
    const header = Buffer.alloc(30);
    header.writeUInt32LE(0x04034b50, 0);
    header.writeUInt16LE(20, 4);
    header.writeUInt16LE(8, 8);
    header.writeUInt32LE(packed.length, 18);
    header.writeUInt32LE(1000, 22);
    header.writeUInt16LE(5, 26);
    return Buffer.concat([header, Buffer.from('a.png'), packed]);
  };

  it.each<[string, () => Record<string, Uint8Array | string>, RegExp]>([
    [
      'a picture of 30 000 pixels',
      () => ({ 'huge.png': Buffer.from(hugePng(), 'base64') }),
      /huge\.png is 30000 by 30000 pixels\. A picture may be 16000/,
    ],
    [
      'a web page called a picture',
      () => ({ 'mouth.png': '<html><script>1</script></html>' }),
      /mouth\.png is not a picture that can be used/,
    ],
    ['a program called a picture', () => ({ 'mouth.jpg': Uint8Array.from([0x7f, 0x45, 0x4c, 0x46, 1, 2, 3]) }), /not a picture/],
    ['a picture that breaks off', () => ({ 'half.png': png(100, 80, 40, 20).subarray(0, 300) }), /half\.png is damaged/],
    ['an empty file', () => ({ 'none.png': new Uint8Array(0) }), /not a picture/],
    [
      'an empty page',
      () => ({ 'blank.png': svgToPng('<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"/>') }),
      /nothing on it but ground/,
    ],
    ['a zip that leads outside', () => ({ 'a.zip': zipSync({ '../../evil.png': png(9, 9, 4, 4) }) }), /outside its folder/],
    ['a zip with an absolute path', () => ({ 'a.zip': zipSync({ '/etc/evil.png': png(9, 9, 4, 4) }) }), /outside its folder/],
    ['a zip bomb', () => ({ 'a.zip': bomb() }), /holds a file of more than 200 MB \(a\.png\)/],
    ['a broken zip', () => ({ 'a.zip': zipSync({ 'a.png': png(100, 80, 40, 20) }).subarray(0, 200) }), /damaged|nothing|not a picture/],
    ['a zip in a zip', () => ({ 'a.zip': zipSync({ 'b.zip': zipSync({ 'a.png': png(9, 9, 4, 4) }) }) }), /archive inside an archive/],
    [
      'an OpenRaster file without its pictures',
      () => ({
        'a.ora': zipSync({ 'stack.xml': strToU8('<image w="9" h="9"><stack><layer name="x" src="data/x.png"/></stack></image>') }),
      }),
      /lacks the picture/,
    ],
  ])('refuses %s in a sentence', async (_, files, sentence) => {
    const { mouths, refused } = await found(files());
    expect(mouths).toEqual([]);
    expect(refused.map((entry) => entry.sentence).join(' ')).toMatch(sentence);
  });

  it('does not let one bad file keep the good ones out', async () => {
    const { mouths, refused } = await found({ 'bad.png': 'x', 'good.png': png(100, 80, 40, 20) });
    expect(names(mouths)).toEqual(['good']);
    expect(refused.map((entry) => entry.file)).toEqual(['bad.png']);
  });

  it('tells what a file is by its first bytes', () => {
    expect(maybeKindOfFile(strToU8('<?xml version="1.0"?>\n<!-- a --><!DOCTYPE svg PUBLIC "a" "b">\n<svg/>'))).toBe('svg');
    expect(maybeKindOfFile(strToU8('<html><svg/></html>'))).toBeUndefined();
    expect(maybeKindOfFile(strToU8('RIFF1234WAVE'))).toBeUndefined();
  });
});

describe('measuring the built mouths from their pictures', () => {
  const chart = starterChart('Test', 'brush');
  const rasterOf = async (id: string): Promise<Raster> => {
    const drawing = chart.drawings.find((candidate) => candidate.id === id)!;
    const inner = faceToSvg(chart, drawing, drawing, { idPrefix: 'm', hrefOfHash: () => '' });
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="496" height="424" viewBox="-62 -30 124 106">${inner}</svg>`;
    return firstFrame(await openPicture(svgToPng(svg), 'png', id));
  };

  it('finds what their parameters say: the opening to a tenth of the widest, the order, the teeth', async () => {
    const rows: { id: string; known: number; measured: number; teeth: number }[] = [];
    for (const drawing of chart.drawings) {
      const measured = measurePicture(await rasterOf(drawing.id));
      rows.push({ id: drawing.id, known: measureLook(drawing).opening, measured: measured.opening / 4, teeth: measured.teeth });
    }
    const widest = Math.max(...rows.map((row) => row.known));
    // A tongue between the teeth or a rolled lip covers the opening's lower edge, in the picture as on the face.
    const whole = rows.filter((row) => !['tip', 'bite'].includes(row.id));
    for (const row of whole) expect({ ...row, close: Math.abs(row.measured - row.known) / widest < 0.12 }).toEqual({ ...row, close: true });
    const rank = (key: 'known' | 'measured'): string[] => [...whole].sort((a, b) => a[key] - b[key]).map((row) => row.id);
    // Spearman's rank correlation.
    const count = whole.length;
    const squares = rank('known').reduce((sum, id, index) => sum + (index - rank('measured').indexOf(id)) ** 2, 0);
    expect(1 - (6 * squares) / (count * (count * count - 1))).toBeGreaterThan(0.9);
    const teethOf = (id: string): number => rows.find((row) => row.id === id)!.teeth;
    expect(teethOf('teeth')).toBeGreaterThan(0.5);
    expect(teethOf('ring')).toBeLessThan(0.05);
  });
});
