/** The painter executes the plan: held against a canvas that only writes down what it is told. */
import {
  applyPatch,
  FEELS,
  isRefusal,
  keyPencil,
  newScene,
  putDrawing,
  SCENE_KIND,
  setPhraseRules,
  starterChart,
  takeReading,
  waveBlocks,
  wavePyramid,
  type Patch,
  type Reading,
  type SceneDocument,
} from '@zest-jaw/core';
import { paintSystem } from './paintSystem.js';
import { planBarSheet } from './plan.js';
import { sheetData } from './sheetData.js';
import type { Palette } from './palette.js';

const chart = starterChart('Test', 'brush');
const charts = new Map([['chart', chart]]);
let ids = 0;
const newId = (): string => `i${++ids}`;

const palette: Palette = {
  sheet: 'sheet',
  ground: 'ground',
  rule: 'rule',
  ruleSoft: 'soft',
  ink: 'ink',
  inkSoft: 'inkSoft',
  graphite: 'graphite',
  zest: 'zest',
  zestSoft: '#ffe7ae',
  word: 'word',
  voice: 'voice',
  hiss: 'hiss',
  bad: 'bad',
  night: false,
};

type Call = readonly [name: string, ...args: unknown[]];

/** A context that remembers its calls, with the colours they were made in. */
function recorder(): { context: CanvasRenderingContext2D; calls: Call[] } {
  const calls: Call[] = [];
  const state: Record<string, unknown> = {};
  const context = new Proxy(state, {
    get: (target, name: string) => {
      if (name === 'measureText') return (text: string) => ({ width: text.length * 6 });
      if (name in target) return target[name];
      return (...args: unknown[]) =>
        void calls.push([
          name,
          ...args,
          ...(name === 'fillText' || name === 'fillRect' || name === 'fill' ? [target['fillStyle']] : []),
          ...(name === 'stroke' ? [target['strokeStyle']] : []),
        ]);
    },
    set: (target, name: string, value) => {
      target[name] = value;
      return true;
    },
  });
  return { context: context as unknown as CanvasRenderingContext2D, calls };
}

function painted(
  view: 'key' | 'listen',
  also: (scene: SceneDocument) => SceneDocument = (scene) => scene,
  zoom: number | null = null,
): Call[] {
  const reading: Reading = {
    sampleRate: 48_000,
    durationSamples: 96_000,
    words: [
      { text: 'papa', from: 9600, to: 48_000, confidence: 0.95 },
      { text: 'mama', from: 48_000, to: 80_000, confidence: 0.4 },
    ],
    phonemes: ['P', 'AA', 'P', 'AA', 'M', 'AA', 'M'].map((symbol, index) => ({
      symbol,
      from: 9600 + index * 10_000,
      to: 19_600 + index * 10_000,
      confidence: 1,
      word: index < 4 ? 0 : 1,
    })),
    warnings: [],
  };
  const clip = { characterId: 'c', audio: 'a', fileName: 'f', lengthSamples: 96_000, script: '', language: 'en' as const };
  let scene = newScene({
    title: 't',
    frameRate: { num: 24, den: 1 },
    firstFrame: 101,
    chartId: 'chart',
    chart,
    rules: { leadFrames: 1, holdFrames: 2, strict: false },
    clip,
  });
  scene = applyPatch(SCENE_KIND, scene, takeReading(scene, 'clip1', reading, newId) as Patch);
  const keyed = keyPencil(scene, 'mouth1', charts, newId);
  if (isRefusal(keyed)) throw new Error(keyed.refusal);
  scene = applyPatch(SCENE_KIND, scene, keyed.patch);
  scene = applyPatch(SCENE_KIND, scene, putDrawing(scene, { track: 'mouth1', frame: 0, drawing: 'ring' }, chart, newId) as Patch);
  scene = also(scene);
  const sound = new Float32Array(96_000);
  sound[50_000] = 0.8;
  const data = sheetData(
    scene,
    'mouth1',
    charts,
    [
      {
        audio: 'hash',
        characterId: 'c',
        startFrame: 0,
        fromFrame: 0,
        toFrame: 48,
        gain: 1,
        mouthGain: 1,
        samplesPerFrame: 2000,
        pyramid: wavePyramid(waveBlocks(sound, 96)),
        pauses: [{ from: 0, to: 24_000 }],
      },
    ],
    { nameOf: (id) => (id === 'odette' ? 'Odette' : 'Bramble') },
  );
  const plan = planBarSheet(scene, { width: 900, view, zoom });
  const { context, calls } = recorder();
  const wanted: [string, boolean][] = [];
  const sprites = {
    maybeGet: (drawing: string, _width: number, inked: boolean) => {
      wanted.push([drawing, inked]);
      return { drawing } as unknown as HTMLCanvasElement;
    },
  };
  paintSystem({ context, plan, system: plan.systems[0]!, data, palette, sprites });
  return [...calls, ...wanted.map(([drawing, inked]): Call => ['sprite', drawing, inked])];
}

