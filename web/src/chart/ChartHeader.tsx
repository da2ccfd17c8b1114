/** Above the cards: which chart it is, what it covers, and what can be done with the whole of it. */
import { chartSettings, coverageOfChart, orderByOpenness, setChart, type ChartDocument } from '@zest-jaw/core';
import { FolderUp, ImageUp } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useRef, useState, type ReactElement } from 'react';
import { useCharts } from '../api/queries.js';
import type { ChosenFile } from '../api/imports.js';
import { newId } from '../session/documentSession.js';
import { Button } from '../ui/Button.js';
import { UndoRedo } from '../ui/UndoRedo.js';
import { useOpenChart } from './openChart.js';

export function coverageInWords(chart: ChartDocument): string {
  const { covered, missing, shared } = coverageOfChart(chart);
  const nameOf = (id: string): string => chart.groups.find((group) => group.id === id)?.name ?? id;
  const all =
    missing.length === 0
      ? `All ${chart.groups.length} sound groups have a mouth.`
      : `${covered} of ${chart.groups.length} sound groups have a mouth.`;
  const parts = [all];
  if (missing.length > 0) parts.push(`Missing: ${missing.map((group) => group.name).join(', ')}.`);
  for (const drawing of shared) parts.push(`${drawing.groups.map(nameOf).join(', ')} share ${drawing.label}.`);
  return parts.join(' ');
}

const ACCEPTED = '.png,.jpg,.jpeg,.webp,.gif,.svg,.zip,.ora,.apng,image/*';

const filesOf = (list: FileList | null): ChosenFile[] =>
  [...(list ?? [])].map((file) => ({ file, path: file.webkitRelativePath || file.name }));

interface ChartHeaderProps {
  readonly onImport: (files: readonly ChosenFile[]) => void;
  readonly onLineUp: () => void;
  readonly onNewChart: () => void;
  readonly onSwitch: (chartId: string) => void;
}

export function ChartHeader({ onImport, onLineUp, onNewChart, onSwitch }: ChartHeaderProps): ReactElement {
  const { chart, chartId, characterId, session, change } = useOpenChart();
  const charts = useCharts();
  const [typed, setTyped] = useState<string>();
  const [files, folder] = [useRef<HTMLInputElement>(null), useRef<HTMLInputElement>(null)];
  const { name } = chartSettings(chart);
  const siblings = (charts.data ?? []).filter((candidate) => candidate.characterId === characterId);
  const commit = (): void => {
    setTyped(undefined);
    if (typed !== undefined && typed.trim() !== name) change((now) => setChart(now, { name: typed.trim() }, newId));
  };
  const take = (input: HTMLInputElement): void => {
    const chosen = filesOf(input.files);
    input.value = '';
    if (chosen.length > 0) onImport(chosen);
  };
  const item = 'cursor-pointer rounded-lg px-3 py-1.5 outline-none data-[highlighted]:bg-rule-soft';
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex items-center gap-1">
        <input
          className="name min-w-0 flex-1 truncate rounded-lg border border-transparent bg-transparent px-1.5 py-0.5 text-[21px] hover:border-rule focus:border-rule"
          aria-label="Name of the chart"
          value={typed ?? name}
          maxLength={80}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
        <UndoRedo session={session} />
      </div>
      <div className="flex flex-wrap items-center gap-1.5">
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button className="px-2.5! py-[3px]! text-[14px]!">Charts ({siblings.length})</Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="start" sideOffset={4} className="z-40 min-w-[220px] rounded-xl border border-rule bg-lift p-1.5">
              {siblings.map((sibling) => (
                <DropdownMenu.CheckboxItem
                  key={sibling.id}
                  checked={sibling.id === chartId}
                  className={`${item} data-[state=checked]:font-semibold`}
                  onSelect={() => sibling.id !== chartId && onSwitch(sibling.id)}
                >
                  {sibling.id === chartId ? name : sibling.name}
                </DropdownMenu.CheckboxItem>
              ))}
              <DropdownMenu.Separator className="my-1 h-px bg-rule" />
              <DropdownMenu.Item className={item} onSelect={onNewChart}>
                New chart…
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button className="px-2.5! py-[3px]! text-[14px]!">Import</Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="start" sideOffset={4} className="z-40 w-[290px] rounded-xl border border-rule bg-lift p-1.5">
              <DropdownMenu.Item className={`${item} flex items-start gap-2.5`} onSelect={() => files.current?.click()}>
                <ImageUp size={17} className="mt-0.5 shrink-0" />
                <span>
                  Files…
                  <span className="block text-[13px] leading-snug text-ink-soft">
                    Pictures, a zip, an SVG with groups, layers, a sheet of mouths, an animated picture
                  </span>
                </span>
              </DropdownMenu.Item>
              <DropdownMenu.Item className={`${item} flex items-start gap-2.5`} onSelect={() => folder.current?.click()}>
                <FolderUp size={17} className="mt-0.5 shrink-0" />A folder…
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <Button className="px-2.5! py-[3px]! text-[14px]!" onClick={onLineUp}>
          Line up
        </Button>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger
            className="rounded-full border border-rule bg-lift px-2.5 py-[3px] text-[14px] font-semibold hover:border-graphite"
            title="Order the tray by opening, the most closed first"
          >
            By opening
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="end"
              sideOffset={6}
              className="z-30 w-[280px] rounded-xl border border-rule bg-sheet p-2 text-[14px]"
            >
              {(
                [
                  ['Order them, each keeps its key', false],
                  ['Order them and give out the keys anew', true],
                ] as const
              ).map(([name, givesKeycaps]) => (
                <DropdownMenu.Item
                  key={name}
                  onSelect={() => change((now) => orderByOpenness(now, newId, givesKeycaps))}
                  className="cursor-default rounded-[9px] px-2 py-1.5 outline-none data-[highlighted]:bg-word"
                >
                  {name}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
      <p className="text-[14px] leading-snug text-ink-soft" data-testid="coverage">
        {coverageInWords(chart)}
      </p>
      <input
        ref={files}
        type="file"
        multiple
        accept={ACCEPTED}
        className="sr-only"
        tabIndex={-1}
        aria-label="Mouths to import"
        onChange={(event) => take(event.currentTarget)}
      />
      <input
        ref={folder}
        type="file"
        multiple
        className="sr-only"
        tabIndex={-1}
        aria-label="Folder of mouths to import"
        onChange={(event) => take(event.currentTarget)}
        {...({ webkitdirectory: '' } as object)}
      />
    </div>
  );
}
