/** Mouth charts as documents with revisions. A drawing that a scene shows cannot be taken from under it. */
import { EntityManager } from '@mikro-orm/knex';
import { Injectable } from '@nestjs/common';
import { CHART_KIND, chartSettings, checkChart, drawingsUsed, picturesOfChart, type ChartDocument } from '@zest-jaw/core';
import { AssetStore } from '../assets/asset.store.js';
import { DocumentStore } from '../documents/document.store.js';
import { cannotUse } from '../guard/problem.js';
import { Chart, ChartRevision, Scene } from '../storage/entities.js';

@Injectable()
export class ChartStore extends DocumentStore<ChartDocument, Chart> {
  protected readonly noun = 'mouth chart';
  protected readonly kind = CHART_KIND;
  protected readonly shape = 'chart';
  protected readonly rows = Chart;
  protected readonly revisions = ChartRevision;
  protected readonly owner = 'chart';
  protected readonly table = 'charts';

  constructor(
    em: EntityManager,
    private readonly assets: AssetStore,
  ) {
    super(em);
  }

  /** The scenes whose mouths are on a chart, whole; the others are not read. */
  private scenesOn(chartId: string): Promise<Scene[]> {
    return this.em.find(
      Scene,
      { $or: [{ charts: null }, { charts: { $like: `%"${chartId}"%` } }] },
      { populate: ['document'], orderBy: { title: 'asc' } },
    );
  }

  /** The titles of the scenes that show each drawing of a chart. */
  async usesOf(chartId: string): Promise<Map<string, string[]>> {
    const uses = new Map<string, string[]>();
    for (const scene of await this.scenesOn(chartId)) {
      for (const drawing of drawingsUsed(scene.document, chartId)) uses.set(drawing, [...(uses.get(drawing) ?? []), scene.title]);
    }
    return uses;
  }

  async check(document: ChartDocument, chart: Chart): Promise<void> {
    const [fault] = checkChart(document);
    if (fault) throw cannotUse(fault);
    await this.checkPictures(document);
    const kept = new Set(document.drawings.map((drawing) => drawing.id));
    const gone = chart.document.drawings.filter((drawing) => !kept.has(drawing.id));
    // Only what goes can be missed: a change of a mouth looks into no scene.
    if (gone.length === 0) return;
    const uses = await this.usesOf(chart.id);
    for (const { id, label } of gone) {
      const titles = uses.get(id);
      if (!titles) continue;
      throw cannotUse(
        `“${label}” is shown in ${titles.map((title) => `“${title}”`).join(', ')}. Put another mouth in its place there first.`,
      );
    }
  }

  /** Every picture of a chart must be here. */
  async checkPictures(document: ChartDocument): Promise<void> {
    const missing = await this.assets.missing(picturesOfChart(document));
    if (missing.length > 0) throw cannotUse(`${missing.length} of the chart’s pictures are not here. Import them again.`);
  }

  /** The scenes that show a drawing for which another of the chart is to be shown. */
  async scenesToReplaceIn(chartId: string, drawing: string, by: string): Promise<string[]> {
    const { document } = await this.load(chartId);
    for (const id of [drawing, by])
      if (!document.drawings.some((candidate) => candidate.id === id))
        throw cannotUse('One of these drawings is no longer in the chart. Choose another.');
    const scenes = await this.scenesOn(chartId);
    return scenes.filter((scene) => drawingsUsed(scene.document, chartId).has(drawing)).map((scene) => scene.id);
  }

  protected touch(chart: Chart): void {
    chart.name = chartSettings(chart.document).name;
  }
}
