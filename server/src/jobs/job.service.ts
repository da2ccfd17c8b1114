/**
 * Long work. A job is a row, so that it survives a page reload; what it does runs in a
 * worker thread. Jobs that were under way when the server stopped start again with it.
 */
import { RequestContext } from '@mikro-orm/core';
import { MikroORM } from '@mikro-orm/core';
import { EntityManager } from '@mikro-orm/knex';
import { Injectable, Logger, OnModuleDestroy } from '@nestjs/common';
import { hasEnded, type JobView, type OfferView } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { defer, filter, from, merge, Observable, Subject, takeWhile } from 'rxjs';
import { notThere } from '../guard/problem.js';
import { DISK_FAULTS, maybeDiskFault } from '../storage/diskFault.js';
import { Job } from '../storage/entities.js';
import { isServerAway } from '../storage/serverDatabase.js';

export interface JobRun {
  readonly job: Job;
  readonly signal: AbortSignal;
  report(done: number, message: string): void;
}

/** Does the work of one kind of job. Returns warnings; throws `JobFailed` with a sentence. */
export type JobRunner = (run: JobRun) => Promise<string[]>;

/** Takes away what a job that came to nothing left behind. */
export type LetGo = (job: Job) => void;

/** Work that the program ended in so often is not begun again. */
const MOST_ATTEMPTS = 2;

/** What is left to do where work ends the program, by what it was. */
function wayOut(kind: string): string {
  if (kind === 'reading') return 'read one phrase after another, or mark the words by ear.';
  if (kind === 'recording' || kind === 'import' || kind === 'bundle') return 'bring another file, or the same one saved anew.';
  return 'hand off fewer frames at a time, or a smaller size.';
}

/** The job could not be done, for a reason the user can be told. */
export class JobFailed extends Error {}

export function jobView({ id, kind, scene, state, done, message, warnings, offers }: Job): JobView {
  return { id, kind, sceneId: scene?.id ?? null, state, done, message, warnings, offers };
}

@Injectable()
export class JobService implements OnModuleDestroy {
  private readonly logger = new Logger('Job');
  private readonly runners = new Map<string, JobRunner>();
  private readonly letGo = new Map<string, LetGo>();
  private readonly running = new Map<string, AbortController>();
  private readonly changes = new Subject<JobView>();
  private stopping = false;

  constructor(
    private readonly em: EntityManager,
    private readonly orm: MikroORM,
  ) {}

  /** The server is going down; what is under way starts again with it. */
  get isStopping(): boolean {
    return this.stopping;
  }

  /** Says what does the work of a kind of job, and what clears up after one that failed or was given up. */
  register(kind: string, runner: JobRunner, letGo?: LetGo): void {
    this.runners.set(kind, runner);
    if (letGo) this.letGo.set(kind, letGo);
  }

  /** Adds a job to the current unit of work; `start` it once that is committed. */
  create(kind: string, sceneId: string | null, request: Record<string, unknown>): Job {
    const job = this.em.create(Job, {
      id: randomUUID(),
      kind,
      scene: sceneId,
      request,
      state: 'waiting',
      done: 0,
      message: 'Waiting',
      warnings: [],
      offers: false,
      reading: null,
      attempts: 0,
      createdAt: new Date(),
    });
    this.em.persist(job);
    return job;
  }

  async load(id: string): Promise<Job> {
    const job = await this.em.findOne(Job, { id });
    if (!job) throw notThere('job');
    return job;
  }

  /** What a reading offers; null when it has been taken or left. */
  async offerOf(id: string): Promise<OfferView | null> {
    const job = await this.em.findOne(Job, { id }, { populate: ['reading'] });
    if (!job) throw notThere('job');
    return job.offers && job.reading ? { clipId: String(job.request['clipId']), reading: job.reading } : null;
  }

  async settleOffer(id: string): Promise<void> {
    const job = await this.load(id);
    Object.assign(job, { offers: false, reading: null });
    await this.em.flush();
    this.changes.next(jobView(job));
  }

