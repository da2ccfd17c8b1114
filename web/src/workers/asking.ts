/** Asking a worker: answers matched to questions by number, faults brought to whoever asked, and slots that keep only the newest question. */

export interface Answered {
  readonly id: number;
  readonly answer?: unknown;
  readonly fault?: string;
}

type Numbered<T> = T & { readonly id: number };

export interface Asker<Question> {
  ask<Answer>(question: Question, transfer?: Transferable[]): Promise<Answer>;
  /** Ends the worker once all that was asked so far is answered. A later question starts another, which knows nothing. */
  end(): void;
}

/** What of a worker is needed. */
export interface WorkerLike {
  onmessage: ((event: MessageEvent<Answered>) => void) | null;
  onerror: ((event: ErrorEvent) => void) | null;
  postMessage(message: unknown, transfer?: Transferable[]): void;
  terminate(): void;
}

/**
 * @param open starts the worker, with the first question
 * @param onLost called when a worker has broken down: the next question starts another, which knows nothing
 */
export function createAsker<Question extends object>(open: () => WorkerLike, onLost: () => void = () => undefined): Asker<Question> {
  let worker: WorkerLike | undefined;
  let isEnding = false;
  let count = 0;
  const waiting = new Map<number, { resolve: (answer: unknown) => void; reject: (error: Error) => void }>();
  const stop = (): void => {
    worker?.terminate();
    worker = undefined;
    isEnding = false;
  };
  const lose = (sentence: string): void => {
    stop();
    onLost();
    const all = [...waiting.values()];
    waiting.clear();
    for (const { reject } of all) reject(new Error(sentence));
  };
  const start = (): WorkerLike => {
    const opened = open();
    opened.onmessage = ({ data: { id, answer, fault } }) => {
      const asked = waiting.get(id);
      waiting.delete(id);
      if (fault === undefined) asked?.resolve(answer);
      else asked?.reject(new Error(fault));
      if (isEnding && waiting.size === 0) stop();
    };
    opened.onerror = (event) => {
      event.preventDefault?.();
      lose(`The work in the background broke down: ${event.message}. Try again.`);
    };
    return opened;
  };
  return {
    ask: <Answer>(question: Question, transfer?: Transferable[]) => {
      worker ??= start();
      const id = ++count;
      return new Promise<Answer>((resolve, reject) => {
        waiting.set(id, { resolve: resolve as (answer: unknown) => void, reject });
        worker!.postMessage({ ...question, id } satisfies Numbered<Question>, transfer);
      });
    },
    end: () => {
      if (waiting.size === 0) stop();
      else isEnding = true;
    },
  };
}

/** The worker's side: answers each question, and tells of what is thrown. */
export function answering<Question extends object>(answer: (question: Question) => unknown): void {
  self.onmessage = ({ data }: MessageEvent<Numbered<Question>>) => {
    const { id } = data;
    const tell = (error: unknown): void =>
      self.postMessage({ id, fault: error instanceof Error ? error.message : String(error) } satisfies Answered);
    const give = (given: unknown): void => self.postMessage({ id, answer: given } satisfies Answered);
    try {
      const given = answer(data);
      if (given instanceof Promise) given.then(give, tell);
      else give(given);
    } catch (error) {
      tell(error);
    }
  };
}

/** Asks, once what was asked before in this slot is answered; undefined when a newer question took its place. */
export type Slot = <Answer>(ask: () => Promise<Answer>) => Promise<Answer | undefined>;

/** A slot for one kind of question: one at a time, and of those that wait only the newest is asked. */
export function latestOnly(): Slot {
  interface Asked {
    readonly ask: () => Promise<unknown>;
    readonly resolve: (answer: unknown) => void;
    readonly reject: (error: unknown) => void;
  }
  let isAsking = false;
  let waiting: Asked | undefined;
  const run = async (asked: Asked): Promise<void> => {
    isAsking = true;
    try {
      asked.resolve(await asked.ask());
    } catch (error) {
      asked.reject(error);
    }
    isAsking = false;
    const next = waiting;
    waiting = undefined;
    if (next) void run(next);
  };
  return <Answer>(ask: () => Promise<Answer>) =>
    new Promise<Answer | undefined>((resolve, reject) => {
      const asked: Asked = { ask, resolve: resolve as (answer: unknown) => void, reject };
      if (!isAsking) void run(asked);
      else {
        waiting?.resolve(undefined);
        waiting = asked;
      }
    });
}
