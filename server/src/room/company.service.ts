/**
 * Who has which document open: each window keeps a socket on it, says where its playhead is, and is told when the document
 * has changed and where the others are. Nothing of it is kept; a window whose socket ends is gone.
 */
import { Injectable, OnModuleDestroy } from '@nestjs/common';
import type { CompanyNews, CompanyView, DocumentChange } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import type { Subscription } from 'rxjs';
import { WebSocket, WebSocketServer } from 'ws';
import { DocumentChanges } from '../documents/changes.js';
import { RoomService, type Member } from './room.service.js';

/** Where a window goes to hear of its document. */
const ADDRESS = /^\/api\/company\/(scenes|charts)\/([\w.:-]{1,80})$/;
/** Where the others are is told no more often, in milliseconds: a playhead moves at 24 a second and is read at a glance. */
const TOLD_EVERY = 100;
/** A window that does not answer for so long is gone, in milliseconds. */
const ASKED_EVERY = 20_000;
/** Windows at once, in all: more than a studio has. */
const MOST_WINDOWS = 500;
/** A window says one number. */
const MOST_BYTES = 200;
/** Farther than any scene reaches. */
const LAST_FRAME = 10_000_000;

interface Window {
  readonly id: string;
  readonly socket: WebSocket;
  readonly member: Member | undefined;
  frame: number | null;
  isThere: boolean;
}

@Injectable()
export class CompanyService implements OnModuleDestroy {
  private readonly sockets = new WebSocketServer({ noServer: true, maxPayload: MOST_BYTES, perMessageDeflate: false });
  /** By the address of the document. */
  private readonly windows = new Map<string, Set<Window>>();
  private readonly toTell = new Map<string, NodeJS.Timeout>();
  private readonly asking: NodeJS.Timeout;
  private readonly hearing: Subscription;
  private readonly stopHearingEnds: () => void;

  constructor(changes: DocumentChanges, room: RoomService) {
    this.hearing = changes.subscribe((changed) => this.tellOf(changed));
    this.stopHearingEnds = room.onEnd((sessionId) => {
      for (const window of this.all()) if (window.member?.sessionId === sessionId) window.socket.close(4401, 'signed out');
    });
    this.asking = setInterval(() => this.askAll(), ASKED_EVERY);
    this.asking.unref();
  }

  /** Takes up a window's connection, by whoever may have it; false where it is none of ours. */
  takeUp(request: IncomingMessage, socket: Duplex, head: Buffer, member: Member | undefined): boolean {
    const found = ADDRESS.exec(new URL(request.url ?? '', 'http://own').pathname);
    if (!found || this.all().length >= MOST_WINDOWS) return false;
    const at = `${found[1]}/${found[2]}`;
    this.sockets.handleUpgrade(request, socket, head, (opened) => this.join(at, opened, member));
    return true;
  }

  onModuleDestroy(): void {
    clearInterval(this.asking);
    for (const timer of this.toTell.values()) clearTimeout(timer);
    this.hearing.unsubscribe();
    this.stopHearingEnds();
    for (const { socket } of this.all()) socket.terminate();
    this.sockets.close();
  }

  private all(): Window[] {
    return [...this.windows.values()].flatMap((windows) => [...windows]);
  }

  private join(at: string, socket: WebSocket, member: Member | undefined): void {
    const window: Window = { id: randomUUID(), socket, member, frame: null, isThere: true };
    const here = this.windows.get(at) ?? new Set();
    this.windows.set(at, here.add(window));
    socket.on('pong', () => (window.isThere = true));
    socket.on('message', (data) => {
      const frame = maybeFrame(String(data));
      if (frame === undefined || frame === window.frame) return;
      window.frame = frame;
      this.tellSoon(at);
    });
    // A broken connection closes after it has said why; there is nothing to do about it here.
    socket.on('error', () => socket.terminate());
    socket.on('close', () => {
      here.delete(window);
      if (here.size === 0) this.windows.delete(at);
      this.tellSoon(at);
    });
    this.tellSoon(at);
  }

  private tellSoon(at: string): void {
    if (this.toTell.has(at)) return;
    const timer = setTimeout(() => {
      this.toTell.delete(at);
      for (const window of this.windows.get(at) ?? []) tell(window, { others: this.othersOf(at, window) });
    }, TOLD_EVERY);
    timer.unref();
    this.toTell.set(at, timer);
  }

  private othersOf(at: string, self: Window): CompanyView[] {
    return [...(this.windows.get(at) ?? [])]
      .filter((window) => window !== self)
      .map(({ id, member, frame }) => ({ id, name: member?.name ?? null, frame }));
  }

  private tellOf(changed: DocumentChange): void {
    const own = `${changed.table}/${changed.id}`;
    for (const [at, windows] of this.windows) {
      // Any scene may show any chart.
      if (at !== own && !(changed.table === 'charts' && at.startsWith('scenes/'))) continue;
      for (const window of windows) tell(window, { changed });
    }
  }

  private askAll(): void {
    for (const window of this.all()) {
      if (!window.isThere) window.socket.terminate();
      window.isThere = false;
      window.socket.ping();
    }
  }
}

function tell({ socket }: Window, news: CompanyNews): void {
  if (socket.readyState === WebSocket.OPEN) socket.send(JSON.stringify(news));
}

/** Where a window says its playhead is; undefined for anything else it may say. */
function maybeFrame(text: string): number | null | undefined {
  let said: unknown;
  try {
    said = JSON.parse(text);
  } catch {
    return undefined;
  }
  const frame: unknown = (said as { frame?: unknown } | null)?.frame;
  if (frame === null) return null;
  return Number.isInteger(frame) && Math.abs(frame as number) <= LAST_FRAME ? (frame as number) : undefined;
}
