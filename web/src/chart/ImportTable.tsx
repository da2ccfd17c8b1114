/** The table of an import: each mouth that was found, and what it is taken for. */
import type { ChartDocument, FoundMouthView } from '@zest-jaw/core';
import { Check, ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ReactElement } from 'react';
import { previewUrl } from '../api/imports.js';
import { Menu, MenuCheck } from '../ui/Menu.js';

/** What was decided of a found mouth. */
export interface Decision {
  readonly label: string;
  readonly groups: readonly string[];
  /** What of its name was taken for what; empty when nothing was. */
  readonly because: string;
  /** Groups that its name may mean: a question. */
  readonly perhaps?: readonly string[];
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
            const { label, groups, because, as, perhaps } = decision;
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
                  <Menu
                    className="grid max-h-[320px] grid-cols-2 gap-x-1 overflow-y-auto text-[14px]!"
                    trigger={
                      <button
                        type="button"
                        aria-label={`What ${mouth.name} plays`}
                        className="field flex w-[130px]! items-center justify-between gap-1 px-2! py-[3px]! text-left text-[14px]"
                      >
                        <span className="truncate">{groups.length > 0 ? groups.map(nameOf).join(', ') : 'nothing yet'}</span>
                        <ChevronDown size={14} className="shrink-0" aria-hidden />
                      </button>
                    }
                  >
                    {chart.groups.map((group) => (
                      <MenuCheck
                        key={group.id}
                        checked={groups.includes(group.id)}
                        // Several may be ticked, one after another.
                        onSelect={(event) => event.preventDefault()}
                        onCheckedChange={(isOn) =>
                          decide(mouth.index, {
                            groups: isOn ? [...groups, group.id] : groups.filter((other) => other !== group.id),
                            because: '',
                          })
                        }
                        className="gap-1.5! py-1!"
                      >
                        <span className="grid size-4 place-items-center rounded border border-rule">
                          <DropdownMenu.ItemIndicator>
                            <Check size={12} />
                          </DropdownMenu.ItemIndicator>
                        </span>
                        {group.name}
                      </MenuCheck>
                    ))}
                  </Menu>
                  {perhaps && groups.length === 0 && (
                    <button
                      type="button"
                      onClick={() => decide(mouth.index, { groups: perhaps, because: '' })}
                      className="mt-0.5 block text-left text-[13px] underline underline-offset-2 hover:text-ink"
                    >
                      {perhaps.map(nameOf).join(', ')}?
                    </button>
                  )}
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
