/**
 * Any sounds of a language, one after another, as a network: each beside each of its neighbours, and as likely after the
 * two before it as it is among the words of a pronouncing dictionary (n-grams of sounds, smoothed by interpolation:
 * F. Jelinek and R. Mercer, 1980).
 */
import type { AcousticModel } from './acousticModel.js';
import { NetworkMaker, type Network } from './network.js';

export interface SoundLoop {
  readonly network: Network;
  /** The sound of a node by its number in the model; undefined for silence. */
  readonly soundOf: (node: number) => number | undefined;
}

export interface SoundLoopSettings {
  /** What silence costs; nats. */
  readonly pause: number;
  /** How much what is likely counts, against how well a sound fits. */
  readonly weight: number;
}

/**
 * On every second of 36 labelled lines of two voices a weight of 3 or 4, with each sound costing up to 6 nats besides, finds 75 to 78 % of their sounds,
 * of 1 and of 7 fewer; the two other voices read alike. A pause of 0 to 8 nats makes no difference.
 */
export const LOOP: SoundLoopSettings = { pause: 8, weight: 4 };

/** A sequence of three counts for itself as far as it was met so often. */
const ENOUGH = 10;

/**
 * ln of how likely a sound is after two others. Words follow one another as if each were as likely as any.
 *
 * @param words sounds by number, 0 to `count − 1`; `count` stands for the edge of a word
 * @returns shape: (count + 1) × (count + 1) × (count + 1), the first sound, the second, the third
 */
function trigrams(words: readonly (readonly number[])[], count: number): Float32Array {
  const side = count + 1;
  const [three, two, one] = [new Float64Array(side ** 3), new Float64Array(side ** 2), new Float64Array(side)];
  for (const word of words) {
    const padded = [count, ...word, count];
    for (let at = 1; at < padded.length; at++) {
      const [first, second, third] = [padded[at - 2], padded[at - 1]!, padded[at]!];
      one[third]! += 1;
      two[second * side + third]! += 1;
      if (first !== undefined) three[(first * side + second) * side + third]! += 1;
    }
  }
  const total = one.reduce((sum, value) => sum + value, 0);
  const smoothed = (own: Float64Array, row: number, below: (third: number) => number): number[] => {
    const met = own.subarray(row, row + side);
    const sum = met.reduce((all, value) => all + value, 0);
    return Array.from(met, (value, third) => (value + ENOUGH * below(third)) / (sum + ENOUGH));
  };
  const logs = new Float32Array(side ** 3);
  for (let second = 0; second < side; second++) {
    const after = smoothed(two, second * side, (third) => one[third]! / total);
    for (let first = 0; first < side; first++) {
      const row = (first * side + second) * side;
      smoothed(three, row, (third) => after[third]!).forEach((share, third) => (logs[row + third] = Math.log(share)));
    }
  }
  return logs;
}

/**
 * The network of any sounds. Neighbours across the edge of a word are neighbours like others.
 *
 * @param words pronunciations of a dictionary, sounds by their numbers in the model
 */
export function soundLoop(
  model: AcousticModel,
  words: readonly (readonly number[])[],
  { pause, weight }: SoundLoopSettings = LOOP,
): SoundLoop {
  const { silence } = model;
  const sounds = [...new Set(words.flat())].sort((a, b) => a - b);
  const count = sounds.length;
  const edge = count;
  const side = count + 1;
  const indexes = new Map(sounds.map((sound, index) => [sound, index]));
  const logs = trigrams(
    words.map((word) => word.map((sound) => indexes.get(sound)!)),
    count,
  );
  const logOf = (first: number, second: number, third: number): number => logs[(first * side + second) * side + third]!;
  /** What a sound costs after two others, in a word or as the first of the next. */
  const costs = new Float32Array(side ** 3);
  for (let first = 0; first < side; first++)
    for (let second = 0; second < side; second++)
      for (let third = 0; third < side; third++) {
        const ending = third === edge ? 0 : Math.exp(logOf(first, second, edge) + logOf(edge, edge, third));
        costs[(first * side + second) * side + third] = -weight * Math.log(Math.exp(logOf(first, second, third)) + ending);
      }
  const maker = new NetworkMaker(model);
  const quiet = maker.add(silence, silence, silence, 'single');
  maker.begin(quiet, pause);
  maker.end(quiet);
  const inModel = [...sounds, silence];
  const nodeOf = (left: number, middle: number, right: number): number => 1 + (left * count + middle) * side + right;
  const each = (use: (left: number, middle: number, right: number) => void): void => {
    for (let left = 0; left < side; left++)
      for (let middle = 0; middle < count; middle++) for (let right = 0; right < side; right++) use(left, middle, right);
  };
  each((left, middle, right) => {
    const position = left === edge ? (right === edge ? 'single' : 'begin') : right === edge ? 'end' : 'internal';
    maker.add(inModel[middle]!, inModel[left]!, inModel[right]!, position);
  });
  // What a sound's right neighbour is settles what comes next: that is paid with the sound itself, so that the unlikely is given up early.
  const costOf = (left: number, middle: number, right: number): number => costs[(left * side + middle) * side + right]!;
  each((left, middle, right) => {
    const node = nodeOf(left, middle, right);
    if (left === edge) {
      const cost = costOf(edge, edge, middle) + costOf(edge, middle, right);
      maker.link(quiet, node, cost);
      maker.begin(node, cost);
    }
    if (right !== edge) return;
    maker.link(node, quiet, pause);
    maker.end(node);
  });
  const all = Array.from({ length: side }, (_, index) => index);
  for (let middle = 0; middle < count; middle++)
    for (let right = 0; right < count; right++)
      maker.linkAll(
        all.map((left) => nodeOf(left, middle, right)),
        all.map((next) => [nodeOf(middle, right, next), costOf(middle, right, next)]),
      );
  return { network: maker.made(), soundOf: (node) => (node === quiet ? undefined : sounds[Math.floor((node - 1) / side) % count]) };
}
