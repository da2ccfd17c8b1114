/**
 * Recordings that come in: decoded in a worker as a job, with progress and cancel, and kept
 * as they came and as the 48 kHz truth. What is made of them, a scene, a clip, a better take,
 * is asked for afterwards.
 */
import { EntityManager } from '@mikro-orm/knex';
import { Inject, Injectable, OnModuleInit } from '@nestjs/common';
import { isRefusal, maybeKindOfRecording, type RecordingKind, type RecordingView, type Refusal } from '@zest-jaw/core';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { AssetStore } from '../assets/asset.store.js';
import { cannotUse, notThere } from '../guard/problem.js';
import { nameOfUpload } from '../guard/nameOfUpload.js';
import { JobFailed, JobRun, JobService } from '../jobs/job.service.js';
import { Job } from '../storage/entities.js';
import type { Decoded } from '../workers/decode.worker.js';
import { Overstepped, overstepInWords } from '../workers/processPool.js';
import { WorkerPool } from '../workers/workerPool.js';
import { waveBeside } from './waveBeside.js';

export const RECORDING_JOB = 'recording';

/** Folder in which recordings lie as they came, until they are decoded. */
export const RECORDING_FOLDER = Symbol('RECORDING_FOLDER');

/** The media types of the recordings as they came (IANA; RFC 5334 for Ogg, RFC 9639 for FLAC). */
const MEDIA_TYPES: Readonly<Record<RecordingKind, string>> = {
  wav: 'audio/wav',
  mp3: 'audio/mpeg',
  vorbis: 'audio/ogg',
  opus: 'audio/ogg',
  flac: 'audio/flac',
  aac: 'audio/mp4',
};

/** An uploaded recording, as multer leaves it on the disk. */
export interface UploadedRecording {
  readonly originalname: string;
  readonly path: string;
  readonly size: number;
}

@Injectable()
export class RecordingService implements OnModuleInit {
  constructor(
    private readonly em: EntityManager,
    private readonly assets: AssetStore,
    private readonly jobs: JobService,
    private readonly workers: WorkerPool,
    @Inject(RECORDING_FOLDER) private readonly folder: string,
  ) {}

  onModuleInit(): void {
    mkdirSync(this.folder, { recursive: true });
    this.jobs.register(
      RECORDING_JOB,
      (run) => this.decode(run),
      (job) => rmSync(this.pathOf(job.id), { force: true }),
    );
  }

  async begin(file: UploadedRecording | undefined): Promise<Job> {
    if (!file || file.size === 0) {
      if (file) rmSync(file.path, { force: true });
      throw cannotUse('No recording came with this. Drop a recording, or choose one.');
    }
    const job = this.jobs.create(RECORDING_JOB, null, { fileName: nameOfUpload(file) });
    renameSync(file.path, this.pathOf(job.id));
    await this.em.flush();
    this.jobs.start(job.id);
    return job;
  }

  /** What a recording became; it must have been decoded. */
  async view(id: string): Promise<RecordingView> {
    const job = await this.em.findOne(Job, { id, kind: RECORDING_JOB });
    if (!job) throw notThere('recording');
    const { fileName, audio, lengthSamples } = job.request as unknown as RecordingView;
    if (job.state !== 'done') throw cannotUse(`The recording “${fileName}” is not ready: ${job.message} Wait for it, or send it again.`);
    return { id, fileName, audio, lengthSamples };
  }

  private async decode({ job, signal, report }: JobRun): Promise<string[]> {
    const path = this.pathOf(job.id);
    if (!existsSync(path)) throw new JobFailed('The recording did not arrive whole. Send it again.');
    try {
      const decoded = await this.workers.run<Decoded | Refusal>('decode', { path }, signal, report).catch((error: unknown) => {
        if (error instanceof Overstepped)
          throw new JobFailed(`This recording ${overstepInWords(error)}. Save it as WAV or FLAC, and send it again.`);
        throw error;
      });
      if (isRefusal(decoded)) throw new JobFailed(decoded.refusal);
      signal.throwIfAborted();
      report(0.97, 'Keeping it');
      const fileName = String(job.request['fileName']);
      const original = readFileSync(path);
      await this.assets.keep(original, MEDIA_TYPES[maybeKindOfRecording(original) ?? 'wav'], fileName);
      const { hash } = await this.assets.keep(readFileSync(decoded.wave), 'audio/wav', fileName);
      job.request = { fileName, audio: hash, lengthSamples: decoded.lengthSamples };
      return [...decoded.notes];
    } finally {
      // Stopped with the server it is decoded again when that comes back; ended otherwise, its file is no longer needed.
      if (!this.jobs.isStopping) rmSync(path, { force: true });
      rmSync(waveBeside(path), { force: true });
    }
  }

  private pathOf(jobId: string): string {
    return join(this.folder, jobId);
  }
}
