/** What was chosen of a kind of file last, by production, in this browser. */
import { useState } from 'react';
import { useOpenScene } from '../scene/sceneContext.js';
import { keep, maybeKept } from '../ui/browserStore.js';

/** What is kept is ours or nothing: a field of another type than the usual one is left out. */
function readKept<T extends object>(key: string, usual: T): T {
  try {
    const kept = JSON.parse(maybeKept(key) ?? '{}') as Record<string, unknown>;
    const fields = Object.entries(usual).map(([name, value]) => [name, typeof kept[name] === typeof value ? kept[name] : value]);
    return Object.fromEntries(fields) as T;
  } catch {
    return usual;
  }
}

/** @param usual flat: strings, numbers and booleans */
export function useKeptChoices<T extends object>(kind: string, usual: T): readonly [T, (changes: Partial<T>) => void] {
  const { productionId } = useOpenScene();
  const key = `zest-jaw hand off ${productionId} ${kind}`;
  const [choices, setChoices] = useState(() => readKept(key, usual));
  const change = (changes: Partial<T>): void => {
    const next = { ...choices, ...changes };
    setChoices(next);
    keep(key, JSON.stringify(next));
  };
  return [choices, change];
}
