/** What a worker is told makes its scene the page's, whatever happened in between; and is small where little did. */
import {
  applyPatch,
  DEFAULT_RULES,
  invertPatch,
  isRefusal,
  newScene,
  putDrawing,
  SCENE_KIND,
  slideClip,
  starterChart,
  type Patch,
  type SceneDocument,
} from '@zest-jaw/core';
import fc from 'fast-check';
import { rememberStep } from '../session/lineage.js';
import { deltaBetween, withDelta } from './sceneMirror.js';

const chart = starterChart('Test', 'brush');
const scene = newScene({
  title: 'Test',
  frameRate: { num: 24, den: 1 },
  firstFrame: 1,
  chartId: 'chart',
  chart,
  rules: DEFAULT_RULES,
  clip: { characterId: 'odette', audio: 'hash', fileName: 'line.wav', lengthSamples: 96_000, script: '', language: 'en' },
});
const track = scene.tracks[0]!.id;
let count = 0;
const newId = (): string => `n${++count}`;

/** A scene after some mouths and slides, with its steps remembered or not. */
function after(steps: readonly (readonly [number, number])[], remembers: boolean): SceneDocument {
  return steps.reduce((now, [frame, drawing]) => {
    const patch =
      drawing === 0
        ? slideClip(now, 'clip1', frame, newId)
        : putDrawing(now, { track, frame, drawing: chart.drawings[drawing]!.id }, chart, newId);
    if (isRefusal(patch)) return now;
    const next = applyPatch(SCENE_KIND, now, patch);
    if (remembers) rememberStep(now, patch, next);
    return next;
  }, scene);
}

/** Through a message, as a worker gets it. */
const sent = <T>(value: T): T => structuredClone(value);
const anySteps = fc.array(fc.tuple(fc.nat(47), fc.nat(5)), { maxLength: 8 });

it.each([true, false])('makes one scene into any other, steps known: %s', (remembers) => {
  fc.assert(
    fc.property(anySteps, anySteps, (one, two) => {
      const [first, second] = [after(one, remembers), after(two, remembers)];
      const there = withDelta(undefined, sent(deltaBetween(undefined, first)));
      expect(there).toEqual(first);
      expect(withDelta(there, sent(deltaBetween(first, second)))).toEqual(second);
    }),
  );
});

it('tells one mouth by one record, and nothing when nothing changed', () => {
  const many = after(
    Array.from({ length: 40 }, (_, index) => [index, 1 + (index % 4)] as const),
    false,
  );
  const patch = putDrawing(many, { track, frame: 20, drawing: chart.drawings[7]!.id }, chart, newId) as Patch;
  const next = applyPatch(SCENE_KIND, many, patch);
  const delta = deltaBetween(many, next);
  expect(delta).toMatchObject({ kind: 'tables', tables: { exposures: { remove: 1, insert: [{ drawing: chart.drawings[7]!.id }] } } });
  expect(deltaBetween(many, many)).toEqual({ kind: 'steps', patches: [] });
  rememberStep(many, patch, next);
  expect(deltaBetween(many, next)).toEqual({ kind: 'steps', patches: [{ ops: patch.ops }] });
  const back = applyPatch(SCENE_KIND, next, invertPatch(patch, newId()));
  expect(withDelta(next, sent(deltaBetween(next, back)))).toEqual(many);
});
