/** Which lane is worked on, of all there are, and lanes for the parts of a face: made, hidden, muted, folded, locked, taken away. */
import { Crosshair, Images, Plus, Trash2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { askOfPictures } from '../headPictures/asked.js';
import { Button } from '../ui/Button.js';
import { Menu, MenuCheck, MenuItem, MenuRule } from '../ui/Menu.js';
import { useLanes } from './useLanes.js';

/** How much the lines of a held drawing live. */
const BOILS = [
  [null, 'Held lines stay still'],
  [0.3, 'They live a little'],
  [0.8, 'They live a lot'],
] as const;

/** How what is keyed goes from one drawing to the next. */
const BLENDS = [
  [null, 'Drawings cut from one to the next'],
  [3, 'They blend over 3 frames'],
  [6, 'They blend over 6 frames'],
] as const;

/** How a lane stands beside the others. */
const STATES = [
  ['folded', 'Folded to a line while another is worked on'],
  ['muted', 'Muted: at rest, whatever is keyed'],
  ['hidden', 'Hidden: not drawn at all'],
  ['locked', 'Locked: nothing changes it'],
] as const;

/** @param onlyChooses where lanes are gone to and not changed */
export function LaneMenu({ onlyChooses = false }: { readonly onlyChooses?: boolean }): ReactElement | null {
  const { lanes, current, missing: all, hasPictures, show, add, remove, turn, boil, blend } = useLanes();
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
          <span className="text-[13px] text-ink-soft">
            {STATES.filter(([state]) => lane[state])
              .map(([state]) => state)
              .join(', ')}
          </span>
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
        <MenuItem onSelect={() => askOfPictures('bring')}>
          <Images size={16} aria-hidden />
          Pictures of the head…
        </MenuItem>
      )}
      {!onlyChooses && hasPictures && (
        <MenuItem onSelect={() => askOfPictures('follow')}>
          <Crosshair size={16} aria-hidden />
          The mouth follows the pictures…
        </MenuItem>
      )}
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
          <MenuRule />
          {BLENDS.map(([frames, name]) => (
            <MenuCheck
              key={name}
              checked={(current.blend ?? null) === frames}
              className="data-[state=checked]:font-semibold"
              onSelect={() => blend(current, frames)}
            >
              {name}
            </MenuCheck>
          ))}
        </>
      )}
      {!onlyChooses && (
        <>
          <MenuRule />
          {STATES.map(([state, name]) => (
            <MenuCheck key={state} checked={current[state] === true} onSelect={() => turn(current, state)}>
              {name}
            </MenuCheck>
          ))}
        </>
      )}
      {isPart && !onlyChooses && (
        <>
          <MenuRule />
          <MenuItem onSelect={() => remove(current)}>
            <Trash2 size={16} aria-hidden />
            {`Take the lane of ${(current.part ?? 'the part').toLowerCase()} away`}
          </MenuItem>
        </>
      )}
    </Menu>
  );
}
