/** The menu under the right button: what can be done where it was pressed. */
import { ContextMenu } from 'radix-ui';
import type { ReactElement, ReactNode } from 'react';
import { keyParts, type Command } from './command.js';

interface CommandMenuProps {
  readonly commands: readonly Command[];
  /** Ids of those that are shown, in this order, a rule between the parts. */
  readonly parts: readonly (readonly string[])[];
  /** What it is under. */
  readonly children: ReactNode;
}

export function CommandMenu({ commands, parts, children }: CommandMenuProps): ReactElement {
  const shown = parts
    .map((ids) => ids.flatMap((id) => commands.find((command) => command.id === id) ?? []))
    .filter((own) => own.length > 0);
  if (shown.length === 0) return <>{children}</>;
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className="z-[60] max-h-(--radix-context-menu-content-available-height) w-[380px] overflow-y-auto rounded-xl border border-rule bg-sheet p-1.5 text-[14px]">
          {shown.map((own, index) => (
            <ContextMenu.Group key={own[0]!.id}>
              {index > 0 && <ContextMenu.Separator className="my-1 h-px bg-rule" />}
              {own.map(({ id, title, keys, closed, run }) => (
                <ContextMenu.Item
                  key={id}
                  disabled={closed !== undefined}
                  onSelect={() => run()}
                  className="flex cursor-default items-center gap-3 rounded-[9px] px-2 py-1 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-word"
                >
                  <span className="min-w-0 flex-1 truncate">{title}</span>
                  <span className="shrink-0 text-[13px] text-ink-soft">{keys[0] === undefined ? '' : keyParts(keys[0]).join(' ')}</span>
                </ContextMenu.Item>
              ))}
            </ContextMenu.Group>
          ))}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}
