/**
 * A server that a room shares: its passphrase, who has signed in, and the links by which a device at the stage comes in. What
 * a cookie or a link carries is kept as its hash only; who has signed in is looked up in memory, at every request.
 */
import { MikroORM } from '@mikro-orm/core';
import { Inject, Injectable, OnModuleDestroy } from '@nestjs/common';
import type { RoomMember } from '@zest-jaw/core';
import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { cannotUse, notThere, Problem } from '../guard/problem.js';
import { RoomLink, RoomPassphrase, RoomSession } from '../storage/entities.js';
import { hashOfPassphrase, isPassphrase, maybeFaultOfPassphrase } from './passphrase.js';

/** Whether people sign in: a boolean. */
export const IS_ROOM = Symbol('IS_ROOM');

/** What a cookie or a link carries, in bytes of chance: 256 bits, where OWASP ASVS 4.0.3 asks for 64 (3.2.2). */
const TOKEN_BYTES = 32;
const DAY = 24 * 3_600_000;
/** A browser that was not here for so long signs in anew, in milliseconds: as OWASP ASVS 4.0.3 has it in 3.3.2. */
export const SESSION_IDLE = 30 * DAY;
/** When somebody was last seen is kept no finer than this, in milliseconds. */
const SEEN_EVERY = 300_000;
/** Browsers and links that are kept at once: more than a studio has. */
const MOST_SESSIONS = 500;
const MOST_LINKS = 100;

const hashOfToken = (token: string): string => createHash('sha256').update(token).digest('base64url');
const newToken = (): string => randomBytes(TOKEN_BYTES).toString('base64url');

/** Somebody who has signed in, as requests know them. */
export interface Member extends RoomMember {
  readonly sessionId: string;
}

@Injectable()
export class RoomService implements OnModuleDestroy {
  /** Why nothing may be changed, as a sentence; null where it may. */
  readOnly: string | null = null;
  /** By the hash of what the cookie carries. */
  private readonly sessions = new Map<string, RoomSession>();
  private readonly endings = new Set<(sessionId: string) => void>();

  constructor(
    private readonly orm: MikroORM,
    @Inject(IS_ROOM) readonly isRoom: boolean,
  ) {}

  /** Reads who has signed in; to be done before anybody is let in. */
  async begin(): Promise<void> {
    const em = this.orm.em.fork();
    await em.nativeDelete(RoomSession, { seenAt: { $lt: new Date(Date.now() - SESSION_IDLE) } });
    for (const session of await em.find(RoomSession, {})) this.sessions.set(session.tokenHash, session);
  }

  onModuleDestroy(): void {
    this.endings.clear();
  }

  /** Hears of every session that ends, so that what it holds open can be closed; answers with what stops it. */
  onEnd(hear: (sessionId: string) => void): () => void {
    this.endings.add(hear);
    return () => this.endings.delete(hear);
  }

  async hasPassphrase(): Promise<boolean> {
    return (await this.orm.em.fork().count(RoomPassphrase)) > 0;
  }

  async isPassphrase(tried: string): Promise<boolean> {
    const kept = await this.orm.em.fork().findOne(RoomPassphrase, { id: 1 });
    return kept !== null && isPassphrase(kept.hash, tried);
  }

  /** Sets the passphrase; everybody but who set it signs in anew, and links from before it lead nowhere. Throws a sentence. */
  async setPassphrase(passphrase: string, butSession?: string): Promise<void> {
    const fault = await maybeFaultOfPassphrase(passphrase);
    if (fault !== undefined) throw cannotUse(fault);
    const hash = await hashOfPassphrase(passphrase);
    const em = this.orm.em.fork();
    await em.upsert(RoomPassphrase, { id: 1, hash });
    await em.nativeDelete(RoomLink, {});
    for (const { id } of [...this.sessions.values()]) if (id !== butSession) await this.end(id);
  }

  /** Signs a browser in; answers with what its cookie is to carry. */
  async enter(name: string, passphrase: string): Promise<string> {
    if (!(await this.isPassphrase(passphrase)))
      throw new Problem(401, 'Not signed in', 'That is not the passphrase of this room. Ask who started Zest Jaw.');
    return this.newSession(name, false);
  }

  /** Lets a device in by what its link carries. */
  async enterByLink(code: string): Promise<string> {
    const link = await this.orm.em.fork().findOne(RoomLink, { codeHash: hashOfToken(code) });
    if (!link)
      throw new Problem(401, 'Not signed in', 'This link leads nowhere any more. Ask for a new one, or sign in with the passphrase.');
    return this.newSession(link.name, true);
  }

  /** Who has signed in with what a cookie carries. */
  maybeMember(token: unknown): Member | undefined {
    const session = typeof token === 'string' ? this.sessions.get(hashOfToken(token)) : undefined;
    if (!session) return undefined;
    const now = Date.now();
    const unseen = now - session.seenAt.getTime();
    if (unseen > SESSION_IDLE) {
      void this.end(session.id);
      return undefined;
    }
    if (unseen > SEEN_EVERY) {
      session.seenAt = new Date(now);
      // Nobody waits for it, and nothing is lost with it.
      this.orm.em
        .fork()
        .nativeUpdate(RoomSession, { id: session.id }, { seenAt: session.seenAt })
        .catch(() => undefined);
    }
    return { sessionId: session.id, name: session.name, isGuest: session.isGuest };
  }

  all(): RoomSession[] {
    return [...this.sessions.values()].sort((a, b) => b.seenAt.getTime() - a.seenAt.getTime());
  }

  async rename(sessionId: string, name: string): Promise<void> {
    const session = this.all().find(({ id }) => id === sessionId);
    if (!session) throw notThere('sign-in');
    await this.orm.em.fork().nativeUpdate(RoomSession, { id: sessionId }, { name });
    session.name = name;
  }

  async end(sessionId: string): Promise<void> {
    const session = this.all().find(({ id }) => id === sessionId);
    if (!session) throw notThere('sign-in');
    this.sessions.delete(session.tokenHash);
    await this.orm.em.fork().nativeDelete(RoomSession, { id: sessionId });
    for (const hear of this.endings) hear(sessionId);
  }

  links(): Promise<RoomLink[]> {
    return this.orm.em.fork().find(RoomLink, {}, { orderBy: { createdAt: 'desc' } });
  }

  /** A new link: what it carries is told once. */
  async newLink(name: string): Promise<{ id: string; code: string }> {
    const em = this.orm.em.fork();
    if ((await em.count(RoomLink)) >= MOST_LINKS) throw cannotUse(`There are ${MOST_LINKS} links. Take away those that nobody uses.`);
    const [id, code] = [randomUUID(), newToken()];
    await em.insert(RoomLink, { id, codeHash: hashOfToken(code), name, createdAt: new Date() });
    return { id, code };
  }

  /** Takes a link away; who came by it stays until they are shown out. */
  async removeLink(id: string): Promise<void> {
    if ((await this.orm.em.fork().nativeDelete(RoomLink, { id })) === 0) throw notThere('link');
  }

  private async newSession(name: string, isGuest: boolean): Promise<string> {
    const oldest = this.all().at(-1);
    if (oldest && this.sessions.size >= MOST_SESSIONS) await this.end(oldest.id);
    const token = newToken();
    const now = new Date();
    const em = this.orm.em.fork();
    const session = em.create(RoomSession, { id: randomUUID(), tokenHash: hashOfToken(token), name, isGuest, createdAt: now, seenAt: now });
    await em.persistAndFlush(session);
    this.sessions.set(session.tokenHash, session);
    return token;
  }
}
