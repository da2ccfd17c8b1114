/** Mouth charts as documents with revisions. A drawing that a scene shows cannot be taken from under it. */
import { EntityManager } from '@mikro-orm/libsql';
import { Injectable } from '@nestjs/common';
import { CHART_KIND, chartSettings, checkChart, drawingsUsed, type ChartDocument } from '@zest-jaw/core';
import { DocumentStore } from '../documents/document.store.js';
import { cannotUse } from '../guard/problem.js';
import { Chart, ChartRevision, Scene } from '../storage/entities.js';

@Injectable()
export class ChartStore extends DocumentStore<ChartDocument, Chart> {
  protected readonly noun = 'mouth chart';
  protected readonly kind = CHART_KIND;
  protected readonly rows = Chart;
  protected readonly revisions = ChartRevision;
  protected readonly owner = 'chart';

  /** The titles of the scenes that show each drawing of a chart. */
  async usesOf(chartId: string): Promise<Map<string, string[]>> {
    const uses = new Map<string, string[]>();
    for (const scene of await this.em.findAll(Scene, { populate: ['document'], orderBy: { title: 'asc' } })) {
      for (const drawing of drawingsUsed(scene.document, chartId)) uses.set(drawing, [...(uses.get(drawing) ?? []), scene.title]);
    }
    return uses;
  }

  async check(document: ChartDocument, chart: Chart): Promise<void> {
    const [fault] = checkChart(document);
    if (fault) throw cannotUse(fault);
    const kept = new Set(document.drawings.map((drawing) => drawing.id));
    for (const [drawing, titles] of await this.usesOf(chart.id)) {
      if (kept.has(drawing)) continue;
      const label = chart.document.drawings.find((candidate) => candidate.id === drawing)?.label ?? drawing;
      throw cannotUse(
        `“${label}” is shown in ${titles.map((title) => `“${title}”`).join(', ')}. Put another mouth in its place there first.`,
      );
    }
  }

  protected on(em: EntityManager): this {
    return new ChartStore(em) as this;
  }

  protected touch(chart: Chart): void {
    chart.name = chartSettings(chart.document).name;
  }
}
