/** Ends its process when that takes more than it may. It sees what the other threads are blind to while they are busy. */
import { workerData } from 'node:worker_threads';

/** Bytes of memory allowed, and the count of the processor's seconds at which time is up; endless while nothing is watched. */
export type Watched = Float64Array<SharedArrayBuffer>;

/** How often is looked, in milliseconds: memory can grow by some gigabytes in a second. */
const LOOKED_EVERY = 25;

const watched = workerData as Watched;

setInterval(() => {
  const [memory = 0, until = 0] = watched;
  const { user, system } = process.cpuUsage();
  if (process.memoryUsage.rss() > memory) process.kill(process.pid, 'SIGKILL');
  else if ((user + system) / 1e6 > until) process.kill(process.pid, 'SIGXCPU');
}, LOOKED_EVERY);
