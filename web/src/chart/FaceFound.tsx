/** What was found of a whole face: its head, and each part with its drawings. */
import type { FoundFace } from '@zest-jaw/core';
import type { ReactElement, ReactNode } from 'react';
import { previewUrl } from '../api/imports.js';
import { count } from '../ui/count.js';

function Line({ name, says, children }: { readonly name: string; readonly says: string; readonly children: ReactNode }): ReactElement {
  return (
    <li className="flex items-center gap-3 rounded-[10px] border border-rule-soft px-3 py-1.5">
      <span className="w-[150px] shrink-0">
        <span className="block truncate font-semibold">{name}</span>
        <span className="block text-[13px] text-ink-soft">{says}</span>
      </span>
      <span className="flex min-w-0 flex-1 flex-wrap gap-1.5">{children}</span>
    </li>
  );
}

export function FaceFound({ importId, face: { head, parts } }: { readonly importId: string; readonly face: FoundFace }): ReactElement {
  const picture = (index: number, title: string): ReactElement => (
    <img
      key={index}
      src={previewUrl(importId, index)}
      alt={title}
      title={title}
      className="h-[44px] max-w-[72px] rounded-md bg-ground object-contain p-1"
    />
  );
  return (
    <ul aria-label="Parts of the face" tabIndex={0} className="mt-3 flex max-h-[340px] flex-col gap-1.5 overflow-y-auto">
      {[...parts].reverse().map(({ name, isMouth, drawings }) => (
        <Line
          key={name}
          name={name}
          says={isMouth ? count(drawings.length, 'mouth', 'mouths') : count(drawings.length, 'drawing', 'drawings')}
        >
          {drawings.map(({ index, label }) => picture(index, label))}
        </Line>
      ))}
      {head && (
        <Line name={head.name} says="the head behind them">
          {picture(head.index, head.name)}
        </Line>
      )}
    </ul>
  );
}
