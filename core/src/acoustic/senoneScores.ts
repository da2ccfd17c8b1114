/**
 * How well the states of sounds fit a frame of features: of each codebook the densities that fit best, below the best of
 * all codebooks asked for and never further below than a floor, mixed by each senone's weights (phonetically tied mixtures).
 */
import { type AcousticModel, NATS_A_STEP, STREAM_LENGTH, STREAMS } from './acousticModel.js';
import type { Features } from './cepstra.js';
import { BEST, chooserOf } from './densityChooser.js';

/** No density counts for less than this below the best: one that fits nothing must not decide. 96 of the model's steps, in nats. */
const FLOOR = 96 * NATS_A_STEP;
/** All sounds are looked at in every so many frames; between them those asked for and those that fitted best then. */
const ALL_EVERY = 16;
const FITTED_BEST = 2;

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
  const { codebookOfSenone, densities, weights, weightOfStep, senones: senoneCount } = model;
  const chooser = chooserOf(model);
  const sounds = model.sounds.length;
  const plain = model.sounds.map((_, sound) => [...model.plainSenonesOf(sound)]);
  // To begin with, the first densities of each.
  const chosen = Int32Array.from({ length: sounds * STREAMS * BEST }, (_, index) => index % BEST);
  const logs = new Float32Array(sounds * STREAMS * BEST);
  const shares = new Float64Array(sounds * STREAMS * BEST);
  const best = new Float64Array(STREAMS);
  const isNear = new Uint8Array(sounds);
  const isLooked = new Uint8Array(sounds);
  const fits = new Float64Array(sounds);
  const scores = new Float64Array(senoneCount + 1);
  /** The frame that a senone was scored in last. */
  const scoredIn = new Int32Array(senoneCount + 1).fill(-1);
  let now = -1;

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
      for (let sound = 0; sound < sounds; sound++) isLooked[sound] = isAll || isAsked[sound] || isNear[sound] ? 1 : 0;
      chooser.choose(features.values, frame * STREAMS * STREAM_LENGTH, isLooked, chosen, logs);
      for (let sound = 0; sound < sounds; sound++) {
        if (!isLooked[sound]) continue;
        for (let stream = 0; stream < STREAMS; stream++) best[stream] = Math.max(best[stream]!, logs[(sound * STREAMS + stream) * BEST]!);
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
