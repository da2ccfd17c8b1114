/** A worker that has failed is told everything again: nothing is built on what it may not have. */
import { DEFAULT_RULES, newScene, putDrawing, applyPatch, SCENE_KIND, starterChart, type Patch } from '@zest-jaw/core';
import type { Answered, WorkerLike } from './asking.js';
import { createKeyer } from './keyer.js';

const chart = starterChart('Test', 'brush');
const charts = new Map([['chart', chart]]);
const scene = newScene({
  title: 'Test',
  frameRate: { num: 24, den: 1 },
  firstFrame: 1,
  chartId: 'chart',
  chart,
  rules: DEFAULT_RULES,
  clip: { characterId: 'odette', audio: 'hash', fileName: 'line.wav', lengthSamples: 96_000, script: '', language: 'en' },
});
const trackId = scene.tracks[0]!.id;
const next = applyPatch(SCENE_KIND, scene, putDrawing(scene, { track: trackId, frame: 5, drawing: 'drop' }, chart, () => 'p') as Patch);

it('sends what changed while all goes well, and the whole scene after a fault', async () => {
  const asked: { id: number; since: { base: number; number: number; scene: { kind: string }; charts: unknown[] } }[] = [];
  const worker: WorkerLike = {
    onmessage: null,
    onerror: null,
    postMessage: (message) => void asked.push(message as (typeof asked)[number]),
    terminate: () => undefined,
  };
  const say = (data: Answered): void => worker.onmessage?.({ data } as MessageEvent<Answered>);
  const keyer = createKeyer(() => worker);
  const first = keyer.key({ scene, trackId, charts });
  say({ id: asked[0]!.id, answer: 'one' });
  await first;
  const second = keyer.key({ scene: next, trackId, charts });
  say({ id: asked[1]!.id, fault: 'out of step' });
  await expect(second).rejects.toThrow('out of step');
  const third = keyer.key({ scene: next, trackId, charts });
  say({ id: asked[2]!.id, answer: 'three' });
  await third;
  expect(asked.map(({ since }) => [since.scene.kind, since.charts.length])).toEqual([
    ['whole', 1],
    ['tables', 0],
    ['whole', 1],
  ]);
  expect(asked[1]!.since.base).toBe(asked[0]!.since.number);
});
