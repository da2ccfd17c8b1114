/**
 * When the next request goes out: one at a time, soon after a change, and after a failure
 * later each time. What a request does and means is its caller's.
 *
 *     quiet ──soon()──▶ gathering ──▶ sending ──done──▶ quiet
 *                                        │ trouble, or no headway
 *                                        ▼
 *                        waiting ──its time, now()──▶ sending
 */
import { waitAfter } from './saving.js';

/** How long changes are gathered before they are sent, in milliseconds. */
const GATHER_MS = 300;

/** How often in a row others may be quicker before it is taken for trouble. */
const MOST_AGAIN = 8;

export type Sent =
  /** One is through; there may be more. */
  | 'more'
  /** Nothing is through, but it is worth another try at once. */
  | 'again'
  /** Nothing is left. */
  | 'done'
  /** Nothing more may go out. */
  | 'stopped'
  | { readonly trouble: string };

export interface Sender {
  /** Sends in a moment, unless it is waiting after a failure. */
  soon(): void;
  /** Sends at once and resolves when nothing more can be done for now. Never rejects. */
  now(): Promise<void>;
  /** Resolves when what is under way has ended. */
  idle(): Promise<void>;
  close(): void;
}

export function createSender(
  sendOne: () => Promise<Sent>,
  tell: (state: 'saving' | 'saved' | { readonly trouble: string }) => void,
): Sender {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let inFlight: Promise<void> | undefined;
  let failures = 0;
  let closed = false;

  const schedule = (afterMs: number): void => {
    clearTimeout(timer);
    if (!closed) timer = setTimeout(() => void now(), afterMs);
  };

  const fail = (trouble: string): void => {
    failures += 1;
    tell({ trouble });
    schedule(waitAfter(failures));
  };

  const sendAll = async (): Promise<void> => {
    if (failures === 0) tell('saving');
    for (let again = 0; again <= MOST_AGAIN;) {
      const sent = await sendOne();
      // What comes after has not failed yet.
      if (sent === 'stopped' || sent === 'done') failures = 0;
      if (sent === 'stopped') return;
      if (sent === 'done') {
        tell('saved');
        return;
      }
      if (typeof sent === 'object') {
        fail(sent.trouble);
        return;
      }
      again = sent === 'again' ? again + 1 : 0;
    }
    fail('Others change this so quickly that your change does not get in between.');
  };

  const now = (): Promise<void> => {
    clearTimeout(timer);
    inFlight ??= sendAll().finally(() => (inFlight = undefined));
    return inFlight;
  };

  return {
    soon: () => {
      if (failures === 0) schedule(GATHER_MS);
    },
    now,
    idle: () => inFlight ?? Promise.resolve(),
    close: () => {
      closed = true;
      clearTimeout(timer);
    },
  };
}