  /** The state of a job now and at every change, until it ends. */
  watch(id: string): Observable<JobView> {
    const now = defer(() => from(this.orm.em.fork().findOneOrFail(Job, { id }).then(jobView)));
    // Listening before looking: an end between the two must not be missed.
    return merge(this.changes.pipe(filter((view) => view.id === id)), now).pipe(takeWhile((view) => !hasEnded(view), true));
  }

  /** Starts again what was under way when the server last stopped, but for what it seems to have stopped of. */
  async resume(): Promise<void> {
    const em = this.orm.em.fork();
    const jobs = await em.find(Job, { state: { $in: ['waiting', 'running'] } });
    for (const job of jobs)
      if (job.attempts >= MOST_ATTEMPTS)
        Object.assign(job, {
          state: 'failed',
          message: `This was begun ${job.attempts} times, and the program ended in the middle of it each time. It is not begun again: ${wayOut(job.kind)}`,
        });
    await em.flush();
    for (const job of jobs)
      if (hasEnded(job)) this.letGo.get(job.kind)?.(job);
      else this.start(job.id);
  }

  start(id: string): void {
    // A unit of work of its own: that of the request which started it ends with its answer.
    void RequestContext.create(this.orm.em, () => this.run(id)).catch((error: unknown) =>
      this.logger.error(error instanceof Error ? error.stack : String(error)),
    );
  }

  async cancel(id: string): Promise<JobView> {
    const job = await this.load(id);
    this.running.get(id)?.abort();
    if (!hasEnded(job)) {
      job.state = 'cancelled';
      job.message = 'Cancelled';
      await this.em.flush();
      this.changes.next(jobView(job));
    }
    return jobView(job);
  }

  async onModuleDestroy(): Promise<void> {
    this.stopping = true;
    for (const controller of this.running.values()) controller.abort();
    // Told to stop, it did not end of the work that is under way.
    const told = this.orm.em.fork().nativeUpdate(Job, { state: { $in: ['waiting', 'running'] } }, { attempts: 0 });
    await told.catch((error: unknown) => {
      if (!isServerAway(error)) throw error;
    });
  }

  private async run(id: string): Promise<void> {
    const { em } = this;
    const job = await em.findOne(Job, { id });
    const runner = job && this.runners.get(job.kind);
    if (!job || !runner || hasEnded(job)) return;
    const controller = new AbortController();
    this.running.set(id, controller);
    job.state = 'running';
    job.attempts += 1;
    try {
      await em.flush();
      this.changes.next(jobView(job));
      const warnings = await runner({
        job,
        signal: controller.signal,
        report: (done, message) => {
          if (controller.signal.aborted) return;
          [job.done, job.message] = [done, message];
          this.changes.next(jobView(job));
        },
      });
      Object.assign(job, { state: 'done', done: 1, message: 'Done', warnings });
    } catch (error) {
      // A job stopped with the server stays as it is and starts again with it.
      if (this.stopping) return;
      if (controller.signal.aborted) Object.assign(job, { state: 'cancelled', message: 'Cancelled' });
      else if (error instanceof JobFailed) Object.assign(job, { state: 'failed', message: error.message });
      else {
        this.logger.error(error instanceof Error ? error.stack : String(error));
        const disk = maybeDiskFault(error);
        const message = disk ? DISK_FAULTS[disk] : 'This work stopped unexpectedly. Nothing is lost; try it again.';
        Object.assign(job, { state: 'failed', message });
      }
      this.letGo.get(job.kind)?.(job);
    } finally {
      this.running.delete(id);
    }
    await em.flush().catch((error: unknown) => {
      const disk = maybeDiskFault(error);
      if (!disk) throw error;
      // It is told all the same; the row says so when it is begun again, as after a server that died.
      Object.assign(job, { state: 'failed', message: DISK_FAULTS[disk] });
    });
    this.changes.next(jobView(job));
  }
}
