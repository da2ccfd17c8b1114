/** Lanes of other parts of the face than the mouth: made, taken away, and their pencil, which blinks where it is asked to. */
import { jawDropOf, restDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import type { HeadPart } from '../chart/head.js';
import { putsOf, type Patch } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { BOIL_LIMITS } from '../draw/boil.js';
import { BLINK_LIMITS, planBlinks, type BlinkJob, type BlinkRules } from '../keying/blinks.js';
import { LIFT_LIMITS, planLifts, type LiftRules, type StressedWord } from '../keying/lifts.js';
import { DEFAULT_RULES } from '../keying/rules.js';
import { sharesOf } from '../draw/madeDrawings.js';
import { maybeFaultOfLinks, type LaneLink } from '../keying/links.js';
import { framesPerSecond } from '../time/frameRate.js';
import { framePositionOfSample } from '../time/samples.js';
import { maybeCutTo, without, type Span } from '../time/span.js';
import type { Held } from './exchangePencil.js';
import { exposuresOfTrack } from './exposures.js';
import { placedSounds, placedWords } from './placedSounds.js';
import { mouthLanes, sceneSettings, type Exposure, type SceneDocument, type Track } from './sceneDocument.js';
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
      ...scene.places.filter((key) => key.track === trackId).map((key) => put('places', key, null)),
    ],
  };
}

/** How a lane stands beside the others: not drawn, at rest, out of the way, or kept from change. */
export type LaneState = 'hidden' | 'muted' | 'folded' | 'locked';

/** Hides, mutes, folds or locks a lane, a mouth's or a part's, or takes that back. */
export function setLaneState(
  scene: SceneDocument,
  { track: trackId, state, on }: { readonly track: string; readonly state: LaneState; readonly on: boolean },
  newId: IdSource,
): Patch | Refusal {
  const track = scene.tracks.find(({ id }) => id === trackId);
  if (!track) return { refusal: 'That lane is no longer in the scene.' };
  if ((track[state] ?? false) === on) return { refusal: `The lane is ${on ? '' : 'not '}${state} already.` };
  const { [state]: _, ...plain } = track;
  return { id: newId(), reason: `lane.${state}`, ops: [put('tracks', track, on ? { ...plain, [state]: true } : plain)] };
}

/** What is said of a change by hand that reaches into a lane that is locked; undefined where it reaches into none. */
export function maybeLocked(scene: SceneDocument, { ops }: Patch): Refusal | undefined {
  const locked = new Map(scene.tracks.flatMap((track) => (track.locked ? [[track.id, track] as const] : [])));
  if (locked.size === 0) return undefined;
  for (const op of ops) {
    const ids =
      op.op === 'put'
        ? op.table === 'exposures'
          ? [(op.before as Exposure | null)?.track, (op.after as Exposure | null)?.track]
          : op.table === 'tracks' && op.after === null
            ? [op.id]
            : []
        : [op.track];
    const lane = ids.map((id) => locked.get(id ?? '')).find((one) => one !== undefined);
    if (lane) return { refusal: `The lane of ${lane.part?.toLowerCase() ?? 'this mouth'} is locked. Unlock it in Lanes to change it.` };
  }
  return undefined;
}

/** A lane with a rule for its pencil changed, or taken away (`null`). The pencil is keyed after it. */
function withRule(
  scene: SceneDocument,
  trackId: string,
  rule: Partial<Pick<Track, 'blinks' | 'lifts' | 'links' | 'idle'>>,
  newId: IdSource,
): Patch | Refusal {
  const track = scene.tracks.find(({ id }) => id === trackId);
  if (track?.kind !== 'part') return { refusal: 'That is no lane of a part of the face.' };
  const kept = Object.entries({ ...track, ...rule }).filter(([, value]) => value !== undefined);
  return { id: newId(), reason: 'lane.rules', ops: [put('tracks', track, Object.fromEntries(kept) as unknown as Track)] };
}

/** Has the lines of a lane live while a drawing is held, a mouth's or a part's, or hold still (`null`). */
export function setBoil(scene: SceneDocument, trackId: string, strength: number | null, newId: IdSource): Patch | Refusal {
  const track = scene.tracks.find(({ id }) => id === trackId);
  if (!track) return { refusal: 'That lane is no longer in the scene.' };
  const { least, most } = BOIL_LIMITS;
  if (strength !== null && !(strength >= least && strength <= most))
    return { refusal: `A strength of ${strength} is out of range. ${least} to ${most} can be asked for.` };
  const { boil: _, ...plain } = track;
  return { id: newId(), reason: 'lane.boil', ops: [put('tracks', track, strength === null ? plain : { ...plain, boil: strength })] };
}

