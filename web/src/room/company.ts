/**
 * The other windows that have the same document open, whoever sits before them: where their playheads are, and what changes.
 * A socket that breaks is opened again by itself, and what was missed meanwhile is asked for.
 */
import type { CompanyNews, CompanyView, DocumentChange } from '@zest-jaw/core';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { door } from '../api/door.js';

/** Where one's own playhead is told no more often, in milliseconds. */
const TOLD_EVERY = 100;

/** The others, as far as they are known. */
export type OthersStore = StoreApi<{ readonly others: readonly CompanyView[] }>;

export const newOthers = (): OthersStore => createStore(() => ({ others: [] as readonly CompanyView[] }));

export interface Company {
  /** Tells the others where this window's playhead is; null for nowhere. */
  tell(frame: number | null): void;
  close(): void;
}

/** What is asked of it: a socket as browsers have it. */
type Socket = Pick<WebSocket, 'send' | 'close' | 'readyState' | 'addEventListener'> & { reconnect?(): void };

/** A socket that opens again after growing waits, from a second to half a minute. */
async function openLasting(path: string): Promise<Socket> {
  const { WebSocket: Lasting } = await import('partysocket');
  const url = new URL(path, window.location.href);
  url.protocol = url.protocol.replace('http', 'ws');
  return new Lasting(url.href, [], {
    minReconnectionDelay: 1000,
    maxReconnectionDelay: 30_000,
    maxEnqueuedMessages: 0,
  }) as unknown as Socket;
}

export interface CompanyOptions {
  /** Where the document is: `scenes/…`, `charts/…`. */
  readonly document: string;
  readonly onChange: (changed: DocumentChange) => void;
  /** It can be heard from now on: of a document that was opened just before for the first time, of any after that. */
  readonly onOpen: (isFirst: boolean) => void;
  /** Where the others are put. */
  readonly others: OthersStore;
  readonly open?: (path: string) => Promise<Socket>;
}

export function openCompany({ document, onChange, onOpen, others, open = openLasting }: CompanyOptions): Company {
  let socket: Socket | undefined;
  let isClosed = false;
  let isFirst = true;
  let frame: number | null = null;
  let told: number | null | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;

  const say = (): void => {
    timer = undefined;
    if (socket?.readyState !== 1 || frame === told) return;
    told = frame;
    socket.send(JSON.stringify({ frame }));
  };
  const hear = (data: string): void => {
    const news = JSON.parse(data) as CompanyNews;
    if (news.changed) onChange(news.changed);
    if (news.others) others.setState({ others: news.others });
  };
  const begin = (opened: Socket): void => {
    if (isClosed) return opened.close();
    socket = opened;
    opened.addEventListener('open', () => {
      told = undefined;
      say();
      onOpen(isFirst);
      isFirst = false;
    });
    opened.addEventListener('message', ({ data }) => hear(String(data)));
    // Nobody is known to be here while nothing can be heard.
    opened.addEventListener('close', () => others.setState({ others: [] }));
  };
  // Without it everything works as before; others are merely not seen.
  void open(`/api/company/${document}`).then(begin, () => undefined);
  const stopAtDoor = door.subscribe(({ isShut }) => void (isShut || socket?.reconnect?.()));

  return {
    tell: (next) => {
      frame = next;
      timer ??= setTimeout(say, TOLD_EVERY);
    },
    close: () => {
      isClosed = true;
      clearTimeout(timer);
      stopAtDoor();
      socket?.close();
    },
  };
}
