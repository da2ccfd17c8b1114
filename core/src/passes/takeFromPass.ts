/** Taking some frames of a lane, or all of it, from another state of the scene, in ink or pencil as it is there. */
import { maybeDrawing, type ChartDocument } from '../chart/chart.js';
import { sameJson } from '../document/documentKind.js';
import { applyPatch, mergePatches, putsOf, type Patch } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { exposuresOfTrack } from '../scene/exposures.js';
import { chartsWithOneOffs } from '../scene/oneOffs.js';
import { SCENE_KIND, sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt, chartStretches } from '../scene/trackCharts.js';
import { laidOver, laneChange, openLane, partOf, type Laid } from '../sheet/lane.js';
import { sameFrameRate } from '../time/frameRate.js';
import type { Span } from '../time/span.js';

const put = putsOf<SceneDocument>();
const SAME = 'These frames are the same in both. Choose some that differ.';

/** One-offs that are shown there and are not here. */
function missingOneOffs(scene: SceneDocument, pass: SceneDocument, used: ReadonlySet<string>) {
  const there = new Set(scene.oneOffs.map(({ id }) => id));
  return pass.oneOffs.filter(({ id }) => used.has(id) && !there.has(id));
}

/** A mouth that was cut by an end of what is taken, and goes on alike beyond it, is one again. */
function healed(lane: readonly Laid[], { from, to }: Span): Laid[] {
  const made: Laid[] = [];
  for (const laid of lane) {
    const before = made.at(-1);
    const isCut = before && before.to === laid.from && (laid.from === from || laid.from === to);
    if (!isCut || before.drawing !== laid.drawing || before.inked !== laid.inked) {
      made.push(laid);
      continue;
    }
    const id = laid.from === from ? (before.id ?? laid.id) : (laid.id ?? before.id);
    const plays = [...new Set([...before.plays, ...laid.plays])];
    made[made.length - 1] = { ...before, ...(id !== undefined && { id }), to: laid.to, plays };
  }
  return made;
}

/**
 * @param charts the charts as they are now, by id, without one-offs
 * @param whole the feel of the lane is taken too
 */
export function takeFromPass(
  scene: SceneDocument,
  pass: SceneDocument,
  { track, from, to, whole = false }: { readonly track: string; readonly from: number; readonly to: number; readonly whole?: boolean },
  charts: ReadonlyMap<string, ChartDocument>,
  newId: IdSource,
): Patch | Refusal {
  if (!sameFrameRate(sceneSettings(scene).frameRate, sceneSettings(pass).frameRate))
    return { refusal: 'The other has another frame rate. Bring this scene to its rate first, then take from it.' };
  const [own, other] = [scene, pass].map((one) => one.tracks.find(({ id }) => id === track));
  if (!own || !other) return { refusal: 'The other has no such lane.' };
  const { lengthFrames } = sceneSettings(scene);
  const pieces = partOf(exposuresOfTrack(pass, track), { from, to: Math.min(to, lengthFrames) });
  const oneOffs = missingOneOffs(scene, pass, new Set(pieces.map(({ drawing }) => drawing)));
  let now: SceneDocument = { ...scene, oneOffs: [...scene.oneOffs, ...oneOffs].sort(SCENE_KIND.oneOffs.compare) };
  const seen = chartsWithOneOffs(now, charts);
  for (const { drawing, from: start } of pieces) {
    const chartId = chartStretchAt(scene, track, start)?.chartId ?? '';
    const chart = seen.get(chartId);
    if (!chart || !maybeDrawing(chart, drawing))
      return {
        refusal: `The other shows “${drawing}” at frame ${start + sceneSettings(scene).firstFrame}, which the chart in force here does not have.`,
      };
  }
  const sounds = new Set(scene.phonemes.map(({ id }) => id));
  let patch: Patch = { id: newId(), reason: 'pass.take', ops: oneOffs.map((one) => put('oneOffs', null, one)) };
  const take = (next: Patch): void => {
    now = applyPatch(SCENE_KIND, now, next);
    patch = patch.ops.length > 0 ? { ...mergePatches(patch, next), reason: 'pass.take' } : { ...next, reason: 'pass.take' };
  };
  if (whole && !sameJson(own.rules, other.rules))
    take({ id: newId(), reason: 'track.rules', ops: [put('tracks', own, { ...own, rules: other.rules })] });
  for (const stretch of chartStretches(scene, track)) {
    const span = { from: Math.max(from, stretch.from), to: Math.min(to, stretch.to) };
    if (span.from >= span.to) continue;
    const open = openLane(now, { track, ...span });
    if (isRefusal(open)) return open;
    const laid = partOf(pieces, span).map(({ id: _, ...piece }): Laid => {
      // A mouth that is there already keeps its name.
      const there = open.lane.find((one) => one.from === piece.from && one.to === piece.to && one.drawing === piece.drawing);
      return { ...piece, ...(there?.id !== undefined && { id: there.id }), plays: piece.plays.filter((sound) => sounds.has(sound)) };
    });
    const change = laneChange(
      now,
      { track, reason: 'pass.take', refusal: SAME },
      open,
      healed(laidOver(open.lane, span, laid), span),
      newId,
    );
    if (!isRefusal(change)) take(change);
  }
  return patch.ops.length > 0 ? patch : { refusal: SAME };
}
