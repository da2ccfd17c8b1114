/** Checks scenes that were not checked since they were changed, one at a time. */
import { EntityManager } from '@mikro-orm/knex';
import { Injectable } from '@nestjs/common';
import type { NoteCounts } from '@zest-jaw/core';
import { AssetStore } from '../assets/asset.store.js';
import { notThere } from '../guard/problem.js';
import { SceneStore } from '../scenes/scene.store.js';
import { Production, Scene } from '../storage/entities.js';
import { WorkerPool } from '../workers/workerPool.js';

@Injectable()
export class CheckService {
  constructor(
    private readonly em: EntityManager,
    private readonly scenes: SceneStore,
    private readonly assets: AssetStore,
    private readonly workers: WorkerPool,
  ) {}

  /** Checks the next scene of a production that needs it. @returns how many are left */
  async checkNext(productionId: string): Promise<{ left: number }> {
    const production = await this.em.findOne(Production, { id: productionId });
    if (!production) throw notThere('production');
    const rows = await this.em.find(Scene, { production: productionId }, { orderBy: { touchedAt: 'desc' } });
    const stale = rows.filter(({ notes, revision, card }) => notes?.revision !== revision && card?.fault === undefined);
    const [next] = stale;
    if (!next) return { left: 0 };
    const { document, revision } = await this.scenes.load(next.id);
    const waves = new Map<string, Uint8Array>();
    for (const { audio } of document.clips) if (!waves.has(audio)) waves.set(audio, Uint8Array.from((await this.assets.load(audio)).bytes));
    const charts = await this.scenes.chartsOf(document);
    const task = { scene: document, charts, limits: production.limits, waves };
    const counts = await this.workers.run<Omit<NoteCounts, 'revision'>>('check', task, new AbortController().signal);
    const kept = await this.em.findOne(Scene, { id: next.id });
    // Somebody may have removed it, or have told a newer count meanwhile.
    if (kept && (kept.notes?.revision ?? -1) <= revision) kept.notes = { revision, ...counts };
    await this.em.flush();
    return { left: stale.length - 1 };
  }
}
