/** The dialog of a conflict, fetched when there is one: most scenes never have any. */
import { lazy, Suspense, type ComponentType, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ConflictDialogProps } from './ConflictDialog.js';

const Dialog = lazy(async () => ({ default: (await import('./ConflictDialog.js')).ConflictDialog<unknown> }));

export function Conflict<D>(props: ConflictDialogProps<D>): ReactElement | null {
  const isInConflict = useStore(props.session.store, (state) => state.saveState === 'conflict');
  // What kind of document it is does not matter to the dialog; a lazy component has no type of its own.
  const DialogOfAny = Dialog as ComponentType<unknown> as ComponentType<ConflictDialogProps<D>>;
  return isInConflict ? (
    <Suspense>
      <DialogOfAny {...props} />
    </Suspense>
  ) : null;
}
