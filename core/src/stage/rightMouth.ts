/**
 * Was it the right mouth? What was shot is laid over the first picture, each mouth has a likeness (drawn from the chart, or
 * the middle of what was shot of it), and a picture belongs to the mouth whose likeness it is nearest to where the
 * likenesses differ. A picture that is nearer to another mouth than to its own is doubted, and so is one that something
 * stands before. Two mouths that the camera cannot tell apart are never doubted for each other, and are named.
 */
import { baseOf, laidOver, slopesOf, type Base } from './align.js';
import type { GreyPicture } from './picture.js';

/** One picture that was taken. */
export interface TakenPicture {
  /** Which picture of the line, from 0. */
  readonly picture: number;
  /** The mouth that was asked for. */
  readonly asked: string;
  /** Which putting-on of a mouth it belongs to: pictures of one have the same mouth on. */
  readonly shot: number;
}

export interface MouthDoubt extends TakenPicture {
  /** The mouth it looks like; null when nothing can be said because something stands before it. */
  readonly seems: string | null;
  /** How much likelier the other mouth is, as a logarithm; of a hidden one, the share of the mouth that cannot be seen. */
  readonly weight: number;
}

export interface MouthCheck {
  readonly doubts: readonly MouthDoubt[];
  /** Pairs of mouths that look the same to the camera. */
  readonly alike: readonly (readonly [string, string])[];
  /** Mouths that were put on once only, with nothing to hold them against. */
  readonly alone: readonly string[];
}

/** A picture must be likelier another mouth by so much, as a logarithm, before it is doubted. Found on charts other than those it is judged on. */
const DOUBTED_FROM = 6;
/** A pixel says at most so much: squared distance in its own spreads. */
const MOST_A_PIXEL = 9;
/** Squared spreads that a pixel of the same mouth may differ by. */
const SAME_UP_TO = 4;
/** Pixels of a picture are not independent: neighbours share what the softening and the laying over mixed. */
const INDEPENDENT = 1 / 9;
/** How far, in pixels, the laying over may be off; an edge may differ by its slope times this. */
const MISPLACED = 0.22;
/** Grey levels that two pictures of the same thing differ by at least. */
const LEAST_SPREAD = 1.5;
/** Likenesses differ where they are apart by so many spreads. */
const APART = 4;
/** More of the mouth than this beyond all bounds: something stands before it. */
const HIDDEN_FROM = 0.3;
/** A picture is like a mouth when its telling pixels are within so many squared spreads of it, in the mean. */
const LIKE = 1.5;
/** Likenesses drawn from the shots are made anew without those that are doubted, so often. */
const ROUNDS = 3;

interface Laid extends TakenPicture {
  /** Laid over the base: levels from 1, 0 where it has nothing. A byte each, for a take may have thousands. */
  readonly view: Uint8Array;
}

function kept(values: Float32Array): Uint8Array {
  const out = new Uint8Array(values.length);
  for (let at = 0; at < out.length; at++) if (!Number.isNaN(values[at]!)) out[at] = Math.max(1, Math.min(255, Math.round(values[at]!)));
  return out;
}

type Levels = Uint8Array | Float32Array;

/** The middle value of each pixel; where nothing is known, NaN. */
function middleOf(views: readonly Levels[], length: number): Float32Array {
  const out = new Float32Array(length);
  const column = new Float32Array(views.length);
  for (let at = 0; at < length; at++) {
    let count = 0;
    for (const view of views) if (view[at]! > 0) column[count++] = view[at]!;
    const known = column.subarray(0, count).sort();
    out[at] = count === 0 ? Number.NaN : (known[(count - 1) >> 1]! + known[count >> 1]!) / 2;
  }
  return out;
}

/** How much two pictures of the same mouth differ, pixel by pixel: the noise, and edges by how far they may be misplaced. */
function spreadsOf(base: GreyPicture, likenesses: readonly Float32Array[], noise: number): Float32Array {
  const slopes = likenesses.map((values) => slopesOf({ ...base, values }));
  return base.values.map((_, at) => {
    let steepest = 0;
    for (const { across, down } of slopes) {
      const slope = Math.hypot(across[at]!, down[at]!);
      if (slope > steepest) steepest = slope;
    }
    return Math.hypot(Math.max(LEAST_SPREAD, noise), MISPLACED * steepest);
  });
}

/** The noise of what is laid over: the median distance from the likeness it should have, as a standard deviation. */
function noiseOf(laid: readonly Laid[], likenessFor: (one: Laid) => Float32Array | undefined): number {
  const found: number[] = [];
  for (const one of laid) {
    const likeness = likenessFor(one);
    if (!likeness) continue;
    // Every so manieth pixel is enough for a median.
    for (let at = found.length % 7; at < one.view.length; at += 97) {
      const away = Math.abs(one.view[at]! - likeness[at]!);
      if (one.view[at]! > 0 && !Number.isNaN(away)) found.push(away);
    }
  }
  found.sort((a, b) => a - b);
  return 1.4826 * (found[found.length >> 1] ?? 0);
}

