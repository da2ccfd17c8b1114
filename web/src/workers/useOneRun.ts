/** Long work of one worker for one place of the page: one run at a time, given up by the next, by hand, and when the page is left. */
import { useEffect, useRef, useState } from 'react';
import { sentenceOf } from '../api/http.js';
import { createAsker, type Asker } from './asking.js';

export interface Running<Question> {
  readonly ask: Asker<Question>['ask'];
  /** False once it was given up: nothing of it is wanted any more. */
  readonly isWanted: () => boolean;
  /** The share that is done, 0 to 1. */
  readonly report: (done: number) => void;
}

export interface OneRun<Question> {
  /** The share that is done while it runs. */
  readonly done: number | undefined;
  readonly fault: string | undefined;
  start(run: (running: Running<Question>) => Promise<void>): void;
  cancel(): void;
}

export function useOneRun<Question extends object>(open: () => Worker): OneRun<Question> {
  const [done, setDone] = useState<number>();
  const [fault, setFault] = useState<string>();
  const worker = useRef<Worker>(undefined);
  const cancel = (): void => {
    worker.current?.terminate();
    worker.current = undefined;
    setDone(undefined);
  };
  useEffect(() => () => worker.current?.terminate(), []);
  return {
    done,
    fault,
    start: (run) => {
      cancel();
      setFault(undefined);
      setDone(0);
      const mine = open();
      worker.current = mine;
      const isWanted = (): boolean => worker.current === mine;
      const { ask } = createAsker<Question>(() => mine);
      run({ ask, isWanted, report: (share) => isWanted() && setDone(share) }).then(
        () => isWanted() && cancel(),
        (error: unknown) => {
          if (!isWanted()) return;
          setFault(sentenceOf(error));
          cancel();
        },
      );
    },
    cancel,
  };
}
