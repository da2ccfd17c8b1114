/**
 * The pencil of a track: keyed by its plan between the ink, a part of it or the whole, and
 * erased. Ink is never touched.
 */
import type { HeardFrames } from '../audio/frameLevels.js';
import { hasSizes, restDrawing, type ChartDocument } from '../chart/chart.js';
import type { Patch } from '../document/patch.js';
import type { InkedSpan, Keyed, KeyingJob, NotShown } from '../keying/keyingJob.js';
import { keySounds } from '../keying/keySounds.js';
import { betweenFloorAndPeak, rangeOfLoudness } from '../keying/loudnessCurve.js';
import { framesByLoudness, isKeyedByLoudness } from '../keying/ruledParts.js';
import { fullRules, type KeyingRules } from '../keying/rules.js';
import { exposuresOfTrack } from './exposures.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { exchangedPencil, type Held } from './exchangePencil.js';
import { pencilOfPart } from './partLanes.js';
import { placedPhrases, placedSounds, type PlacedSound } from './placedSounds.js';
import { sceneSettings, type Exposure, type SceneDocument, type Track } from './sceneDocument.js';
import { maybeCutTo, overlaps, without, type Span } from '../time/span.js';
import { chartStretches, type ChartStretch } from './trackCharts.js';

/** The plans of several charts as one: each for its own stretches, cut where the chart changes. */
function joinedPlans(stretches: readonly ChartStretch[], plans: ReadonlyMap<string, Keyed>): Keyed {
  const exposures = stretches.flatMap(({ from, to, chartId }) =>
    plans.get(chartId)!.exposures.flatMap((exposure) => {
      const cut = { ...exposure, from: Math.max(from, exposure.from), to: Math.min(to, exposure.to) };
      return cut.from < cut.to ? [cut] : [];
    }),
  );
  // A closure is missing only where no chart's plan shows it.
  const [first, ...others] = [...plans.values()];
  const notShown = first!.notShown.filter(({ sound }) => others.every((plan) => plan.notShown.some((entry) => entry.sound === sound)));
  return { exposures, notShown };
}

/** The pencil in phrases that are keyed by loudness. */
function pencilByLoudness(current: readonly Exposure[], job: KeyingJob): Held[] {
  const loud = framesByLoudness(job);
  return current
    .filter((exposure) => !exposure.inked)
    .flatMap(({ from, to, drawing, plays }) =>
      loud.flatMap((span) => {
        const cut = { from: Math.max(from, span.from), to: Math.min(to, span.to), drawing, plays };
        return cut.from < cut.to ? [cut] : [];
      }),
    );
}

/** The job with what cannot be keyed now, since it is not heard, as a wall. */
function planAround(job: KeyingJob, walls: readonly InkedSpan[]): KeyingJob {
  if (walls.length === 0) return job;
  return { ...job, ink: [...(job.ink ?? []), ...walls].sort((a, b) => a.from - b.from) };
}

/** What of a track is keyed, and what is known of its sound. */
export interface KeyingScope {
  /** Frames, half-open; the whole track when left out. The plan is that of the whole track, taken over there only. */
  readonly from?: number;
  readonly to?: number;
  /** What is heard of the track's speaker in each frame of the scene. Shape: lengthFrames. */
  readonly heard?: HeardFrames | undefined;
}

/** What the plan of a track is made from, for one of its charts. */
export function keyingJobOf(
  scene: SceneDocument,
  track: Track,
  chart: ChartDocument,
  heard?: HeardFrames,
): KeyingJob & { readonly sounds: readonly PlacedSound[] } {
  const { frameRate, lengthFrames, firstFrame } = sceneSettings(scene);
  const own = heard && rangeOfLoudness(heard.levels);
  const loudnessBy = (rules: KeyingRules): { loudness?: Float32Array } => {
    if (!heard || !own) return {};
    const { floorDb, peakDb } = fullRules(rules);
    return { loudness: betweenFloorAndPeak(heard.levels, { floorDb: floorDb ?? own.floorDb, peakDb: peakDb ?? own.peakDb }) };
  };
  return {
    sounds: placedSounds(scene, track.characterId),
    frameRate,
    lengthFrames,
    firstFrame,
    chart,
    rules: track.rules,
    phrases: placedPhrases(scene, track.characterId).map((phrase) => ({ ...phrase, ...loudnessBy(phrase.rules) })),
    ink: exposuresOfTrack(scene, track.id).filter((exposure) => exposure.inked),
    ...loudnessBy(track.rules),
    ...(heard && { hiss: heard.hiss }),
  };
}

/** Whether how loud a track's recordings are can change its pencil. */
export function listensToLoudness(scene: SceneDocument, track: Track, charts: ReadonlyMap<string, ChartDocument>): boolean {
  if (track.kind === 'part') return false;
  const phrases = placedPhrases(scene, track.characterId);
  if (isKeyedByLoudness({ rules: track.rules, phrases })) return true;
  const widens = [track.rules, ...phrases.map(({ rules }) => rules)].some((rules) => fullRules(rules).accents);
  return widens && chartStretches(scene, track.id).some(({ chartId }) => charts.has(chartId) && hasSizes(charts.get(chartId)!));
}

/**
 * Keys a track again: every pencilled exposure is planned anew between the inked ones.
 * Exposures that come out the same keep their ids, so keying twice changes nothing.
 *
 * @param charts the charts the track uses, by id
 * @returns the patch, whose ops are empty when nothing changes, and the closures that could not be shown
 */
