/** Lanes of other parts of the face than the mouth: made, taken away, and their pencil, which blinks where it is asked to. */
import { restDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import type { HeadPart } from '../chart/head.js';
import { putsOf, type Patch } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { BLINK_LIMITS, planBlinks, type BlinkJob, type BlinkRules } from '../keying/blinks.js';
import { DEFAULT_RULES } from '../keying/rules.js';
import { framesPerSecond } from '../time/frameRate.js';
import { framePositionOfSample } from '../time/samples.js';
import { without, type Span } from '../time/span.js';
import type { Held } from './exchangePencil.js';
import { exposuresOfTrack } from './exposures.js';
import { placedSounds, placedWords } from './placedSounds.js';
import { mouthLanes, sceneSettings, type SceneDocument, type Track } from './sceneDocument.js';
import { chartStretches } from './trackCharts.js';

const put = putsOf<SceneDocument>();

/** Sounds that shut the lips. */
const CLOSURES = new Set(['M', 'B', 'P']);
/** A pause this long, in seconds, ends a phrase; a mouth that is held so long is a long hold. */
const PAUSE_SECONDS = 0.3;
const LONG_HOLD_SECONDS = 1.2;
/** Parts of a lane's order among those of its mouth. */
const ORDER_STEP = 0.01;

/** The lane of a part of a character's face, by the part's name; undefined where it has none in this scene. */
export function maybePartLane(scene: Pick<SceneDocument, 'tracks'>, characterId: string, part: string): Track | undefined {
  const name = part.toLowerCase();
  return scene.tracks.find((track) => track.kind === 'part' && track.characterId === characterId && track.part?.toLowerCase() === name);
}

/**
 * Makes a lane for a part of the face: at rest, in pencil, until it is keyed.
 *
 * @param mouth the mouth lane of whose face it is
 * @param chart the part's
 */
export function addPartLane(
  scene: SceneDocument,
  { mouth: mouthId, part }: { readonly mouth: string; readonly part: HeadPart },
  chart: ChartDocument,
  newId: IdSource,
): Patch | Refusal {
  const mouth = mouthLanes(scene).find(({ id }) => id === mouthId);
  if (!mouth) return { refusal: 'That lane is no longer in the scene.' };
  const { characterId } = mouth;
  if (maybePartLane(scene, characterId, part.name)) return { refusal: `There is a lane for “${part.name}” already.` };
  const after = scene.tracks.filter(
    (track) => track.characterId === characterId && track.order >= mouth.order && track.order < mouth.order + 1,
  );
  const order = Math.max(...after.map((track) => track.order)) + ORDER_STEP;
  const track: Track = { id: newId(), kind: 'part', characterId, chartId: part.chartId, order, rules: DEFAULT_RULES, part: part.name };
  const rest = { id: newId(), track: track.id, from: 0, to: sceneSettings(scene).lengthFrames, drawing: restDrawing(chart).id };
  return {
    id: newId(),
    reason: 'lane.add',
    ops: [put('tracks', null, track), put('exposures', null, { ...rest, inked: false, plays: [] })],
  };
}

/** Takes the lane of a part away, with what is keyed in it. The part itself stays on the head. */
export function removePartLane(scene: SceneDocument, trackId: string, newId: IdSource): Patch | Refusal {
  const track = scene.tracks.find(({ id }) => id === trackId);
  if (track?.kind !== 'part') return { refusal: 'That is no lane of a part of the face.' };
  return {
    id: newId(),
    reason: 'lane.remove',
    ops: [
      put('tracks', track, null),
      ...scene.views.filter((view) => view.track === trackId).map((view) => put('views', view, null)),
      ...exposuresOfTrack(scene, trackId).map((exposure) => put('exposures', exposure, null)),
    ],
  };
}

/** Hides a part's lane, so that the part is at rest on every picture, or shows it again. */
export function setLaneHidden(scene: SceneDocument, trackId: string, hidden: boolean, newId: IdSource): Patch | Refusal {
  const track = scene.tracks.find(({ id }) => id === trackId);
  if (track?.kind !== 'part') return { refusal: 'That is no lane of a part of the face.' };
  const { hidden: _, ...plain } = track;
  return { id: newId(), reason: 'lane.hidden', ops: [put('tracks', track, hidden ? { ...plain, hidden } : plain)] };
}

/** Has a lane blink, otherwise than before, or no longer (`null`). Its pencil is keyed after it. */
export function setBlinks(scene: SceneDocument, trackId: string, rules: BlinkRules | null, newId: IdSource): Patch | Refusal {
  const track = scene.tracks.find(({ id }) => id === trackId);
  if (track?.kind !== 'part') return { refusal: 'That is no lane of a part of the face.' };
  const { least, most, seeds } = BLINK_LIMITS;
  if (rules && !(rules.perMinute >= least && rules.perMinute <= most && rules.seed >= 0 && rules.seed <= seeds))
    return { refusal: `${rules.perMinute} blinks a minute are out of range. ${least} to ${most} can be asked for.` };
  const { blinks: _, ...plain } = track;
  return { id: newId(), reason: 'lane.blinks', ops: [put('tracks', track, rules ? { ...plain, blinks: rules } : plain)] };
}

/** The drawings of a blink: called, or tagged, “shut” and “half”. */
export interface BlinkDrawings {
  readonly shut: Drawing | undefined;
  readonly half: Drawing | undefined;
}

export function blinkDrawings(chart: ChartDocument): BlinkDrawings {
  const called = (name: string): Drawing | undefined =>
    chart.drawings.find(({ label, tags }) => [label, ...tags].some((word) => word.trim().toLowerCase() === name));
  return { shut: called('shut'), half: called('half') };
}

/** What blinks are planned from: the speech of whose face it is, and the ink of the lane. */
export function blinkJobOf(scene: SceneDocument, track: Track, rules: BlinkRules): BlinkJob {
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const fps = framesPerSecond(frameRate);
  const frame = (sample: number): number => Math.floor(framePositionOfSample(frameRate, sample));
  const words = placedWords(scene, track.characterId);
  const sounds = placedSounds(scene, track.characterId);
  const mouth = mouthLanes(scene).find(({ characterId }) => characterId === track.characterId);
  const lead = (mouth?.rules.leadFrames ?? 0) + 1;
  const barred: Span[] = exposuresOfTrack(scene, track.id).filter(({ inked }) => inked);
  // A closure is where it is shown; one that no mouth plays, where it is heard.
  const mouths = mouth ? exposuresOfTrack(scene, mouth.id) : [];
  const closures = new Set(sounds.flatMap(({ id, symbol }) => (CLOSURES.has(symbol) ? [id] : [])));
  barred.push(...mouths.filter(({ plays }) => plays.length > 0 && plays.every((id) => closures.has(id))));
  const shown = new Set(mouths.flatMap(({ plays }) => plays));
  for (const { id, from, to } of sounds)
    if (closures.has(id) && !shown.has(id)) barred.push({ from: frame(from) - lead, to: frame(to) + 1 });
  const stressed = new Set(sounds.flatMap(({ stress, word }) => (stress === 1 && word !== null ? [word] : [])));
  for (const { id, from, to } of words) {
    const quarter = (to - from) / 4;
    if (stressed.has(id)) barred.push({ from: frame(from + quarter), to: frame(to - quarter) + 1 });
  }
  const turns = [track, mouth].flatMap((one) =>
    one
      ? chartStretches(scene, one.id)
          .slice(1)
          .map(({ from }) => from)
      : [],
  );
  // Where its own chart changes no blink lies across: half of it would be on either.
  for (const { from } of chartStretches(scene, track.id).slice(1)) barred.push({ from: from - 1, to: from + 1 });
  const pause = PAUSE_SECONDS * fps;
  const begins = words.flatMap(({ from }, index) =>
    index === 0 || framePositionOfSample(frameRate, from - words[index - 1]!.to) >= pause ? [frame(from)] : [],
  );
  const held = mouths.filter(({ from, to }) => to - from >= LONG_HOLD_SECONDS * fps);
  return {
    rules,
    lengthFrames,
    framesPerSecond: fps,
    expected: [...turns, ...begins, ...held.map(({ to }) => to)],
    barred,
  };
}

/** The pencil of a part's lane: at rest, but for the blinks that are asked for. Between the ink alone. */
export function pencilOfPart(scene: SceneDocument, track: Track, charts: ReadonlyMap<string, ChartDocument>): Held[] | Refusal {
  const { blinks: rules } = track;
  const blinks = rules ? planBlinks(blinkJobOf(scene, track, rules)) : [];
  const held: Held[] = [];
  for (const { from, to, chartId } of chartStretches(scene, track.id)) {
    const chart = charts.get(chartId)!;
    const { shut, half } = blinkDrawings(chart);
    if (rules && !shut)
      return {
        refusal: 'No drawing of this lane is called “Shut”, so it cannot blink. Give the one with the eyes shut that label or tag.',
      };
    const rest = restDrawing(chart).id;
    let at = from;
    const lay = (to: number, drawing: string): void => {
      if (to > at) held.push({ from: at, to, drawing, plays: [] });
      at = Math.max(at, to);
    };
    for (const blink of blinks) {
      if (blink.from < from || blink.to > to) continue;
      lay(blink.from, rest);
      lay(blink.shutFrom, half?.id ?? rest);
      lay(blink.shutTo, shut!.id);
      lay(blink.to, half?.id ?? rest);
    }
    lay(to, rest);
  }
  const ink = exposuresOfTrack(scene, track.id).filter(({ inked }) => inked);
  return ink.reduce<Held[]>((left, wall) => left.flatMap((one) => without(one, wall)), held);
}

/** What a lane is called: whoever speaks, or a part of their face. @example nameOfLane({ part: 'Lids' }, 'Bramble') // 'Bramble lids' */
export function nameOfLane({ part }: Pick<Track, 'part'>, character: string): string {
  return part === undefined ? character : `${character} ${part.toLowerCase()}`;
}
