/**
 * A scene that a worker knows as well: given once, then only what changed since. Steps that
 * are known go as their patches; otherwise of each table what lies between its equal
 * beginning and its equal end.
 */
import { applyPatch, SCENE_KIND, type DocumentRecord, type Patch, type SceneDocument } from '@zest-jaw/core';
import { maybeStepsBetween } from '../session/lineage.js';

/** What is heard is known of so many: of both speakers, now and as tried. */
export const MOST_HEARD = 8;

interface Splice {
  readonly at: number;
  readonly remove: number;
  readonly insert: readonly DocumentRecord[];
}

export type SceneDelta =
  | { readonly kind: 'whole'; readonly scene: SceneDocument }
  | { readonly kind: 'steps'; readonly patches: readonly Pick<Patch, 'ops'>[] }
  | { readonly kind: 'tables'; readonly tables: Readonly<Partial<Record<keyof SceneDocument, Splice>>> };

function maybeSplice(before: readonly DocumentRecord[], after: readonly DocumentRecord[]): Splice | undefined {
  if (before === after) return undefined;
  const shorter = Math.min(before.length, after.length);
  let at = 0;
  while (at < shorter && before[at] === after[at]) at += 1;
  let same = 0;
  while (same < shorter - at && before[before.length - 1 - same] === after[after.length - 1 - same]) same += 1;
  return { at, remove: before.length - same - at, insert: after.slice(at, after.length - same) };
}

/** What a worker must be told that has `before`, nothing when it is undefined, to have `after`. */
export function deltaBetween(before: SceneDocument | undefined, after: SceneDocument): SceneDelta {
  if (!before) return { kind: 'whole', scene: after };
  const patches = maybeStepsBetween(before, after);
  if (patches) return { kind: 'steps', patches: patches.map(({ ops }) => ({ ops })) };
  const names = Object.keys(SCENE_KIND) as (keyof SceneDocument)[];
  const tables = names.flatMap((name) => {
    const splice = maybeSplice(before[name], after[name]);
    return splice ? [[name, splice] as const] : [];
  });
  return { kind: 'tables', tables: Object.fromEntries(tables) };
}

/** The worker's side. */
export function withDelta(before: SceneDocument | undefined, delta: SceneDelta): SceneDocument {
  if (delta.kind === 'whole') return delta.scene;
  if (!before) throw new Error('This worker has not been given a scene.');
  if (delta.kind === 'steps')
    return delta.patches.reduce((scene, { ops }) => applyPatch(SCENE_KIND, scene, { id: '', reason: 'pencil.key', ops }), before);
  const after: Record<string, readonly DocumentRecord[]> = { ...before };
  for (const [name, { at, remove, insert }] of Object.entries(delta.tables)) {
    const records = after[name]!;
    after[name] = [...records.slice(0, at), ...insert, ...records.slice(at + remove)];
  }
  return after as unknown as SceneDocument;
}
