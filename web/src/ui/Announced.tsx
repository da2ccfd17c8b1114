/** What a key did, for those who do not see it: one short sentence at a time. */
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';

const said = createStore<{ readonly sentence: string }>(() => ({ sentence: '' }));

export function announce(sentence: string): void {
  // The same twice is said twice.
  said.setState(({ sentence: before }) => ({ sentence: before === sentence ? `${sentence}\u00a0` : sentence }));
}

export function Announced(): ReactElement {
  return (
    <p className="sr-only" role="status" data-testid="announced">
      {useStore(said, ({ sentence }) => sentence)}
    </p>
  );
}