/** Has a lane blink, otherwise than before, or no longer. */
export function setBlinks(scene: SceneDocument, trackId: string, rules: BlinkRules | null, newId: IdSource): Patch | Refusal {
  const { least, most, seeds } = BLINK_LIMITS;
  if (rules && !(rules.perMinute >= least && rules.perMinute <= most && rules.seed >= 0 && rules.seed <= seeds))
    return { refusal: `${rules.perMinute} blinks a minute are out of range. ${least} to ${most} can be asked for.` };
  return withRule(scene, trackId, { blinks: rules ?? undefined } as Partial<Track>, newId);
}

/** Has a lane go up on stressed words, on more or fewer of them, or no longer. */
export function setLifts(scene: SceneDocument, trackId: string, rules: LiftRules | null, newId: IdSource): Patch | Refusal {
  const { least, most } = LIFT_LIMITS;
  if (rules && !(rules.share >= least && rules.share <= most))
    return { refusal: `A share of ${rules.share} is out of range. ${least} to ${most} of the stressed words can be asked for.` };
  return withRule(scene, trackId, { lifts: rules ?? undefined } as Partial<Track>, newId);
}

/** What a lane shows when others of the face show something: the whole table. */
export function setLinks(scene: SceneDocument, trackId: string, links: readonly LaneLink[], newId: IdSource): Patch | Refusal {
  const part = scene.tracks.find(({ id }) => id === trackId)?.part ?? '';
  const fault = maybeFaultOfLinks(links, part);
  if (fault !== undefined) return { refusal: fault };
  return withRule(scene, trackId, { links: links.length > 0 ? links : undefined } as Partial<Track>, newId);
}

/** Frames that each drawing of an idle loop is held. */
export const IDLE_LIMITS = { least: 1, most: 48 } as const;

/** Has a lane go through its drawings tagged “idle” where nothing is keyed, each held so many frames, or rest there (`null`). */
export function setIdle(scene: SceneDocument, trackId: string, every: number | null, newId: IdSource): Patch | Refusal {
  const { least, most } = IDLE_LIMITS;
  if (every !== null && !(Number.isInteger(every) && every >= least && every <= most))
    return { refusal: `${every} frames are out of range. ${least} to ${most} can be asked for.` };
  return withRule(scene, trackId, { idle: every ?? undefined } as Partial<Track>, newId);
}

/** The drawings that rules put: called, or tagged, “shut”, “half” and “up”; and those tagged “idle”, in tray order. */
export interface RuledDrawings {
  readonly shut: Drawing | undefined;
  readonly half: Drawing | undefined;
  readonly up: Drawing | undefined;
  readonly idle: readonly Drawing[];
}

