/** A sound group beside the map: what it is called, which drawings play it, how much it counts; sounds and mouths are dropped on it. */
import {
  changeGroup,
  freeGroup,
  ipaOf,
  mergeGroups,
  removeDrawingOfGroup,
  removeGroup,
  REST,
  setDrawingOfGroup,
  type ChartDocument,
  type Patch,
  type Refusal,
  type SoundGroup,
} from '@zest-jaw/core';
import { useDroppable } from '@dnd-kit/core';
import { clsx } from 'clsx';
import { Ellipsis, Plus, X } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { newId } from '../session/newId.js';
import { Menu, MenuCheck, MenuItem, MenuRule } from '../ui/Menu.js';

interface GroupCardProps {
  readonly chart: ChartDocument;
  readonly group: SoundGroup;
  /** How many of its sounds the open scene says; undefined beside no scene. */
  readonly inScene: number | undefined;
  /** How it counts in the plan, in words. */
  readonly weight: string;
  readonly isLit: boolean;
  readonly change: (make: (chart: ChartDocument) => Patch | Refusal) => boolean;
}

export function GroupCard({ chart, group, inScene, weight, isLit, change }: GroupCardProps): ReactElement {
  const { setNodeRef, isOver } = useDroppable({ id: `group ${group.id}` });
  const [typed, setTyped] = useState<string>();
  const drawings = chart.drawings.filter((drawing) => drawing.groups.includes(group.id));
  const others = chart.groups.filter(({ id }) => id !== group.id && id !== REST);
  const isRest = group.id === REST;
  const name = (): void => {
    setTyped(undefined);
    if (typed !== undefined && typed.trim() !== group.name) change((now) => changeGroup(now, group.id, { name: typed }, newId));
  };
  return (
    <section
      ref={setNodeRef}
      aria-label={`Group ${group.name}`}
      data-over={isOver || undefined}
      className={clsx(
        'flex flex-col gap-1 rounded-xl border bg-sheet px-2.5 py-1.5',
        isOver ? 'border-ink ring-2 ring-zest' : isLit ? 'border-ink' : 'border-rule',
      )}
    >
      <div className="flex items-center gap-1.5">
        <input
          type="color"
          aria-label={`Colour of ${group.name}`}
          className="size-[17px] shrink-0 cursor-pointer appearance-none overflow-hidden rounded-full border-0 bg-transparent p-0 [&::-webkit-color-swatch]:border-0 [&::-webkit-color-swatch-wrapper]:p-0"
          value={group.colour.toLowerCase()}
          onChange={({ target }) => change((now) => changeGroup(now, group.id, { colour: target.value }, newId))}
        />
        <input
          aria-label={`Name of ${group.name}`}
          className="name min-w-0 flex-1 truncate rounded-md border border-transparent bg-transparent px-1 text-[16px] hover:border-rule focus:border-rule"
          value={typed ?? group.name}
          maxLength={40}
          onChange={({ target }) => setTyped(target.value)}
          onBlur={name}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
        {inScene !== undefined && (
          <span className="shrink-0 text-[12px] text-ink-soft" title="Sounds of the open scene">{`${inScene} ×`}</span>
        )}
        <Menu
          align="end"
          trigger={
            <button
              type="button"
              aria-label={`What can be done with ${group.name}`}
              className="grid size-6 place-items-center rounded-full text-ink-soft hover:bg-lift hover:text-ink"
            >
              <Ellipsis size={15} aria-hidden />
            </button>
          }
        >
          <MenuCheck checked={group.must} onSelect={() => change((now) => changeGroup(now, group.id, { must: !group.must }, newId))}>
            {group.must ? '✓ ' : ''}Must be seen
          </MenuCheck>
          <MenuCheck
            checked={group.follows === true}
            onSelect={() => change((now) => changeGroup(now, group.id, { follows: !group.follows }, newId))}
          >
            {group.follows ? '✓ ' : ''}r, l, h and schwa look as what follows
          </MenuCheck>
          <MenuCheck
            checked={group.rounds === true}
            onSelect={() => change((now) => changeGroup(now, group.id, { rounds: !group.rounds }, newId))}
          >
            {group.rounds ? '✓ ' : ''}Its round vowels round what comes before
          </MenuCheck>
          {(drawings.length > 1 || group.inTurn) && (
            <MenuCheck
              checked={group.inTurn === true}
              onSelect={() => change((now) => changeGroup(now, group.id, { inTurn: !group.inTurn }, newId))}
            >
              {group.inTurn ? '✓ ' : ''}Its mouths take turns
            </MenuCheck>
          )}
          {group.inked && (
            <MenuItem onSelect={() => change((now) => freeGroup(now, group.id, newId))}>A proposal may choose its drawing again</MenuItem>
          )}
          {!isRest && (
            <>
              <MenuRule />
              {others.slice(0, 20).map((other) => (
                <MenuItem key={other.id} onSelect={() => change((now) => mergeGroups(now, group.id, other.id, newId))}>
                  Merge into {other.name}
                </MenuItem>
              ))}
              <MenuRule />
              <MenuItem onSelect={() => change((now) => removeGroup(now, group.id, newId))}>Remove the group</MenuItem>
            </>
          )}
        </Menu>
      </div>
      <div className="flex items-center gap-1.5">
        {drawings.map((drawing) => (
          <span key={drawing.id} className="group relative rounded-lg bg-ground" title={drawing.label}>
            <Mouth chart={chart} drawing={drawing} className="h-[34px] w-[50px]" lineWeight={1.6} />
            <button
              type="button"
              aria-label={`${drawing.label} no longer plays ${group.name}`}
              className="absolute -top-1.5 -right-1.5 grid size-[17px] place-items-center rounded-full border border-rule bg-sheet opacity-0 group-hover:opacity-100 focus:opacity-100"
              onClick={() => change((now) => removeDrawingOfGroup(now, group.id, drawing.id, newId))}
            >
              <X size={11} aria-hidden />
            </button>
          </span>
        ))}
        <Menu
          trigger={
            <button
              type="button"
              aria-label={drawings.length > 0 ? `Another drawing for ${group.name}` : `A drawing for ${group.name}`}
              className={clsx(
                'grid h-[34px] w-[26px] place-items-center rounded-lg border border-dashed',
                drawings.length > 0 ? 'border-rule text-ink-soft' : 'border-bad text-bad',
              )}
            >
              <Plus size={14} aria-hidden />
            </button>
          }
          className="max-h-[50vh] min-w-[180px] overflow-y-auto"
        >
          {chart.drawings.map((drawing) => (
            <MenuItem
              key={drawing.id}
              onSelect={() =>
                change((now) => setDrawingOfGroup(now, { group: group.id, drawing: drawing.id, beside: drawings.length > 0 }, newId))
              }
            >
              {`${drawing.number} ${drawing.label}`}
            </MenuItem>
          ))}
        </Menu>
        <span className="ml-auto text-right text-[12px] leading-tight text-ink-soft">
          {weight}
          {group.inTurn && drawings.length > 1 && <span className="block">in turn</span>}
          {group.inked && <span className="block">by hand</span>}
        </span>
      </div>
      <p className="truncate text-[13px] text-ink-soft">{isRest ? 'silence' : group.phonemes.map(ipaOf).join(' ') || 'no sound'}</p>
    </section>
  );
}
