/** What symbols of other label sets are taken for: tables that are kept by name in this browser. */
import { maybePhoneme } from '@zest-jaw/core';
import { createJSONStorage, persist } from 'zustand/middleware';
import { createStore } from 'zustand/vanilla';

/** ARPAbet by the symbol of the label. */
export type LabelTable = Readonly<Record<string, string>>;

/** Tables as they were kept; what is no sound is left out. */
function readable(kept: unknown): Readonly<Record<string, LabelTable>> {
  if (typeof kept !== 'object' || !kept) return {};
  const isSound = ([, symbol]: [string, unknown]): boolean => typeof symbol === 'string' && maybePhoneme(symbol) !== undefined;
  return Object.fromEntries(
    Object.entries(kept).flatMap(([name, table]) =>
      typeof table === 'object' && table ? [[name, Object.fromEntries(Object.entries(table as object).filter(isSound)) as LabelTable]] : [],
    ),
  );
}

export const labelTables = createStore<{ readonly tables: Readonly<Record<string, LabelTable>> }>()(
  persist(() => ({ tables: {} as Readonly<Record<string, LabelTable>> }), {
    name: 'zest-label-tables',
    storage: createJSONStorage(() => localStorage),
    merge: (kept, now) => ({ ...now, tables: readable((kept as { tables?: unknown } | undefined)?.tables) }),
  }),
);

export function keepTable(name: string, table: LabelTable): void {
  labelTables.setState(({ tables }) => ({ tables: { ...tables, [name]: table } }));
}
