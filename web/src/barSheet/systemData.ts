/** What of the sheet's data one system shows: painted and told again only when that changes. */
import { spansWithin } from '@zest-jaw/core';
import { useMemo, useState } from 'react';
import { isSpokenIn, type SystemPlan } from './plan.js';
import type { SheetData } from './sheetData.js';

export function dataWithin(data: SheetData, system: SystemPlan): SheetData {
  const spoken = { from: system.wordsFrom, to: system.wordsTo };
  return {
    ...data,
    words: spansWithin(data.words, spoken).filter((word) => isSpokenIn(system, word)),
    sounds: spansWithin(data.sounds, spoken).filter((sound) => isSpokenIn(system, sound)),
    notSpeech: spansWithin(data.notSpeech, system),
    exposures: spansWithin(data.exposures, system),
    others: data.others.map((other) => ({ ...other, exposures: spansWithin(other.exposures, system) })),
    feels: spansWithin(data.feels, system),
    places: data.places.filter((frame) => frame >= system.from && frame < system.to),
    chartChanges: data.chartChanges.filter((frame) => frame >= system.from && frame < system.to),
    ...(data.changes && { changes: data.changes.filter(({ at }) => at >= system.from && at < system.to) }),
    ...(data.notes && { notes: data.notes.filter(({ from, to }) => from < system.to && to > system.from) }),
    ...(data.crib && { crib: spansWithin(data.crib, system) }),
    ...(data.differs && { differs: spansWithin(data.differs, system) }),
  };
}

/** How deep the data of a sheet is: its other lanes, one of them, its exposures, what each of them is. */
const DEEP = 4;

/** Same values, lists of the same things, and records of the same values. */
function isSame(a: unknown, b: unknown, depth = DEEP): boolean {
  if (Object.is(a, b)) return true;
  if (depth === 0 || typeof a !== 'object' || typeof b !== 'object' || !a || !b) return false;
  const [one, other] = [Object.entries(a), b as Record<string, unknown>];
  return one.length === Object.keys(b).length && one.every(([key, value]) => key in other && isSame(value, other[key], depth - 1));
}

export function isSameData(a: SheetData, b: SheetData): boolean {
  return isSame(a, b);
}

/** The data of a system; the same as long as nothing in it differs. */
export function useSystemData(data: SheetData, system: SystemPlan): SheetData {
  const fresh = useMemo(() => dataWithin(data, system), [data, system]);
  const [kept, keep] = useState(fresh);
  const isKept = useMemo(() => isSameData(kept, fresh), [kept, fresh]);
  if (isKept) return kept;
  keep(fresh);
  return fresh;
}
