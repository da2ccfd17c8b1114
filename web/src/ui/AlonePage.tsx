/** A page with nothing on it but a word: while something opens, or why it cannot. */
import type { ReactElement } from 'react';
import { TopBar } from './Frame.js';
import { Notice } from './Notice.js';

export function AlonePage({ title, text, busy = false }: { title: string; text?: string; busy?: boolean }): ReactElement {
  return (
    <div className="flex h-full flex-col">
      <TopBar>
        <span className="flex-1" />
      </TopBar>
      <div className="grid flex-1 place-items-center p-8">
        <Notice title={title} busy={busy}>
          {text}
        </Notice>
      </div>
    </div>
  );
}
