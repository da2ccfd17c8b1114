/** One running application: its data folder locked, its port taken, its pages served. */
import type { RequestListener } from 'node:http';
import { fileURLToPath } from 'node:url';
import { lockFolder } from './guard/folderLock.js';
import { takePort } from './guard/gate.js';
import { openApp } from './openApp.js';

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

export interface Serving {
  readonly address: string;
  /** Lets nobody in any more; what still runs goes on. */
  shut(): void;
  /** Ends it, the port and the folder free again. */
  close(): Promise<void>;
}

/**
 * @param port 0 takes any that is free
 * @param shared addresses by which other devices may look and shoot; none without them
 * @throws the socket's error, `EADDRINUSE` when the port is taken; a sentence when the folder is in use
 */
export async function serve(dataFolder: string, port: number, shared: readonly string[] = []): Promise<Serving> {
  const unlock = await lockFolder(dataFolder).catch((error: unknown) => {
    throw withFolderSaid(error, dataFolder);
  });
  try {
    const gate = await takePort(port, shared.length > 0);
    const app = await openApp({ dataFolder, demoFolder: `${ROOT}demo`, webFolder: `${ROOT}web/dist`, shared });
    gate.open(app.getHttpAdapter().getInstance() as RequestListener);
    const close = async (): Promise<void> => {
      gate.close();
      await app.close();
      unlock();
    };
    return { address: gate.address, shut: gate.close, close };
  } catch (error) {
    unlock();
    throw withFolderSaid(error, dataFolder);
  }
}
