import fc from 'fast-check';
import {
  applyPatch,
  checkScene,
  joinedToLast,
  maybeRedo,
  maybeUndo,
  mergePatches,
  NO_HISTORY,
  PatchMismatch,
  recordChange,
  SCENE_KIND,
  type Exposure,
  type History,
  type Patch,
  type PutOp,
  type Reason,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, TEST_CHART, TEST_CHARTS, testPatch } from '../testing/testPatch.js';

const drawings = TEST_CHART.drawings.map((drawing) => drawing.id);

function exposuresFrom(cuts: readonly number[], picks: readonly number[], lengthFrames: number): Exposure[] {
  const starts = [0, ...[...new Set(cuts)].filter((cut) => cut > 0 && cut < lengthFrames).sort((a, b) => a - b)];
  return starts.map((from, index) => ({
    id: `x${index}`,
    track: 'mouth1',
    from,
    to: starts[index + 1] ?? lengthFrames,
    drawing: drawings[(picks[index] ?? 0) % drawings.length]!,
    inked: (picks[index] ?? 0) % 2 === 0,
    plays: [],
  }));
}

/** The patch that replaces every exposure by others. */
function replaceAll(scene: SceneDocument, exposures: readonly Exposure[], id: string): Patch {
  const before = new Map(scene.exposures.map((exposure) => [exposure.id, exposure]));
  const after = new Map(exposures.map((exposure) => [exposure.id, exposure]));
  const ops = [...new Set([...before.keys(), ...after.keys()])].map((key): PutOp => ({
    op: 'put',
    table: 'exposures',
    id: key,
    before: before.get(key) ?? null,
    after: after.get(key) ?? null,
  }));
  return { id, reason: 'pencil.key', ops };
}

const anySheet = fc
  .tuple(fc.array(fc.integer({ min: 1, max: 47 }), { maxLength: 20 }), fc.array(fc.nat(25), { minLength: 21, maxLength: 21 }))
  .map(([cuts, picks]) => exposuresFrom(cuts, picks, 48));

describe('patches', () => {
  it('apply(invert(p), apply(p, d)) = d, with the JSON round trip and the invariants', () => {
    fc.assert(
      fc.property(anySheet, anySheet, (first, second) => {
        const scene = testPatch(emptyScene(48), replaceAll(emptyScene(48), first, 'p1'));
        testPatch(scene, replaceAll(scene, second, 'p2'));
      }),
    );
  });

  it('apply(merge(p, q), d) = apply(q, apply(p, d))', () => {
    fc.assert(
      fc.property(anySheet, anySheet, (first, second) => {
        const scene = emptyScene(48);
        const p = replaceAll(scene, first, 'p');
        const middle = applyPatch(SCENE_KIND, scene, p);
        const q = replaceAll(middle, second, 'q');
        const merged = mergePatches(p, q);
        expect(applyPatch(SCENE_KIND, scene, merged)).toEqual(applyPatch(SCENE_KIND, middle, q));
        expect(new Set(merged.ops.map((op) => (op.op === 'put' ? op.id : ''))).size).toBe(merged.ops.length);
      }),
    );
  });

  it('insert time and take it out again', () => {
    fc.assert(
      fc.property(anySheet, fc.integer({ min: 0, max: 48 }), fc.integer({ min: 1, max: 12 }), (sheet, at, by) => {
        const start = emptyScene(48);
        const scene = applyPatch(SCENE_KIND, start, replaceAll(start, sheet, 'p'));
        const longer = { ...scene.settings[0]!, lengthFrames: 48 + by };
        const patch: Patch = {
          id: 's',
          reason: 'scene.length',
          ops: [
            { op: 'put', table: 'settings', id: 'scene', before: scene.settings[0]!, after: longer },
            { op: 'shift', table: 'exposures', track: 'mouth1', at, by },
          ],
        };
        const after = testPatch(scene, patch);
        const held = (exposures: readonly Exposure[]): number => exposures.reduce((sum, exposure) => sum + exposure.to - exposure.from, 0);
        const inside = sheet.some((exposure) => exposure.from < at && at < exposure.to);
        expect(held(after.exposures)).toBe(held(scene.exposures) + (inside ? by : 0));
      }),
    );
  });

  it('refuse to take time out where something starts or ends', () => {
    const start = emptyScene(48);
    const scene = applyPatch(SCENE_KIND, start, replaceAll(start, exposuresFrom([10, 20], [1, 2, 3], 48), 'p'));
    const removing = (at: number, by: number): Patch => ({
      id: 's',
      reason: 'scene.length',
      ops: [{ op: 'shift', table: 'exposures', track: 'mouth1', at, by }],
    });
    expect(() => applyPatch(SCENE_KIND, scene, removing(8, -4))).toThrow(PatchMismatch);
    expect(() => applyPatch(SCENE_KIND, scene, removing(12, -4))).not.toThrow();
  });

  it('refuse a before that is not what is there, and change nothing', () => {
    const scene = emptyScene(48);
    const stale = { ...scene.exposures[0]!, to: 20 };
    const patch: Patch = {
      id: 'p',
      reason: 'exposure.put',
      ops: [{ op: 'put', table: 'exposures', id: stale.id, before: stale, after: null }],
    };
    expect(() => applyPatch(SCENE_KIND, scene, patch)).toThrow(PatchMismatch);
    expect(checkScene(scene, TEST_CHARTS)).toEqual([]);
    expect(() => applyPatch(SCENE_KIND, scene, { ...patch, ops: [{ ...patch.ops[0]!, table: 'nothing' }] })).toThrow(PatchMismatch);
  });
});

