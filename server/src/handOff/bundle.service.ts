/** Bundles that come in: beside what is there, never over it. */
import { EntityManager } from '@mikro-orm/knex';
import { Inject, Injectable, OnModuleInit } from '@nestjs/common';
import { isPartChart, PLAIN_ACCENT, sameJson, sceneSettings, type ChartDocument, type Refusal, type SceneDocument } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { AssetStore } from '../assets/asset.store.js';
import { ChartStore } from '../charts/chart.store.js';
import { nameOfUpload } from '../guard/nameOfUpload.js';
import { cannotUse, notThere, Problem } from '../guard/problem.js';
import { IMPORT_FOLDER } from '../imports/import.service.js';
import { JobFailed, JobService, type JobRun } from '../jobs/job.service.js';
import { SceneStore } from '../scenes/scene.store.js';
import { keepCard } from '../scenes/sceneCard.js';
import { Character, Chart, Job, Production, Scene } from '../storage/entities.js';
import type { UnpackedBundle, UnpackTask } from '../workers/bundle.worker.js';
import { Overstepped, overstepInWords } from '../workers/processPool.js';
import { WorkerPool } from '../workers/workerPool.js';

export const BUNDLE_JOB = 'bundle';

const NONE_CAME = 'No bundle came with this. Choose the zip that Hand off made.';

/** An uploaded bundle, as multer leaves it on the disk. */
export interface UploadedBundle {
  readonly originalname: string;
  readonly path: string;
}

/** What a bundle became. */
export interface OpenedBundle {
  readonly productionId: string;
  readonly sceneIds: readonly string[];
  /** Names of charts that are new here. */
  readonly charts: readonly string[];
}

/** What the ids of a bundle are here. */
interface Ids {
  readonly characters: ReadonlyMap<string, string>;
  readonly charts: ReadonlyMap<string, string>;
}

/** A scene with the characters and charts of here. */
function renamed(scene: SceneDocument, { characters, charts }: Ids, title: string): SceneDocument {
  const whose = <T extends { readonly characterId: string }>(one: T): T => ({
    ...one,
    characterId: characters.get(one.characterId) ?? one.characterId,
  });
  const on = <T extends { readonly chartId: string }>(one: T): T => ({ ...one, chartId: charts.get(one.chartId) ?? one.chartId });
  return {
    ...scene,
    settings: [{ ...sceneSettings(scene), title }],
    clips: scene.clips.map(whose),
    marks: scene.marks.map(whose),
    tracks: scene.tracks.map((track) => on(whose(track))),
    views: scene.views.map(on),
    oneOffs: scene.oneOffs.map(on),
  };
}

/** A chart whose head has its parts on the charts of here. */
function onChartsOfHere(chart: ChartDocument, charts: ReadonlyMap<string, string>): ChartDocument {
  const [head] = chart.head;
  if (!head?.parts) return chart;
  return {
    ...chart,
    head: [{ ...head, parts: head.parts.map((part) => ({ ...part, chartId: charts.get(part.chartId) ?? part.chartId })) }],
  };
}

@Injectable()
export class BundleService implements OnModuleInit {
  constructor(
    private readonly em: EntityManager,
    private readonly assets: AssetStore,
    private readonly charts: ChartStore,
    private readonly scenes: SceneStore,
    private readonly workers: WorkerPool,
    private readonly jobs: JobService,
    // Beside files of mouths that come in: both are kept for as long as their work wants them.
    @Inject(IMPORT_FOLDER) private readonly folder: string,
  ) {}

  onModuleInit(): void {
    mkdirSync(this.folder, { recursive: true });
    this.jobs.register(
      BUNDLE_JOB,
      (run) => this.open(run),
      (job) => this.clear(job.id),
    );
  }

  /** Takes a bundle up, to be opened as a job. */
  async begin(file: UploadedBundle | undefined): Promise<Job> {
    if (!file) throw cannotUse(NONE_CAME);
    const job = this.jobs.create(BUNDLE_JOB, null, { fileName: nameOfUpload(file) });
    renameSync(file.path, this.pathOf(job.id));
    await this.em.flush();
    this.jobs.start(job.id);
    return job;
  }

  /** What a bundle became; it must have been opened. */
  async openedBy(id: string): Promise<OpenedBundle> {
    const job = await this.em.findOne(Job, { id, kind: BUNDLE_JOB });
    if (!job) throw notThere('bundle');
    if (job.state !== 'done') throw cannotUse(`The bundle “${String(job.request['fileName'])}” is not open: ${job.message}`);
    return job.request['opened'] as OpenedBundle;
  }

  /** What is in a bundle, nothing of it kept. */
  async scenesOf(file: UploadedBundle | undefined): Promise<readonly SceneDocument[]> {
    if (!file) throw cannotUse(NONE_CAME);
    try {
      return (await this.unpacked({ path: file.path }, new AbortController().signal)).scenes;
    } catch (error) {
      throw error instanceof JobFailed ? cannotUse(error.message) : error;
    } finally {
      rmSync(file.path, { force: true });
    }
  }

