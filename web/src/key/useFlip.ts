/** Flipping on the easel to the mouth before or after, for as long as a key is held. */
import { useCallback, useEffect, useState } from 'react';

export interface Flip {
  /** −1 for the mouth before, 1 for the one after, 0 for the one at the playhead. */
  readonly flipped: -1 | 0 | 1;
  readonly flip: (side: -1 | 1) => void;
}

export function useFlip(): Flip {
  const [flipped, setFlipped] = useState<-1 | 0 | 1>(0);
  useEffect(() => {
    if (flipped === 0) return undefined;
    const letGo = (): void => setFlipped(0);
    window.addEventListener('keyup', letGo);
    window.addEventListener('blur', letGo);
    return () => {
      window.removeEventListener('keyup', letGo);
      window.removeEventListener('blur', letGo);
    };
  }, [flipped]);
  return { flipped, flip: useCallback((side) => setFlipped(side), []) };
}