const texts = (calls: readonly Call[]): unknown[] => calls.filter(([name]) => name === 'fillText').map((call) => call[1]);

describe('one painted system', () => {
  const calls = painted('key');

  it('names its words, sounds and lanes, and counts frames from the scene’s first number', () => {
    expect(texts(calls)).toEqual(
      expect.arrayContaining(['papa', 'mama', 'p', 'ɑ', 'm', 'words', 'sounds', 'wave', 'mouth', '101 · 0 s', '125 · 1 s']),
    );
  });

  it('says no second where it would run over the edge of the row', () => {
    // The frame of the second second is the last of the row.
    const whole = painted(
      'key',
      (scene) => ({ ...scene, settings: scene.settings.map((settings) => ({ ...settings, lengthFrames: 49 })) }),
      49,
    );
    const numbers = whole.filter(([name, text]) => name === 'fillText' && /^1\d\d/.test(String(text)));
    expect(numbers.map(([, text]) => text)).toEqual(expect.arrayContaining(['125 · 1 s', '149']));
    for (const [, text, x] of numbers) expect((x as number) + String(text).length * 6).toBeLessThanOrEqual(900);
  });

  it('draws every exposure once: ink solid and in colour, pencil broken and in graphite', () => {
    const sprites = calls.filter(([name]) => name === 'sprite');
    expect(sprites[0]).toEqual(['sprite', 'chart/ring', true]);
    expect(sprites.slice(1).every((call) => call[2] === false)).toBe(true);
    expect(calls.filter(([name]) => name === 'drawImage')).toHaveLength(sprites.length);
    const dashes = calls.filter(([name, dash]) => name === 'setLineDash' && (dash as number[]).length > 0);
    expect(dashes).toHaveLength(sprites.length - 1);
    expect(calls.filter(([name, colour]) => name === 'stroke' && colour === 'ink')).not.toHaveLength(0);
  });

  it('marks the doubtful word and not the sure one', () => {
    expect(calls.filter(([name, colour]) => name === 'stroke' && colour === 'zest')).toHaveLength(1);
  });

  it('loses no peak of the wave', () => {
    const bars = calls.filter(([name, , , , , colour]) => name === 'fillRect' && (colour === 'voice' || colour === 'hiss'));
    const tallest = Math.max(...bars.map((call) => call[4] as number));
    expect(tallest).toBeGreaterThan(15);
    expect(bars.filter((call) => call[4] === tallest)).toHaveLength(1);
  });

  it('names the feel of a phrase over its mouths, and of no other', () => {
    const ruled = painted('key', (scene) =>
      applyPatch(
        SCENE_KIND,
        scene,
        setPhraseRules(
          scene,
          { track: 'mouth1', from: 8, to: 30, rules: FEELS.find(({ name }) => name === 'Crisp')!.rules },
          newId,
        ) as Patch,
      ),
    );
    expect(texts(calls)).not.toContain('Crisp');
    expect(texts(ruled).filter((text) => text === 'Crisp')).toHaveLength(1);
  });

  it('has the mouths of another speaker below, with the name beside them', () => {
    const two = painted('key', (scene) => ({
      ...scene,
      tracks: [...scene.tracks, { ...scene.tracks[0]!, id: 'mouth2', characterId: 'odette', order: 1 }],
      exposures: [...scene.exposures, { id: 'theirs', track: 'mouth2', from: 0, to: 48, drawing: 'push', inked: true, plays: [] }],
    }));
    expect(texts(two)).toContain('Odette');
    expect(two.filter(([name]) => name === 'sprite').at(-1)).toEqual(['sprite', 'chart/push', true]);
    expect(texts(calls)).not.toContain('Odette');
  });

  it('has no mouths where one listens', () => {
    const listening = painted('listen');
    expect(listening.filter(([name]) => name === 'sprite')).toHaveLength(0);
    expect(texts(listening)).not.toContain('mouth');
  });
});
