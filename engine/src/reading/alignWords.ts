/** Words aligned to what is heard, by the acoustic model itself: each said in any of its ways, with or without silence between. */
import {
  featuresOf,
  FEATURE_RATE,
  maybeAlignGraph,
  STRICT,
  WIDER,
  wordGraph,
  type AcousticModel,
  type AlignedNode,
  type AlignedPhoneme,
  type Extent,
  type FramePlace,
  type WordGraph,
} from '@zest-jaw/core';
import { mapOnce } from './mapOnce.js';
import type { AlignedSegment, SpokenPlace } from './recogniser.js';

/**
 * How sure a word is, much as the goodness of pronunciation of S. Witt and S. Young (2000) has it: by how far the states of its sounds are below the best of any sound, in nats a frame, in the mean over
 * its sounds and one more that fits as most do, so that one sound alone does not condemn a short word. By that a word that
 * was said is told from one that was not in 98 to 99.7 of 100 pairs of them on four voices; by what its frames cost
 * altogether, which takes every long word for unsure, in 90 to 98.
 */
const UNSURE_NATS = 30;
const AS_MOST = 0.5;

const costOf = ({ cost, from, to }: AlignedNode): number => cost / (to - from);
const sureness = (nats: number): number => Math.exp(-Math.max(0, nats) / UNSURE_NATS);

const inFrames = ({ fromSeconds, toSeconds }: SpokenPlace): FramePlace => ({
  from: Math.floor(fromSeconds * FEATURE_RATE),
  to: Math.ceil(toSeconds * FEATURE_RATE),
});

/** Nodes of one word in one of its ways, or of a silence, as they follow each other. */
function runsOf(aligned: readonly AlignedNode[], { nodes }: WordGraph): AlignedNode[][] {
  const runs: AlignedNode[][] = [];
  for (const at of aligned) {
    const word = nodes[at.node]!.word;
    const run = runs.at(-1);
    if (run && word !== undefined && nodes[run[0]!.node]!.word === word) run.push(at);
    else runs.push([at]);
  }
  return runs;
}

const spanOf = (nodes: readonly AlignedNode[]): Omit<AlignedPhoneme, 'symbol'> => ({
  fromSeconds: nodes[0]!.from / FEATURE_RATE,
  toSeconds: nodes.at(-1)!.to / FEATURE_RATE,
  confidence: sureness(nodes.reduce((sum, node) => sum + costOf(node), AS_MOST) / (nodes.length + 1)),
});

/**
 * Aligns words.
 *
 * @param words each with the ways in which it is said, in the model's own symbols
 * @param places where each word may be said; lines that are not said in theirs are left out
 * @returns undefined where they do not fit into the recording
 */
export function maybeAlignWords(
  model: AcousticModel,
  samples16k: Float32Array,
  words: readonly { readonly word: string; readonly ways: readonly (readonly string[])[] }[],
  extent: Extent,
  places?: readonly SpokenPlace[],
): AlignedSegment[] | undefined {
  const numbered = words.map(({ ways }) =>
    ways.map((way) => way.map((symbol) => model.sounds.indexOf(symbol))).filter((way) => way.every((sound) => sound >= 0)),
  );
  // A word of sounds that the model does not have cannot be found.
  if (numbered.length === 0 || numbered.some((ways) => ways.length === 0)) return undefined;
  const graph = wordGraph(model, numbered, extent, places && mapOnce(places, inFrames));
  const features = featuresOf(samples16k);
  let aligned: AlignedNode[] | undefined;
  for (const settings of [STRICT, ...WIDER]) aligned ??= maybeAlignGraph(model, features, graph, settings);
  return (
    aligned &&
    runsOf(aligned, graph).map((run) => {
      const { word } = graph.nodes[run[0]!.node]!;
      const phonemes = run.map((at) => ({ symbol: model.sounds[graph.nodes[at.node]!.sound]!, ...spanOf([at]) }));
      return { ...spanOf(run), word: word === undefined ? undefined : words[word]!.word, index: word, phonemes };
    })
  );
}
