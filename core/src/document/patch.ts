/**
 * A patch is one change of a document, small enough to send and to turn round.
 *
 * Laws, each with a property test of its name:
 * - `apply(invert(p), apply(p, d)) = d`
 * - `apply(merge(p, q), d) = apply(q, apply(p, d))`
 * - a patch read back from its JSON does the same
 *
 * `put` adds (`before` null), changes, or removes (`after` null) a record. `shift` inserts
 * (`by` > 0) or removes (`by` < 0) time on one track: what starts at or after `at` moves,
 * what lies across `at` grows or shrinks. Time is removed only where nothing starts or ends
 * inside it, so that the inverse has nothing to guess; trim with `put` first.
 */
import { bisector } from 'd3-array';

import { frozen, sameJson, type AnyDocument, type DocumentKind, type DocumentRecord, type TableKind } from './documentKind.js';
import type { Reason } from './reasons.js';

export interface PutOp {
  readonly op: 'put';
  readonly table: string;
  readonly id: string;
  readonly before: DocumentRecord | null;
  readonly after: DocumentRecord | null;
}

export interface ShiftOp {
  readonly op: 'shift';
  readonly table: string;
  readonly track: string;
  /** In the track's own unit: frames. */
  readonly at: number;
  readonly by: number;
}

export type PatchOp = PutOp | ShiftOp;

export interface Patch {
  readonly id: string;
  /** Dotted, e.g. `exposure.put`: shown in the history, and groups undo. */
  readonly reason: Reason;
  readonly ops: readonly PatchOp[];
  /** The step of undo it is a part of, named by the first patch of that step; its own id without one. */
  readonly step?: string;
  /** The step it takes back. */
  readonly undoes?: string;
  /** The taken back step it does again. */
  readonly redoes?: string;
  /** A step of undo for whoever has the document open, not only for who made it: a reading that arrives. */
  readonly forAll?: boolean;
}

/** The step of undo that a patch belongs to. */
export const stepOf = (patch: Patch): string => patch.step ?? patch.id;

/** What a table of a document holds. */
export type RecordOf<D, T extends keyof D> = D[T] extends readonly (infer R extends DocumentRecord)[] ? R : never;

/** Adds (`before` null), changes, or removes (`after` null) a record of a table of a document. */
export type PutRecord<D> = <T extends keyof D & string>(table: T, before: RecordOf<D, T> | null, after: RecordOf<D, T> | null) => PutOp;

/**
 * How records of one kind of document are put.
 * @example putsOf()('marks', null, { id: 'm1', characterId: 'odette', frame: 3, text: 'oo' })
 *   // { op: 'put', table: 'marks', id: 'm1', before: null, after: { id: 'm1', characterId: 'odette', frame: 3, text: 'oo' } }
 */
export function putsOf<D>(): PutRecord<D> {
  return (table, before, after) => ({ op: 'put', table, id: (after ?? before)!.id, before, after });
}

/** A patch that does not fit the document it is applied to. */
export class PatchMismatch extends Error {
  override readonly name = 'PatchMismatch';
}

type Kind = Readonly<Record<string, TableKind<DocumentRecord>>>;

const byIdWithin = (compare: (a: DocumentRecord, b: DocumentRecord) => number) => (a: DocumentRecord, b: DocumentRecord) =>
  compare(a, b) || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);

function applyPuts(
  kind: TableKind<DocumentRecord>,
  table: string,
  records: readonly DocumentRecord[],
  puts: readonly PutOp[],
): readonly DocumentRecord[] {
  const touched = new Set(puts.map((put) => put.id));
  const current = new Map<string, DocumentRecord>();
  const kept: DocumentRecord[] = [];
  for (const record of records) {
    if (touched.has(record.id)) current.set(record.id, record);
    else kept.push(record);
  }
  for (const put of puts) {
    if (!sameJson(current.get(put.id) ?? null, put.before)) {
      throw new PatchMismatch(`The ${table} record ${put.id} is not what the patch expects to find.`);
    }
    if (put.after) current.set(put.id, frozen(put.after));
    else current.delete(put.id);
  }
  const order = byIdWithin(kind.compare);
  const { left: placeAmong } = bisector(order);
  const result: DocumentRecord[] = [];
  let next = 0;
  for (const record of [...current.values()].sort(order)) {
    const place = placeAmong(kept, record, next);
    while (next < place) result.push(kept[next++]!);
    result.push(record);
  }
  while (next < kept.length) result.push(kept[next++]!);
  return result;
}

