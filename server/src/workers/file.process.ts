/**
 * A process in which files that came from anywhere are read, one after another. A thread of its own
 * watches what a file takes, since code that is not JavaScript may hold this one for as long as it likes:
 * more memory ends the process with SIGKILL, more time with SIGXCPU, as a system's own limits do
 * (POSIX.1-2017, setrlimit).
 */
import { Worker } from 'node:worker_threads';
import workerpool from 'workerpool';
import type { Watched } from './watch.worker.js';

/** What a file may take of the machine. */
export interface Allowance {
  /** Of the whole process, in bytes. */
  readonly memory: number;
  /** Of the processor, in seconds. */
  readonly seconds: number;
  /** Each report of progress begins another file, with all of its time before it. */
  readonly isOfEachReport?: boolean;
}

/** What came out, and what the process holds now, in bytes. */
export interface Performed {
  readonly answer: unknown;
  readonly holds: number;
}

// The terminal's interruption goes to everything that it started; the server alone decides what becomes of this.
process.on('SIGINT', () => undefined);

// Decoders write what they think of every packet to the terminal; what counts of it is in the answer.
Object.assign(console, { error: () => undefined, warn: () => undefined });

const watched: Watched = new Float64Array(new SharedArrayBuffer(3 * Float64Array.BYTES_PER_ELEMENT));
new Worker(new URL('./watch.worker.js', import.meta.url), { workerData: watched }).unref();

const usedSeconds = (): number => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1e6;
};

/** Tells the thread that watches what may be taken from now on. */
function allow({ memory, seconds }: Allowance): void {
  watched[0] = memory;
  watched[1] = usedSeconds() + seconds;
}

/**
 * @param file name of the module, beside this one, whose default export does the work
 */
async function perform(file: string, task: object, allowance: Allowance): Promise<Performed> {
  const module = (await import(`./${file}`)) as { default(task: object): unknown };
  allow(allowance);
  const progress = {
    postMessage: (told: unknown) => {
      if (allowance.isOfEachReport) allow(allowance);
      workerpool.workerEmit(told);
    },
  };
  try {
    const answer = await module.default({ ...task, progress });
    return { answer, holds: process.memoryUsage.rss() };
  } finally {
    watched.fill(Number.POSITIVE_INFINITY);
  }
}

watched.fill(Number.POSITIVE_INFINITY);
workerpool.worker({ perform });
