/** Which lane is worked on, of all there are, and lanes for the parts of a face: made, hidden, taken away. */
import { Eye, EyeOff, Plus, Trash2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { Button } from '../ui/Button.js';
import { Menu, MenuCheck, MenuItem, MenuRule } from '../ui/Menu.js';
import { useLanes } from './useLanes.js';

/** How much the lines of a held drawing live. */
const BOILS = [
  [null, 'Held lines stay still'],
  [0.3, 'They live a little'],
  [0.8, 'They live a lot'],
] as const;

/** @param onlyChooses where lanes are gone to and not changed */
export function LaneMenu({ onlyChooses = false }: { readonly onlyChooses?: boolean }): ReactElement | null {
  const { lanes, current, missing: all, show, add, remove, hide, boil } = useLanes();
  const missing = onlyChooses ? [] : all;
  // Mouths alone are chosen among by their names.
  if (onlyChooses && lanes.every(([lane]) => lane.kind === 'mouth')) return null;
  const isPart = current.kind === 'part';
  return (
    <Menu
      className="min-w-[240px]"
      trigger={
        <Button className="max-w-[150px] shrink-0 px-3! py-[3px]! text-[14px]!" title="Lanes (Alt and an arrow up or down)">
          <span className="block truncate">{isPart ? (current.part ?? 'Part') : 'Lanes'}</span>
        </Button>
      }
    >
      {lanes.map(([lane, name]) => (
        <MenuCheck
          key={lane.id}
          checked={lane.id === current.id}
          className="data-[state=checked]:font-semibold"
          onSelect={() => show(lane.id)}
        >
          <span className="flex-1">{name}</span>
          {lane.hidden && <span className="text-[13px] text-ink-soft">hidden</span>}
        </MenuCheck>
      ))}
      {missing.length > 0 && <MenuRule />}
      {missing.map((part) => (
        <MenuItem key={part.id} onSelect={() => add(part)}>
          <Plus size={16} aria-hidden />
          {`A lane for ${part.name.toLowerCase()}`}
        </MenuItem>
      ))}
      {!onlyChooses && (
        <>
          <MenuRule />
          {BOILS.map(([strength, name]) => (
            <MenuCheck
              key={name}
              checked={(current.boil ?? null) === strength}
              className="data-[state=checked]:font-semibold"
              onSelect={() => boil(current, strength)}
            >
              {name}
            </MenuCheck>
          ))}
        </>
      )}
      {isPart && !onlyChooses && (
        <>
          <MenuRule />
          <MenuItem onSelect={() => hide(current, !current.hidden)}>
            {current.hidden ? <Eye size={16} aria-hidden /> : <EyeOff size={16} aria-hidden />}
            {current.hidden ? 'Show it again' : 'Hide it: the part is at rest'}
          </MenuItem>
          <MenuItem onSelect={() => remove(current)}>
            <Trash2 size={16} aria-hidden />
            {`Take the lane of ${(current.part ?? 'the part').toLowerCase()} away`}
          </MenuItem>
        </>
      )}
    </Menu>
  );
}
