/** Keys that can be changed: pressed anew, clashes told, taken out and brought in. */
import { clsx } from 'clsx';
import { useRef, useState, type KeyboardEvent, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { saveText } from '../ui/saveText.js';
import { nameOfKey } from '../ui/useKeys.js';
import { GROUPS, keyParts, type Command } from './command.js';
import { giveBack, giveKey, isChangeable, keysFromJson, keysToJson, maybeClash, ownKeys, refusalOfKey } from './ownKeys.js';

interface OwnKeysDialogProps {
  /** As they are now, with keys of one's own. */
  readonly commands: readonly Command[];
  readonly onClose: () => void;
}

/** A command whose next key is listened for, and what was pressed for it if that is another's. */
interface Asked {
  readonly id: string;
  readonly key?: string;
  readonly said?: string;
}

const isModifier = (key: string): boolean => ['Shift', 'Control', 'Alt', 'Meta'].includes(key);

export function OwnKeysDialog({ commands, onClose }: OwnKeysDialogProps): ReactElement {
  const { keys } = useStore(ownKeys);
  const [looked, setLooked] = useState('');
  const [asked, setAsked] = useState<Asked>();
  const file = useRef<HTMLInputElement>(null);
  const words = looked.toLowerCase();
  const shown = commands.filter(
    (command) => isChangeable(command) && `${command.title} ${command.also ?? ''}`.toLowerCase().includes(words),
  );
  const listen = (event: KeyboardEvent): void => {
    if (!asked || isModifier(event.key) || event.key === 'Escape') return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Enter' && asked.key !== undefined) {
      take(asked.key);
      return;
    }
    const key = nameOfKey(event.nativeEvent);
    const said = refusalOfKey(key);
    const clash = maybeClash(commands, { id: asked.id, key });
    if (said !== undefined) setAsked({ id: asked.id, said });
    else if (clash)
      setAsked({ id: asked.id, key, said: `It is that of “${clash.title}”. Enter gives it to this one, another key is tried instead.` });
    else take(key);
  };
  const take = (key: string): void => {
    giveKey(commands, { id: asked!.id, key });
    setAsked(undefined);
  };
  const bringIn = async (chosen: File | undefined): Promise<void> => {
    const read = chosen && keysFromJson(await chosen.text());
    if (!read) return;
    if ('refusal' in read) toast.message(String(read.refusal));
    else {
      ownKeys.setState({ keys: read });
      toast.message('These keys hold from now on, in this browser.');
    }
  };
  return (
    <Modal
      onEscape={(event) => {
        if (!asked) return;
        event.preventDefault();
        setAsked(undefined);
      }}
      open
      wide
      title="Keys of your own"
      description="Press a key for a command. Kept in this browser; keycaps of mouths are in their chart."
      onClose={onClose}
    >
      <div className="mt-3 flex flex-col gap-3" onKeyDownCapture={listen}>
        <div className="flex flex-wrap gap-2">
          <input
            className="field min-w-0 flex-1"
            placeholder="Find a command …"
            aria-label="Look for one"
            value={looked}
            onChange={(event) => setLooked(event.target.value)}
          />
          <Button onClick={() => saveText('zest-jaw-keys.json', keysToJson(keys))}>Take out</Button>
          <Button onClick={() => file.current?.click()}>Bring in…</Button>
          <input
            ref={file}
            type="file"
            accept="application/json,.json"
            className="sr-only"
            tabIndex={-1}
            aria-label="A file of keys"
            onChange={(event) => {
              void bringIn(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
          <Button disabled={Object.keys(keys).length === 0} onClick={() => ownKeys.setState({ keys: {} })}>
            All as they came
          </Button>
        </div>
        <div className="max-h-[56vh] overflow-y-auto">
          {GROUPS.map((group) => {
            const own = shown.filter((command) => command.group === group);
            if (own.length === 0) return null;
            return (
              <section key={group}>
                <h3 className="px-2 pb-1 pt-3 text-[13px] font-semibold text-ink-soft">{group}</h3>
                <ul>
                  {own.map((command) => {
                    const isAsked = asked?.id === command.id;
                    return (
                      <li key={command.id} className="flex flex-wrap items-center gap-2 rounded-[9px] px-2 py-0.5 hover:bg-rule-soft">
                        <span className="min-w-0 flex-1">{command.title}</span>
                        {keys[command.id] && (
                          <Button weight="bare" className="text-[14px]!" onClick={() => giveBack(command.id)}>
                            as it came
                          </Button>
                        )}
                        <button
                          type="button"
                          aria-label={`Key of ${command.title}`}
                          aria-pressed={isAsked}
                          onClick={() => setAsked(isAsked ? undefined : { id: command.id })}
                          className={clsx(
                            'flex min-h-[30px] min-w-[120px] items-center justify-center gap-1 rounded-[9px] border px-2',
                            isAsked ? 'border-zest bg-zest-soft' : 'border-rule bg-lift',
                          )}
                        >
                          {isAsked ? (
                            <span className="text-[14px]">press a key…</span>
                          ) : (
                            (command.keys[0] === undefined ? ['none'] : keyParts(command.keys[0])).map((part) => (
                              <kbd key={part} className={command.keys[0] === undefined ? 'text-[14px] text-ink-soft' : 'keycap'}>
                                {part}
                              </kbd>
                            ))
                          )}
                        </button>
                        {isAsked && asked.said !== undefined && (
                          <p role="alert" className="w-full pb-1 text-[14px] text-bad">
                            {asked.said}
                          </p>
                        )}
                      </li>
                    );
                  })}
                </ul>
              </section>
            );
          })}
          {shown.length === 0 && <p className="px-2 py-3 text-ink-soft">Nothing is called that. Try another word for it.</p>}
        </div>
      </div>
    </Modal>
  );
}
