/**
 * The pencil of a track: keyed by its plan between the ink, a part of it or the whole, and
 * erased. Ink is never touched.
 */
import type { HeardFrames } from '../audio/frameLevels.js';
import { restDrawing, type ChartDocument } from '../chart/chart.js';
import { sameJson } from '../document/documentKind.js';
import { putRecord, type Patch, type PutOp } from '../document/patch.js';
import type { InkedSpan, Keyed, KeyingJob, NotShown } from '../keying/keyingJob.js';
import { keySounds } from '../keying/keySounds.js';
import { betweenFloorAndPeak, rangeOfLoudness } from '../keying/loudnessCurve.js';
import { framesByLoudness, isKeyedByLoudness } from '../keying/ruledParts.js';
import { fullRules, type KeyingRules } from '../keying/rules.js';
import { exposuresOfTrack } from '../sheet/exposures.js';
import type { IdSource, Refusal } from './commands.js';
import { placedPhrases, placedSounds, type PlacedSound } from './placedSounds.js';
import { sceneSettings, type Exposure, type SceneDocument, type Track } from './sceneDocument.js';
import { chartStretches, type ChartStretch } from './trackCharts.js';

const put = putRecord<SceneDocument>;

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
  const { frameRate, lengthFrames } = sceneSettings(scene);
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
  const phrases = placedPhrases(scene, track.characterId);
  if (isKeyedByLoudness({ rules: track.rules, phrases })) return true;
  const widens = [track.rules, ...phrases.map(({ rules }) => rules)].some((rules) => fullRules(rules).accents);
  const hasSizes = (chart: ChartDocument): boolean =>
    chart.groups.some(({ id }) => chart.drawings.filter((drawing) => drawing.groups.includes(id)).length > 1);
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
  if (fullRules(track.rules).source === 'loudness' && !heard)
    return { refusal: 'This mouth is keyed by loudness, and the recording has not been heard yet. Wait until its wave is there.' };
  const placed = placedSounds(scene, track.characterId);
  const current = exposuresOfTrack(scene, trackId);
  const stretches = chartStretches(scene, trackId);
  const missing = stretches.find((stretch) => !charts.has(stretch.chartId));
  if (missing) return { refusal: 'The mouth chart of this track is gone. Choose another chart.' };
  const jobs = new Map(
    [...new Set(stretches.map((stretch) => stretch.chartId))].map((id) => [id, keyingJobOf(scene, track, charts.get(id)!, heard)]),
  );
  const unheard = heard ? [] : pencilByLoudness(current, [...jobs.values()][0]!);
  const plans = new Map([...jobs].map(([id, job]) => [id, keySounds(unheard.length > 0 ? planAround(job, unheard) : job)]));
  const keyed = stretches.length === 1 ? plans.get(stretches[0]!.chartId)! : joinedPlans(stretches, plans);
  const isOutside = ({ from, to }: { from: number; to: number }): boolean => to <= first || from >= last;
  // Pencil that reaches over an end of the scope is cut there; what lies outside stays.
  const kept = current
    .filter((exposure) => !exposure.inked && (exposure.from < first || exposure.to > last))
    .flatMap((exposure) => {
      const { drawing, plays } = exposure;
      const head = { from: exposure.from, to: Math.min(exposure.to, first), drawing, plays };
      const tail = { from: Math.max(exposure.from, last), to: exposure.to, drawing, plays };
      return isOutside(exposure) ? [] : [head, tail].filter(({ from, to }) => from < to);
    });
  const planned = keyed.exposures
    .filter((exposure) => !isOutside(exposure))
    .map(({ from, to, drawing, plays }) => ({
      from: Math.max(from, first),
      to: Math.min(to, last),
      drawing,
      plays: plays.map((index) => placed[index]!.id),
    }));
  const held = unheard
    .filter((exposure) => !isOutside(exposure))
    .map((exposure) => ({ ...exposure, from: Math.max(exposure.from, first), to: Math.min(exposure.to, last) }));
  const walls = new Set(stretches.map((stretch) => stretch.from));
  const fresh = joinedAlike(
    [...kept, ...planned, ...held].sort((a, b) => a.from - b.from),
    walls,
  );
  const pencilled = new Map(
    current.filter((exposure) => !exposure.inked && !isOutside(exposure)).map((exposure) => [exposure.from, exposure]),
  );
  const puts: PutOp[] = [];
  for (const { from, to, drawing, plays } of fresh) {
    const wanted = { from, to, drawing, plays };
    const there = pencilled.get(from);
    pencilled.delete(from);
    const after: Exposure = { id: there?.id ?? newId(), track: trackId, inked: false, ...wanted };
    if (!there || !sameJson(there, after)) puts.push(put('exposures', there ?? null, after));
  }
  const removed = [...pencilled.values()].map((exposure) => put('exposures', exposure, null));
  return { patch: { id: newId(), reason: 'pencil.key', ops: [...removed, ...puts] }, notShown: keyed.notShown };
}

interface Held {
  readonly from: number;
  readonly to: number;
  readonly drawing: string;
  readonly plays: readonly string[];
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

/** Takes pencil away: what is left is held from the ink before it, or rests. */
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
  const pencilled = exposures.filter((exposure) => !exposure.inked && exposure.from < to && exposure.to > from);
  if (pencilled.every((exposure) => exposure.drawing === restAt(exposure.from))) return { refusal: 'There is no pencil here to erase.' };
  const emptied = joinedAlike(
    pencilled.flatMap(({ from: start, to: end, drawing, plays }) => {
      const [first, last] = [Math.max(start, from), Math.min(end, to)];
      const parts: Held[] = [
        { from: start, to: first, drawing, plays },
        { from: first, to: last, drawing: restAt(first) ?? drawing, plays: [] },
        { from: last, to: end, drawing, plays },
      ];
      return parts.filter((part) => part.from < part.to);
    }),
    new Set(stretches.map((stretch) => stretch.from)),
  );
  const there = new Map(pencilled.map((exposure) => [exposure.from, exposure]));
  const puts = emptied.map((part) => {
    const before = there.get(part.from) ?? null;
    there.delete(part.from);
    return put('exposures', before, { id: before?.id ?? newId(), track, inked: false, ...part } as Exposure);
  });
  const removed = [...there.values()].map((exposure) => put('exposures', exposure, null));
  return { id: newId(), reason: 'pencil.erase', ops: [...removed, ...puts] };
}