export function ruledDrawings(chart: ChartDocument): RuledDrawings {
  const called = (name: string): Drawing | undefined =>
    chart.drawings.find(({ label, tags }) => [label, ...tags].some((word) => word.trim().toLowerCase() === name));
  const idle = chart.drawings.filter(({ tags }) => tags.some((tag) => tag.toLowerCase() === 'idle')).sort((a, b) => a.place - b.place);
  return { shut: called('shut'), half: called('half'), up: called('up'), idle };
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

/** The stressed words of whose face it is, in frames from their stressed vowels on. */
export function stressedWords(scene: SceneDocument, characterId: string): StressedWord[] {
  const { frameRate } = sceneSettings(scene);
  const ends = new Map(placedWords(scene, characterId).map(({ id, to }) => [id, to]));
  return placedSounds(scene, characterId).flatMap(({ word, stress, from, to }) => {
    const end = word === null ? undefined : ends.get(word);
    if (stress !== 1 || end === undefined) return [];
    const [first, last] = [from, end].map((sample) => Math.floor(framePositionOfSample(frameRate, sample)));
    return [{ from: first!, to: last! + 1, held: to - from }];
  });
}

/** Where another lane of a face shows what a link asks for; an in-between shows the nearer of its two. */
export function linkedSpans(
  scene: SceneDocument,
  characterId: string,
  { of, shows, opens }: LaneLink,
  charts: ReadonlyMap<string, ChartDocument>,
): Span[] {
  const lane = of === null ? mouthLanes(scene).find((one) => one.characterId === characterId) : maybePartLane(scene, characterId, of);
  if (!lane || lane.muted || lane.hidden) return [];
  const known = new Map<string, boolean>();
  return chartStretches(scene, lane.id).flatMap((stretch) => {
    const chart = charts.get(stretch.chartId);
    const isAsked = (id: string): boolean => {
      const key = `${stretch.chartId} ${id}`;
      let asked = known.get(key);
      if (asked === undefined) {
        const [near] = [...sharesOf(id)].sort((a, b) => b[1] - a[1])[0]!;
        const drawing = chart?.drawings.find((one) => one.id === near);
        asked =
          opens === undefined ? drawing?.label.toLowerCase() === shows.toLowerCase() : !!drawing && jawDropOf(chart!, drawing) >= opens;
        known.set(key, asked);
      }
      return asked;
    };
    return exposuresOfTrack(scene, lane.id).filter(({ from, to, drawing }) => from < stretch.to && to > stretch.from && isAsked(drawing));
  });
}

/** What a lane shows by itself in each frame of a stretch on one chart; a sentence where its chart lacks what a rule puts. */
function shownByRules(
  scene: SceneDocument,
  track: Track,
  { chart, charts }: { readonly chart: ChartDocument; readonly charts: ReadonlyMap<string, ChartDocument> },
  { from, to }: Span,
): string[] | Refusal {
  const { shut, half, up, idle } = ruledDrawings(chart);
  const { blinks, lifts, links = [] } = track;
  if (blinks && !shut)
    return {
      refusal: 'No drawing of this lane is called “Shut”, so it cannot blink. Give the one with the eyes shut that label or tag.',
    };
  if (lifts && !up)
    return { refusal: 'No drawing of this lane is called “Up”, so it cannot go up. Give the one that is raised that label or tag.' };
  const rest = restDrawing(chart).id;
  const shown = new Array<string>(to - from).fill(rest);
  const every = track.idle;
  if (every !== undefined && idle.length > 0)
    for (let frame = from; frame < to; frame++) shown[frame - from] = idle[Math.floor(frame / every) % idle.length]!.id;
  const lay = (span: Span, drawing: string | undefined): void => void shown.fill(drawing ?? rest, span.from - from, span.to - from);
  for (const link of links) {
    const then = chart.drawings.find(({ label }) => label.toLowerCase() === link.put.toLowerCase());
    if (!then) continue;
    for (const span of linkedSpans(scene, track.characterId, link, charts)) {
      const within = maybeCutTo(span, { from, to });
      if (within) lay(within, then.id);
    }
  }
  if (lifts) {
    const { lengthFrames } = sceneSettings(scene);
    for (const lift of planLifts(lifts, stressedWords(scene, track.characterId), lengthFrames)) {
      const within = maybeCutTo(lift, { from, to });
      if (within) lay(within, up!.id);
    }
  }
  if (blinks) {
    for (const blink of planBlinks(blinkJobOf(scene, track, blinks))) {
      if (blink.from < from || blink.to > to) continue;
      lay(blink, half?.id);
      lay({ from: blink.shutFrom, to: blink.shutTo }, shut!.id);
    }
  }
  return shown;
}

/** The pencil of a part's lane: at rest, but for what its rules put. Between the ink alone. */
export function pencilOfPart(scene: SceneDocument, track: Track, charts: ReadonlyMap<string, ChartDocument>): Held[] | Refusal {
  const held: Held[] = [];
  for (const stretch of chartStretches(scene, track.id)) {
    const shown = shownByRules(scene, track, { chart: charts.get(stretch.chartId)!, charts }, stretch);
    if (isRefusal(shown)) return shown;
    shown.forEach((drawing, index) => {
      const [last, frame] = [held.at(-1), stretch.from + index];
      if (index > 0 && last?.drawing === drawing) held[held.length - 1] = { ...last, to: frame + 1 };
      else held.push({ from: frame, to: frame + 1, drawing, plays: [] });
    });
  }
  const ink = exposuresOfTrack(scene, track.id).filter(({ inked }) => inked);
  return ink.reduce<Held[]>((left, wall) => left.flatMap((one) => without(one, wall)), held);
}

/** What a lane is called: whoever speaks, or a part of their face. @example nameOfLane({ part: 'Lids' }, 'Bramble') // 'Bramble lids' */
export function nameOfLane({ part }: Pick<Track, 'part'>, character: string): string {
  return part === undefined ? character : `${character} ${part.toLowerCase()}`;
}
