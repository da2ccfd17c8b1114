/** Several scenes of a production handed off at once: one job, one zip, and a report of what could not be made. */
import { EntityManager } from '@mikro-orm/knex';
import { Inject, Injectable, OnModuleInit } from '@nestjs/common';
import {
  distinctNames,
  FILE_KINDS,
  fileNameOf,
  maybeFaultOfPattern,
  mouthLanes,
  nameOfLane,
  PICTURE_LIMITS,
  picturesOfChart,
  safeName,
  sceneSettings,
  type FileKindId,
  type SceneDocument,
} from '@zest-jaw/core';
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { AssetStore } from '../assets/asset.store.js';
import { cannotUse, notThere } from '../guard/problem.js';
import { JobRun, JobService } from '../jobs/job.service.js';
import { SceneStore } from '../scenes/scene.store.js';
import { Job, Production, Scene } from '../storage/entities.js';
import type { SceneFilesTask, WantedFile } from '../workers/several.worker.js';
import { WorkerPool } from '../workers/workerPool.js';
import { HandOffService } from './handOff.service.js';
import { EXPORT_FOLDER } from './picture.service.js';
import type { SeveralDto } from './several.dto.js';

export const SEVERAL_JOB = 'hand-off several';
/** The share of the work that packing is. */
const PACKING = 0.1;

type Name = (name: string, ending: string) => string;

@Injectable()
export class SeveralService implements OnModuleInit {
  constructor(
    private readonly em: EntityManager,
    private readonly scenes: SceneStore,
    private readonly assets: AssetStore,
    private readonly jobs: JobService,
    private readonly workers: WorkerPool,
    private readonly handOffs: HandOffService,
    @Inject(EXPORT_FOLDER) private readonly folder: string,
  ) {}

  onModuleInit(): void {
    this.jobs.register(SEVERAL_JOB, (run) => this.make(run));
  }

  async begin(productionId: string, dto: SeveralDto): Promise<Job> {
    const production = await this.em.findOne(Production, { id: productionId });
    if (!production) throw notThere('production');
    const fault = maybeFaultOfPattern(dto.pattern);
    if (fault) throw cannotUse(fault);
    const known = await this.em.count(Scene, { id: { $in: dto.sceneIds }, production: productionId });
    if (known !== dto.sceneIds.length)
      throw cannotUse(`Of the ${dto.sceneIds.length} scenes, ${known} are in this production. Reload the page and choose again.`);
    if (dto.wanted.includes('pictures')) await this.refuseTooMany(dto.sceneIds);
    const job = this.jobs.create(SEVERAL_JOB, null, { ...dto, productionId, name: production.name });
    await this.em.flush();
    this.jobs.start(job.id);
    return job;
  }

  /** Pictures are a file each, and a zip holds so many. */
  private async refuseTooMany(sceneIds: readonly string[]): Promise<void> {
    const scenes = await this.em.find(Scene, { id: { $in: [...sceneIds] } });
    const files = scenes.reduce((sum, { card }) => sum + (card?.lengthFrames ?? 0), 0);
    if (files > PICTURE_LIMITS.mostFiles)
      throw cannotUse(
        `The pictures of these scenes are ${files} or more, and a zip holds ${PICTURE_LIMITS.mostFiles}. Choose fewer scenes at once.`,
      );
  }

  resultOf(job: Job): { path: string; name: string } {
    if (job.state !== 'done' || !existsSync(this.fileOf(job))) throw notThere('finished file');
    const { sceneIds, name } = job.request as unknown as SeveralDto & { name: string };
    return { path: this.fileOf(job), name: `${safeName(`${name} ${sceneIds.length} scenes`)}.zip` };
  }

  private fileOf(job: Job): string {
    return join(this.folder, `${job.id}.zip`);
  }

