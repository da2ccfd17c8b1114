/** Wrong mouths on the demo's puppet, as a camera sees it: found, and right ones left alone. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  greyOf,
  mouthReallyOn,
  openMouthChecker,
  pictureSvg,
  seenByCamera,
  starterChart,
  USUAL_CONDITIONS,
  type ChartHead,
  type Raster,
} from '@zest-jaw/core';
import sharp from 'sharp';
import { svgToPng } from './rasterise.js';

jest.setTimeout(180_000);

const ROOT = join(__dirname, '../..');
const { characters } = JSON.parse(readFileSync(join(ROOT, 'demo/demo.json'), 'utf8')) as {
  characters: { head: Omit<ChartHead, 'id' | 'art'> & { file: string } }[];
};
const { file, ...placed } = characters[1]!.head;
const href = `data:image/svg+xml;base64,${readFileSync(join(ROOT, 'demo', file)).toString('base64')}`;
const chart = {
  ...starterChart('Stage', 'clay', 9),
  head: [{ id: 'head' as const, art: { kind: 'picture' as const, picture: 'head' }, ...placed }],
};

async function faceOf(drawing: string): Promise<Raster> {
  const svg = pictureSvg(chart, { drawing, look: 0 }, { width: 480, height: 270, withHead: true, ground: '#4a6470' }, () => href);
  const { data, info } = await sharp(svgToPng(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, pixels: new Uint8ClampedArray(data) };
}

it('finds at least 95 of 100 planted wrong mouths with the drawings before it, and doubts at most 2 of 100 right ones', async () => {
  const tray = [...chart.drawings].sort((a, b) => a.number - b.number).map(({ id }) => id);
  const faces = new Map(await Promise.all(tray.map(async (id) => [id, await faceOf(id)] as const)));
  const conditions = { ...USUAL_CONDITIONS, hands: 0, mistakes: 0.4 };
  const checker = openMouthChecker();
  const really = new Map<number, { asked: string; on: string }>();
  let before: string | undefined;
  for (let shot = 0; shot < 160; shot++) {
    const asked = tray[(shot * 7 + (shot >> 2)) % tray.length]!;
    const on = mouthReallyOn(asked, before, tray, conditions, 5, shot);
    before = on;
    really.set(shot, { asked, on });
    checker.add({ picture: shot, asked, shot }, greyOf(seenByCamera(faces.get(on)!, conditions, 5, shot)));
    if (shot === 0) for (const [id, face] of faces) checker.draw(id, greyOf(face));
  }
  const doubted = new Map(checker.check().doubts.map((doubt) => [doubt.picture, doubt.seems]));
  const wrong = [...really].filter(([, { asked, on }]) => asked !== on);
  const right = [...really].filter(([, { asked, on }]) => asked === on);
  expect(wrong.length).toBeGreaterThan(30);
  const found = wrong.filter(([picture, { on }]) => doubted.get(picture) === on).length;
  expect(found / wrong.length).toBeGreaterThanOrEqual(0.95);
  expect(right.filter(([picture]) => doubted.has(picture)).length / right.length).toBeLessThanOrEqual(0.02);
});
