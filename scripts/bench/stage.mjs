/** How well wrong mouths are found in what was shot: simulated takes of keyed lines, with wrong mouths planted. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const percent = (value) => `${(100 * value).toFixed(1)} %`;
const [WIDTH, HEIGHT] = [640, 360];
/** Mouths the thresholds were found on, and others they are judged on. */
export const LEARNT_ON = [
  ['brush', 13],
  ['paper', 9],
];
export const JUDGED_ON = [
  ['clay', 13],
  ['clay', 6],
  ['pen', 13],
  ['pen', 16],
];
const HEADS = [
  { file: 'bramble.svg', skin: '#e8d9b8' },
  { file: 'odette.svg', skin: '#d9e0e8' },
];

/** The lines of the demo, each keyed with a chart: mouths put on, and for how many pictures. */
function shotsOf({ core, root }, chart, name) {
  const reading = JSON.parse(readFileSync(join(root, 'demo/readings', `${name}.json`), 'utf8'));
  const sounds = reading.phonemes.map(({ symbol, from, to }) => ({ symbol, from, to }));
  const lengthFrames = Math.ceil((sounds.at(-1).to / 48_000) * 24) + 6;
  const job = { sounds, frameRate: { num: 24, den: 1 }, lengthFrames, chart, rules: { leadFrames: 1, strict: false, holdFrames: 2 } };
  return core.keySounds(job).exposures.map(({ from, to, drawing }) => ({ drawing, pictures: Math.min(to, lengthFrames) - from }));
}

/** One take: every picture as it was taken, what was asked for and what was on. */
function* takeOf({ core, render }, chart, shots, conditions, seed) {
  const tray = [...chart.drawings].sort((a, b) => a.number - b.number).map(({ id }) => id);
  let before;
  let picture = 0;
  for (const [shot, { drawing, pictures }] of shots.entries()) {
    const really = core.mouthReallyOn(drawing, before, tray, conditions, seed, shot);
    before = really;
    for (let nth = 0; nth < pictures; nth++, picture++)
      yield { taken: { picture, asked: drawing, shot }, really, seen: core.seenByCamera(render(chart, really), conditions, seed, picture) };
  }
}

function measureTake(project, chart, shots, conditions, seed, against) {
  const { core, render } = project;
  const checker = core.openMouthChecker();
  const all = [];
  let first = true;
  for (const { taken, really, seen } of takeOf(project, chart, shots, conditions, seed)) {
    checker.add(taken, core.greyOf(seen));
    all.push({ ...taken, really });
    if (first && against === 'chart') for (const { id } of chart.drawings) checker.draw(id, core.greyOf(render(chart, id)));
    first = false;
  }
  const { doubts, alike, alone } = checker.check();
  const doubted = new Map(doubts.map((doubt) => [doubt.picture, doubt]));
  const total = {
    planted: 0,
    found: 0,
    named: 0,
    right: 0,
    doubted: 0,
    hidden: 0,
    pictures: all.length,
    alike: alike.length,
    alone: alone.length,
  };
  const wrongShots = new Set(all.filter(({ asked, really }) => asked !== really).map(({ shot }) => shot));
  const foundShots = new Set(all.filter(({ asked, really, picture }) => asked !== really && doubted.has(picture)).map(({ shot }) => shot));
  total.shots = wrongShots.size;
  total.foundShots = foundShots.size;
  for (const { picture, asked, really } of all) {
    const doubt = doubted.get(picture);
    if (asked !== really) {
      total.planted += 1;
      if (doubt) total.found += 1;
      if (doubt?.seems === really) total.named += 1;
    } else {
      total.right += 1;
      if (doubt?.seems) total.doubted += 1;
      if (doubt && !doubt.seems) total.hidden += 1;
    }
  }
  return total;
}

const add = (a, b) => Object.fromEntries(Object.keys(a).map((key) => [key, a[key] + b[key]]));

/** Faces rendered once each. */
async function rendererOf({ core, root, rasterOf }, head) {
  const bytes = readFileSync(join(root, 'demo/heads', head.file));
  const { characters } = JSON.parse(readFileSync(join(root, 'demo/demo.json'), 'utf8'));
  const { file, ...placed } = characters.find((one) => one.head.file.endsWith(head.file)).head;
  const behind = { id: 'head', art: { kind: 'picture', picture: 'head' }, ...placed };
  const href = `data:image/svg+xml;base64,${bytes.toString('base64')}`;
  const known = new Map();
  const withHead = (chart) => ({ ...chart, head: [behind] });
  const prepare = async (chart) => {
    for (const { id } of chart.drawings) {
      const options = { width: WIDTH, height: HEIGHT, withHead: true, ground: head.skin };
      known.set(
        `${chart.settings[0].name} ${id}`,
        await rasterOf(core.pictureSvg(withHead(chart), { drawing: id, look: 0 }, options, () => href)),
      );
    }
  };
  return { prepare, render: (chart, id) => known.get(`${chart.settings[0].name} ${id}`) };
}

export async function measureStage(project, charts, conditions, against, seeds = [1]) {
  let sum;
  for (const [index, [style, size]] of charts.entries()) {
    const chart = project.core.starterChart(`${style} ${size}`, style, size);
    const { prepare, render } = await rendererOf(project, HEADS[index % HEADS.length]);
    await prepare(chart);
    for (const seed of seeds)
      for (const name of ['a-complaint', 'the-last-ferry', 'the-wet-stamp']) {
        const one = measureTake(
          { ...project, render },
          chart,
          shotsOf(project, chart, name),
          conditions,
          seed + index * 100 + name.length,
          against,
        );
        sum = sum ? add(sum, one) : one;
      }
  }
  return sum;
}

export { percent };
