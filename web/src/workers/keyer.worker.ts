/** Everything that is planned of a scene, beside the page's own thread: the scene and its charts are known here and kept up with what changes. */
import {
  applyPatch,
  checkNotes,
  explainExposure,
  isKeyedByLoudness,
  isRefusal,
  keyingJobOf,
  keyPencil,
  keySounds,
  mendAll,
  mendOfNote,
  measuresOf,
  mergePatches,
  linkedKeyed,
  pencilKeyed,
  planTrack,
  ruledParts,
  SCENE_KIND,
  setPhraseRules,
  setRules,
  type ChartDocument,
  type CheckJob,
  type CheckLimits,
  type ClipFacts,
  type HeardFrames,
  type KeyingJob,
  type KeyingRules,
  type Note,
  type Patch,
  type PlannedTrack,
  type Refusal,
  type SceneDocument,
  type SheetCounting,
  type Span,
  type TextRequest,
} from '@zest-jaw/core';
import { newId } from '../session/newId.js';
import { answering } from './asking.js';
import { MOST_HEARD, withDelta, type SceneDelta } from './sceneMirror.js';
import type * as Writing from './writing.js';

/** What is heard of somebody, by a number; the frames only the first time. */
export interface HeardRef {
  readonly number: number;
  readonly frames?: HeardFrames;
}

/** What has changed since the last question. */
export interface Changes {
  /** The number of the question whose scene this one goes on from, and its own. */
  readonly base: number;
  readonly number: number;
  readonly scene: SceneDelta;
  readonly charts: readonly (readonly [string, ChartDocument])[];
}

/** A track, with what its plan depends on. */
export interface AboutTrack {
  readonly since: Changes;
  readonly trackId: string;
  /** The charts the track uses. */
  readonly charts: readonly string[];
  readonly heard?: HeardRef | undefined;
}

export interface Trial extends AboutTrack {
  /** Null for a phrase to go by its track again. */
  readonly rules: KeyingRules | null;
  readonly span?: Span | undefined;
}

export type KeyerQuestion =
  | ({ readonly kind: 'key'; readonly from?: number; readonly to?: number } & AboutTrack)
  | ({ readonly kind: 'try' } & Trial)
  | ({ readonly kind: 'crib'; readonly rules: KeyingRules } & AboutTrack)
  | ({ readonly kind: 'why'; readonly chartId: string; readonly from: number; readonly inked: boolean } & AboutTrack)
  | { readonly kind: 'linked'; readonly since: Changes }
  | { readonly kind: 'pencil'; readonly since: Changes; readonly heardOf: readonly (readonly [string, HeardRef])[] }
  | {
      readonly kind: 'sheet';
      readonly since: Changes;
      readonly names: readonly (readonly [track: string, name: string])[];
      readonly counting: SheetCounting;
    }
  | ({ readonly kind: 'handOff'; readonly request: TextRequest } & AboutTrack)
  | ({ readonly kind: 'check' } & AboutCheck)
  | ({ readonly kind: 'measures'; readonly trackId: string } & AboutCheck)
  | ({ readonly kind: 'mend'; readonly note: Note } & AboutCheck)
  | ({ readonly kind: 'mendAll'; readonly notes: readonly Note[] } & AboutCheck)
  | { readonly kind: 'sounds'; readonly job: KeyingJob };

/** A scene to be checked, with all that is known of its sound. */
export interface AboutCheck {
  readonly since: Changes;
  /** The charts of every lane. */
  readonly charts: readonly string[];
  readonly heardOf: readonly (readonly [character: string, HeardRef])[];
  readonly facts: ReadonlyMap<string, ClipFacts>;
  readonly limits: Partial<CheckLimits>;
}

let scene: SceneDocument | undefined;
let known = 0;
const charts = new Map<string, ChartDocument>();
const heard = new Map<number, HeardFrames>();

function takeIn(changes: Changes): SceneDocument {
  // What went wrong before must not be built on.
  if (changes.scene.kind !== 'whole' && changes.base !== known) throw new Error('The plan was out of step with the scene. Try again.');
  for (const [id, chart] of changes.charts) charts.set(id, chart);
  scene = withDelta(scene, changes.scene);
  known = changes.number;
  return scene;
}

function heardBy(ref: HeardRef | undefined): HeardFrames | undefined {
  if (!ref) return undefined;
  if (ref.frames) {
    heard.set(ref.number, ref.frames);
    const [oldest] = heard.keys();
    if (heard.size > MOST_HEARD) heard.delete(oldest!);
  }
  return heard.get(ref.number);
}

const chartsOf = (ids: readonly string[]): ReadonlyMap<string, ChartDocument> =>
  new Map(ids.flatMap((id) => (charts.has(id) ? [[id, charts.get(id)!] as const] : [])));

