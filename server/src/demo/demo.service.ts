/** Loads the demo into an empty database: a production with its characters, charts and scenes. */
import { EntityManager } from '@mikro-orm/knex';
import { Inject, Injectable } from '@nestjs/common';
import {
  addPartLane,
  applyPatch,
  chartSettings,
  isRefusal,
  keyPencil,
  mapOfChart,
  maybeHead,
  maybePartLane,
  mouthLanes,
  newScene,
  NO_PLACE,
  partsOfHead,
  PLAIN_ACCENT,
  putDrawing,
  putOver,
  SCENE_KIND,
  setBlinks,
  setBoil,
  setInk,
  setLifts,
  setPlace,
  starterChart,
  STARTER_STYLES,
  starterParts,
  takeReading,
  truthOfWave,
  truthToWave,
  type BlinkRules,
  type ChartDocument,
  type FrameRate,
  type ChartHead,
  type HeadEyes,
  type KeyingRules,
  type LiftRules,
  type Patch,
  type PlaceValue,
  type Reading,
  type Refusal,
  type SceneDocument,
  type StarterSize,
} from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { AssetStore } from '../assets/asset.store.js';
import { SceneStore } from '../scenes/scene.store.js';
import { refreshCard } from '../scenes/sceneCard.js';
import { Character, Chart, Production, Scene } from '../storage/entities.js';

/** Folder of the demo's files. */
export const DEMO_FOLDER = Symbol('DEMO_FOLDER');

interface DemoLane {
  readonly part: string;
  readonly blinks?: BlinkRules;
  readonly lifts?: LiftRules;
  /** What was put by hand: from a frame, up to another, a drawing. */
  readonly shows?: readonly (readonly [from: number, to: number, drawing: string])[];
}

interface DemoFile {
  readonly production: { readonly id: string; readonly name: string };
  readonly characters: readonly {
    readonly id: string;
    readonly name: string;
    readonly chart: { readonly id: string; readonly name: string; readonly style: string };
    readonly head: Omit<ChartHead, 'id' | 'art'> & { readonly file: string };
    /** Where its eyes are, for the further parts of its face. */
    readonly eyes: HeadEyes;
    /** Drawings by part, by name of the pose. */
    readonly poses: Readonly<Record<string, Readonly<Record<string, string>>>>;
    /** Further charts of the character, with fewer mouths, on the same map. */
    readonly views: readonly { readonly id: string; readonly name: string; readonly style: string; readonly size: StarterSize }[];
  }[];
  readonly scenes: readonly {
    readonly id: string;
    readonly title: string;
    readonly characterId: string;
    readonly voice: string;
    readonly reading: string;
    readonly script: string;
    readonly frameRate: FrameRate;
    readonly firstFrame: number;
    readonly rules: KeyingRules;
    /** What the animator has decided so far: a stretch of pencil inked as it is, and mouths put by hand. */
    readonly inkFrames?: readonly [number, number];
    readonly puts?: readonly { readonly frame: number; readonly drawing: string }[];
    /** Lanes of further parts of the face. */
    readonly lanes?: readonly DemoLane[];
    /** Where the head is over time, eased at both ends; what is not said is as it was drawn. */
    readonly headPlaces?: readonly (Partial<PlaceValue> & { readonly frame: number })[];
    /** How much the lines of the mouth live while it is held. */
    readonly boil?: number;
  }[];
}

@Injectable()
export class DemoService {
  constructor(
    private readonly em: EntityManager,
    private readonly assets: AssetStore,
    private readonly scenes: SceneStore,
    @Inject(DEMO_FOLDER) private readonly folder: string,
  ) {}

  /** Does nothing when the database holds a production already. */
  async loadIfEmpty(): Promise<boolean> {
    const { em, assets } = this;
    if ((await em.count(Production)) > 0) return false;
    const demo = JSON.parse(this.read('demo.json').toString('utf8')) as DemoFile;
    const production = em.create(Production, { ...demo.production, pronunciations: [], feels: [], maps: [], limits: {} });
    em.persist(production);
    const charts = new Map<string, Chart>();
    for (const { chart, head, eyes, poses: posed, id, name, views } of demo.characters) {
      const { file, ...placed } = head;
      const picture = await assets.keep(this.read(file), 'image/svg+xml', file);
      const parts = starterParts(name, STARTER_STYLES[chart.style]!, eyes).map(({ part, chart: document }) => {
        const own = em.create(Chart, {
          ...{ id: `${id}-${part.name.toLowerCase()}`, characterId: id, name: chartSettings(document).name },
          ...{ document, revision: 0 },
        });
        em.persist(own);
        charts.set(own.id, own);
        return { ...part, id: part.name.toLowerCase(), chartId: own.id };
      });
      const poses = Object.entries(posed).map(([pose, drawings]) => ({
        ...{ id: pose.toLowerCase(), name: pose },
        drawings: Object.entries(drawings).map(([part, drawing]) => ({ part: part.toLowerCase(), drawing })),
      }));
      const behind: ChartHead = { id: 'head', art: { kind: 'picture', picture: picture.hash }, ...placed, parts, poses };
      const document = { ...starterChart(chart.name, chart.style), head: [behind] };
      const row = em.create(Chart, { id: chart.id, characterId: id, name: chart.name, document, revision: 0 });
      charts.set(id, row);
      // One map for all of them: what looks alike does so on every chart, however few mouths show it.
      if (production.maps.length === 0) production.maps = [mapOfChart(document, production.name)];
      for (const view of views) {
        const small = { ...starterChart(view.name, view.style, view.size), head: [behind] };
        em.persist(em.create(Chart, { id: view.id, characterId: id, name: view.name, document: small, revision: 0 }));
      }
      em.persist([row, em.create(Character, { id, name, production, chart: row, accent: PLAIN_ACCENT })]);
    }
    await em.flush();
    let minutes = demo.scenes.length;
    for (const scene of demo.scenes) {
      const document = withLanes(await this.documentOf(scene, charts.get(scene.characterId)!, assets), scene, charts);
      await this.scenes.check(document);
      const at = new Date(Date.now() - minutes-- * 60_000);
      const row = em.create(Scene, { id: scene.id, production, title: scene.title, document, revision: 0, createdAt: at, touchedAt: at });
      refreshCard(row);
      em.persist(row);
    }
    await em.flush();
    return true;
  }

