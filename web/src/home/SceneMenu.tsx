/** What can be done with a scene from its card. */
import type { SceneCard } from '@zest-jaw/core';
import { useQueryClient } from '@tanstack/react-query';
import { Copy, MoreHorizontal, Trash2 } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { Menu, MenuItem } from '../ui/Menu.js';
import { AskToRemove } from './RemoveThing.js';

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
      <Menu
        align="end"
        trigger={
          <button
            type="button"
            aria-label={`What to do with ${scene.title}`}
            className="absolute right-3 top-3 grid size-8 place-items-center rounded-full bg-sheet/85 text-ink-soft opacity-0 transition-opacity hover:text-ink focus-visible:opacity-100 group-hover:opacity-100 data-[state=open]:opacity-100"
          >
            <MoreHorizontal size={17} />
          </button>
        }
      >
        <MenuItem disabled={scene.fault !== undefined} onSelect={() => void copy()}>
          <Copy size={15} aria-hidden /> Copy
        </MenuItem>
        <MenuItem onSelect={() => setRemoving(true)}>
          <Trash2 size={15} aria-hidden /> Remove
        </MenuItem>
      </Menu>
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
