/**
 * What makes one pencil of a track into another, in few operations. Exposures keep their ids
 * by what they show and play, wherever they go. A run of them that only moves, as
 * when a clip is slid, is moved by shifts; what truly differs is put.
 */
import { sameJson } from '../document/documentKind.js';
import { applyPatch, putsOf, type PatchOp, type PutOp } from '../document/patch.js';
import { SCENE_KIND, type Exposure, type SceneDocument } from './sceneDocument.js';
import type { IdSource } from '../document/refusal.js';

const put = putsOf<SceneDocument>();

/** Frames of a drawing, before they are an exposure. */
export interface Held {
  readonly from: number;
  readonly to: number;
  readonly drawing: string;
  readonly plays: readonly string[];
}

/** Fewer exposures than this in a row are put one by one. */
export const SHORTEST_RUN = 12;
/** Each run walks the whole table twice: more of them cost more than they save. */
const MOST_RUNS = 8;

/** Names an exposure by what it shows and plays. */
const nameOf = ({ drawing, plays }: Held): string => `${drawing} ${plays.join(' ')}`;

/** Exposures that follow one another in both pencils, each as far from where it was. */
export interface Run {
  /** Half-open frames before. */
  readonly from: number;
  readonly to: number;
  readonly by: number;
  readonly length: number;
}

/** The long runs that move, first to last. */
function runsThatMove(current: readonly Exposure[], fresh: readonly Held[], walls: readonly Exposure[]): Run[] {
  const placeOf = new Map(current.map((exposure, index) => [nameOf(exposure), index]));
  const runs: Run[] = [];
  let [place, length] = [-1, 0];
  let open: Run | undefined;
  const close = (): void => {
    if (open && length >= SHORTEST_RUN) runs.push({ ...open, length });
    open = undefined;
  };
  for (const held of fresh) {
    const next = held.plays.length > 0 ? placeOf.get(nameOf(held)) : open && place + 1;
    const there = next === undefined ? undefined : current[next];
    const by = there ? held.from - there.from : 0;
    const isSame = there && there.drawing === held.drawing && held.to - held.from === there.to - there.from;
    if (open && isSame && next === place + 1 && by === open.by && there.from === open.to) open = { ...open, to: there.to };
    else {
      close();
      if (!isSame || by === 0 || next === undefined) continue;
      open = { from: there.from, to: there.to, by, length: 0 };
      length = 0;
    }
    length += 1;
    place = next;
  }
  close();
  const isFree = ({ from, to, by }: Run): boolean =>
    !walls.some((wall) => wall.from < Math.max(to, to + by) && wall.to > Math.min(from, from + by));
  return runs.filter(isFree);
}

/** What moves a run: room made for it by puts, then time put in on one side of it and taken out on the other. */
function opsOfRun(pencil: readonly Exposure[], { from, to, by }: Run, track: string): PatchOp[] {
  const room = by > 0 ? { from: to, to: to + by } : { from: from + by, to: from };
  const cleared = pencil.flatMap((exposure): PutOp[] => {
    if (exposure.to <= room.from || exposure.from >= room.to) return [];
    if (exposure.from < room.from && exposure.to > room.to) return [];
    if (exposure.from < room.from) return [put('exposures', exposure, { ...exposure, to: room.from })];
    return [put('exposures', exposure, exposure.to > room.to ? { ...exposure, from: room.to } : null)];
  });
  const shift = (at: number, frames: number): PatchOp => ({ op: 'shift', table: 'exposures', track, at, by: frames });
  const moved = by > 0 ? [shift(from, by), shift(to + by, -by)] : [shift(from + by, by), shift(to + by, -by)];
  return [...cleared, ...moved];
}

/**
 * The longest runs of a track moved by shifts.
 *
 * @param isOwn what makes room for them; of the track's other exposures none may lie in their way
 * @returns the operations, and the track's exposures after them
 */
