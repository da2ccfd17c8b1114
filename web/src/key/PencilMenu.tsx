/** Pencil and ink over a part of the scene: key it, ink it, turn it back, erase it. */
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ReactElement } from 'react';
import { Button } from '../ui/Button.js';
import { Menu } from '../ui/Menu.js';

export type Part = 'selection' | 'phrase' | 'all';
export type PencilAction = 'key' | 'ink' | 'pencil' | 'erase';

const PARTS: readonly (readonly [Part, string])[] = [
  ['selection', 'The selected frames'],
  ['phrase', 'The phrase at the playhead'],
  ['all', 'The whole scene'],
];
const ACTIONS: readonly (readonly [PencilAction, string])[] = [
  ['key', 'Key'],
  ['ink', 'Ink'],
  ['pencil', 'To pencil'],
  ['erase', 'Erase pencil'],
];

export function PencilMenu({
  hasSelection,
  onAct,
}: {
  hasSelection: boolean;
  onAct: (action: PencilAction, part: Part) => void;
}): ReactElement {
  return (
    <Menu
      align="end"
      className="w-[330px]"
      trigger={
        <Button className="gap-1! whitespace-nowrap px-3! py-[5px]!">
          Pencil and ink <ChevronDown size={15} aria-hidden />
        </Button>
      }
    >
      {PARTS.map(([part, text]) => (
        <DropdownMenu.Group key={part} aria-label={text} className="py-1">
          <DropdownMenu.Label className="px-2 pb-1 text-[14px] text-ink-soft">{text}</DropdownMenu.Label>
          <div className="grid grid-cols-4 gap-1">
            {ACTIONS.map(([action, name]) => (
              <DropdownMenu.Item
                key={action}
                disabled={part === 'selection' && !hasSelection}
                onSelect={() => onAct(action, part)}
                textValue={`${name} ${text}`}
                aria-label={`${name}: ${text.toLowerCase()}`}
                className="cursor-default rounded-[9px] border border-rule bg-lift px-1 py-1.5 text-center text-[13px] font-semibold leading-tight outline-none data-[disabled]:opacity-45 data-[highlighted]:border-ink data-[highlighted]:bg-word"
              >
                {name}
              </DropdownMenu.Item>
            ))}
          </div>
        </DropdownMenu.Group>
      ))}
    </Menu>
  );
}
