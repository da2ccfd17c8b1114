/**
 * The page's side of the keyer: plans are asked for by what is wanted of the open scene, which
 * the worker is kept up with. Of each kind of question only the newest waits.
 */
import type {
  ChartDocument,
  CheckLimits,
  ClipFacts,
  Exposure,
  ExposureReason,
  HeardFrames,
  Keyed,
  KeyingJob,
  KeyingRules,
  LaneMeasures,
  MendedAll,
  Note,
  NotShown,
  Patch,
  Refusal,
  SceneDocument,
  SheetCounting,
  Span,
  TextRequest,
  TriedMend,
} from '@zest-jaw/core';
import { createAsker, latestOnly, type WorkerLike } from './asking.js';
import type { AboutCheck, AboutTrack, Changes, HeardRef, KeyerQuestion } from './keyer.worker.js';
import { deltaBetween, MOST_HEARD } from './sceneMirror.js';

export type Charts = ReadonlyMap<string, ChartDocument>;

/** A track of a scene, with what its plan depends on. */
export interface OnTrack {
  readonly scene: SceneDocument;
  readonly trackId: string;
  /** The charts the track uses, by id. */
  readonly charts: Charts;
  /** What is heard of its speaker. */
  readonly heard?: HeardFrames | undefined;
}

/** A scene to be checked, with what its notes depend on. */
export interface ToCheck {
  readonly scene: SceneDocument;
  readonly charts: Charts;
  /** By character. */
  readonly heardOf: ReadonlyMap<string, HeardFrames>;
  /** By the hash of a recording. */
  readonly facts: ReadonlyMap<string, ClipFacts>;
  readonly limits: Partial<CheckLimits>;
}

export interface Keyer {
  /** The pencil of a track, or of a part of it, keyed again. */
  key(
    on: OnTrack,
    part?: { readonly from?: number; readonly to?: number },
  ): Promise<{ patch: Patch; notShown: readonly NotShown[] } | Refusal>;
  /** What rules would make of a track or a phrase; undefined when something newer is tried. */
  tryRules(on: OnTrack, rules: KeyingRules | null, span?: Span): Promise<Patch | Refusal | undefined>;
  /** The plan as though nothing were inked; undefined when a newer one is asked for. */
  crib(on: OnTrack, rules: KeyingRules): Promise<readonly Exposure[] | Refusal | undefined>;
  /** Why an exposure is there, or what the rules would have in its place; undefined when another is asked about. */
  why(on: OnTrack, chartId: string, exposure: { readonly from: number; readonly inked: boolean }): Promise<ExposureReason | undefined>;
  /** The pencil of every track keyed again; undefined when a newer scene is asked about. */
  pencil(scene: SceneDocument, charts: Charts, heardOf: ReadonlyMap<string, HeardFrames>): Promise<Patch | undefined>;
  /** The pencil of the lanes that go with others keyed again; undefined when a newer scene is asked about. */
  linked(scene: SceneDocument, charts: Charts): Promise<Patch | undefined>;
  /** The exposure sheet as CSV. */
  sheet(
    scene: SceneDocument,
    charts: Charts,
    names: readonly (readonly [track: string, name: string])[],
    counting: SheetCounting,
  ): Promise<string>;
  /** What is handed off of a track as text. */
  handOff(on: OnTrack, request: TextRequest): Promise<string>;
  /** Every note on the scene; undefined when a newer scene is asked about. */
  check(job: ToCheck): Promise<readonly Note[] | undefined>;
  /** The curves and counts of a lane; undefined when others are asked for. */
  measures(job: ToCheck, trackId: string): Promise<LaneMeasures | undefined>;
  /** What mends a note; undefined when another is asked about. */
  mend(job: ToCheck, note: Note): Promise<TriedMend | Refusal | undefined>;
  /** What mends many, as one step. */
  mendAll(job: ToCheck, notes: readonly Note[]): Promise<MendedAll | Refusal>;
  /** Some sounds keyed, of no scene. */
  sounds(job: KeyingJob): Promise<Keyed>;
}

