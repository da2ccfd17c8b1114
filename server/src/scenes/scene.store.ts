/** Scenes as documents with revisions. */
import { Injectable } from '@nestjs/common';
import {
  chartIdsOfScene,
  chartsWithOneOffs,
  checkScene,
  isPartChart,
  partChartIds,
  SCENE_KIND,
  sceneSettings,
  type ChartDocument,
  type Patch,
  type SceneDocument,
} from '@zest-jaw/core';
import { Applied, DocumentStore } from '../documents/document.store.js';
import { cannotUse } from '../guard/problem.js';
import { refreshCard } from './sceneCard.js';
import { Chart, Revision, Scene } from '../storage/entities.js';

/** Charts of mouths before those of other parts of a face. */
export const mouthsFirst = <C extends { readonly document: ChartDocument }>(charts: readonly C[]): C[] =>
  [...charts].sort((a, b) => Number(isPartChart(a.document)) - Number(isPartChart(b.document)));

@Injectable()
export class SceneStore extends DocumentStore<SceneDocument, Scene> {
  protected readonly noun = 'scene';
  protected readonly kind = SCENE_KIND;
  protected readonly shape = 'scene';
  protected readonly rows = Scene;
  protected readonly revisions = Revision;
  protected readonly owner = 'scene';
  protected readonly table = 'scenes';

  /** The charts of a document and of the parts of its faces, by id, as it sees them: with its one-offs. */
  async chartsOf(document: SceneDocument): Promise<ReadonlyMap<string, ChartDocument>> {
    const own = await this.em.find(Chart, { id: { $in: [...chartIdsOfScene(document)] } });
    const parts = partChartIds(own.map((chart) => chart.document));
    const further = parts.size > 0 ? await this.em.find(Chart, { id: { $in: [...parts] } }) : [];
    return chartsWithOneOffs(document, new Map(mouthsFirst([...own, ...further]).map((chart) => [chart.id, chart.document])));
  }

  async check(document: SceneDocument): Promise<void> {
    const [fault] = checkScene(document, await this.chartsOf(document));
    if (fault) throw cannotUse(fault);
  }

  /** Applies a patch that needs the scene's charts to be made. */
  applyWithCharts(
    id: string,
    makePatch: (document: SceneDocument, charts: ReadonlyMap<string, ChartDocument>) => Patch,
  ): Promise<Applied<SceneDocument>> {
    return this.applyOwn(id, async (document) => makePatch(document, await this.chartsOf(document)));
  }

  protected touch(scene: Scene): void {
    scene.title = sceneSettings(scene.document).title;
    scene.touchedAt = new Date();
    refreshCard(scene);
  }
}
