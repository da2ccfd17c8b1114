/** One running application: its data folder locked, its port taken, its pages served. */
import type { NestExpressApplication } from '@nestjs/platform-express';
import { parse as parseCookies } from 'cookie';
import { STATUS_CODES, type RequestListener } from 'node:http';
import { fileURLToPath } from 'node:url';
import { lockFolder } from './guard/folderLock.js';
import { takePort, type Certificate, type UpgradeListener } from './guard/gate.js';
import { isOwn } from './guard/whoMay.middleware.js';
import { openApp } from './openApp.js';
import { cookieName } from './room/atTheDoor.middleware.js';
import { CompanyService } from './room/company.service.js';
import { RoomService } from './room/room.service.js';
import { withFileSaid } from './storage/database.js';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

export const OWN_DATA_FOLDER = `${ROOT}data`;

/** What is said of a folder that cannot be used, by what the system says of it. */
const OF_FOLDER: Readonly<Record<string, string>> = {
  EACCES: 'may not be written by whoever starts this',
  EPERM: 'may not be written by whoever starts this',
  EROFS: 'is on a disk that cannot be written',
  ENOTDIR: 'is no folder, or lies in something that is none',
  EEXIST: 'is a file and no folder',
  ENOSPC: 'is on a disk that is full',
};

function withFolderSaid(error: unknown, folder: string): unknown {
  const said = OF_FOLDER[(error as { code?: string } | null)?.code ?? ''];
  return said === undefined ? error : new Error(`The data folder ${folder} ${said}. Choose another with ZEST_DATA, or mend that.`);
}

/** A server for a room: people sign in. */
export interface RoomOptions {
  /** The address or name to listen on. */
  readonly host: string;
  /** Further addresses and names by which it is reached. */
  readonly names: readonly string[];
  readonly certificate?: Certificate | undefined;
  /**
   * A passphrase to be set; undefined leaves the one that is kept. Throws a sentence where none can be had.
   *
   * @param isKept whether there is one already
   */
  passphrase(isKept: boolean): Promise<string | undefined>;
}

export interface Serving {
  readonly address: string;
  /** Why nothing may be changed, as a sentence; null where it may. */
  readonly readOnly: string | null;
  /** Lets nobody in any more; what still runs goes on. */
  shut(): void;
  /** Ends it, the port and the folder free again. */
  close(): Promise<void>;
}

/** Windows that stay connected: from its own pages, and by who has signed in. */
function takesUp(app: NestExpressApplication, hosts: readonly string[], cookie: string): UpgradeListener {
  const [room, company] = [app.get(RoomService), app.get(CompanyService)];
  return (request, socket, head) => {
    const refuse = (status: number): void => void socket.end(`HTTP/1.1 ${status} ${STATUS_CODES[status]}\r\nConnection: close\r\n\r\n`);
    // A connection that breaks meanwhile is nobody's fault.
    socket.on('error', () => socket.destroy());
    if (!isOwn(request, hosts) || request.headers.origin === undefined) return refuse(403);
    const member = room.maybeMember(parseCookies(request.headers.cookie ?? '')[cookie]);
    if (room.isRoom && !member) return refuse(401);
    if (!company.takeUp(request, socket, head, member)) refuse(404);
  };
}

async function setPassphrase(app: NestExpressApplication, { passphrase }: RoomOptions): Promise<void> {
  const room = app.get(RoomService);
  const next = await passphrase(await room.hasPassphrase());
  // The same again leaves everybody signed in.
  if (next !== undefined && !(await room.isPassphrase(next))) await room.setPassphrase(next);
}

export interface ServeOptions {
  /** Whom it serves beside this computer; nobody without it. */
  readonly room?: RoomOptions | undefined;
  /** The address of a server database; without it there is a file in the folder. */
  readonly database?: string | undefined;
  /** Whether helpers take readings and renders. */
  readonly hasHelpers?: boolean;
}

/**
 * @param port 0 takes any that is free
 * @throws the socket's error, `EADDRINUSE` when the port is taken; a sentence when the folder is in use
 */
export async function serve(dataFolder: string, port: number, { room, database, hasHelpers }: ServeOptions = {}): Promise<Serving> {
  const unlock = await lockFolder(dataFolder).catch((error: unknown) => {
    throw withFolderSaid(error, dataFolder);
  });
  const given: { close?: () => Promise<void> | void } = {};
  try {
    const gate = await takePort(port, room?.host, room?.certificate);
    given.close = gate.close;
    const isEncrypted = room?.certificate !== undefined;
    const hosts = room ? [room.host.toLowerCase(), ...room.names.map((name) => name.toLowerCase())] : [];
    const app = await openApp({
      dataFolder,
      demoFolder: `${ROOT}demo`,
      webFolder: `${ROOT}web/dist`,
      hosts,
      isRoom: room !== undefined,
      isEncrypted,
      database,
      hasHelpers,
    });
    const close = async (): Promise<void> => {
      gate.close();
      await app.close();
      unlock();
    };
    given.close = close;
    if (room) await setPassphrase(app, room);
    gate.open(app.getHttpAdapter().getInstance() as RequestListener, takesUp(app, hosts, cookieName(isEncrypted)));
    return { address: gate.address, readOnly: app.get(RoomService).readOnly, shut: gate.close, close };
  } catch (error) {
    await given.close?.();
    unlock();
    // What is read at first is also written to: a disk may be found out only there.
    throw withFileSaid(withFolderSaid(error, dataFolder));
  }
}