export function createKeyer(open: () => WorkerLike): Keyer {
  let sent: SceneDocument | undefined;
  let sentCharts: Charts = new Map();
  const numbers = new WeakMap<HeardFrames, number>();
  let sentHeard: number[] = [];
  let [count, asked] = [0, 0];
  /** The worker knows nothing, or what it knows is not what is thought: it is told everything again. */
  const forget = (): void => {
    sent = undefined;
    sentCharts = new Map();
    sentHeard = [];
  };
  const worker = createAsker<KeyerQuestion>(open, forget);
  const asker: Pick<typeof worker, 'ask'> = {
    ask: <Answer>(question: KeyerQuestion) =>
      worker.ask<Answer>(question).catch((error: unknown) => {
        forget();
        throw error;
      }),
  };

  /** Called as the question goes out: questions reach the worker in that order. */
  const changesTo = (scene: SceneDocument, charts: Charts): Changes => {
    const known = sentCharts;
    const base = asked;
    asked += 1;
    const since: Changes = {
      base,
      number: asked,
      scene: deltaBetween(sent, scene),
      charts: [...charts].filter(([id, chart]) => known.get(id) !== chart),
    };
    sent = scene;
    sentCharts = new Map([...known, ...charts]);
    return since;
  };
  const refOf = (heard: HeardFrames): HeardRef => {
    let number = numbers.get(heard);
    if (number === undefined) numbers.set(heard, (number = ++count));
    if (sentHeard.includes(number)) return { number };
    // As many as the worker keeps, and in the same order.
    sentHeard = [...sentHeard, number].slice(-MOST_HEARD);
    return { number, frames: heard };
  };
  const about = ({ scene, trackId, charts, heard }: OnTrack): AboutTrack => ({
    since: changesTo(scene, charts),
    trackId,
    charts: [...charts.keys()],
    heard: heard && refOf(heard),
  });
  const heardRefs = (heardOf: ReadonlyMap<string, HeardFrames>): (readonly [string, HeardRef])[] =>
    [...heardOf].map(([character, heard]) => [character, refOf(heard)] as const);
  const aboutCheck = ({ scene, charts, heardOf, facts, limits }: ToCheck): AboutCheck => ({
    since: changesTo(scene, charts),
    charts: [...charts.keys()],
    heardOf: heardRefs(heardOf),
    facts,
    limits,
  });
  const [trying, cribbing, explaining, pencilling, linking] = [latestOnly(), latestOnly(), latestOnly(), latestOnly(), latestOnly()];
  const [checking, mending, measuring] = [latestOnly(), latestOnly(), latestOnly()];
  return {
    key: (on, part = {}) => asker.ask({ kind: 'key', ...about(on), ...part }),
    tryRules: (on, rules, span) => trying(() => asker.ask({ kind: 'try', ...about(on), rules, span })),
    crib: (on, rules) => cribbing(() => asker.ask({ kind: 'crib', ...about(on), rules })),
    why: (on, chartId, { from, inked }) => explaining(() => asker.ask({ kind: 'why', ...about(on), chartId, from, inked })),
    pencil: (scene, charts, heardOf) =>
      pencilling(() =>
        asker.ask({
          kind: 'pencil',
          since: changesTo(scene, charts),
          heardOf: heardRefs(heardOf),
        }),
      ),
    linked: (scene, charts) => linking(() => asker.ask({ kind: 'linked', since: changesTo(scene, charts) })),
    sheet: (scene, charts, names, counting) => asker.ask({ kind: 'sheet', since: changesTo(scene, charts), names, counting }),
    handOff: (on, request) => asker.ask({ kind: 'handOff', ...about(on), request }),
    check: (job) => checking(() => asker.ask({ kind: 'check', ...aboutCheck(job) })),
    measures: (job, trackId) => measuring(() => asker.ask({ kind: 'measures', ...aboutCheck(job), trackId })),
    mend: (job, note) => mending(() => asker.ask({ kind: 'mend', ...aboutCheck(job), note })),
    mendAll: (job, notes) => asker.ask({ kind: 'mendAll', ...aboutCheck(job), notes }),
    sounds: (job) => asker.ask({ kind: 'sounds', job }),
  };
}

/** The keyer of this page. */
export const keyer = createKeyer(() => new Worker(new URL('./keyer.worker.ts', import.meta.url), { type: 'module' }));

/** One more for the checker, so that a long check keeps no plan waiting. */
export const checker = createKeyer(() => new Worker(new URL('./keyer.worker.ts', import.meta.url), { type: 'module' }));
