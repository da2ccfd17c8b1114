/** A new scene from a recording that has been decoded; its reading starts at once. */
import { EntityManager } from '@mikro-orm/knex';
import { Injectable } from '@nestjs/common';
import { checkReading, DEFAULT_RULES, FRAME_RATE_LIMITS, maybeFrameRate, newScene, type Reading } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { cannotUse, notThere } from '../guard/problem.js';
import { JobService } from '../jobs/job.service.js';
import { RecordingService } from '../recordings/recording.service.js';
import { Character, Scene } from '../storage/entities.js';
import { READING_JOB } from './reading.service.js';
import { NewSceneDto } from './scene.dto.js';
import { SceneStore } from './scene.store.js';
import { refreshCard } from './sceneCard.js';

/** What a request gives of a reading, as the job keeps it; a problem where it is no reading of this recording. */
export function givenOf({ lines, reading }: Pick<NewSceneDto, 'lines' | 'reading'>, lengthSamples: number): Record<string, unknown> {
  if (reading) {
    const [fault] = checkReading(reading);
    if (fault) throw cannotUse(fault);
    if ((reading as Reading).durationSamples !== lengthSamples)
      throw cannotUse(
        `The reading is of ${(reading as Reading).durationSamples} samples, the recording has ${lengthSamples}. Make the labels into a reading of this recording.`,
      );
  }
  return { ...(lines && { lines }), ...(reading && { reading }) };
}

export interface StartedScene {
  readonly sceneId: string;
  readonly jobId: string;
}

@Injectable()
export class SceneUploadService {
  constructor(
    private readonly em: EntityManager,
    private readonly recordings: RecordingService,
    private readonly scenes: SceneStore,
    private readonly jobs: JobService,
  ) {}

  async create(dto: NewSceneDto): Promise<StartedScene> {
    const frameRate = maybeFrameRate(dto.frameRate);
    if (!frameRate)
      throw cannotUse(
        `The frame rate is “${dto.frameRate}”. It may be ${FRAME_RATE_LIMITS.slowest} to ${FRAME_RATE_LIMITS.fastest} frames a second, such as 24 or 29.97.`,
      );
    const character = await this.em.findOne(Character, { id: dto.characterId }, { populate: ['chart'] });
    if (!character) throw notThere('character');
    const { audio, fileName, lengthSamples } = await this.recordings.view(dto.recordingId);
    const document = newScene({
      title: dto.title?.trim() || fileName.replace(/\.[^.]*$/, '') || 'New scene',
      frameRate,
      firstFrame: dto.firstFrame ?? 1,
      chartId: character.chart.id,
      chart: character.chart.document,
      rules: { ...DEFAULT_RULES, holdFrames: dto.holdFrames ?? DEFAULT_RULES.holdFrames, strict: dto.strict ?? DEFAULT_RULES.strict },
      clip: { characterId: character.id, audio, fileName, lengthSamples, script: dto.script, language: dto.language ?? 'en' },
    });
    await this.scenes.check(document);
    const id = randomUUID();
    const scene = this.em.create(Scene, {
      id,
      production: character.production,
      title: document.settings[0]!.title,
      document,
      revision: 0,
      createdAt: new Date(),
      touchedAt: new Date(),
    });
    refreshCard(scene);
    this.em.persist(scene);
    const job = this.jobs.create(READING_JOB, id, { clipId: document.clips[0]!.id, ...givenOf(dto, lengthSamples) });
    await this.em.flush();
    this.jobs.start(job.id);
    return { sceneId: id, jobId: job.id };
  }
}
