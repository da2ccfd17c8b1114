/** A new scene from a recording: decoded once, kept by content, its reading started. */
import { EntityManager } from '@mikro-orm/libsql';
import { Injectable } from '@nestjs/common';
import {
  DEFAULT_RULES,
  FRAME_RATE_LIMITS,
  isRefusal,
  maybeFrameRate,
  maybeKindOfRecording,
  newScene,
  scriptWords,
  type RecordingKind,
  type Refusal,
} from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { AssetStore } from '../assets/asset.store.js';
import { cannotUse, notThere } from '../guard/problem.js';
import { JobService } from '../jobs/job.service.js';
import { Character, Scene } from '../storage/entities.js';
import type { Decoded } from '../workers/decode.worker.js';
import { WorkerPool } from '../workers/workerPool.js';
import { READING_JOB } from './reading.service.js';
import { NewSceneDto } from './scene.dto.js';
import { SceneStore } from './scene.store.js';

/** The media types of the recordings as they came (IANA; RFC 5334 for Ogg, RFC 9639 for FLAC). */
const MEDIA_TYPES: Readonly<Record<RecordingKind, string>> = {
  wav: 'audio/wav',
  mp3: 'audio/mpeg',
  vorbis: 'audio/ogg',
  opus: 'audio/ogg',
  flac: 'audio/flac',
  aac: 'audio/mp4',
};

export interface StartedScene {
  readonly sceneId: string;
  readonly jobId: string;
}

@Injectable()
export class SceneUploadService {
  constructor(
    private readonly em: EntityManager,
    private readonly assets: AssetStore,
    private readonly scenes: SceneStore,
    private readonly jobs: JobService,
    private readonly workers: WorkerPool,
  ) {}

  async create(dto: NewSceneDto, file: { originalname: string; buffer: Buffer } | undefined): Promise<StartedScene> {
    if (!file || file.buffer.length === 0) throw cannotUse('No recording came with this. Drop a recording, or choose one.');
    const frameRate = maybeFrameRate(dto.frameRate);
    if (!frameRate)
      throw cannotUse(
        `The frame rate is “${dto.frameRate}”. It may be ${FRAME_RATE_LIMITS.slowest} to ${FRAME_RATE_LIMITS.fastest} frames a second, such as 24 or 29.97.`,
      );
    if (scriptWords(dto.script, dto.language).length === 0)
      throw cannotUse('The script has no words in it. Type the line as it is spoken; directions in brackets are not read.');
    const character = await this.em.findOne(Character, { id: dto.characterId }, { populate: ['chart'] });
    if (!character) throw notThere('character');
    const decoded = await this.workers.run<Decoded | Refusal>(
      'decode',
      { bytes: Uint8Array.from(file.buffer) },
      new AbortController().signal,
    );
    if (isRefusal(decoded)) throw cannotUse(decoded.refusal);
    // Browsers send file names as UTF-8, which multer reads as Latin-1.
    const fileName = Buffer.from(file.originalname, 'latin1').toString('utf8').slice(0, 200);
    await this.assets.keep(file.buffer, MEDIA_TYPES[maybeKindOfRecording(file.buffer) ?? 'wav'], fileName);
    const audio = await this.assets.keep(decoded.wave, 'audio/wav', fileName);
    const document = newScene({
      title: dto.title?.trim() || fileName.replace(/\.[^.]*$/, '') || 'New scene',
      frameRate,
      firstFrame: dto.firstFrame ?? 1,
      chartId: character.chart.id,
      chart: character.chart.document,
      rules: { ...DEFAULT_RULES, holdFrames: dto.holdFrames ?? DEFAULT_RULES.holdFrames, strict: dto.strict ?? DEFAULT_RULES.strict },
      clip: {
        characterId: character.id,
        audio: audio.hash,
        fileName,
        lengthSamples: decoded.lengthSamples,
        script: dto.script,
        language: dto.language ?? 'en',
      },
    });
    await this.scenes.check(document);
    const id = randomUUID();
    this.em.persist(
      this.em.create(Scene, {
        id,
        production: character.production,
        title: document.settings[0]!.title,
        document,
        revision: 0,
        createdAt: new Date(),
        touchedAt: new Date(),
      }),
    );
    const job = this.jobs.create(READING_JOB, id, { clipId: document.clips[0]!.id });
    await this.em.flush();
    this.jobs.start(job.id);
    return { sceneId: id, jobId: job.id };
  }
}
