/** What can be done with a scene from its card. */
import type { SceneCard } from '@zest-jaw/core';
import { useQueryClient } from '@tanstack/react-query';
import { Copy, MoreHorizontal, Trash2 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { AskToRemove } from './RemoveThing.js';

export const MENU_ITEM =
  'flex cursor-default items-center gap-2 rounded-[9px] px-2 py-1.5 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-word';

export function SceneMenu({ scene }: { scene: SceneCard }): ReactElement {
  const client = useQueryClient();
  const [removing, setRemoving] = useState(false);
  const copy = async (): Promise<void> => {
    try {
      await api<{ id: string }>(`/scenes/${scene.id}/copies`, { method: 'POST' });
      await client.invalidateQueries({ queryKey: ['scenes'] });
      toast.success(`“${scene.title}” was copied.`);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label={`What to do with ${scene.title}`}
          className="absolute right-3 top-3 grid size-8 place-items-center rounded-full bg-sheet/85 text-ink-soft opacity-0 transition-opacity hover:text-ink focus-visible:opacity-100 group-hover:opacity-100 data-[state=open]:opacity-100"
        >
          <MoreHorizontal size={17} />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={6}
            className="z-30 min-w-[180px] rounded-xl border border-rule bg-sheet p-2 text-[15px]"
          >
            <DropdownMenu.Item disabled={scene.fault !== undefined} onSelect={() => void copy()} className={MENU_ITEM}>
              <Copy size={15} aria-hidden /> Copy
            </DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => setRemoving(true)} className={MENU_ITEM}>
              <Trash2 size={15} aria-hidden /> Remove
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <AskToRemove
        title={`Remove “${scene.title}”?`}
        text="Its reading, its mouths and its history go with it. This cannot be undone."
        path={`/scenes/${scene.id}`}
        open={removing}
        onClose={() => setRemoving(false)}
      />
    </>
  );
}