/** Where any two likenesses are apart. */
function tellingPixels(likenesses: readonly Float32Array[], spreads: Float32Array): Int32Array {
  const telling: number[] = [];
  for (let at = 0; at < spreads.length; at++) {
    let [least, most] = [Infinity, -Infinity];
    for (const likeness of likenesses) {
      const value = likeness[at]!;
      if (value < least) least = value;
      if (value > most) most = value;
    }
    if (most - least > APART * spreads[at]!) telling.push(at);
  }
  return Int32Array.from(telling);
}

interface Distance {
  /** Minus twice a log likelihood. */
  readonly far: number;
  /** The share of telling pixels beyond all bounds. */
  readonly beyond: number;
  /** As `far`, of what two pictures of the same mouth do not differ by. */
  readonly apart: number;
}

function distanceTo(view: Levels, likeness: Float32Array, spreads: Float32Array, telling: Int32Array): Distance {
  let [far, beyond, apart] = [0, 0, 0];
  for (const at of telling) {
    const away = ((view[at]! - likeness[at]!) / spreads[at]!) ** 2;
    if (away > SAME_UP_TO) apart += Math.min(away, MOST_A_PIXEL) - SAME_UP_TO;
    if (away < MOST_A_PIXEL) far += away;
    else {
      far += MOST_A_PIXEL;
      beyond += 1;
    }
  }
  return { far, beyond: telling.length === 0 ? 0 : beyond / telling.length, apart };
}

interface Judged {
  readonly doubts: MouthDoubt[];
  readonly alike: (readonly [string, string])[];
}

/**
 * @param likenessesFor the likenesses a picture is held against: without what it has itself given to them
 * @param isOwnSure whether the likeness of the picture's own mouth can be wrong only with more than one mouth that was
 */
function judge(
  base: GreyPicture,
  laid: readonly Laid[],
  shared: ReadonlyMap<string, Float32Array>,
  likenessesFor: (one: Laid) => ReadonlyMap<string, Float32Array>,
  isOwnSure: (one: Laid) => boolean,
): Judged {
  const all = [...shared.values()];
  const noise = noiseOf(laid, (one) => likenessesFor(one).get(one.asked));
  const spreads = spreadsOf(base, all, noise);
  const telling = tellingPixels(all, spreads);
  const alike: (readonly [string, string])[] = [];
  const names = [...shared.keys()];
  const isAlike = new Set<string>();
  names.forEach((one, index) => {
    for (const other of names.slice(index + 1)) {
      const { apart } = distanceTo(shared.get(one)!, shared.get(other)!, spreads, telling);
      if ((apart * INDEPENDENT) / 2 >= 2 * DOUBTED_FROM) continue;
      alike.push([one, other]);
      isAlike.add(`${one} ${other}`).add(`${other} ${one}`);
    }
  });
  const doubts: MouthDoubt[] = [];
  for (const one of laid) {
    const { picture, asked, shot } = one;
    const likenesses = likenessesFor(one);
    let nearest: { mouth: string; far: number; beyond: number } | undefined;
    for (const [mouth, likeness] of likenesses) {
      const distance = distanceTo(one.view, likeness, spreads, telling);
      if (!nearest || distance.far < nearest.far) nearest = { mouth, ...distance };
    }
    if (!nearest) continue;
    const own = likenesses.get(asked);
    if (nearest.beyond > HIDDEN_FROM) {
      // Nothing to hold it against: a mouth that was put on once is like no other.
      if (own) doubts.push({ picture, asked, shot, seems: null, weight: nearest.beyond });
      continue;
    }
    if (nearest.mouth === asked || isAlike.has(`${asked} ${nearest.mouth}`)) continue;
    // Of two that differ, the one that is like no other mouth is the right one.
    if (!isOwnSure(one) && nearest.far > LIKE * telling.length) continue;
    const far = own ? distanceTo(one.view, own, spreads, telling).far : MOST_A_PIXEL * telling.length;
    const weight = ((far - nearest.far) * INDEPENDENT) / 2;
    if (weight >= DOUBTED_FROM) doubts.push({ picture, asked, shot, seems: nearest.mouth, weight });
  }
  return { doubts, alike };
}

