/**
 * A document is plain frozen JSON: named tables of records, each record with an `id`
 * unique in its table and each table kept in one order. Scenes and charts are both
 * documents and share patches, undo, saving and history.
 */

export interface DocumentRecord {
  readonly id: string;
}

export interface TableKind<R> {
  /** The order the table is kept in; records that compare equal keep the order of their ids. */
  compare(a: R, b: R): number;
  /** Where a record lies in time, for tables that `shift` may move. */
  readonly span?: {
    trackOf(record: R): string;
    from(record: R): number;
    to(record: R): number;
    moved(record: R, from: number, to: number): R;
  };
}

export type DocumentKind<D> = {
  readonly [T in keyof D]: D[T] extends readonly (infer R)[] ? TableKind<R> : never;
};

/** Any document, seen without its types: what patches work on. */
export type AnyDocument = Readonly<Record<string, readonly DocumentRecord[]>>;
export type AnyKind = Readonly<Record<string, TableKind<never>>>;

/** Freezes a document and everything in it; returns it. */
export function frozen<T>(value: T): T {
  if (value && typeof value === 'object' && !Object.isFrozen(value)) {
    Object.freeze(value);
    if (Array.isArray(value)) for (const inner of value) frozen(inner);
    else for (const inner of Object.values(value)) frozen(inner);
  }
  return value;
}

/** Same JSON, key order aside. */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (!a || !b || typeof a !== 'object' || typeof b !== 'object' || Array.isArray(a) !== Array.isArray(b)) return false;
  const keysOf = (value: object): string[] => Object.keys(value).filter((key) => (value as Record<string, unknown>)[key] !== undefined);
  const keys = keysOf(a);
  return (
    keys.length === keysOf(b).length &&
    keys.every((key) => sameJson((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key]))
  );
}
