/**
 * Importing mouths: files are looked at in a worker, what was found is shown, and only what
 * is accepted is kept. Until then everything lies in a folder of the import's own, which
 * goes when it is accepted or given up, or a day later.
 */
import { EntityManager } from '@mikro-orm/knex';
import { Inject, Injectable, OnModuleInit } from '@nestjs/common';
import { PICTURE_FILE_LIMITS, type ImportView, type PlacedArt } from '@zest-jaw/core';
import type { ImportOptions } from '@zest-jaw/engine';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { AssetStore } from '../assets/asset.store.js';
import { nameOfUpload } from '../guard/nameOfUpload.js';
import { cannotUse, notThere } from '../guard/problem.js';
import { JobFailed, JobRun, JobService } from '../jobs/job.service.js';
import { MAX_UPLOAD_BYTES } from '../scenes/limits.js';
import { Job } from '../storage/entities.js';
import { fileOfMouth } from './foundFiles.js';
import type { ImportTask } from '../workers/import.worker.js';
import { Overstepped, overstepInWords } from '../workers/processPool.js';
import { WorkerPool, type WorkReport } from '../workers/workerPool.js';
import { ImportDto } from './import.dto.js';

export const IMPORT_JOB = 'import';

/** So many files that take too much end an import. */
const MOST_SPOILED = 3;

/** Folder that imports lie in until they are accepted. */
export const IMPORT_FOLDER = Symbol('IMPORT_FOLDER');

/** An uploaded file, as multer leaves it on the disk. */
export interface UploadedPicture {
  readonly originalname: string;
  readonly path: string;
  readonly size: number;
}

interface ImportJobRequest extends Record<string, unknown> {
  /** The import whose files these are: its own, or the one it looks at again. */
  readonly source: string;
  readonly files: readonly { readonly name: string; readonly path: string }[];
  readonly options: ImportOptions;
}

export function optionsOf({ cut, columns, rows, clearPaper, level }: ImportDto): ImportOptions {
  if (cut !== 'grid') return { cut: { how: cut }, clearPaper, ...(level !== undefined && { level }) };
  if (!columns || !rows) throw cannotUse('To cut by a grid, say how many columns and rows it has.');
  return { cut: { how: 'grid', columns, rows }, clearPaper };
}

@Injectable()
export class ImportService implements OnModuleInit {
  constructor(
    private readonly em: EntityManager,
    private readonly assets: AssetStore,
    private readonly jobs: JobService,
    private readonly workers: WorkerPool,
    @Inject(IMPORT_FOLDER) private readonly folder: string,
  ) {}

  onModuleInit(): void {
    mkdirSync(this.folder, { recursive: true });
    this.jobs.register(IMPORT_JOB, (run) => this.find(run));
  }

  async begin(dto: ImportDto, files: readonly UploadedPicture[]): Promise<Job> {
    try {
      if (files.length === 0) throw cannotUse('No picture came with this. Drop pictures, a folder of them or a zip, or choose some.');
      const size = files.reduce((sum, file) => sum + file.size, 0);
      if (size > MAX_UPLOAD_BYTES)
        throw cannotUse(
          `These files are ${Math.ceil(size / 1_048_576)} MB. An import may be ${MAX_UPLOAD_BYTES / 1_048_576} MB: choose fewer.`,
        );
      const options = optionsOf(dto);
      const job = this.jobs.create(IMPORT_JOB, null, {});
      const inbox = join(this.folder, job.id, 'in');
      mkdirSync(inbox, { recursive: true });
      const kept = files.map((file, index) => {
        const path = join(inbox, String(index));
        renameSync(file.path, path);
        return { name: nameOfUpload(file), path };
      });
      job.request = { source: job.id, files: kept, options } satisfies ImportJobRequest;
      await this.em.flush();
      this.jobs.start(job.id);
      return job;
    } finally {
      for (const file of files) rmSync(file.path, { force: true });
    }
  }

  /** Looks at the same files again, cut otherwise. */
  async again(id: string, dto: ImportDto): Promise<Job> {
    const before = await this.load(id);
    const { source, files } = before.request as ImportJobRequest;
    if (!existsSync(join(this.folder, source))) throw notThere('import');
    rmSync(this.outbox(id), { recursive: true, force: true });
    const job = this.jobs.create(IMPORT_JOB, null, { source, files, options: optionsOf(dto) } satisfies ImportJobRequest);
    await this.em.flush();
    this.jobs.start(job.id);
    return job;
  }