/** The plan that the last reason was read from: the mouths passed one after another are of one plan. */
let lastPlan:
  { readonly scene: SceneDocument; readonly of: string; readonly chart: ChartDocument; readonly planned: PlannedTrack } | undefined;

function plannedFor(now: SceneDocument, of: string, job: KeyingJob): PlannedTrack {
  if (lastPlan?.scene !== now || lastPlan.of !== of || lastPlan.chart !== job.chart)
    lastPlan = { scene: now, of, chart: job.chart, planned: planTrack(ruledParts(job).rest) };
  return lastPlan.planned;
}

/** What writes comes with the first text that is asked for; what is written of has been taken in by then. */
const writing = (): Promise<typeof Writing> => import('./writing.js');

function answer(question: KeyerQuestion): unknown {
  if (question.kind === 'sounds') return keySounds(question.job);
  const now = takeIn(question.since);
  switch (question.kind) {
    case 'key': {
      const { trackId, from, to } = question;
      const scope = { heard: heardBy(question.heard), ...(from !== undefined && { from }), ...(to !== undefined && { to }) };
      return keyPencil(now, trackId, chartsOf(question.charts), newId, scope);
    }
    case 'try':
      return tried(now, question);
    case 'crib': {
      const { trackId, rules } = question;
      // A scene without a mouth on the track, so that nothing the hand has done moves the plan.
      const bare: SceneDocument = {
        ...now,
        exposures: now.exposures.filter((exposure) => exposure.track !== trackId),
        tracks: now.tracks.map((one) => (one.id === trackId ? { ...one, rules } : one)),
      };
      const keyed = keyPencil(bare, trackId, chartsOf(question.charts), newId, { heard: heardBy(question.heard) });
      return isRefusal(keyed)
        ? keyed
        : applyPatch(SCENE_KIND, bare, keyed.patch).exposures.filter((exposure) => exposure.track === trackId);
    }
    case 'why': {
      const { trackId, chartId, from, inked } = question;
      const track = now.tracks.find(({ id }) => id === trackId);
      const chart = charts.get(chartId);
      if (!track || !chart) throw new Error('The track or its chart is gone.');
      const job = keyingJobOf(now, track, chart, heardBy(question.heard));
      const planned = inked || isKeyedByLoudness(job) ? undefined : plannedFor(now, `${trackId} ${question.heard?.number ?? ''}`, job);
      return explainExposure(job, { from, inked }, planned);
    }
    case 'pencil': {
      const own = new Map(question.heardOf.map(([id, ref]) => [id, heardBy(ref)]));
      return pencilKeyed(now, charts, newId, (_, characterId) => own.get(characterId));
    }
    case 'linked':
      return linkedKeyed(now, charts, newId);
    case 'check':
      return checkNotes(checkJob(now, question));
    case 'measures':
      return measuresOf(checkJob(now, question), question.trackId);
    case 'mend':
      return mendOfNote(checkJob(now, question), question.note, newId);
    case 'mendAll':
      return mendAll(checkJob(now, question), question.notes, newId);
    case 'handOff': {
      const { trackId, request } = question;
      const [own, levels] = [chartsOf(question.charts), heardBy(question.heard)?.levels];
      return writing().then(({ textOfHandOff }) => textOfHandOff(now, trackId, own, request, levels));
    }
    case 'sheet': {
      const lanes = question.names.map(([trackId, name]) => ({ trackId, name, charts: new Map(charts) }));
      return writing().then(({ exposureSheetCsv }) => exposureSheetCsv(now, lanes, question.counting));
    }
  }
}

function checkJob(now: SceneDocument, { charts: ids, heardOf, facts, limits }: AboutCheck): CheckJob {
  const own = new Map(heardOf.map(([id, ref]) => [id, heardBy(ref)]));
  return { scene: now, charts: chartsOf(ids), heardOf: (characterId) => own.get(characterId), facts, limits };
}

/** What rules would make of the pencil: the patch that sets them and keys it. */
function tried(now: SceneDocument, { trackId, rules, span, charts: ids, heard: ref }: Trial): Patch | Refusal {
  const track = now.tracks.find(({ id }) => id === trackId);
  if (!track) return { refusal: 'That track is no longer in the scene.' };
  const ruled = span ? setPhraseRules(now, { track: trackId, ...span, rules }, newId) : setRules(now, trackId, rules ?? track.rules, newId);
  if (isRefusal(ruled)) return ruled;
  const keyed = keyPencil(applyPatch(SCENE_KIND, now, ruled), trackId, chartsOf(ids), newId, { heard: heardBy(ref) });
  if (isRefusal(keyed)) return keyed;
  return ruled.ops.length > 0 ? mergePatches(ruled, keyed.patch) : keyed.patch;
}

answering(answer);
