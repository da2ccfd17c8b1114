/** Layers inside layers: the tree with what is taken of it, and how deep to go. */
import type { LayerChoice } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { count } from '../ui/count.js';

interface LayerLevelsProps {
  readonly choice: LayerChoice;
  /** How often layers are opened; by their names where it is not given. */
  readonly level: number | undefined;
  readonly onChoose: (level: number | undefined) => void;
}

export function LayerLevels({ choice: { levels, outline }, level, onChoose }: LayerLevelsProps): ReactElement {
  return (
    <div className="mt-3 text-[14px]">
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-ink-soft">Layers lie inside layers. Mouths are</span>
        <select
          aria-label="Which layers are mouths"
          className="field w-auto! px-2! py-[3px]!"
          value={level ?? ''}
          onChange={({ target }) => onChoose(target.value === '' ? undefined : Number(target.value))}
        >
          <option value="">what their names tell</option>
          {levels.map(({ count: found, names }, at) => (
            <option key={at} value={at}>
              {`${'› '.repeat(at)}${found}: ${names.join(', ')}${found > names.length ? ' …' : ''}`}
            </option>
          ))}
        </select>
      </div>
      <details className="mt-1.5" open={outline.length <= 40}>
        <summary className="w-fit cursor-pointer rounded-sm text-ink-soft">
          The tree of layers, {count(outline.length, 'line', 'lines')}
        </summary>
        <ul aria-label="Layers" tabIndex={0} className="mt-1.5 max-h-[150px] overflow-y-auto rounded-md bg-paper px-3 py-2">
          {outline.map(({ name, depth, isDrawing }, index) => (
            <li key={index} style={{ paddingLeft: depth * 18 }} className={isDrawing ? '' : 'text-ink-soft'}>
              {name}
              {isDrawing && <span className="ml-2 rounded-full bg-zest-soft px-2 text-[12px]">a mouth</span>}
            </li>
          ))}
        </ul>
      </details>
    </div>
  );
}
