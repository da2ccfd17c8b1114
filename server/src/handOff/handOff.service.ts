/** Files made of a scene for those who go on with it: a printed sheet, sprites, a bundle. Each is a job like reading. */
import { EntityManager } from '@mikro-orm/knex';
import { Inject, Injectable, OnModuleInit } from '@nestjs/common';
import {
  chartIdsOfScene,
  nameOfLane,
  PLAIN_COUNTING,
  picturesOfChart,
  safeName,
  sceneSettings,
  type Refusal,
  type SceneDocument,
} from '@zest-jaw/core';
import type { Bundle } from '@zest-jaw/engine/hand-off';
import { existsSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { AssetStore } from '../assets/asset.store.js';
import { cannotUse, notThere } from '../guard/problem.js';
import { JobFailed, JobRun, JobService, type LetGo } from '../jobs/job.service.js';
import { mouthsFirst, SceneStore } from '../scenes/scene.store.js';
import { Character, Chart, Job, Production, Scene } from '../storage/entities.js';
import type { SheetTask, ShotsTask, SpritesTask } from '../workers/handOff.worker.js';
import { WorkerPool } from '../workers/workerPool.js';
import { HandOffDto, type HandOffKind } from './handOff.dto.js';
import { EXPORT_FOLDER, PictureService, PICTURES_JOB } from './picture.service.js';

const jobKind = (kind: HandOffKind): string => `hand-off ${kind}`;
const ENDINGS: Readonly<Record<string, string>> = {
  [jobKind('sheet')]: '.pdf',
  [jobKind('shots')]: '.pdf',
  [jobKind('sprites')]: '.zip',
  [jobKind('bundle')]: '.zip',
};

@Injectable()
export class HandOffService implements OnModuleInit {
  constructor(
    private readonly em: EntityManager,
    private readonly scenes: SceneStore,
    private readonly assets: AssetStore,
    private readonly jobs: JobService,
    private readonly workers: WorkerPool,
    private readonly pictures: PictureService,
    @Inject(EXPORT_FOLDER) private readonly folder: string,
  ) {}

  onModuleInit(): void {
    mkdirSync(this.folder, { recursive: true });
    const letGo: LetGo = (job) => rmSync(this.fileOf(job), { force: true });
    this.jobs.register(jobKind('sheet'), (run) => this.sheet(run), letGo);
    this.jobs.register(jobKind('shots'), (run) => this.shots(run), letGo);
    this.jobs.register(jobKind('sprites'), (run) => this.sprites(run), letGo);
    this.jobs.register(jobKind('bundle'), (run) => this.bundle(run), letGo);
  }

  async begin(sceneId: string, dto: HandOffDto): Promise<Job> {
    const { document } = await this.scenes.load(sceneId);
    if (dto.kind === 'sprites' && !(dto.chartId !== undefined && chartIdsOfScene(document).has(dto.chartId)))
      throw cannotUse('Sprites are made of a chart of the scene: say which.');
    if (dto.kind === 'shots' && !document.tracks.some(({ id }) => id === dto.trackId)) throw notThere('lane');
    const job = this.jobs.create(jobKind(dto.kind), sceneId, { ...dto, title: sceneSettings(document).title });
    await this.em.flush();
    this.jobs.start(job.id);
    return job;
  }

  async resultOf(job: Job): Promise<{ path: string; name: string }> {
    if (job.kind === PICTURES_JOB) return this.pictures.resultOf(job);
    const ending = ENDINGS[job.kind];
    if (ending === undefined || job.state !== 'done' || !existsSync(this.fileOf(job))) throw notThere('finished file');
    const kind = String(job.request['kind']);
    const what = { sheet: 'exposure sheet', shots: 'shooting list' }[kind] ?? kind;
    return { path: this.fileOf(job), name: `${safeName(`${String(job.request['title'])}, ${what}`)}${ending}` };
  }

  private fileOf(job: Job): string {
    return join(this.folder, `${job.id}${ENDINGS[job.kind]!}`);
  }

  async namesOf(document: SceneDocument): Promise<Map<string, Character>> {
    const ids = document.tracks.map(({ characterId }) => characterId);
    const characters = await this.em.find(Character, { id: { $in: [...ids, ...document.clips.map(({ characterId }) => characterId)] } });
    return new Map(characters.map((character) => [character.id, character]));
  }

  private async productionOf(job: Job): Promise<Production> {
    const scene = await this.em.findOneOrFail(Scene, { id: job.scene!.id }, { populate: ['production'] });
    return scene.production;
  }

  private async sheet({ job, signal, report }: JobRun): Promise<string[]> {
    const { paper = 'A4', counting = PLAIN_COUNTING, date = '' } = job.request as unknown as HandOffDto;
    const { document } = await this.scenes.load(job.scene!.id);
    const [charts, characters] = [await this.scenes.chartsOf(document), await this.namesOf(document)];
    const tracks = document.tracks.map((track) => ({
      trackId: track.id,
      name: nameOfLane(track, characters.get(track.characterId)?.name ?? 'Somebody'),
      charts,
    }));
    const recordings = new Map<string, Uint8Array>();
    for (const { audio } of document.clips) if (!recordings.has(audio)) recordings.set(audio, (await this.assets.load(audio)).bytes);
    const options = { paper, counting, date, production: (await this.productionOf(job)).name };
    const task: SheetTask = { file: this.fileOf(job), scene: document, tracks, options, recordings };
    await this.workers.run('handOff', task, signal, report, 'sheet');
    return [];
  }

  private async shots({ job, signal, report }: JobRun): Promise<string[]> {
    const { paper = 'A4', counting = PLAIN_COUNTING, date = '', trackId = '', cameraOn = 1 } = job.request as unknown as HandOffDto;
    const { document } = await this.scenes.load(job.scene!.id);
    const track = document.tracks.find(({ id }) => id === trackId);
    if (!track) throw new JobFailed('The lane is no longer in the scene. Choose another.');
    const [charts, characters] = [await this.scenes.chartsOf(document), await this.namesOf(document)];
    const character = nameOfLane(track, characters.get(track.characterId)?.name ?? 'Somebody');
    const options = { paper, counting, date, character, cameraOn, production: (await this.productionOf(job)).name };
    const task: ShotsTask = { file: this.fileOf(job), scene: document, trackId, charts, options };
    await this.workers.run('handOff', task, signal, report, 'shots');
    return [];
  }

  private async sprites({ job, signal, report }: JobRun): Promise<string[]> {
    const { chartId = '', cell = 256, powersOfTwo = false } = job.request as unknown as HandOffDto;
    const { document } = await this.scenes.load(job.scene!.id);
    const chart = (await this.scenes.chartsOf(document)).get(chartId);
    if (!chart) throw new JobFailed('The chart is no longer in the scene. Choose another.');
    const pictures = await this.assets.dataUris(picturesOfChart(chart));
    const task: SpritesTask = { file: this.fileOf(job), chart, options: { cell, powersOfTwo }, pictures };
    const refused = await this.workers.run<Refusal | undefined>('handOff', task, signal, report, 'sprites');
    if (refused) throw new JobFailed(refused.refusal);
    return [];
  }

  private async bundle({ job, signal, report }: JobRun): Promise<string[]> {
    const { document } = await this.scenes.load(job.scene!.id);
    const bundle = await this.bundleOf([document], await this.productionOf(job));
    await this.workers.run('handOff', { file: this.fileOf(job), bundle }, signal, report, 'bundle');
    return [];
  }

  /** Scenes with all they need. */
  async bundleOf(scenes: readonly SceneDocument[], production: Production): Promise<Bundle> {
    const characters = new Map<string, Character>();
    const chartIds = new Set<string>();
    const needed = new Set<string>();
    for (const scene of scenes) {
      for (const [id, character] of await this.namesOf(scene)) characters.set(id, character);
      for (const { audio } of scene.clips) needed.add(audio);
      // Charts as the scene sees them tell the pictures of its one-offs, too.
      for (const [id, chart] of await this.scenes.chartsOf(scene)) {
        chartIds.add(id);
        for (const hash of picturesOfChart(chart)) needed.add(hash);
      }
    }
    const rows = mouthsFirst(await this.em.find(Chart, { id: { $in: [...chartIds] } }));
    for (const row of rows) for (const hash of picturesOfChart(row.document)) needed.add(hash);
    const media: Bundle['media'][number][] = [];
    for (const hash of needed) {
      const { mediaType, fileName, bytes } = await this.assets.load(hash);
      media.push({ hash, mediaType, fileName, bytes });
    }
    return {
      made: new Date().toISOString(),
      production: { name: production.name, pronunciations: production.pronunciations },
      characters: [...characters.values()].map(({ id, name, accent }) => ({ id, name, accent })),
      charts: rows.map(({ id, characterId, name, document: chart }) => ({ id, characterId, name, document: chart })),
      scenes,
      media,
    };
  }
}
