/** Following a job: its end is told to whoever watches, whenever it comes. */
import type { EntityManager, MikroORM } from '@mikro-orm/libsql';
import type { JobView } from '@zest-jaw/core';
import { firstValueFrom, timeout, toArray } from 'rxjs';
import type { Job } from '../storage/entities.js';
import { JobService } from './job.service.js';

const job = (): Job =>
  ({
    id: 'j',
    kind: 'import',
    scene: null,
    state: 'running',
    done: 0.4,
    message: 'Looking',
    warnings: [],
    offers: false,
    reading: null,
    attempts: 0,
    request: {},
    createdAt: new Date(),
  }) as Job;

it('misses no end that comes between looking at a job and listening to it', async () => {
  const kept = job();
  const em = { findOne: async () => kept, flush: async () => undefined } as unknown as EntityManager;
  const orm = {
    em: {
      fork: () => ({
        // The job ends while its row, as it was, is on its way to the one who watches.
        findOneOrFail: async () => {
          const asItWas = { ...kept };
          await service.cancel('j');
          return asItWas;
        },
      }),
    },
  } as unknown as MikroORM;
  const service: JobService = new JobService(em, orm);
  const told: JobView[] = await firstValueFrom(service.watch('j').pipe(toArray(), timeout(2000)));
  expect(told.at(-1)).toMatchObject({ state: 'cancelled', message: 'Cancelled' });
});
