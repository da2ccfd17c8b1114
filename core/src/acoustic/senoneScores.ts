/**
 * How well the states of sounds fit a frame of features: of each codebook the densities that fit best, below the best of
 * all codebooks asked for and never further below than a floor, mixed by each senone's weights (phonetically tied mixtures).
 */
import { type AcousticModel, NATS_A_STEP, STREAM_LENGTH, STREAMS } from './acousticModel.js';
import type { Features } from './cepstra.js';

/** Densities of a codebook that count. */
const BEST = 4;
/** No density counts for less than this below the best: one that fits nothing must not decide. 96 of the model's steps, in nats. */
const FLOOR = 96 * NATS_A_STEP;
/** All sounds are looked at in every so many frames; between them those asked for and those that fitted best then. */
const ALL_EVERY = 16;
const FITTED_BEST = 2;
/** A mean and a precision for each value. */
const WIDTH = 2 * STREAM_LENGTH;

export interface SenoneScorer {
  /**
   * Goes to a frame.
   *
   * @param isAsked which sounds' senones will be asked for, by their number; others may not
   * @returns the best score of any sound without context, silence and noises too
   */
  goTo(frame: number, isAsked: Uint8Array): number;
  /** The score of a senone in the frame gone to; nats, higher fits better, comparable within a frame only. One past the last is the best of any sound. */
  scoreOf(senone: number): number;
}

export interface ScorerSettings {
  /** All sounds are looked at in every so many frames, for the best of any; those asked for in each. */
  readonly allEvery?: number;
}

