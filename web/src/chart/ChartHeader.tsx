/** Above the cards: which chart it is, what it covers, and what can be done with the whole of it. */
import { isPartChart, chartSettings, coverageOfChart, orderByOpenness, setChart, type ChartDocument } from '@zest-jaw/core';
import { FolderUp, ImageUp } from 'lucide-react';
import { useRef, useState, type ReactElement } from 'react';
import { useCharts } from '../api/queries.js';
import type { ChosenFile } from '../api/imports.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Menu, MenuCheck, MenuItem, MenuRule } from '../ui/Menu.js';
import { UndoRedo } from '../ui/UndoRedo.js';
import { useOpenChart } from './openChart.js';

export function coverageInWords(chart: ChartDocument): string {
  if (isPartChart(chart)) return `${count(chart.drawings.length, 'drawing', 'drawings')} of a part of the face: no sound plays them.`;
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

const SMALL = 'px-2.5! py-[3px]! text-[14px]!';

interface ChartHeaderProps {
  readonly onImport: (files: readonly ChosenFile[]) => void;
  readonly onLineUp: () => void;
  readonly onNewChart: () => void;
  readonly onSwitch: (chartId: string) => void;
  /** Opens the map of the sounds. */
  readonly onMap: () => void;
}

export function ChartHeader({ onImport, onLineUp, onNewChart, onSwitch, onMap }: ChartHeaderProps): ReactElement {
  const { chart, chartId, characterId, session, change } = useOpenChart();
  const charts = useCharts();
  const [typed, setTyped] = useState<string>();
  const [files, folder] = [useRef<HTMLInputElement>(null), useRef<HTMLInputElement>(null)];
  const { name } = chartSettings(chart);
  const isPart = isPartChart(chart);
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
        <Menu trigger={<Button className={SMALL}>Charts ({siblings.length})</Button>} className="min-w-[220px]">
          {siblings.map((sibling) => (
            <MenuCheck
              key={sibling.id}
              checked={sibling.id === chartId}
              className="data-[state=checked]:font-semibold"
              onSelect={() => sibling.id !== chartId && onSwitch(sibling.id)}
            >
              {sibling.id === chartId ? name : sibling.name}
            </MenuCheck>
          ))}
          <MenuRule />
          <MenuItem onSelect={onNewChart}>New chart…</MenuItem>
        </Menu>
        {!isPart && (
          <Button className={SMALL} onClick={onMap}>
            Sound map
          </Button>
        )}
        <Menu trigger={<Button className={SMALL}>Import</Button>} className="w-[290px]">
          <MenuItem className="items-start! gap-2.5!" onSelect={() => files.current?.click()}>
            <ImageUp size={17} className="mt-0.5 shrink-0" />
            <span>
              Files…
              <span className="block text-[13px] leading-snug text-ink-soft">
                Pictures, a zip, an SVG with groups, layers, a sheet of mouths, an animated picture
              </span>
            </span>
          </MenuItem>
          <MenuItem className="items-start! gap-2.5!" onSelect={() => folder.current?.click()}>
            <FolderUp size={17} className="mt-0.5 shrink-0" />A folder…
          </MenuItem>
        </Menu>
        <Button className={SMALL} onClick={onLineUp}>
          Line up
        </Button>
        {!isPart && (
          <Menu
            align="end"
            className="w-[290px]"
            trigger={
              <Button className={SMALL} title="Order the tray by opening, the most closed first">
                By opening
              </Button>
            }
          >
            <MenuItem onSelect={() => change((now) => orderByOpenness(now, newId, false))}>Order them, each keeps its key</MenuItem>
            <MenuItem onSelect={() => change((now) => orderByOpenness(now, newId, true))}>Order them and give out the keys anew</MenuItem>
          </Menu>
        )}
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