export function movedRuns(
  scene: SceneDocument,
  track: string,
  runs: readonly Run[],
  isOwn: (exposure: Exposure) => boolean,
): { readonly ops: PatchOp[]; readonly now: readonly Exposure[] } {
  // Those that go later first, so that none moves over one that has not moved yet; those that go earlier from the first on.
  const few = [...runs].sort((a, b) => b.length - a.length).slice(0, MOST_RUNS);
  const later = few.filter(({ by }) => by > 0).sort((a, b) => b.from - a.from);
  const earlier = few.filter(({ by }) => by < 0).sort((a, b) => a.from - b.from);
  const ops: PatchOp[] = [];
  let now: SceneDocument = { ...scene, exposures: scene.exposures.filter((exposure) => exposure.track === track) };
  for (const run of [...later, ...earlier]) {
    const own = opsOfRun(now.exposures.filter(isOwn), run, track);
    now = applyPatch(SCENE_KIND, now, { id: '', reason: 'pencil.key', ops: own });
    ops.push(...own);
  }
  return { ops, now: now.exposures };
}

/** What is put, taken away or moved otherwise; exposures keep their ids by what they show and play, else by where they start. */
function putsFor(current: readonly Exposure[], fresh: readonly Held[], track: string, newId: IdSource): PutOp[] {
  const byName = new Map<string, Exposure[]>();
  for (const exposure of current) {
    const alike = byName.get(nameOf(exposure));
    if (alike) alike.push(exposure);
    else byName.set(nameOf(exposure), [exposure]);
  }
  const left = new Map(current.map((exposure) => [exposure.from, exposure]));
  const claimed = new Map<Held, Exposure>();
  const claim = (held: Held, exposure: Exposure | undefined): void => {
    if (!exposure || left.get(exposure.from) !== exposure) return;
    claimed.set(held, exposure);
    left.delete(exposure.from);
  };
  // First what is where it was, then what has moved; sounds are played once, so a name with sounds is one exposure's.
  for (const held of fresh) {
    const there = left.get(held.from);
    if (there && nameOf(there) === nameOf(held)) claim(held, there);
  }
  for (const held of fresh) if (!claimed.has(held) && held.plays.length > 0) claim(held, byName.get(nameOf(held))?.[0]);
  for (const held of fresh) if (!claimed.has(held)) claim(held, left.get(held.from));
  const puts = fresh.flatMap((held): PutOp[] => {
    const { from, to, drawing, plays } = held;
    const before = claimed.get(held) ?? null;
    const after: Exposure = { id: before?.id ?? newId(), track, inked: false, from, to, drawing, plays };
    return before && sameJson(before, after) ? [] : [put('exposures', before, after)];
  });
  return [...[...left.values()].map((exposure) => put('exposures', exposure, null)), ...puts];
}

/**
 * What makes the pencil of a track, or a part of it, into another.
 *
 * @param current the pencil to be exchanged, and `fresh` what is to be in its place, both in order
 * @param isWhole it is all of the track's pencil: only then can time be moved under it
 */
export function exchangedPencil(
  scene: SceneDocument,
  { track, current, fresh, isWhole }: { track: string; current: readonly Exposure[]; fresh: readonly Held[]; isWhole: boolean },
  newId: IdSource,
): PatchOp[] {
  const plain = putsFor(current, fresh, track, newId);
  if (!isWhole || plain.length <= SHORTEST_RUN) return plain;
  const walls = scene.exposures.filter((exposure) => exposure.track === track && exposure.inked);
  const runs = runsThatMove(current, fresh, walls);
  if (runs.length === 0) return plain;
  const { ops, now } = movedRuns(scene, track, runs, ({ inked }) => !inked);
  const rest = putsFor(
    now.filter(({ inked }) => !inked),
    fresh,
    track,
    newId,
  );
  return ops.length + rest.length < plain.length ? [...ops, ...rest] : plain;
}