function applyShift(
  kind: TableKind<DocumentRecord>,
  records: readonly DocumentRecord[],
  { table, track, at, by }: ShiftOp,
): readonly DocumentRecord[] {
  const span = kind.span;
  if (!span) throw new PatchMismatch(`Time cannot be inserted in the table ${table}.`);
  const end = by < 0 ? at - by : at;
  return records.map((record) => {
    if (span.trackOf(record) !== track) return record;
    const [from, to] = [span.from(record), span.to(record)];
    if (from >= end) return span.moved(record, from + by, to + by);
    if (to <= at) return record;
    if (by < 0 && (from >= at || to <= end)) {
      throw new PatchMismatch(`Frames ${at} to ${end} cannot be taken out of ${track}: something starts or ends there.`);
    }
    return from < at ? span.moved(record, from, to + by) : record;
  });
}

/**
 * The document after a patch. What the patch made is frozen; what it left alone is as it was given, and not looked at.
 *
 * @throws PatchMismatch when a `before` is not what is there, or a `shift` would lose something
 */
export function applyPatch<D>(documentKind: DocumentKind<D>, document: D, patch: Patch): D {
  const kinds = documentKind as unknown as Kind;
  const tables: Record<string, readonly DocumentRecord[]> = { ...(document as unknown as AnyDocument) };
  for (let index = 0; index < patch.ops.length;) {
    const first = patch.ops[index]!;
    const kind = kinds[first.table];
    const records = tables[first.table];
    if (!kind || !records) throw new PatchMismatch(`There is no table ${first.table} in this document.`);
    if (first.op === 'shift') {
      tables[first.table] = frozen(applyShift(kind, records, first));
      index += 1;
      continue;
    }
    // Puts of one table that follow one another go in together: a table is walked once a run, not once an op.
    let end = index + 1;
    while (end < patch.ops.length && patch.ops[end]!.op === 'put' && patch.ops[end]!.table === first.table) end += 1;
    tables[first.table] = Object.freeze(applyPuts(kind, first.table, records, patch.ops.slice(index, end) as PutOp[]));
    index = end;
  }
  return Object.freeze(tables) as unknown as D;
}

/** The patch that takes this one back. */
export function invertPatch(patch: Patch, id: string): Patch {
  const ops = [...patch.ops]
    .reverse()
    .map((op): PatchOp => (op.op === 'put' ? { ...op, before: op.after, after: op.before } : { ...op, by: -op.by }));
  return { id, reason: patch.reason, ops };
}

/**
 * Two patches that follow one another, as one, under the first's id and reason. Puts of
 * the same record become one put unless a shift stands between them.
 */
export function mergePatches(first: Patch, second: Patch): Patch {
  const all = [...first.ops, ...second.ops];
  if (all.some((op) => op.op === 'shift')) return { ...first, ops: all };
  const merged = new Map<string, PutOp>();
  for (const op of all as PutOp[]) {
    const key = `${op.table}\n${op.id}`;
    const earlier = merged.get(key);
    merged.set(key, earlier ? { ...earlier, after: op.after } : op);
  }
  return { ...first, ops: [...merged.values()].filter((op) => !sameJson(op.before, op.after)) };
}

/** The records a patch touches, as `table/id`. */
export function recordsOfPatch(patch: Patch): string[] {
  return patch.ops.map((op) => (op.op === 'put' ? `${op.table}/${op.id}` : `${op.table}/${op.track}`));
}