  private read(file: string): Buffer {
    return readFileSync(join(this.folder, file));
  }

  private async documentOf(scene: DemoFile['scenes'][number], chart: Chart, assets: AssetStore): Promise<SceneDocument> {
    const truth = truthOfWave(this.read(scene.voice));
    if ('refusal' in truth) throw new Error(`${scene.voice}: ${truth.refusal}`);
    const fileName = scene.voice.replace(/^.*\//, '');
    const audio = await assets.keep(truthToWave(truth), 'audio/wav', fileName);
    const { title, frameRate, firstFrame, rules, characterId, script } = scene;
    const clip = { characterId, audio: audio.hash, fileName, lengthSamples: truth.samples.length, script, language: 'en' as const };
    const start = newScene({ title, frameRate, firstFrame, chartId: chart.id, chart: chart.document, rules, clip });
    const reading = JSON.parse(this.read(scene.reading).toString('utf8')) as Reading;
    const read = applied(start, takeReading(start, 'clip1', reading, randomUUID));
    // Keyed once more, so that the pencil beside the ink takes it into account.
    return keyed(this.inked(keyed(read, chart.document), scene, chart.document), chart.document);
  }

  private inked(scene: SceneDocument, { inkFrames, puts = [] }: DemoFile['scenes'][number], chart: ChartDocument): SceneDocument {
    const [track] = scene.tracks;
    let document = scene;
    if (inkFrames) {
      const [from, to] = inkFrames;
      for (const exposure of scene.exposures.filter((candidate) => candidate.from >= from && candidate.to <= to)) {
        document = applied(document, setInk(document, { track: track!.id, frame: exposure.from, inked: true }, randomUUID));
      }
    }
    for (const { frame, drawing } of puts)
      document = applied(document, putDrawing(document, { track: track!.id, frame, drawing }, chart, randomUUID));
    return document;
  }
}

/** The scene with its lanes of further parts, their pencil keyed. */
function withLanes(
  scene: SceneDocument,
  { characterId, lanes = [], headPlaces = [], boil }: DemoFile['scenes'][number],
  rows: ReadonlyMap<string, Chart>,
): SceneDocument {
  const charts = new Map([...rows.values()].map(({ id, document }) => [id, document]));
  const parts = partsOfHead(maybeHead(rows.get(characterId)!.document));
  const { id: mouth } = mouthLanes(scene)[0]!;
  let document = scene;
  const then = (patch: Patch | Refusal): void => void (document = applied(document, patch));
  for (const { part: name, blinks, lifts, shows = [] } of lanes) {
    const part = parts.find((candidate) => candidate.name === name)!;
    const chart = charts.get(part.chartId)!;
    then(addPartLane(document, { mouth, part }, chart, randomUUID));
    const { id: track } = maybePartLane(document, characterId, name)!;
    if (blinks) then(setBlinks(document, track, blinks, randomUUID));
    if (lifts) then(setLifts(document, track, lifts, randomUUID));
    for (const [from, to, drawing] of shows) then(putOver(document, { track, from, to, drawing }, chart, randomUUID));
    const pencil = keyPencil(document, track, charts, randomUUID);
    then(isRefusal(pencil) ? pencil : pencil.patch);
  }
  for (const { frame, ...place } of headPlaces)
    then(setPlace(document, { track: mouth, of: 'head', frame, ease: 'both' }, { ...NO_PLACE, ...place }, randomUUID));
  if (boil !== undefined) then(setBoil(document, mouth, boil, randomUUID));
  return document;
}

function applied(scene: SceneDocument, patch: Patch | Refusal): SceneDocument {
  if (isRefusal(patch)) throw new Error(patch.refusal);
  return applyPatch(SCENE_KIND, scene, patch);
}

function keyed(scene: SceneDocument, chart: ChartDocument): SceneDocument {
  const result = keyPencil(scene, scene.tracks[0]!.id, new Map([[scene.tracks[0]!.chartId, chart]]), randomUUID);
  return applied(scene, isRefusal(result) ? result : result.patch);
}
