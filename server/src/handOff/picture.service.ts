/** Numbered pictures of a track, as a zip file: a job like reading. */
import { EntityManager } from '@mikro-orm/knex';
import { Inject, Injectable, OnModuleInit } from '@nestjs/common';
import {
  checkPictureOptions,
  distinctNames,
  facesOfFrames,
  looksOfFrames,
  mouthLaneOf,
  mouthLanes,
  nameOfLane,
  picturesOfChart,
  safeName,
  sceneSettings,
} from '@zest-jaw/core';
import { existsSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { AssetStore } from '../assets/asset.store.js';
import { cannotUse, notThere } from '../guard/problem.js';
import { JobFailed, JobRun, JobService } from '../jobs/job.service.js';
import { PicturesDto } from '../scenes/scene.dto.js';
import { SceneStore } from '../scenes/scene.store.js';
import { Character, Job } from '../storage/entities.js';
import type { PicturesTask } from '../workers/pictures.worker.js';
import { WorkerPool } from '../workers/workerPool.js';

export const PICTURES_JOB = 'pictures';

/** Folder that finished zip files are put in. */
export const EXPORT_FOLDER = Symbol('EXPORT_FOLDER');

@Injectable()
export class PictureService implements OnModuleInit {
  constructor(
    private readonly em: EntityManager,
    private readonly scenes: SceneStore,
    private readonly assets: AssetStore,
    private readonly jobs: JobService,
    private readonly workers: WorkerPool,
    @Inject(EXPORT_FOLDER) private readonly folder: string,
  ) {}

  onModuleInit(): void {
    mkdirSync(this.folder, { recursive: true });
    this.jobs.register(
      PICTURES_JOB,
      (run) => this.render(run),
      (job) => rmSync(this.fileOf(job), { force: true }),
    );
  }

  async begin(sceneId: string, dto: PicturesDto): Promise<Job> {
    const { document } = await this.scenes.load(sceneId);
    if (!document.tracks.some((track) => track.id === dto.trackId)) throw notThere('track');
    const [fault] = checkPictureOptions(dto, sceneSettings(document).lengthFrames);
    if (fault) throw cannotUse(fault);
    if (dto.lanes === 'together' && (dto.template || dto.which === 'chart'))
      throw cannotUse(
        'All lanes on one picture are of frames, with their heads or alone. Leave out the template and the drawings of the chart.',
      );
    const job = this.jobs.create(PICTURES_JOB, sceneId, { ...dto });
    await this.em.flush();
    this.jobs.start(job.id);
    return job;
  }

  async resultOf(job: Job): Promise<{ path: string; name: string }> {
    const path = this.fileOf(job);
    if (job.kind !== PICTURES_JOB || job.state !== 'done' || !existsSync(path)) throw notThere('finished file');
    return { path, name: `${String(job.request['baseName'])}.zip` };
  }

  private fileOf(job: Job): string {
    return join(this.folder, `${job.id}.zip`);
  }

  private async render({ job, signal, report }: JobRun): Promise<string[]> {
    const { trackId, lanes = 'this', baseName, ...options } = job.request as unknown as PicturesDto;
    const { document } = await this.scenes.load(job.scene!.id);
    const mouths = mouthLanes(document);
    // With their heads the other parts of a face are on its picture already.
    const each = options.withHead ? mouths : document.tracks;
    const tracks =
      lanes === 'each'
        ? each
        : lanes === 'together'
          ? mouths.slice(0, 1)
          : document.tracks.filter(({ id }) => id === trackId).map((lane) => (options.withHead ? mouthLaneOf(document, lane) : lane));
    const looks = options.withHead ? facesOfFrames : looksOfFrames;
    const charts = await this.scenes.chartsOf(document);
    if (tracks.length === 0 || charts.size === 0) throw new JobFailed('The track or its mouth chart is no longer in the scene.');
    const names = await this.em.find(Character, { id: { $in: tracks.map(({ characterId }) => characterId) } });
    const folderOf = distinctNames();
    const task: Omit<PicturesTask, 'progress'> = {
      file: this.fileOf(job),
      lanes: tracks.map((track) => {
        const beside = lanes === 'together' ? mouths.slice(1) : [];
        const speaker = names.find(({ id }) => id === track.characterId)?.name ?? 'Somebody';
        return {
          folder: lanes === 'each' ? `${folderOf(safeName(nameOfLane(track, speaker)), '')}/` : '',
          frames: looks(document, track.id, charts),
          // The track's own chart first: it is the one whose drawings are written each once.
          charts: new Map([...charts].sort(([a], [b]) => Number(b === track.chartId) - Number(a === track.chartId))),
          baseName,
          ...(beside.length > 0 && {
            others: beside.map(({ id, chartId }) => ({ chartId, frames: looks(document, id, charts) })),
          }),
        };
      }),
      options,
      pictures: await this.assets.dataUris(
        new Set([
          ...[...charts.values()].flatMap((chart) => [...picturesOfChart(chart)]),
          ...(options.template ? [options.template.picture] : []),
        ]),
      ),
    };
    await this.workers.run('pictures', task, signal, report);
    return [];
  }
}
