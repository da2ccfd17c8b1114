/** Every command, found by its words; what can be done now stands first. */
import { Command as List } from 'cmdk';
import type { ReactElement } from 'react';
import { Modal } from '../ui/Modal.js';
import { GROUPS, keyParts, type Command } from './command.js';

/** Every word that is looked for begins a word of it; those of its title count most. */
function fits(title: string, looked: string, also: string[] = []): number {
  const beginsIn = (text: string) => (word: string) => ` ${text.toLowerCase()}`.includes(` ${word}`);
  const words = looked.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.every(beginsIn(title))) return 1;
  return words.every(beginsIn(`${title} ${also.join(' ')}`)) ? 0.5 : 0;
}

interface CommandListProps {
  readonly commands: readonly Command[];
  readonly onClose: () => void;
}

export function CommandList({ commands, onClose }: CommandListProps): ReactElement {
  const inOrder = [...commands].sort((a, b) => Number(a.closed !== undefined) - Number(b.closed !== undefined));
  return (
    <Modal open wide title="What would you like to do?" onClose={onClose}>
      <List label="Commands" filter={fits} className="mt-3 flex flex-col gap-3" loop>
        <List.Input autoFocus placeholder="hold longer, whole lane, reverse …" className="field" />
        <List.List className="max-h-[52vh] overflow-y-auto">
          <List.Empty className="px-2 py-3 text-ink-soft">Nothing is called that. Try another word for it.</List.Empty>
          {GROUPS.map((group) => (
            <List.Group
              key={group}
              heading={group}
              className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[13px] [&_[cmdk-group-heading]]:text-ink-soft"
            >
              {inOrder
                .filter((command) => command.group === group)
                .map(({ id, title, keys, also = '', closed, run }) => (
                  <List.Item
                    key={id}
                    value={title}
                    keywords={also.split(' ')}
                    disabled={closed !== undefined}
                    onSelect={() => {
                      onClose();
                      run();
                    }}
                    className="flex cursor-default items-center gap-3 rounded-[9px] px-2 py-1.5 data-[disabled=true]:opacity-50 data-[selected=true]:bg-word"
                  >
                    <span className="min-w-0 flex-1 truncate">
                      {title}
                      {closed !== undefined && <span className="ml-2 text-[14px] text-ink-soft">{closed}</span>}
                    </span>
                    {keys[0] !== undefined && (
                      <span className="flex shrink-0 gap-1">
                        {keyParts(keys[0]).map((part) => (
                          <kbd key={part} className="keycap">
                            {part}
                          </kbd>
                        ))}
                      </span>
                    )}
                  </List.Item>
                ))}
            </List.Group>
          ))}
        </List.List>
      </List>
    </Modal>
  );
}
