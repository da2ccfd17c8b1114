/**
 * What a drawing looks like once it is written again: thirty cases of style and structure,
 * painted by headless Chromium as it reads the file and by our painter as we wrote it, pixel
 * against pixel.
 */
import { svgParts } from '@zest-jaw/core';
import { Resvg } from '@resvg/resvg-js';
import { chromium, type Browser } from 'playwright-core';
import { existsSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import sharp from 'sharp';

jest.setTimeout(120_000);

const SIDE = 80;
const chromiumPath = ['chromium', 'chromium-browser', 'google-chrome']
  .flatMap((name) => (process.env['PATH'] ?? '').split(delimiter).map((folder) => join(folder, name)))
  .find((path) => existsSync(path));
const withChromium = chromiumPath === undefined ? describe.skip : describe;

const box = '<rect x="10" y="10" width="60" height="60"/>';
const cases: readonly (readonly [string, string])[] = [
  ['an attribute', '<rect x="10" y="10" width="60" height="60" fill="#c33"/>'],
  ['a class over an attribute', '<style>.a{fill:#3c3}</style><rect class="a" fill="#c33" x="10" y="10" width="60" height="60"/>'],
  ['a style over a class', '<style>.a{fill:#3c3}</style><rect class="a" style="fill:#33c" x="10" y="10" width="60" height="60"/>'],
  [
    'important over a style',
    '<style>.a{fill:#3c3 !important}</style><rect class="a" style="fill:#33c" x="10" y="10" width="60" height="60"/>',
  ],
  [
    'an important style over all',
    '<style>.a{fill:#3c3 !important}</style><rect class="a" style="fill:#33c !important" x="10" y="10" width="60" height="60"/>',
  ],
  [
    'an id over a class, whatever the order',
    '<style>#b{fill:#33c}.a{fill:#3c3}</style><rect id="b" class="a" x="10" y="10" width="60" height="60"/>',
  ],
  ['a class over an element', '<style>.a{fill:#3c3}rect{fill:#c33}</style><rect class="a" x="10" y="10" width="60" height="60"/>'],
  ['the later of two alike', '<style>.a{fill:#3c3}.b{fill:#c3c}</style><rect class="b a" x="10" y="10" width="60" height="60"/>'],
  ['compound: two classes', '<style>.a.b{fill:#3c3}.a{fill:#c33}</style><rect class="a b" x="10" y="10" width="60" height="60"/>'],
  [
    'compound: element and class',
    `<style>rect.a{fill:#3c3}</style><circle class="a" cx="20" cy="20" r="10"/><rect class="a" x="30" y="30" width="40" height="40"/>`,
  ],
  ['descendant', `<style>.lips path, .lips rect{fill:#c33}</style><g class="lips"><g>${box}</g></g>`],
  [
    'child, not grandchild',
    `<style>.a > rect{fill:#c33}</style><g class="a"><g>${box}</g><rect x="30" y="30" width="20" height="20"/></g>`,
  ],
  ['sibling', '<style>circle + rect{fill:#c33}</style><circle cx="15" cy="15" r="8"/><rect x="30" y="30" width="40" height="40"/>'],
  ['attribute selector', '<style>[data-part="tongue"]{fill:#e77}</style><rect data-part="tongue" x="10" y="10" width="60" height="60"/>'],
  [
    'first child',
    `<style>rect:first-child{fill:#3c3}</style><g><rect x="10" y="10" width="25" height="60"/><rect x="45" y="10" width="25" height="60"/></g>`,
  ],
  [
    'not',
    `<style>rect:not(.b){fill:#3c3}</style><rect x="10" y="10" width="25" height="60"/><rect class="b" x="45" y="10" width="25" height="60"/>`,
  ],
  [
    'a list of selectors',
    '<style>circle, .b, #c{fill:#33c}</style><circle cx="20" cy="20" r="12"/><rect class="b" x="40" y="40" width="30" height="30"/>',
  ],
  ['a style sheet after what it styles', `<g class="a">${box}</g><style>.a rect{fill:#c93}</style>`],
  [
    'rules for print alone',
    '<style>@media print{rect{fill:#c33}} @media screen{rect{fill:#3c3}}</style><rect x="10" y="10" width="60" height="60"/>',
  ],
  ['inherited', `<style>.a{fill:#93c;stroke:#222;stroke-width:4}</style><g class="a">${box}</g>`],
  [
    'none and see-through',
    '<style>.a{fill:none;stroke:#c33;stroke-width:6;opacity:.5}</style><rect class="a" x="15" y="15" width="50" height="50"/>',
  ],
  [
    'a transform in CSS',
    '<style>.a{transform:translate(20px,10px) rotate(20deg)}</style><rect class="a" x="10" y="10" width="30" height="30" fill="#36c"/>',
  ],
  [
    'a transform with an origin',
    '<rect style="transform:rotate(45deg);transform-origin:40px 40px" x="25" y="25" width="30" height="30" fill="#36c"/>',
  ],
  [
    'a transform in CSS over the attribute',
    '<rect transform="translate(40 40)" style="transform:translateX(10px) scale(1.5)" x="5" y="5" width="20" height="20" fill="#36c"/>',
  ],
  [
    'a transform in turns',
    '<rect style="transform:translate(40px,40px) rotate(.125turn)" x="-12" y="-12" width="24" height="24" fill="#36c"/>',
  ],
  [
    'a symbol used',
    '<symbol id="s" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5" fill="#c63"/></symbol><use href="#s" x="10" y="10" width="60" height="60"/>',
  ],
  [
    'a symbol used twice, styled from outside',
    '<style>.t{fill:#3c9}</style><symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10"/></symbol><use class="t" href="#s" x="5" y="5" width="30" height="30"/><use href="#s" x="45" y="45" width="30" height="30" fill="#c39"/>',
  ],
  ['an SVG inside', '<svg x="20" y="20" width="40" height="40" viewBox="0 0 4 4"><rect width="4" height="2" fill="#c33"/></svg>'],
  [
    'a use of a group',
    '<defs><g id="g"><circle cx="0" cy="0" r="8" fill="#39c"/></g></defs><use href="#g" x="20" y="30"/><use href="#g" transform="translate(55 30) scale(1.5)"/>',
  ],
  [
    'a gradient by class',
    '<style>.a{fill:url(#p)}</style><defs><linearGradient id="p"><stop offset="0" stop-color="#c33"/><stop offset="1" style="stop-color:#33c"/></linearGradient></defs><rect class="a" x="10" y="10" width="60" height="60"/>',
  ],
  [
    'a clip by style',
    '<clipPath id="k"><circle cx="40" cy="40" r="25"/></clipPath><rect style="clip-path:url(#k);fill:#393" width="80" height="80"/>',
  ],
  ['current colour', '<style>.a{color:#c36}</style><g class="a"><rect fill="currentColor" x="10" y="10" width="60" height="60"/></g>'],
  [
    'hidden by a class',
    `<style>.off{display:none}</style><rect x="10" y="10" width="60" height="60" fill="#3c3"/><g><rect class="off" x="0" y="0" width="80" height="80" fill="#c33"/></g>`,
  ],
];

withChromium('a drawing looks as it does in a browser', () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await chromium.launch({
      executablePath: chromiumPath!,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    });
  });
  afterAll(() => browser.close());

  it.each(cases)('%s', async (_, inside) => {
    const text = `<svg xmlns="http://www.w3.org/2000/svg" width="${SIDE}" height="${SIDE}" viewBox="0 0 ${SIDE} ${SIDE}">${inside}</svg>`;
    const page = await browser.newPage({ viewport: { width: SIDE, height: SIDE } });
    await page.setContent(`<body style="margin:0;background:#fff">${text}</body>`);
    const theirs = await sharp(await page.screenshot())
      .removeAlpha()
      .raw()
      .toBuffer();
    await page.close();
    const read = svgParts(text, 'case.svg', true);
    if ('refusal' in read) throw new Error(read.refusal);
    const ours = await sharp(new Resvg(read.parts[0]!.svg(read.canvas), { background: '#fff' }).render().asPng())
      .removeAlpha()
      .raw()
      .toBuffer();
    expect(ours.length).toBe(theirs.length);
    let different = 0;
    // Edges are smoothed a little differently; a wrong colour or place is hundreds of pixels.
    for (let at = 0; at < ours.length; at += 3)
      if (Math.max(...[0, 1, 2].map((channel) => Math.abs(ours[at + channel]! - theirs[at + channel]!))) > 48) different += 1;
    expect(different).toBeLessThan(SIDE);
  });
});
