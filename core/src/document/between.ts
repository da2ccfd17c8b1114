/** What makes one state of a document into another: every record that differs, put. */
import { sameJson, type AnyDocument, type DocumentKind } from './documentKind.js';
import type { Patch, PatchOp } from './patch.js';
import type { Reason } from './reasons.js';

/**
 * The patch from one state of a document to another.
 *
 * @returns a patch without operations where the two are the same
 */
export function patchBetween<D>(
  kind: DocumentKind<D>,
  from: D,
  to: D,
  { id, reason }: { readonly id: string; readonly reason: Reason },
): Patch {
  const [before, after] = [from as unknown as AnyDocument, to as unknown as AnyDocument];
  const ops = Object.keys(kind).flatMap((table): PatchOp[] => {
    const [old, fresh] = [before[table] ?? [], after[table] ?? []];
    if (old === fresh) return [];
    const there = new Map(old.map((record) => [record.id, record]));
    const stays = new Set(fresh.map((record) => record.id));
    return [
      ...old.flatMap((record): PatchOp[] =>
        stays.has(record.id) ? [] : [{ op: 'put', table, id: record.id, before: record, after: null }],
      ),
      ...fresh.flatMap((record): PatchOp[] => {
        const was = there.get(record.id) ?? null;
        return was === record || (was && sameJson(was, record)) ? [] : [{ op: 'put', table, id: record.id, before: was, after: record }];
      }),
    ];
  });
  return { id, reason, ops };
}