  private async make({ job, signal, report }: JobRun): Promise<string[]> {
    const { sceneIds, wanted, productionId, ...options } = job.request as unknown as SeveralDto & { productionId: string };
    const production = await this.em.findOneOrFail(Production, { id: productionId });
    const folder = join(this.folder, job.id);
    // What an earlier start of this job left is half made.
    rmSync(folder, { recursive: true, force: true });
    mkdirSync(folder, { recursive: true });
    const faults: string[] = [];
    const documents: SceneDocument[] = [];
    const name = distinctNames();
    const kinds = FILE_KINDS.filter(({ id }) => wanted.includes(id));
    try {
      for (const [index, id] of sceneIds.entries()) {
        const share = (done: number): number => ((index + done) / sceneIds.length) * (1 - PACKING);
        try {
          signal.throwIfAborted();
          const { document: scene } = await this.scenes.load(id);
          const { title } = sceneSettings(scene);
          report(share(0), title);
          const task = await this.taskOf(scene, index + 1, folder, production.name, kinds, options, name);
          const tell = (done: number, doing: string): void => report(share(done), `${title}: ${doing}`);
          if (kinds.length > 0) faults.push(...(await this.workers.run<string[]>('several', task, signal, tell, 'files')));
          documents.push(scene);
        } catch (error) {
          if (signal.aborted) throw error;
          faults.push(`Scene ${index + 1} of the list is no longer here, or its record is damaged. Open it from home to see why.`);
        }
      }
      if (wanted.includes('bundle') && documents.length > 0) {
        const bundle = await this.handOffs.bundleOf(documents, production);
        await this.workers.run(
          'handOff',
          { file: join(folder, name(safeName(production.name), '.zip')), bundle },
          signal,
          undefined,
          'bundle',
        );
      }
      if (faults.length > 0) writeFileSync(join(folder, 'could not be made.txt'), `${faults.join('\n')}\n`);
      await this.workers.run(
        'several',
        { folder, file: this.fileOf(job) },
        signal,
        (done, doing) => report(1 - PACKING + PACKING * done, doing),
        'zip',
      );
    } catch (error) {
      rmSync(this.fileOf(job), { force: true });
      throw error;
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
    return faults;
  }

  private async taskOf(
    scene: SceneDocument,
    number: number,
    folder: string,
    production: string,
    kinds: readonly (typeof FILE_KINDS)[number][],
    { pattern, paper = 'A4', date = '', width = 1920, height = 1080, withHead = false }: Omit<SeveralDto, 'sceneIds' | 'wanted'>,
    name: Name,
  ): Promise<SceneFilesTask> {
    const [charts, characters] = [await this.scenes.chartsOf(scene), await this.handOffs.namesOf(scene)];
    const tracks = scene.tracks.map((track) => ({
      trackId: track.id,
      characterId: track.characterId,
      name: nameOfLane(track, characters.get(track.characterId)?.name ?? 'Somebody'),
      charts,
    }));
    const { title } = sceneSettings(scene);
    const file = (kind: FileKindId, what: string, ending: string, speaker: string, trackId: string): WantedFile => ({
      kind,
      trackId,
      path: name(fileNameOf(pattern, { production, scene: title, speaker, what, number }), ending),
      baseName: speaker.toLowerCase().replace(/[^\p{L}_-]/gu, '') || 'mouth',
    });
    const mouths = new Set(mouthLanes(scene).map(({ id }) => id));
    // A head has all of its parts on it already.
    const isOfMouths = (kind: (typeof kinds)[number]): boolean => 'ofSpeech' in kind || (kind.id === 'pictures' && withHead);
    const files = kinds.flatMap((kind) => {
      const { id, what, ending, ofLane } = kind;
      return ofLane
        ? tracks
            .filter(({ trackId }) => !isOfMouths(kind) || mouths.has(trackId))
            .map(({ trackId, name: speaker }) => file(id, what, ending, speaker, trackId))
        : [file(id, what, ending, '', tracks[0]?.trackId ?? '')];
    });
    const needsSound = kinds.some(({ id }) => id === 'sheet-pdf' || id === 'curves');
    const recordings = new Map<string, Uint8Array>();
    if (needsSound)
      for (const { audio } of scene.clips) if (!recordings.has(audio)) recordings.set(audio, (await this.assets.load(audio)).bytes);
    const hashes = new Set([...charts.values()].flatMap((chart) => [...picturesOfChart(chart)]));
    const pictures = kinds.some(({ id }) => id === 'pictures') ? await this.assets.dataUris(hashes) : new Map<string, string>();
    const pictureOptions = { width, height, withHead };
    return { folder, scene, tracks, charts, wanted: files, production, date, paper, recordings, pictures, pictureOptions };
  }
}