  async view(id: string): Promise<ImportView> {
    await this.load(id);
    const file = join(this.outbox(id), 'found.json');
    if (!existsSync(file)) throw notThere('import');
    return JSON.parse(readFileSync(file, 'utf8')) as ImportView;
  }

  async preview(id: string, index: number): Promise<Buffer> {
    await this.load(id);
    const file = fileOfMouth(this.outbox(id), index, 'preview');
    if (!existsSync(file)) throw notThere('picture');
    return readFileSync(file);
  }

  /** Keeps the pictures of some of the found mouths for good; answers with their art in the order asked for. */
  async accept(id: string, indexes: readonly number[]): Promise<PlacedArt[]> {
    const { mouths } = await this.view(id);
    const arts: PlacedArt[] = [];
    for (const index of indexes) {
      const mouth = mouths[index];
      if (!mouth) throw cannotUse(`There is no mouth ${index} in this import.`);
      const read = (which: 'picture' | 'preview'): Buffer => readFileSync(fileOfMouth(this.outbox(id), index, which));
      const bytes = read('picture');
      const mediaType = bytes[0] === 0x89 ? 'image/png' : 'image/svg+xml';
      const picture = await this.assets.keep(bytes, mediaType, mouth.file);
      const preview = await this.assets.keep(read('preview'), 'image/png', mouth.file);
      arts.push({ ...mouth.art, picture: picture.hash, preview: preview.hash });
    }
    await this.em.flush();
    await this.giveUp(id);
    return arts;
  }

  /** Ends an import, and takes away everything that lies there of it. */
  async giveUp(id: string): Promise<void> {
    const job = await this.load(id);
    await this.jobs.cancel(id);
    const { source } = job.request as ImportJobRequest;
    for (const folder of new Set([id, source])) rmSync(join(this.folder, folder), { recursive: true, force: true });
  }

  private async load(id: string): Promise<Job> {
    const job = await this.jobs.load(id);
    if (job.kind !== IMPORT_JOB) throw notThere('import');
    return job;
  }

  private outbox(id: string): string {
    return join(this.folder, id, 'out');
  }

  /** What is in the files; one that takes too much is told, left out, and the others are looked at again. */
  private async foundOf(
    task: Pick<ImportTask, 'files' | 'options' | 'folder'>,
    signal: AbortSignal,
    report: WorkReport,
  ): Promise<ImportView> {
    const spoiled = new Map<number, string>();
    for (;;) {
      let at: { part: number; doing: string } | undefined;
      const follow: WorkReport = (done, doing, part) => {
        if (part !== undefined) at = { part, doing };
        report(done, doing);
      };
      try {
        return await this.workers.run<ImportView>('import', { ...task, spoiled }, signal, follow);
      } catch (error) {
        if (!(error instanceof Overstepped)) throw error;
        if (!at) throw new JobFailed(`What was chosen ${overstepInWords(error)}. Choose fewer files.`);
        spoiled.set(at.part, saidOf(error, at.doing));
        if (spoiled.size === MOST_SPOILED) throw new JobFailed([...spoiled.values()].join(' '));
      }
    }
  }

  private async find({ job, signal, report }: JobRun): Promise<string[]> {
    const { files, options } = job.request as ImportJobRequest;
    if (!files?.every((file) => existsSync(file.path))) throw new JobFailed('The files are no longer here. Choose them again.');
    const folder = this.outbox(job.id);
    const found = await this.foundOf({ files, options, folder }, signal, report);
    signal.throwIfAborted();
    if (found.mouths.length === 0) {
      rmSync(join(this.folder, job.id), { recursive: true, force: true });
      const sentences = found.refused.map(({ sentence }) => sentence);
      throw new JobFailed(sentences.slice(0, 3).join(' ') || 'There is no mouth in these files.');
    }
    writeFileSync(join(folder, 'found.json'), JSON.stringify(found));
    return [...found.refused.map(({ sentence }) => sentence), ...found.warnings];
  }
}

/** What is said of a file that took too much. */
function saidOf(error: Overstepped, doing: string): string {
  return `${doing.replace(/, \d+ of \d+$/, '')} ${overstepInWords(error)}. Make it simpler or smaller, or export it as PNG.`;
}

/** The most files of one request. */
export const MOST_FILES = PICTURE_FILE_LIMITS.files;
