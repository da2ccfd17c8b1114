/** The table of an import: each mouth that was found, and what it is taken for. */
import type { ChartDocument, FoundMouthView } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { previewUrl } from '../api/imports.js';

/** What was decided of a found mouth. */
export interface Decision {
  readonly label: string;
  readonly groups: readonly string[];
  /** What of its name was taken for what; empty when nothing was. */
  readonly because: string;
  /** `new`, `out`, or the id of the drawing whose place it takes. */
  readonly as: string;
}

interface ImportTableProps {
  readonly importId: string;
  readonly mouths: readonly FoundMouthView[];
  readonly decisions: readonly Decision[];
  readonly chart: ChartDocument;
  readonly onDecide: (decisions: readonly Decision[]) => void;
}

export function ImportTable({ importId, mouths, decisions, chart, onDecide }: ImportTableProps): ReactElement {
  const decide = (index: number, changes: Partial<Decision>): void =>
    onDecide(decisions.map((decision, place) => (place === index ? { ...decision, ...changes } : decision)));
  const nameOf = (group: string): string => chart.groups.find((candidate) => candidate.id === group)?.name ?? group;
  const takenBy = (drawing: string, index: number): boolean => decisions.some((other, place) => place !== index && other.as === drawing);
  return (
    <div className="mt-3 max-h-[46vh] overflow-y-auto rounded-xl border border-rule">
      <table className="w-full text-left">
        <thead className="sticky top-0 z-10 bg-rule-soft text-[14px]">
          <tr>
            {['Mouth', 'Found as', 'Label', 'Plays', 'Take it as'].map((title) => (
              <th key={title} className="px-2.5 py-1.5 font-semibold">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {mouths.map((mouth) => {
            const decision = decisions[mouth.index];
            if (!decision) return null;
            const { label, groups, because, as } = decision;
            const key = groups.join(' ');
            return (
              <tr key={mouth.index} className={as === 'out' ? 'border-t border-rule-soft opacity-45' : 'border-t border-rule-soft'}>
                <td className="px-2.5 py-1">
                  <span className="grid h-[46px] w-[64px] place-items-center rounded-lg bg-ground">
                    <img src={previewUrl(importId, mouth.index)} alt="" className="max-h-[42px] max-w-[58px]" />
                  </span>
                </td>
                <td className="max-w-[160px] px-2.5 py-1 text-[14px] leading-snug">
                  <span className="block truncate" title={mouth.name}>
                    {mouth.name}
                  </span>
                  <span className="block truncate text-ink-soft" title={`${mouth.as}, ${mouth.file}`}>
                    {mouth.as}
                  </span>
                </td>
                <td className="px-2.5 py-1">
                  <input
                    className="field w-[112px]! px-2! py-[3px]! text-[14px]"
                    aria-label={`Label of ${mouth.name}`}
                    value={label}
                    maxLength={40}
                    onChange={(event) => decide(mouth.index, { label: event.target.value })}
                  />
                </td>
                <td className="px-2.5 py-1 text-[14px]">
                  <select
                    className="field w-[120px]! px-2! py-[3px]! text-[14px]"
                    aria-label={`What ${mouth.name} plays`}
                    value={key}
                    onChange={(event) => decide(mouth.index, { groups: event.target.value.split(' ').filter(Boolean), because: '' })}
                  >
                    <option value="">nothing yet</option>
                    {groups.length > 1 && <option value={key}>{groups.map(nameOf).join(', ')}</option>}
                    {chart.groups.map((group) => (
                      <option key={group.id} value={group.id}>
                        {group.name}
                      </option>
                    ))}
                  </select>
                  <span className="block max-w-[150px] truncate text-[13px] text-ink-soft" title={because}>
                    {because}
                  </span>
                </td>
                <td className="px-2.5 py-1">
                  <select
                    className="field w-[150px]! px-2! py-[3px]! text-[14px]"
                    aria-label={`Take ${mouth.name} as`}
                    value={as}
                    onChange={(event) => decide(mouth.index, { as: event.target.value })}
                  >
                    <option value="new">a new drawing</option>
                    <option value="out">leave it out</option>
                    {chart.drawings.map((drawing) => (
                      <option key={drawing.id} value={drawing.id} disabled={takenBy(drawing.id, mouth.index)}>
                        in place of {drawing.label}
                      </option>
                    ))}
                  </select>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
