/** A word in which a sound is heard. */
import type { ReactElement } from 'react';

/** A word with the letters of a sound set off. */
export function Example({ example }: { example: string }): ReactElement {
  const [before, letters, after] = example.split('*');
  return (
    <span>
      {before}
      <b className="font-bold underline decoration-2 underline-offset-2">{letters}</b>
      {after}
    </span>
  );
}
