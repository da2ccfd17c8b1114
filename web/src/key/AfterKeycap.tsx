/** Says where the playhead goes after a keycap, and lets one choose. */
import { ChevronDown } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { Menu, MenuCheck } from '../ui/Menu.js';
import { ADVANCE_NAMES, ADVANCES, afterKeycap } from './afterKeycap.js';

export function AfterKeycap(): ReactElement {
  const { advance } = useStore(afterKeycap);
  return (
    <Menu
      trigger={
        <button type="button" className="flex shrink-0 items-center gap-1 whitespace-nowrap text-[14px] text-ink-soft hover:text-ink">
          After a keycap it <b className="font-semibold text-ink">{ADVANCE_NAMES[advance]}</b>
          <ChevronDown size={14} aria-hidden />
        </button>
      }
    >
      {ADVANCES.map((one) => (
        <MenuCheck key={one} checked={one === advance} onSelect={() => afterKeycap.setState({ advance: one })}>
          <span className="w-4">{one === advance && '✓'}</span>
          {one === 'stay' ? 'The playhead stays' : `It goes ${ADVANCE_NAMES[one]}`}
        </MenuCheck>
      ))}
    </Menu>
  );
}
