/** Undo and redo as stacks, and the same stacks from nothing but the revisions. */
import fc from 'fast-check';
import {
  applyPatch,
  maybeRedo,
  maybeUndo,
  mergePatches,
  NO_HISTORY,
  NO_PAST,
  recordChange,
  SCENE_KIND,
  stepOf,
  withNewer,
  withOlder,
  withOthers,
  withoutStep,
  type History,
  type Patch,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene } from '../testing/testPatch.js';

type Act = { readonly kind: 'change'; readonly title: string; readonly joins: boolean } | { readonly kind: 'undo' | 'redo' };

const anyAct: fc.Arbitrary<Act> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('change' as const), title: fc.constantFrom(...'abcdefgh'), joins: fc.boolean() }) },
  { weight: 3, arbitrary: fc.constant({ kind: 'undo' as const }) },
  { weight: 2, arbitrary: fc.constant({ kind: 'redo' as const }) },
);

/** Does the acts as a page would; answers with the stacks, the document and every revision. */
function played(acts: readonly Act[]): { history: History; document: SceneDocument; revisions: Patch[] } {
  const ids = countedIds('p');
  let document = emptyScene(24);
  let history = NO_HISTORY;
  const revisions: Patch[] = [];
  for (const act of acts) {
    let patch: Patch | undefined;
    if (act.kind === 'change') {
      const before = document.settings[0]!;
      const last = history.done.at(-1);
      // A step that was taken back and done again is closed, and so is one with something taken back on top.
      const open =
        act.joins &&
        history.undone.length === 0 &&
        last &&
        revisions.at(-1)?.undoes === undefined &&
        revisions.at(-1)?.redoes === undefined;
      patch = {
        id: ids(),
        reason: 'scene.settings',
        ops: [
          { op: 'put', table: 'settings', id: before.id, before, after: { ...before, title: `${act.title}${revisions.length}` } as never },
        ],
        ...(open && { step: stepOf(last) }),
      };
      history = recordChange(history, patch, 0);
    } else {
      const taken = act.kind === 'undo' ? maybeUndo(history, ids()) : maybeRedo(history, ids());
      if (!taken) continue;
      ({ patch, history } = taken);
    }
    document = applyPatch(SCENE_KIND, document, patch);
    revisions.push(patch);
  }
  return { history, document, revisions };
}

const opsOf = (patches: readonly Patch[]): unknown => patches.map((patch) => [stepOf(patch), patch.ops]);

it('the stacks made of the revisions are those of the session that made them, in pages of any size', () => {
  fc.assert(
    fc.property(fc.array(anyAct, { maxLength: 30 }), fc.integer({ min: 1, max: 40 }), (acts, pageSize) => {
      const { history, revisions } = played(acts);
      const newestFirst = [...revisions].reverse();
      let past = NO_PAST;
      for (let at = 0; at < newestFirst.length; at += pageSize) past = withOlder(past, newestFirst.slice(at, at + pageSize));
      expect(opsOf(past.done)).toEqual(opsOf(history.done));
      expect(opsOf(past.undone)).toEqual(opsOf(history.undone));
    }),
  );
});

it('undoing all of them gives the first state, and doing them again the last', () => {
  fc.assert(
    fc.property(fc.array(anyAct, { maxLength: 30 }), (acts) => {
      const { document, revisions } = played(acts);
      const ids = countedIds('u');
      const past = withOlder(NO_PAST, [...revisions].reverse());
      let history: History = { ...NO_HISTORY, done: past.done };
      let scene = document;
      for (let taken = maybeUndo(history, ids()); taken; taken = maybeUndo(history, ids())) {
        scene = applyPatch(SCENE_KIND, scene, taken.patch);
        history = taken.history;
      }
      expect(scene).toEqual(emptyScene(24));
      for (let taken = maybeRedo(history, ids()); taken; taken = maybeRedo(history, ids())) {
        scene = applyPatch(SCENE_KIND, scene, taken.patch);
        history = taken.history;
      }
      expect(scene).toEqual(document);
    }),
  );
});

it('a part that comes late, after another step, belongs to where its step began', () => {
  const empty = emptyScene(24);
  const track = empty.tracks[0]!;
  const [one, two] = [
    { ...track, order: 1 },
    { ...track, order: 2 },
  ];
  const put = (id: string, ops: Patch['ops'], step?: string): Patch => ({ id, reason: 'track.rules', ops, ...(step && { step }) });
  const mark = { id: 'm', characterId: track.characterId, frame: 3, text: 'oo' };
  const revisions = [
    put('a', [{ op: 'put', table: 'tracks', id: track.id, before: track, after: one }]),
    put('b', [{ op: 'put', table: 'tracks', id: track.id, before: one, after: two }]),
    put('c', [{ op: 'put', table: 'marks', id: 'm', before: null, after: mark }], 'a'),
  ];
  const session = revisions.reduce((history, patch) => recordChange(history, patch, 0), NO_HISTORY);
  expect(session.done.map(stepOf)).toEqual(['a', 'b']);
  const last = revisions.reduce((scene, patch) => applyPatch(SCENE_KIND, scene, patch), empty);
  for (const pageSize of [1, 2, 3]) {
    const newestFirst = [...revisions].reverse();
    let done: readonly Patch[] = [];
    let { ended } = NO_PAST;
    for (let at = 0; at < newestFirst.length; at += pageSize) {
      const page = withOlder({ ...NO_PAST, ended }, newestFirst.slice(at, at + pageSize));
      done = withNewer(page.done, done);
      ({ ended } = page);
    }
    expect(opsOf(done)).toEqual(opsOf(session.done));
    let history: History = { ...NO_HISTORY, done };
    let scene = last;
    for (let taken = maybeUndo(history, 'u'); taken; taken = maybeUndo(history, 'u')) {
      scene = applyPatch(SCENE_KIND, scene, taken.patch);
      history = taken.history;
    }
    expect(scene).toEqual(empty);
  }
});

describe('what others did', () => {
  const { revisions } = played([
    { kind: 'change', title: 'a', joins: false },
    { kind: 'change', title: 'b', joins: false },
  ]);
  const [first, second] = revisions as [Patch, Patch];

  it('stays theirs, but for what is a step for all', () => {
    const history = withOthers(NO_HISTORY, [first, { ...second, forAll: true }]);
    expect(opsOf(history.done)).toEqual(opsOf([second]));
  });

  it('joins the parts of one step for all', () => {
    const history = withOthers(NO_HISTORY, [
      { ...first, step: 's', forAll: true },
      { ...second, step: 's', forAll: true },
    ]);
    expect(opsOf(history.done)).toEqual([['s', mergePatches(first, second).ops]]);
  });

  it('leaves the stack when it is taken back there, and when it was refused', () => {
    const history = withOthers(NO_HISTORY, [{ ...first, forAll: true }]);
    const back: Patch = { ...second, undoes: stepOf(first) };
    expect(withOthers(history, [back]).done).toEqual([]);
    expect(withoutStep(history, first.id).done).toEqual([]);
  });
});
