/** What is taken of the file that lies beside a recording. */
import type { ReactElement } from 'react';
import type { Given } from '../api/besideRecording.js';

export function GivenNote({ given }: { given: Given | undefined }): ReactElement | null {
  if (!given) return null;
  return (
    <p role="status" className={given.isFault ? 'text-[14px] text-bad' : 'rounded-[10px] bg-zest-soft px-3 py-1.5 text-[14px]'}>
      {given.sentence}
    </p>
  );
}
