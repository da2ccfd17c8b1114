/** A scene of a bundle on the command line: its own charts, pictures and recordings. */
import { sceneOfKeyed, starterChart, writeWave, type Clip, type Drawing, type SceneDocument } from '@zest-jaw/core';
import { writeBundle } from '@zest-jaw/engine/hand-off';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { scratch, written, zest } from './testing/zestRun.js';

jest.setTimeout(300_000);

const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const RATE = { num: 24, den: 1 };
const LENGTH = 24;

/** A red mouth, as somebody's picture of one. */
let picture: Uint8Array;
beforeAll(async () => {
  const mouth =
    '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="40"><rect x="10" y="10" width="60" height="20" fill="#f00"/></svg>';
  picture = new Uint8Array(await sharp(Buffer.from(mouth)).png().toBuffer());
});
const sound = writeWave(
  Int16Array.from({ length: 48_000 }, (_, at) => 9000 * Math.sin(at / 20)),
  48_000,
);

function bundled(titles: readonly string[], speaker = 'Odette'): string {
  const chart = starterChart('Painted', 'pen', 6);
  const art: Drawing['art'] = {
    kind: 'placed',
    picture: hashOf(picture),
    preview: hashOf(picture),
    width: 80,
    height: 40,
    ink: { x: 10, y: 10, width: 60, height: 20 },
    measures: { opening: 10, width: 60, teeth: 0, round: 0 } as never,
  };
  const [first, ...others] = chart.drawings;
  const painted = { ...chart, drawings: [{ ...first!, art, placement: { x: -40, y: -20, scale: 1, angle: 0 } as never }, ...others] };
  const scenes = titles.map((title): SceneDocument => {
    const scene = sceneOfKeyed({ frameRate: RATE, length: LENGTH, exposures: [{ from: 0, to: LENGTH, drawing: first!.id }] }, 101);
    const clip: Clip = {
      ...{ id: 'line', characterId: 'character', audio: hashOf(sound), fileName: 'line.wav', atFrame: 0, lengthSamples: 48_000 },
      ...{ fromSample: 0, toSample: 48_000, gainDb: 0, muted: false, soloed: false, readOf: null, script: '', language: 'en' },
    };
    return { ...scene, settings: [{ ...scene.settings[0]!, title }], clips: [clip] };
  });
  return written(
    `${titles.join('-')}.zip`,
    writeBundle({
      made: '2026-11-27T00:00:00.000Z',
      production: { name: 'Night Post', pronunciations: [] },
      characters: [{ id: 'character', name: speaker, accent: { rhotic: true } as never }],
      charts: [{ id: 'chart', characterId: 'character', name: 'Painted', document: painted }],
      scenes,
      media: [
        { hash: hashOf(picture), mediaType: 'image/png', fileName: 'mouth.png', bytes: picture },
        { hash: hashOf(sound), mediaType: 'audio/wav', fileName: 'line.wav', bytes: sound },
      ],
    }),
  );
}

const at = (name: string): string => join(scratch, name);

it('exports a scene as it was packed: placed pictures drawn, the sheet with its wave, curves with how loud it is', () => {
  const bundle = bundled(['The wet stamp']);
  const out = [
    '--pictures',
    at('packed'),
    '--cut',
    '--width',
    '160',
    '--height',
    '140',
    '--sheet',
    at('packed.pdf'),
    '--curves',
    at('packed.csv'),
  ];
  expect(zest('export', bundle, ...out)).toMatchObject({ status: 0, err: '' });
  const names = readdirSync(at('packed')).sort();
  expect([names[0], names.at(-2)]).toEqual(['mouth0101.png', 'mouth0124.png']);
  // What was placed has ink where it was put: more than the one pixel of nothing.
  const places = readFileSync(at('packed/places.csv'), 'utf8').trim().split('\r\n').slice(1);
  expect(places).toHaveLength(LENGTH);
  const [, , , width, height] = places[0]!.split(',').map(Number);
  expect(width! / height!).toBeCloseTo(3, 0);
  expect(readFileSync(at('packed.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
  const loudness = readFileSync(at('packed.csv'), 'utf8').trim().split('\r\n').slice(1);
  // A sine of 9000 of 32768: 20·log10(9000/32768) − 3.01 = −14.2 dBFS.
  const cells = loudness[12]!.split(',').map(Number);
  expect(cells.some((value) => Math.abs(value + 14.2) < 0.5)).toBe(true);
});

it('takes a chart with its pictures out of a bundle, for frames that zest key made', () => {
  const bundle = bundled(['Chart only']);
  const keyed = written(
    'on-packed.json',
    JSON.stringify({ frameRate: RATE, length: 2, exposures: [{ from: 0, to: 2, drawing: starterChart('x', 'pen', 6).drawings[0]!.id }] }),
  );
  expect(zest('export', keyed, '--chart', bundle, '--pictures', at('on-packed'), '--bundle', at('again.zip'))).toMatchObject({
    status: 0,
    err: '',
  });
  expect(readdirSync(at('on-packed'))).toHaveLength(2);
  // The pictures went on into the new bundle, and out of it again.
  expect(zest('export', at('again.zip'), '--pictures', at('on-again'))).toMatchObject({ status: 0, err: '' });
  expect(readFileSync(join(at('on-again'), 'mouth0001.png'))).toEqual(readFileSync(join(at('on-packed'), 'mouth0001.png')));
});

it('asks which scene and who speaks, where there are several or nobody of that name', () => {
  const several = bundled(['First', 'Second']);
  expect(zest('export', several, '--shots', at('s.csv'))).toMatchObject({
    status: 2,
    err: expect.stringContaining('--scene “First”, “Second”'),
  });
  expect(zest('export', several, '--scene', 'Second', '--shots', at('s.csv')).status).toBe(0);
  expect(zest('export', several, '--scene', 'Second', '--speaker', 'Bramble', '--shots', at('s.csv')).err).toContain('It may be Odette');
  expect(zest('export', several, '--scene', 'First', '--chart', several, '--shots', at('s.csv')).err).toContain('leave out --chart');
  const keyed = written('plain.json', JSON.stringify({ frameRate: RATE, length: 1, exposures: [] }));
  expect(zest('export', keyed, '--scene', 'First', '--shots', at('s.csv')).err).toContain('name a .zip');
  expect(zest('export', written('broken-2.zip', 'no zip'), '--shots', at('s.csv')).err).toContain('This is not a bundle');
});
