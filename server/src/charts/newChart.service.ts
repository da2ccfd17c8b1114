/** A new chart, for a character that is there or for a new one. */
import { EntityManager } from '@mikro-orm/knex';
import { Injectable } from '@nestjs/common';
import {
  applyPatch,
  BUILT_HEAD,
  CHART_KIND,
  chartOfPart,
  chartSettings,
  checkChart,
  DEFAULT_SOUND_GROUPS,
  emptyChart,
  emptyPart,
  eyesOfHead,
  fitChart,
  isRefusal,
  mapOfChart,
  maybeFaultOfParts,
  maybeHead,
  partsOfHead,
  PLAIN_ACCENT,
  putMap,
  sameJson,
  setHead,
  SIXTEEN_SOUND_GROUPS,
  starterChart,
  starterParts,
  type ChartDocument,
  type MouthStyle,
  type NewPartOfFace,
  type StarterPart,
} from '@zest-jaw/core';
import { faultsOfShape } from '@zest-jaw/engine/documents';
import { randomUUID } from 'node:crypto';
import { cannotUse, notThere } from '../guard/problem.js';
import { Character, Chart, Production } from '../storage/entities.js';
import { NewChartDto, NewPartsDto } from './chart.dto.js';
import { ChartStore } from './chart.store.js';

/** A new view of a character has the map that was made for the other: the standard ones it has by its size. */
function withMapOf(sibling: ChartDocument, made: ChartDocument): ChartDocument {
  const isStandard = [DEFAULT_SOUND_GROUPS, SIXTEEN_SOUND_GROUPS].some((groups) => sameJson(groups, sibling.groups));
  if (isStandard) return made;
  const map = mapOfChart(sibling, chartSettings(sibling).name);
  const patch = putMap(made, map, (chart, fixed) => fitChart(chart, fixed).choices, randomUUID);
  return isRefusal(patch) ? made : applyPatch(CHART_KIND, made, patch);
}

@Injectable()
export class NewChartService {
  constructor(
    private readonly em: EntityManager,
    private readonly charts: ChartStore,
  ) {}

  async create(dto: NewChartDto): Promise<{ id: string; characterId: string }> {
    const name = dto.name.trim();
    if (name === '') throw cannotUse('A mouth chart needs a name, such as “Bramble, front”.');
    const known = dto.characterId === undefined ? null : await this.em.findOne(Character, { id: dto.characterId }, { populate: ['chart'] });
    if (dto.characterId !== undefined && !known) throw notThere('character');
    const document = await this.documentOf(dto, name, known?.chart.document);
    await this.charts.checkPictures(document);
    const id = randomUUID();
    const characterId = known?.id ?? randomUUID();
    const chart = this.em.create(Chart, { id, characterId, name, document, revision: 0 });
    this.em.persist(chart);
    if (!known)
      this.em.persist(await this.newCharacter(characterId, dto.characterName?.trim() || name.replace(/,.*$/, ''), chart, dto.productionId));
    await this.em.flush();
    return { id, characterId };
  }

  /** Further parts for the head of a chart, on charts of their own. */
  async addParts(chartId: string, { name, parts: found }: NewPartsDto): Promise<{ charts: string[] }> {
    const { characterId, document } = await this.charts.load(chartId);
    const head = maybeHead(document);
    if (!head) throw cannotUse('This chart has no head to put a part on. Give it one first.');
    const owner = chartSettings(document).name;
    const { style } = chartSettings(document);
    const wanted = found
      ? await this.partsFound(owner, style, found)
      : name === undefined
        ? starterParts(owner, style, eyesOfHead(head))
        : [emptyPart(owner, name.trim(), style, head)];
    const there = new Set(partsOfHead(head).map((part) => part.name.toLowerCase()));
    const fresh = wanted.filter(({ part }) => !there.has(part.name.toLowerCase()));
    if (fresh.length === 0) throw cannotUse(`This head has ${wanted.map(({ part }) => part.name.toLowerCase()).join(', ')} already.`);
    const parts = fresh.map(({ part, chart }) => {
      const id = randomUUID();
      const { name: title } = chartSettings(chart);
      this.em.persist(this.em.create(Chart, { id, characterId, name: title, document: chart, revision: 0 }));
      return { ...part, id: randomUUID(), chartId: id };
    });
    await this.em.flush();
    await this.charts.applyOwn(chartId, async (now) => {
      const behind = maybeHead(now);
      const patch = behind ? setHead(now, { ...behind, parts: [...partsOfHead(behind), ...parts] }, randomUUID) : undefined;
      if (!patch || isRefusal(patch)) throw cannotUse(patch ? patch.refusal : 'This chart has no head any more.');
      return patch;
    });
    return { charts: parts.map(({ chartId: id }) => id) };
  }

  /** Parts with their drawings, each held against what a chart may be. */
  private async partsFound(owner: string, style: MouthStyle, found: readonly NewPartOfFace[]): Promise<StarterPart[]> {
    const made = found.map(({ name, order, at, role, drawings }): StarterPart => {
      const settings = { id: 'chart' as const, name: `${owner}, ${String(name).toLowerCase()}`.slice(0, 80), style };
      return {
        part: { name, order, at, ...(role !== undefined && { role }) },
        chart: chartOfPart(settings, Array.isArray(drawings) ? drawings : [], randomUUID),
      };
    });
    for (const { chart } of made) {
      const [fault] = [...faultsOfShape('chart', chart), ...checkChart(chart)];
      if (fault) throw cannotUse(fault);
      await this.charts.checkPictures(chart);
    }
    const fault = maybeFaultOfParts(made.map(({ part }, index) => ({ ...part, id: String(index), chartId: String(index) })));
    if (fault) throw cannotUse(fault);
    return made;
  }

  /** A copy of another chart, or a starter on the head that the character has, else on a built one. */
  private async documentOf(
    { copyOf, style = 'brush', size = 13 }: NewChartDto,
    name: string,
    sibling?: ChartDocument,
  ): Promise<ChartDocument> {
    if (copyOf !== undefined) {
      const { document } = await this.charts.load(copyOf);
      return { ...document, settings: [{ ...chartSettings(document), name }] };
    }
    const head = sibling?.head[0] ?? BUILT_HEAD;
    const made = { ...(size === 0 ? emptyChart(name, style) : starterChart(name, style, size)), head: [head] };
    return sibling ? withMapOf(sibling, made) : made;
  }

  private async newCharacter(id: string, name: string, chart: Chart, productionId?: string): Promise<Character> {
    const where = productionId === undefined ? {} : { id: productionId };
    const [production] = await this.em.find(Production, where, { orderBy: { name: 'asc' }, limit: 1 });
    if (!production) throw cannotUse('There is no production to put the character in.');
    return this.em.create(Character, { id, name, production, chart, accent: PLAIN_ACCENT });
  }
}
