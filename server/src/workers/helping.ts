/** A helper's end of the queue: takes one task of each kind at a time, and does it in workers of its own. */
import { BEATS, HELPED, helpersFolder, openQueue, TaskFiles, type Helped, type HelpedKind, type Told } from './helpers.js';
import { WorkerPool } from './workerPool.js';

export interface Helping {
  /** Takes nothing more; what is under way is left to another helper. */
  close(): Promise<void>;
}

async function help(workers: WorkerPool, folder: string, kind: HelpedKind, { task: id, name }: Helped): Promise<void> {
  const files = new TaskFiles(folder, id);
  const task = files.read<object>('task');
  // Whoever asked for it has gone.
  if (!task) return;
  const stop = new AbortController();
  let told: Told = { beats: 0 };
  const tell = (more: Partial<Told>): void => {
    told = { ...told, ...more };
    if (files.isWanted) files.write('told', told);
    else stop.abort();
  };
  tell({});
  const beating = setInterval(() => tell({ beats: told.beats + 1 }), BEATS);
  try {
    const of = await workers.run(kind, task, stop.signal, (...report) => tell({ report }), name);
    if (files.isWanted) files.write('answer', { of });
  } finally {
    clearInterval(beating);
  }
}

/**
 * @param dataFolder the server's, reached by the same path
 * @param database the address of the server's database
 */
export async function startHelping(dataFolder: string, database: string): Promise<Helping> {
  const queue = await openQueue(database);
  const workers = new WorkerPool();
  for (const kind of HELPED)
    await queue.work<Helped>(kind, { batchSize: 1, pollingIntervalSeconds: 0.5 }, async ([job]) => {
      if (job) await help(workers, helpersFolder(dataFolder), kind, job.data);
    });
  return {
    close: async () => {
      await workers.onModuleDestroy();
      await queue.stop({ graceful: false });
    },
  };
}