/** The likeness of every mouth, from what was shot of it: the middle of its puttings-on. */
function likenessesOf(laid: readonly Laid[], length: number, isLeftOut: (one: Laid) => boolean): Map<string, Float32Array[]> {
  const shots = new Map<string, Map<number, Levels[]>>();
  for (const one of laid) {
    if (isLeftOut(one)) continue;
    const ofMouth = shots.get(one.asked) ?? new Map<number, Levels[]>();
    ofMouth.set(one.shot, [...(ofMouth.get(one.shot) ?? []), one.view]);
    shots.set(one.asked, ofMouth);
  }
  return new Map([...shots].map(([mouth, ofMouth]) => [mouth, [...ofMouth.values()].map((views) => middleOf(views, length))]));
}

export interface MouthChecker {
  /** Gives one picture: its grey at the compared size. */
  add(taken: TakenPicture, grey: GreyPicture): void;
  /** Gives what a mouth looks like, drawn as the camera should see it. */
  draw(mouth: string, grey: GreyPicture): void;
  check(): MouthCheck;
}

/** Takes pictures one by one, in any order, and says at the end which are doubted. All have one size. */
export function openMouthChecker(): MouthChecker {
  let base: Base | undefined;
  const laid: Laid[] = [];
  const drawn = new Map<string, Float32Array>();
  const over = (grey: GreyPicture): Float32Array => laidOver((base ??= baseOf(grey)), grey).values;
  return {
    add: (taken, grey) => void laid.push({ ...taken, view: kept(over(grey)) }),
    draw: (mouth, grey) => void drawn.set(mouth, over(grey)),
    check: () => {
      const ground = base?.levels[0]?.picture;
      if (!ground) return { doubts: [], alike: [], alone: [] };
      if (drawn.size > 0)
        return {
          ...judge(
            ground,
            laid,
            drawn,
            () => drawn,
            () => true,
          ),
          alone: [],
        };
      return checkAgainstShots(ground, laid);
    },
  };
}

function checkAgainstShots(ground: GreyPicture, laid: readonly Laid[]): MouthCheck {
  const { length } = ground.values;
  let judged: Judged = { doubts: [], alike: [] };
  let alone: string[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const doubted = new Set(judged.doubts.map(({ picture }) => picture));
    const ofMouths = likenessesOf(laid, length, ({ picture }) => doubted.has(picture));
    const shared = new Map([...ofMouths].map(([mouth, shots]) => [mouth, middleOf(shots, length)]));
    const shotsOf = new Map<string, number[]>();
    for (const one of laid) {
      if (doubted.has(one.picture)) continue;
      const known = shotsOf.get(one.asked) ?? [];
      if (!known.includes(one.shot)) shotsOf.set(one.asked, [...known, one.shot]);
    }
    alone = [...ofMouths].filter(([, shots]) => shots.length < 2).map(([mouth]) => mouth);
    const without = new Map<string, Float32Array | undefined>();
    const isOwnSure = ({ asked, shot }: Laid): boolean => {
      const shots = shotsOf.get(asked) ?? [];
      return shots.length - (shots.includes(shot) ? 1 : 0) >= 2;
    };
    const likenessesFor = (one: Laid): Map<string, Float32Array> => {
      const key = `${one.asked} ${one.shot}`;
      if (!without.has(key)) {
        const at = shotsOf.get(one.asked)?.indexOf(one.shot) ?? -1;
        const others = (ofMouths.get(one.asked) ?? []).filter((_, index) => index !== at);
        without.set(key, others.length > 0 ? middleOf(others, length) : undefined);
      }
      const own = without.get(key);
      const likenesses = new Map(shared);
      if (own) likenesses.set(one.asked, own);
      else likenesses.delete(one.asked);
      return likenesses;
    };
    judged = judge(ground, laid, shared, likenessesFor, isOwnSure);
    if (judged.doubts.length === doubted.size && judged.doubts.every(({ picture }) => doubted.has(picture))) break;
  }
  return { ...judged, alone };
}

/** Doubts of one putting-on that say the same, one after another, as one. */
export interface DoubtedShot {
  readonly asked: string;
  readonly seems: string | null;
  /** Pictures in order. */
  readonly pictures: readonly number[];
}

export function doubtedShots(doubts: readonly MouthDoubt[]): DoubtedShot[] {
  const groups: (DoubtedShot & { readonly shot: number })[] = [];
  for (const { picture, asked, shot, seems } of [...doubts].sort((a, b) => a.picture - b.picture)) {
    const last = groups.at(-1);
    if (last?.shot === shot && last.seems === seems && last.pictures.at(-1) === picture - 1)
      groups[groups.length - 1] = { ...last, pictures: [...last.pictures, picture] };
    else groups.push({ asked, seems, shot, pictures: [picture] });
  }
  return groups.map(({ asked, seems, pictures }) => ({ asked, seems, pictures }));
}
