/** Made-up sounds that show what each rule does to a face. */
import { SAMPLE_RATE, type FullRules, type SceneSound } from '@zest-jaw/core';

export interface RuleExample {
  /** At 24 frames a second. */
  readonly frames: number;
  readonly sounds: readonly SceneSound[];
}

type Said = readonly [symbol: string, from: number, to: number, stress?: 0 | 1];

const example = (frames: number, said: readonly Said[]): RuleExample => ({
  frames,
  sounds: said.map(([symbol, from, to, stress]) => ({
    symbol,
    from: from * SAMPLE_RATE,
    to: to * SAMPLE_RATE,
    ...(stress === undefined ? {} : { stress }),
  })),
});

/** “Blameless”, a breath, “tide”: closures, a diphthong, a cluster and a pause. */
export const WHOLE_EXAMPLE = example(30, [
  ['B', 0.18, 0.25],
  ['L', 0.25, 0.31],
  ['EY', 0.31, 0.45, 1],
  ['M', 0.45, 0.51],
  ['L', 0.51, 0.56],
  ['AH', 0.56, 0.61, 0],
  ['S', 0.61, 0.7],
  ['T', 0.92, 0.98],
  ['AY', 0.98, 1.12, 1],
  ['D', 1.12, 1.17],
]);

/** “Stamps, please”, said quickly. */
const QUICK = example(24, [
  ['S', 0.08, 0.15],
  ['T', 0.15, 0.19],
  ['AE', 0.19, 0.31, 1],
  ['M', 0.31, 0.37],
  ['P', 0.37, 0.43],
  ['S', 0.43, 0.5],
  ['P', 0.5, 0.56],
  ['L', 0.56, 0.61],
  ['IY', 0.61, 0.75, 1],
  ['Z', 0.75, 0.84],
]);

/** “Ah”, with shorter and longer pauses between. */
const PAUSES = example(44, [
  ['AA', 0.05, 0.25, 1],
  ['AA', 0.38, 0.58, 1],
  ['AA', 0.88, 1.08, 1],
  ['AA', 1.55, 1.75, 1],
]);

export const RULE_EXAMPLES: Readonly<Partial<Record<keyof FullRules, RuleExample>>> = {
  holdFrames: QUICK,
  calm: QUICK,
  mostChanges: QUICK,
  betweens: QUICK,
  breathAfter: PAUSES,
  leadFrames: example(20, [
    ['M', 0.25, 0.38],
    ['AA', 0.38, 0.6, 1],
  ]),
  settleFrames: example(24, [
    ['M', 0.08, 0.17],
    ['OW', 0.17, 0.42, 1],
  ]),
  anticipationFrames: example(24, [
    ['AA', 0.5, 0.75, 1],
    ['M', 0.75, 0.9],
  ]),
  holdPause: PAUSES,
  restPause: PAUSES,
};