export function keyPencil(
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
  { from: first = 0, to: last = Infinity, heard }: KeyingScope = {},
): { patch: Patch; notShown: readonly NotShown[] } | Refusal {
  const track = scene.tracks.find((candidate) => candidate.id === trackId);
  if (!track) return { refusal: 'That track is no longer in the scene.' };
  if (track.locked) return { refusal: 'This lane is locked. Unlock it in Lanes to key it.' };
  if (track.kind === 'mouth' && fullRules(track.rules).source === 'loudness' && !heard)
    return { refusal: 'This mouth is keyed by loudness, and the recording has not been heard yet. Wait until its wave is there.' };
  const stretches = chartStretches(scene, trackId);
  if (stretches.some((stretch) => !charts.has(stretch.chartId)))
    return { refusal: 'The mouth chart of this track is gone. Choose another chart.' };
  const scope: Span = { from: first, to: last };
  const current = exposuresOfTrack(scene, trackId).filter((exposure) => !exposure.inked && overlaps(exposure, scope));
  const plan = track.kind === 'part' ? partPlan(scene, track, charts) : plannedPencil(scene, track, charts, heard);
  if (isRefusal(plan)) return plan;
  const { held, notShown } = plan;
  const within = held.flatMap((exposure) => maybeCutTo(exposure, scope) ?? []);
  const fresh = joinedAlike(
    [...current.flatMap((exposure) => without(exposure, scope)), ...within].sort((a, b) => a.from - b.from),
    new Set(stretches.map((stretch) => stretch.from)),
  );
  return {
    patch: {
      id: newId(),
      reason: 'pencil.key',
      ops: exchangedPencil(scene, { track: trackId, current, fresh, isWhole: first <= 0 && last === Infinity }, newId),
    },
    notShown,
  };
}

function partPlan(
  scene: SceneDocument,
  track: Track,
  charts: ReadonlyMap<string, ChartDocument>,
): { held: Held[]; notShown: readonly NotShown[] } | Refusal {
  const held = pencilOfPart(scene, track, charts);
  return isRefusal(held) ? held : { held, notShown: [] };
}

/** The pencil of a whole track as it is planned, each chart for its own stretches. */
function plannedPencil(
  scene: SceneDocument,
  track: Track,
  charts: ReadonlyMap<string, ChartDocument>,
  heard: HeardFrames | undefined,
): { held: Held[]; notShown: readonly NotShown[] } {
  const stretches = chartStretches(scene, track.id);
  const jobs = new Map(stretches.map(({ chartId }) => [chartId, keyingJobOf(scene, track, charts.get(chartId)!, heard)]));
  const { sounds, ...job } = jobs.get(stretches[0]!.chartId)!;
  const unheard = heard ? [] : pencilByLoudness(exposuresOfTrack(scene, track.id), { ...job, sounds });
  const plans = new Map([...jobs].map(([id, job]) => [id, keySounds(planAround(job, unheard))]));
  const { exposures, notShown } = stretches.length === 1 ? plans.get(stretches[0]!.chartId)! : joinedPlans(stretches, plans);
  const planned = exposures.map(({ from, to, drawing, plays }) => ({
    from,
    to,
    drawing,
    plays: plays.map((index) => sounds[index]!.id),
  }));
  return { held: [...planned, ...unheard], notShown };
}

/** Neighbours that share a drawing are one exposure, but not across a change of chart. */
function joinedAlike(exposures: readonly Held[], walls: ReadonlySet<number>): Held[] {
  const joined: Held[] = [];
  for (const exposure of exposures) {
    const before = joined.at(-1);
    if (before && before.to === exposure.from && before.drawing === exposure.drawing && !walls.has(exposure.from))
      joined[joined.length - 1] = { ...before, to: exposure.to, plays: [...new Set([...before.plays, ...exposure.plays])] };
    else joined.push(exposure);
  }
  return joined;
}

/** Takes pencil away: where it was the mouth rests. */
export function erasePencil(
  scene: SceneDocument,
  { track, from, to }: { track: string; from: number; to: number },
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
): Patch | Refusal {
  const exposures = exposuresOfTrack(scene, track);
  const stretches = chartStretches(scene, track);
  const restAt = (frame: number): string | undefined => {
    const chart = charts.get(stretches.findLast((stretch) => stretch.from <= frame)?.chartId ?? '');
    return chart && restDrawing(chart).id;
  };
  const pencilled = exposures.filter((exposure) => !exposure.inked && overlaps(exposure, { from, to }));
  if (pencilled.every((exposure) => exposure.drawing === restAt(exposure.from))) return { refusal: 'There is no pencil here to erase.' };
  const scope: Span = { from, to };
  const emptied = joinedAlike(
    pencilled
      .flatMap((exposure) => {
        const inside = maybeCutTo(exposure, scope)!;
        const rest: Held = { ...inside, drawing: restAt(inside.from) ?? exposure.drawing, plays: [] };
        return [...without(exposure, scope), rest];
      })
      .sort((one, other) => one.from - other.from),
    new Set(stretches.map((stretch) => stretch.from)),
  );
  return {
    id: newId(),
    reason: 'pencil.erase',
    ops: exchangedPencil(scene, { track, current: pencilled, fresh: emptied, isWhole: false }, newId),
  };
}