describe('history', () => {
  const scene = emptyScene(48);
  const first = scene.exposures[0]!;
  const step = (from: Exposure, to: Exposure, id: string, reason: Reason = 'exposure.put'): Patch => ({
    id,
    reason,
    ops: [{ op: 'put', table: 'exposures', id: from.id, before: from, after: to }],
  });
  const [a, b] = [
    { ...first, drawing: 'drop' },
    { ...first, drawing: 'ring' },
  ];

  const recorded = (history: History, patch: Patch, atMs: number): History =>
    recordChange(history, joinedToLast(history, patch, atMs), atMs);

  it('joins changes of the same record within half a second into one step', () => {
    const history = recorded(recorded(NO_HISTORY, step(first, a, 'p1'), 0), step(a, b, 'p2'), 400);
    expect(history.done).toHaveLength(1);
    const undo = maybeUndo(history, 'u')!;
    const changed = applyPatch(SCENE_KIND, applyPatch(SCENE_KIND, scene, step(first, a, 'p1')), step(a, b, 'p2'));
    expect(applyPatch(SCENE_KIND, changed, undo.patch)).toEqual(scene);
  });

  it('keeps them apart when they are slower, or of another kind', () => {
    expect(recorded(recorded(NO_HISTORY, step(first, a, 'p1'), 0), step(a, b, 'p2'), 600).done).toHaveLength(2);
    expect(recorded(recorded(NO_HISTORY, step(first, a, 'p1'), 0), step(a, b, 'p2', 'exposure.ink'), 100).done).toHaveLength(2);
  });

  it('redoes what was undone, until something new is done', () => {
    const ids = countedIds();
    const done = recorded(NO_HISTORY, step(first, a, 'p1'), 0);
    const undone = maybeUndo(done, ids())!.history;
    expect(maybeUndo(undone, ids())).toBeUndefined();
    const redo = maybeRedo(undone, ids())!;
    expect(applyPatch(SCENE_KIND, scene, redo.patch).exposures[0]!.drawing).toBe('drop');
    expect(maybeRedo(recorded(undone, step(first, b, 'p3'), 10_000), ids())).toBeUndefined();
  });
});
