/** Productions: made, named otherwise, removed. */
import type { ProductionView } from '@zest-jaw/core';
import { useQueryClient } from '@tanstack/react-query';
import { MoreHorizontal, Pencil, Plus, Trash2 } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { sendJson, sentenceOf } from '../api/http.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Menu, MenuItem } from '../ui/Menu.js';
import { Modal } from '../ui/Modal.js';
import { AskToRemove } from './RemoveThing.js';

/** Asks for a name and keeps it. */
function NameDialog({ production, onClose }: { production?: ProductionView; onClose: () => void }): ReactElement {
  const client = useQueryClient();
  const [name, setName] = useState(production?.name ?? '');
  const [fault, setFault] = useState<string>();
  const keep = async (): Promise<void> => {
    try {
      if (production) await sendJson('PUT', `/productions/${production.id}/name`, { name });
      else await sendJson('POST', '/productions', { name });
      await client.invalidateQueries({ queryKey: ['productions'] });
      onClose();
    } catch (error) {
      setFault(sentenceOf(error));
    }
  };
  return (
    <Modal open title={production ? `Another name for “${production.name}”` : 'A new production'} onClose={onClose}>
      <form
        className="mt-4 flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <label className="flex flex-col gap-1 font-semibold">
          Name
          <input className="field font-normal" value={name} maxLength={80} autoFocus onChange={(event) => setName(event.target.value)} />
        </label>
        <p className="text-[14px] text-bad" role="alert">
          {fault}
        </p>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" weight="main" disabled={name.trim() === ''}>
            {production ? 'Name it so' : 'Make it'}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

export function ProductionMenu({ production, scenes }: { production: ProductionView; scenes: number }): ReactElement {
  const [open, setOpen] = useState<'name' | 'remove'>();
  const close = (): void => setOpen(undefined);
  return (
    <>
      <Menu
        trigger={
          <button
            type="button"
            aria-label={`What to do with ${production.name}`}
            className="grid size-8 place-items-center self-center rounded-full text-ink-soft hover:bg-rule-soft hover:text-ink"
          >
            <MoreHorizontal size={17} />
          </button>
        }
      >
        <MenuItem onSelect={() => setOpen('name')}>
          <Pencil size={15} aria-hidden /> Another name
        </MenuItem>
        <MenuItem onSelect={() => setOpen('remove')}>
          <Trash2 size={15} aria-hidden /> Remove
        </MenuItem>
      </Menu>
      {open === 'name' && <NameDialog production={production} onClose={close} />}
      <AskToRemove
        title={`Remove “${production.name}”?`}
        text={`${count(scenes, 'scene', 'scenes')} and ${count(production.characters.length, 'character', 'characters')} with their charts go with it. This cannot be undone.`}
        path={`/productions/${production.id}`}
        open={open === 'remove'}
        onClose={close}
      />
    </>
  );
}

export function NewProduction(): ReactElement {
  const [open, setOpen] = useState(false);
  return (
    <div className="mx-auto max-w-[1180px] min-[1700px]:max-w-[1640px]">
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="flex items-center gap-2 rounded-full border border-dashed border-rule px-4 py-1.5 text-ink-soft hover:border-graphite hover:text-ink"
      >
        <Plus size={16} aria-hidden /> New production
      </button>
      {open && <NameDialog onClose={() => setOpen(false)} />}
    </div>
  );
}
