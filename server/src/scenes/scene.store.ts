/**
 * Scenes and their revisions. Every change, whoever makes it, is a patch applied in one
 * transaction: the revision row and the document are written together or not at all.
 */
import { EntityManager } from '@mikro-orm/libsql';
import { Injectable } from '@nestjs/common';
import {
  applyPatch,
  checkScene,
  PatchMismatch,
  SCENE_KIND,
  sceneSettings,
  type ChartDocument,
  type Patch,
  type RevisionView,
  type SceneDocument,
} from '@zest-jaw/core';
import { cannotUse, notThere, staleBase } from '../guard/problem.js';
import { Chart, Revision, Scene } from '../storage/entities.js';

export interface Applied {
  readonly revision: number;
  readonly document: SceneDocument;
}

@Injectable()
export class SceneStore {
  constructor(private readonly em: EntityManager) {}

  async load(id: string): Promise<Scene> {
    const scene = await this.em.findOne(Scene, { id }, { populate: ['document'] });
    if (!scene) throw notThere('scene');
    return scene;
  }

  /** The charts of a document's tracks, by id. */
  async chartsOf(document: SceneDocument): Promise<Map<string, ChartDocument>> {
    const charts = await this.em.find(Chart, { id: { $in: document.tracks.map((track) => track.chartId) } });
    return new Map(charts.map((chart) => [chart.id, chart.document]));
  }

  /** Refuses a document that breaks an invariant, with the first sentence of what is wrong. */
  async check(document: SceneDocument): Promise<void> {
    const [fault] = checkScene(document, await this.chartsOf(document));
    if (fault) throw cannotUse(fault);
  }

  async patchesSince(sceneId: string, revision: number): Promise<RevisionView[]> {
    const rows = await this.em.find(Revision, { scene: sceneId, revision: { $gt: revision } }, { orderBy: { revision: 'asc' } });
    return rows.map((row) => ({ revision: row.revision, patch: row.patch }));
  }

  /**
   * Applies a client's patch. The same patch id again answers with the revision it got the
   * first time; a stale base answers 409 with the patches since.
   */
  apply(sceneId: string, baseRevision: number, patch: Patch): Promise<Applied> {
    return this.inTransaction(async (store) => {
      const scene = await store.load(sceneId);
      const known = await store.em.findOne(Revision, { scene: sceneId, patchId: patch.id });
      if (known) return { revision: known.revision, document: scene.document };
      if (baseRevision !== scene.revision) throw staleBase(baseRevision, scene.revision, await store.patchesSince(sceneId, baseRevision));
      return store.write(scene, patch);
    });
  }

  /** Applies a patch that the server makes from the document as it is. */
  applyOwn(sceneId: string, makePatch: (document: SceneDocument, charts: ReadonlyMap<string, ChartDocument>) => Patch): Promise<Applied> {
    return this.inTransaction(async (store) => {
      const scene = await store.load(sceneId);
      const patch = makePatch(scene.document, await store.chartsOf(scene.document));
      if (patch.ops.length === 0) return { revision: scene.revision, document: scene.document };
      return store.write(scene, patch);
    });
  }

  /** SQLite has one connection: everything in a transaction must go through the transaction's own entity manager, or it waits for itself. */
  private inTransaction<Answer>(work: (store: SceneStore) => Promise<Answer>): Promise<Answer> {
    return this.em.transactional((em) => work(new SceneStore(em as EntityManager)));
  }

  private async write(scene: Scene, patch: Patch): Promise<Applied> {
    let document: SceneDocument;
    try {
      document = applyPatch(SCENE_KIND, scene.document, patch);
    } catch (error) {
      if (error instanceof PatchMismatch) throw cannotUse(`${error.message} Reload the scene and make the change again.`);
      throw error;
    }
    await this.check(document);
    scene.document = document;
    scene.title = sceneSettings(document).title;
    scene.revision += 1;
    scene.touchedAt = new Date();
    this.em.persist(this.em.create(Revision, { scene, revision: scene.revision, patchId: patch.id, patch, at: new Date() }));
    await this.em.flush();
    return { revision: scene.revision, document };
  }
}
