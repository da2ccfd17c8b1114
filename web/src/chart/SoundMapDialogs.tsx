/** What the sound map asks: where sounds go, what a group of one's own is called. */
import { maybePhoneme, type MapChange, type SoundGroup } from '@zest-jaw/core';
import { Command as List } from 'cmdk';
import { useState, type ReactElement } from 'react';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';

/** Where the chosen sounds go, by typing. */
export function MoveDialog({
  count,
  groups,
  onMove,
  onClose,
}: {
  count: number;
  groups: readonly SoundGroup[];
  onMove: (group: SoundGroup) => void;
  onClose: () => void;
}): ReactElement {
  return (
    <Modal open title={count === 1 ? 'The sound looks like' : `${count} sounds look like`} onClose={onClose}>
      <List label="Groups" loop className="mt-3 flex flex-col gap-2">
        <List.Input autoFocus placeholder="A group" className="field" />
        <List.List className="max-h-[48vh] overflow-y-auto">
          <List.Empty className="px-2 py-3 text-ink-soft">No group is called so.</List.Empty>
          {groups.map((group) => (
            <List.Item
              key={group.id}
              value={group.name}
              onSelect={() => onMove(group)}
              className="flex cursor-default items-center gap-3 rounded-[9px] px-2 py-1 data-[selected=true]:bg-word"
            >
              <span className="size-3 rounded-full" style={{ background: group.colour }} />
              <span className="flex-1">{group.name}</span>
              <span className="text-[13px] text-ink-soft">{group.look}</span>
            </List.Item>
          ))}
        </List.List>
      </List>
    </Modal>
  );
}

export function NewGroupDialog({
  sounds,
  onMake,
  onClose,
}: {
  sounds: readonly string[];
  onMake: (name: string) => boolean;
  onClose: () => void;
}): ReactElement {
  const [name, setName] = useState('');
  return (
    <Modal open title="A group of your own" onClose={onClose}>
      <form
        className="mt-3 flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (onMake(name)) onClose();
        }}
      >
        <label className="flex flex-col gap-1 font-semibold">
          What it is called
          <input
            className="field font-normal"
            value={name}
            maxLength={40}
            autoFocus
            placeholder="Grr"
            onChange={({ target }) => setName(target.value)}
          />
        </label>
        <p className="text-[14px] text-ink-soft">
          {sounds.length > 0
            ? `It begins with what is chosen: ${sounds.map((symbol) => maybePhoneme(symbol)!.ipa).join(' ')}.`
            : 'It begins without sounds. Drag some onto it.'}
        </p>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Not now</Button>
          <Button weight="main" type="submit" disabled={name.trim() === ''}>
            Make it
          </Button>
        </div>
      </form>
    </Modal>
  );
}

export function KeepMapDialog({ onKeep, onClose }: { onKeep: (name: string) => void; onClose: () => void }): ReactElement {
  const [name, setName] = useState('');
  return (
    <Modal open title="Keep this map" description="For every chart of this production." onClose={onClose}>
      <form
        className="mt-3 flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          onKeep(name.trim());
          onClose();
        }}
      >
        <label className="flex flex-col gap-1 font-semibold">
          Its name
          <input className="field font-normal" value={name} maxLength={80} autoFocus onChange={({ target }) => setName(target.value)} />
        </label>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Not now</Button>
          <Button weight="main" type="submit" disabled={name.trim() === ''}>
            Keep it
          </Button>
        </div>
      </form>
    </Modal>
  );
}

interface PutMapDialogProps {
  readonly name: string;
  readonly change: MapChange;
  readonly onTake: () => void;
  readonly onClose: () => void;
}

/** What a map would change of the chart, before it is put on it. */
export function PutMapDialog({ name, change, onTake, onClose }: PutMapDialogProps): ReactElement {
  const { moved, fresh, gone, played } = change;
  const rows: readonly (readonly [string, string])[] = [
    ['Groups that come', fresh.join(', ')],
    ['Groups that go', gone.join(', ')],
    ['Sounds that look otherwise', moved.map(({ symbol, group }) => `${maybePhoneme(symbol)!.ipa} → ${group ?? 'no group'}`).join(', ')],
    ['Groups with another drawing', played.map(({ group, drawing }) => `${group} → ${drawing ?? 'none'}`).join(', ')],
  ];
  return (
    <Modal open title={`The map “${name}” on this chart`} onClose={onClose}>
      <dl className="mt-3 flex flex-col gap-2">
        {rows.flatMap(([title, text]) =>
          text === ''
            ? []
            : [
                <div key={title}>
                  <dt className="text-[14px] text-ink-soft">{title}</dt>
                  <dd>{text}</dd>
                </div>,
              ],
        )}
      </dl>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button
          weight="main"
          onClick={() => {
            onTake();
            onClose();
          }}
        >
          Take it
        </Button>
      </div>
    </Modal>
  );
}
