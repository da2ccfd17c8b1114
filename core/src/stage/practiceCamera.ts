/**
 * The practice camera: what a stage would see of a puppet. The camera creeps and turns a little, the light breathes, the
 * sensor is noisy, a hand is in the frame now and then, and now and then another mouth is on than the one asked for.
 */
import type { Raster } from '../picture/raster.js';

export interface StageConditions {
  /** Standard deviation of the sensor's noise, in levels of 255, in the middle of the greys. */
  readonly noise: number;
  /** How far the camera creeps at most, in thousandths of the picture's width. */
  readonly drift: number;
  /** How far the light goes up and down, as a share. */
  readonly flicker: number;
  /** The share of pictures with a hand in them. */
  readonly hands: number;
  /** The share of mouths put on that are not the ones asked for. */
  readonly mistakes: number;
}

export const USUAL_CONDITIONS: StageConditions = { noise: 5, drift: 4, flicker: 0.04, hands: 0.02, mistakes: 0.04 };

/** A number from 0 to 1 that belongs to a seed and two counts. Mixing after the finaliser of MurmurHash3 (A. Appleby, public domain), from memory. */
export function chance(seed: number, count: number, which: number): number {
  let mixed = (Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) + Math.imul(count + 1, 0xc2b2ae35) + Math.imul(which + 1, 0x27d4eb2f)) | 0;
  mixed = Math.imul(mixed ^ (mixed >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return ((mixed ^ (mixed >>> 16)) >>> 0) / 2 ** 32;
}

/**
 * Which mouth is really on: mostly the one asked for; otherwise the one before it, that nobody changed, its neighbour in
 * the tray, or any.
 *
 * @param tray the mouths that could be on, in the order of their numbers
 * @param nth the how-manieth mouth that is put on
 */
export function mouthReallyOn(
  asked: string,
  before: string | undefined,
  tray: readonly string[],
  { mistakes }: Pick<StageConditions, 'mistakes'>,
  seed: number,
  nth: number,
): string {
  if (chance(seed, nth, 0) >= mistakes || tray.length < 2) return asked;
  const kind = chance(seed, nth, 1);
  if (kind < 0.4 && before !== undefined && before !== asked) return before;
  const at = tray.indexOf(asked);
  const others = tray.filter((mouth) => mouth !== asked);
  if (kind < 0.7 && at >= 0) return tray[at + 1] ?? tray[at - 1]!;
  return others[Math.floor(chance(seed, nth, 2) * others.length)]!;
}

/** Slow waves that never quite come back: from -1 to 1. */
function creep(seed: number, which: number, at: number): number {
  let sum = 0;
  for (let wave = 0; wave < 3; wave++) sum += Math.sin(at / (17 * 2.3 ** wave) + 2 * Math.PI * chance(seed, wave, which)) / 3;
  return sum;
}

interface Hand {
  /** Of fingers and arm, in widths of the picture: ends and half a thickness. */
  readonly limbs: readonly (readonly [x: number, y: number, toX: number, toY: number, half: number])[];
}

/** A hand that comes in from below or a side, to the mouth or past it. */
function handOf(seed: number, count: number, ratio: number): Hand {
  const side = chance(seed, count, 11);
  const [fromX, fromY] = side < 0.4 ? [0.25 + 0.5 * chance(seed, count, 12), ratio + 0.1] : side < 0.7 ? [-0.1, 0.4] : [1.1, 0.4];
  const [palmX, palmY] = [0.28 + 0.44 * chance(seed, count, 13), ratio * (0.5 + 0.4 * chance(seed, count, 14))];
  const towards = Math.atan2(palmY - fromY, palmX - fromX);
  const fingers = [-0.45, -0.15, 0.15, 0.5].map((spread, index) => {
    const length = 0.13 + 0.03 * chance(seed, count, 20 + index);
    return [palmX, palmY, palmX + Math.cos(towards + spread) * length, palmY + Math.sin(towards + spread) * length, 0.016] as const;
  });
  return { limbs: [[fromX, fromY, palmX, palmY, 0.052], ...fingers] };
}

/** How deep a point is inside the hand, 0 to 1; 0 outside. */
function depthIn({ limbs }: Hand, x: number, y: number): number {
  let deepest = 0;
  for (const limb of limbs) {
    const acrossBy = limb[2] - limb[0];
    const downBy = limb[3] - limb[1];
    const along = Math.max(0, Math.min(1, ((x - limb[0]) * acrossBy + (y - limb[1]) * downBy) / (acrossBy ** 2 + downBy ** 2)));
    const away = Math.hypot(x - limb[0] - along * acrossBy, y - limb[1] - along * downBy);
    deepest = Math.max(deepest, 1 - away / limb[4]);
  }
  return deepest;
}

/** Noise as a sensor has it, made once and looked up from another place for each picture: drawing it anew would take most of the time. */
let grain: Float32Array | undefined;
const GRAIN = 1 << 16;

function grainOf(): Float32Array {
  if (grain) return grain;
  grain = new Float32Array(GRAIN);
  // Box and Muller (1958).
  for (let at = 0; at < GRAIN; at++) grain[at] = Math.sqrt(-2 * Math.log(1 - chance(7, at, 0))) * Math.cos(2 * Math.PI * chance(7, at, 1));
  return grain;
}

const SKIN = [201, 150, 118] as const;

/**
 * A picture as the camera takes it.
 *
 * @param puppet the puppet as it is, opaque
 * @param count which picture of the day it is: the camera creeps from one to the next
 * @param withHand whether a hand is in it; by chance when left out
 */
export function seenByCamera(puppet: Raster, conditions: StageConditions, seed: number, count: number, withHand?: boolean): Raster {
  const { width, height, pixels } = puppet;
  const { noise, drift, flicker, hands } = conditions;
  const reach = (drift / 1000) * width;
  const [acrossBy, downBy] = [reach * creep(seed, 1, count), reach * creep(seed, 2, count)];
  // Over half the width, a turn or a growth moves the edge by as much as the creep does.
  const turn = ((2 * drift) / 1000) * creep(seed, 3, count) * 0.5;
  const grow = ((2 * drift) / 1000) * creep(seed, 4, count) * 0.5;
  const light = 1 + flicker * (0.6 * creep(seed, 5, count) + 0.4 * (2 * chance(seed, count, 6) - 1));
  const hand = (withHand ?? chance(seed, count, 10) < hands) ? handOf(seed, count, height / width) : undefined;
  const loud = grainOf();
  // Shot noise grows with the root of the light.
  const loudness = Float32Array.from({ length: 256 }, (_, level) => noise * Math.sqrt(0.3 + level / 180));
  let drawn = Math.floor(chance(seed, count, 7) * GRAIN);
  const out = new Uint8ClampedArray(width * height * 4);
  const midX = (width - 1) / 2;
  const midY = (height - 1) / 2;
  for (let y = 0; y < height; y++) {
    // A row begins anywhere in the grain, so that no pattern shows.
    drawn = (drawn + Math.floor(chance(seed + y, count, 8) * GRAIN)) % GRAIN;
    for (let x = 0; x < width; x++) {
      const u = x - midX;
      const v = y - midY;
      const fromX = Math.max(0, Math.min(width - 1.001, x + acrossBy + grow * u - turn * v));
      const fromY = Math.max(0, Math.min(height - 1.001, y + downBy + turn * u + grow * v));
      const left = fromX | 0;
      const top = fromY | 0;
      const right = fromX - left;
      const down = fromY - top;
      const first = (top * width + left) * 4;
      const dim = light * (1 - 0.18 * ((u / width) ** 2 + (v / width) ** 2) * 4);
      const inHand = hand ? depthIn(hand, x / width, y / width) : 0;
      for (let colour = 0; colour < 3; colour++) {
        const at = first + colour;
        let level =
          (pixels[at]! * (1 - right) + pixels[at + 4]! * right) * (1 - down) +
          (pixels[at + width * 4]! * (1 - right) + pixels[at + width * 4 + 4]! * right) * down;
        if (inHand > 0) level = SKIN[colour]! * (0.62 + 0.38 * Math.sqrt(inHand));
        level *= dim;
        drawn = (drawn + 1) & (GRAIN - 1);
        out[(y * width + x) * 4 + colour] = level + loudness[level > 255 ? 255 : level | 0]! * loud[drawn]!;
      }
      out[(y * width + x) * 4 + 3] = 255;
    }
  }
  return { width, height, pixels: out };
}