export function senoneScorer(model: AcousticModel, features: Features, { allEvery = ALL_EVERY }: ScorerSettings = {}): SenoneScorer {
  const { codebookOfSenone, densities, parameters, peaks, weights, weightOfStep, senones: senoneCount } = model;
  const values = features.values;
  const sounds = model.sounds.length;
  const plain = model.sounds.map((_, sound) => [...model.plainSenonesOf(sound)]);
  // To begin with, the first densities of each.
  const chosen = Int32Array.from({ length: sounds * STREAMS * BEST }, (_, index) => index % BEST);
  const logs = new Float64Array(sounds * STREAMS * BEST);
  const shares = new Float64Array(sounds * STREAMS * BEST);
  const best = new Float64Array(STREAMS);
  const isNear = new Uint8Array(sounds);
  const isLooked = new Uint8Array(sounds);
  const fits = new Float64Array(sounds);
  const scores = new Float64Array(senoneCount + 1);
  /** The frame that a senone was scored in last. */
  const scoredIn = new Int32Array(senoneCount + 1).fill(-1);
  let now = -1;

  /** ln of a density where a stream lies. */
  const logOf = (density: number, at: number): number => {
    let log = peaks[density]!;
    for (let value = at, from = density * WIDTH; value < at + STREAM_LENGTH; value++, from += 2) {
      const apart = values[value]! - parameters[from]!;
      log -= apart * apart * parameters[from + 1]!;
    }
    return log;
  };
  /** Puts a density among the best of its place, which has `held` of them. */
  const insert = (place: number, held: number, density: number, log: number): void => {
    let rank = Math.min(held, BEST - 1);
    while (rank > 0 && logs[place + rank - 1]! < log) {
      logs[place + rank] = logs[place + rank - 1]!;
      chosen[place + rank] = chosen[place + rank - 1]!;
      rank -= 1;
    }
    logs[place + rank] = log;
    chosen[place + rank] = density;
  };
  /**
   * The densities of a codebook that fit a stream best, from the best on. Most of all time goes by in here: those that were
   * best last time mostly are again, and most others are out after four values, so these are written out.
   */
  const choose = (row: number, at: number): void => {
    const place = row * BEST;
    const first = row * densities;
    const was0 = chosen[place]!;
    const was1 = chosen[place + 1]!;
    const was2 = chosen[place + 2]!;
    const was3 = chosen[place + 3]!;
    insert(place, 0, was0, logOf(first + was0, at));
    insert(place, 1, was1, logOf(first + was1, at));
    insert(place, 2, was2, logOf(first + was2, at));
    insert(place, 3, was3, logOf(first + was3, at));
    const x0 = values[at]!;
    const x1 = values[at + 1]!;
    const x2 = values[at + 2]!;
    const x3 = values[at + 3]!;
    const x4 = values[at + 4]!;
    const x5 = values[at + 5]!;
    const x6 = values[at + 6]!;
    let least = logs[place + BEST - 1]!;
    for (let density = 0, from = first * WIDTH; density < densities; density++, from += WIDTH) {
      const apart0 = x0 - parameters[from]!;
      const apart1 = x1 - parameters[from + 2]!;
      const apart2 = x2 - parameters[from + 4]!;
      const apart3 = x3 - parameters[from + 6]!;
      let log =
        peaks[first + density]! -
        apart0 * apart0 * parameters[from + 1]! -
        apart1 * apart1 * parameters[from + 3]! -
        apart2 * apart2 * parameters[from + 5]! -
        apart3 * apart3 * parameters[from + 7]!;
      if (log <= least) continue;
      const apart4 = x4 - parameters[from + 8]!;
      const apart5 = x5 - parameters[from + 10]!;
      const apart6 = x6 - parameters[from + 12]!;
      log -= apart4 * apart4 * parameters[from + 9]! + apart5 * apart5 * parameters[from + 11]! + apart6 * apart6 * parameters[from + 13]!;
      if (log <= least) continue;
      for (let value = 7, next = from + 14; value < STREAM_LENGTH && log > least; value += 3, next += 6) {
        const one = values[at + value]! - parameters[next]!;
        const two = values[at + value + 1]! - parameters[next + 2]!;
        const three = values[at + value + 2]! - parameters[next + 4]!;
        log -= one * one * parameters[next + 1]! + two * two * parameters[next + 3]! + three * three * parameters[next + 5]!;
      }
      if (log <= least || density === was0 || density === was1 || density === was2 || density === was3) continue;
      insert(place, BEST, density, log);
      least = logs[place + BEST - 1]!;
    }
  };

  const scoreOf = (senone: number): number => {
    if (scoredIn[senone] === now) return scores[senone]!;
    let product = 1;
    let place = codebookOfSenone[senone]! * STREAMS * BEST;
    for (let stream = 0; stream < STREAMS; stream++) {
      const row = stream * densities;
      let sum = 0;
      for (let rank = 0; rank < BEST; rank++, place++)
        sum += shares[place]! * weightOfStep[weights[(row + chosen[place]!) * senoneCount + senone]!]!;
      product *= sum;
    }
    scoredIn[senone] = now;
    return (scores[senone] = Math.log(product));
  };
  const fitOf = (sound: number): number => {
    const [first, middle, last] = plain[sound]!;
    return Math.max(scoreOf(first!), scoreOf(middle!), scoreOf(last!));
  };

  return {
    goTo: (frame, isAsked) => {
      now = frame;
      const isAll = frame % allEvery === 0;
      best.fill(-Infinity);
      const at = frame * STREAMS * STREAM_LENGTH;
      for (let sound = 0; sound < sounds; sound++) {
        isLooked[sound] = isAll || isAsked[sound] || isNear[sound] ? 1 : 0;
        if (!isLooked[sound]) continue;
        for (let stream = 0; stream < STREAMS; stream++) {
          const row = sound * STREAMS + stream;
          choose(row, at + stream * STREAM_LENGTH);
          if (logs[row * BEST]! > best[stream]!) best[stream] = logs[row * BEST]!;
        }
      }
      let most = -Infinity;
      for (let sound = 0; sound < sounds; sound++) {
        fits[sound] = -Infinity;
        if (!isLooked[sound]) continue;
        for (let stream = 0; stream < STREAMS; stream++) {
          const place = (sound * STREAMS + stream) * BEST;
          for (let rank = place; rank < place + BEST; rank++) shares[rank] = Math.exp(Math.max(-FLOOR, logs[rank]! - best[stream]!));
        }
        fits[sound] = fitOf(sound);
        most = Math.max(most, fits[sound]!);
      }
      if (isAll) {
        const limit = [...fits].sort((a, b) => b - a)[FITTED_BEST - 1]!;
        for (let sound = 0; sound < sounds; sound++) isNear[sound] = fits[sound]! >= limit ? 1 : 0;
      }
      scoredIn[senoneCount] = now;
      return (scores[senoneCount] = most);
    },
    scoreOf,
  };
}