  private async open({ job, signal, report }: JobRun): Promise<string[]> {
    const path = this.pathOf(job.id);
    if (!existsSync(path)) throw new JobFailed('The bundle did not arrive whole. Open it again.');
    try {
      const mediaFolder = this.mediaOf(job.id);
      const bundle = await this.unpacked({ path, mediaFolder }, signal, report);
      // Files first, each by itself: what is not used in the end goes in time.
      for (const [index, { hash, mediaType, fileName }] of bundle.media.entries()) {
        signal.throwIfAborted();
        report(0.4 + (0.5 * index) / bundle.media.length, `Keeping its files, ${index + 1} of ${bundle.media.length}`);
        await this.assets.keep(readFileSync(join(mediaFolder, hash)), mediaType, fileName.slice(-200));
      }
      signal.throwIfAborted();
      report(0.9, 'Keeping its scenes');
      const opened = await this.em
        .transactional(() => this.keep(bundle))
        .catch((error: unknown) => {
          throw error instanceof Problem ? new JobFailed(error.message) : error;
        });
      job.request = { ...job.request, opened };
      return [];
    } finally {
      // Stopped with the server it is opened again when that comes back.
      if (!this.jobs.isStopping) this.clear(job.id);
    }
  }

  private async unpacked(
    task: Omit<UnpackTask, 'progress'>,
    signal: AbortSignal,
    report?: (done: number, doing: string) => void,
  ): Promise<UnpackedBundle> {
    const bundle = await this.workers.run<UnpackedBundle | Refusal>('bundle', task, signal, report).catch((error: unknown) => {
      throw error instanceof Overstepped ? new JobFailed(`This bundle ${overstepInWords(error)}. Pack fewer scenes at a time.`) : error;
    });
    if ('refusal' in bundle) throw new JobFailed(bundle.refusal);
    return bundle;
  }

  private pathOf(jobId: string): string {
    return join(this.folder, `${jobId}.zip`);
  }

  private mediaOf(jobId: string): string {
    return join(this.folder, `${jobId}.media`);
  }

  private clear(jobId: string): void {
    for (const path of [this.pathOf(jobId), this.mediaOf(jobId)]) rmSync(path, { recursive: true, force: true });
  }

  /** Its documents, all of them, or nothing. */
  private async keep(bundle: UnpackedBundle): Promise<OpenedBundle> {
    const production = await this.production(bundle);
    const { ids, fresh } = await this.chartsAndCharacters(bundle, production);
    await this.em.flush();
    const titles = new Set((await this.em.find(Scene, { production: production.id })).map((scene) => scene.title));
    const sceneIds: string[] = [];
    for (const scene of bundle.scenes) {
      const base = sceneSettings(scene).title.slice(0, 180);
      let title = base;
      for (let count = 2; titles.has(title); count++) title = `${base} ${count}`;
      titles.add(title);
      const document = renamed(scene, ids, title);
      const missing = await this.assets.missing(new Set(document.clips.map(({ audio }) => audio)));
      if (missing.length > 0) throw cannotUse(`${missing.length} recordings of “${base}” are not in the bundle. Pack it again.`);
      await this.scenes.check(document);
      const id = randomUUID();
      const row = this.em.create(Scene, { id, production, title, document, revision: 0, createdAt: new Date(), touchedAt: new Date() });
      keepCard(row);
      this.em.persist(row);
      sceneIds.push(id);
    }
    await this.em.flush();
    return { productionId: production.id, sceneIds, charts: fresh };
  }

  /** The production of that name, or a new one. */
  private async production({ production: { name, pronunciations } }: UnpackedBundle): Promise<Production> {
    const known = await this.em.findOne(Production, { name });
    if (known) return known;
    const made = this.em.create(Production, {
      id: randomUUID(),
      name: name.slice(0, 80) || 'From a bundle',
      pronunciations: [...pronunciations],
      feels: [],
      maps: [],
      limits: {},
    });
    this.em.persist(made);
    return made;
  }

  /** A chart that is here to the letter is that one; another of the same name comes beside it. */
  private async chartsAndCharacters(bundle: UnpackedBundle, production: Production): Promise<{ ids: Ids; fresh: string[] }> {
    const [characters, charts, fresh] = [new Map<string, string>(), new Map<string, string>(), [] as string[]];
    for (const { id, name, accent } of bundle.characters) {
      const own = bundle.charts
        .filter((chart) => chart.characterId === id)
        .sort((a, b) => Number(isPartChart(b.document)) - Number(isPartChart(a.document)));
      const known = await this.em.findOne(Character, { name, production: production.id });
      const characterId = known?.id ?? randomUUID();
      characters.set(id, characterId);
      for (const chart of own) {
        // Its parts' charts came before it.
        const document = onChartsOfHere(chart.document, charts);
        await this.charts.checkPictures(document);
        const same = (await this.em.find(Chart, { characterId })).find((one) => sameJson(one.document, document));
        charts.set(chart.id, same?.id ?? this.freshChart(characterId, chart.name, document));
        if (!same) fresh.push(chart.name);
      }
      const first = own.find((chart) => !isPartChart(chart.document));
      if (known || !first) continue;
      const row =
        this.em.getUnitOfWork().getById<Chart>(Chart.name, charts.get(first.id)!) ??
        (await this.em.findOneOrFail(Chart, { id: charts.get(first.id)! }));
      this.em.persist(
        this.em.create(Character, { id: characterId, name: name.slice(0, 80), production, chart: row, accent: accent ?? PLAIN_ACCENT }),
      );
    }
    return { ids: { characters, charts }, fresh };
  }

  private freshChart(characterId: string, name: string, document: ChartDocument): string {
    const id = randomUUID();
    this.em.persist(this.em.create(Chart, { id, characterId, name: name.slice(0, 80), document, revision: 0 }));
    return id;
  }
}
