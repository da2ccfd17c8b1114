/** Bundles that come in: beside what is there, never over it. */
import { EntityManager } from '@mikro-orm/libsql';
import { Injectable } from '@nestjs/common';
import { isPartChart, PLAIN_ACCENT, sameJson, sceneSettings, type ChartDocument, type Refusal, type SceneDocument } from '@zest-jaw/core';
import type { Bundle } from '@zest-jaw/engine/hand-off';
import { randomUUID } from 'node:crypto';
import { rmSync } from 'node:fs';
import { AssetStore } from '../assets/asset.store.js';
import { ChartStore } from '../charts/chart.store.js';
import { cannotUse } from '../guard/problem.js';
import { SceneStore } from '../scenes/scene.store.js';
import { keepCard } from '../scenes/sceneCard.js';
import { Character, Chart, Production, Scene } from '../storage/entities.js';
import { WorkerPool } from '../workers/workerPool.js';

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
export class BundleService {
  constructor(
    private readonly em: EntityManager,
    private readonly assets: AssetStore,
    private readonly charts: ChartStore,
    private readonly scenes: SceneStore,
    private readonly workers: WorkerPool,
  ) {}

  async open(file: { readonly path: string } | undefined): Promise<OpenedBundle> {
    return this.keep(await this.unpacked(file));
  }

  /** What is in a bundle, nothing of it kept. */
  async scenesOf(file: { readonly path: string } | undefined): Promise<readonly SceneDocument[]> {
    return (await this.unpacked(file)).scenes;
  }

  private async unpacked(file: { readonly path: string } | undefined): Promise<Bundle> {
    if (!file) throw cannotUse('No bundle came with this. Choose the zip that Hand off made.');
    try {
      const bundle = await this.workers.run<Bundle | Refusal>(
        'handOff',
        { file: file.path },
        new AbortController().signal,
        undefined,
        'unpack',
      );
      if ('refusal' in bundle) throw cannotUse(bundle.refusal);
      return bundle;
    } finally {
      rmSync(file.path, { force: true });
    }
  }

  /** All of it, or nothing. */
  private async keep(bundle: Bundle): Promise<OpenedBundle> {
    for (const { bytes, mediaType, fileName } of bundle.media) await this.assets.keep(bytes, mediaType, fileName.slice(-200));
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
  private async production({ production: { name, pronunciations } }: Bundle): Promise<Production> {
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
  private async chartsAndCharacters(bundle: Bundle, production: Production): Promise<{ ids: Ids; fresh: string[] }> {
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
