/** The search on a model of four made-up sounds, beside every way there is through its graph, tried one after another. */
import fc from 'fast-check';
import { STATES, STREAM_LENGTH, STREAMS, type AcousticModel } from './acousticModel.js';
import { maybeAlignGraph, STRICT, type AlignedNode } from './alignGraph.js';
import type { Features } from './cepstra.js';
import { senoneScorer } from './senoneScores.js';
import type { Network } from './network.js';
import { soundLoop } from './soundLoop.js';
import { wordGraph, type Looseness, type Ways, type WordGraph } from './wordGraph.js';

const SOUNDS = ['SIL', 'A', 'B', 'C'];
const DENSITIES = 4;
const SENONES = SOUNDS.length * STATES;
const WHOLE = { ...STRICT, beam: Infinity };
const PAUSE = 1.5;
const LOOSE: Looseness = { leftOut: 2, any: 1, anyFrame: 0.5 };

/** Each state of each sound has a density of its own, about a value of its own, and one they share. */
function smallModel(): AcousticModel {
  const count = SOUNDS.length * STREAMS * DENSITIES;
  const parameters = new Float64Array(count * STREAM_LENGTH * 2);
  const weights = new Uint8Array(STREAMS * DENSITIES * SENONES).fill(60);
  for (let sound = 0; sound < SOUNDS.length; sound++)
    for (let stream = 0; stream < STREAMS; stream++)
      for (let density = 0; density < DENSITIES; density++)
        for (let value = 0; value < STREAM_LENGTH; value++) {
          const at = (((sound * STREAMS + stream) * DENSITIES + density) * STREAM_LENGTH + value) * 2;
          parameters[at] = value === 0 ? sound + density / 4 : 0;
          parameters[at + 1] = 0.5;
        }
  for (let stream = 0; stream < STREAMS; stream++)
    for (let senone = 0; senone < SENONES; senone++) weights[(stream * DENSITIES + (senone % STATES)) * SENONES + senone] = 2;
  const senonesOf = (sound: number): Uint16Array => Uint16Array.from({ length: STATES }, (_, state) => sound * STATES + state);
  return {
    sounds: SOUNDS,
    silence: 0,
    senonesOf,
    plainSenonesOf: senonesOf,
    transitionsOf: () => Float64Array.of(-0.4, -0.5, -0.6, -1.1, -0.9, -0.8),
    codebookOfSenone: Uint8Array.from({ length: SENONES }, (_, senone) => Math.floor(senone / STATES)),
    senones: SENONES,
    densities: DENSITIES,
    parameters,
    peaks: new Float64Array(count),
    weights,
    weightOfStep: Float64Array.from({ length: 256 }, (_, step) => Math.exp(-step / 10)),
  };
}

const model = smallModel();

const featuresOf = (values: readonly number[]): Features => ({
  frames: values.length,
  values: Float32Array.from({ length: values.length * STREAMS * STREAM_LENGTH }, (_, at) =>
    at % STREAM_LENGTH === 0 ? values[Math.floor(at / (STREAMS * STREAM_LENGTH))]! : 0,
  ),
});

/** The score of a span in one node: the best of all places where its states may change. */
function scoreOfSpan(scores: readonly number[][], { senones, stay, leave }: Network, node: number, from: number, to: number): number {
  const at = node * STATES;
  let best = -Infinity;
  for (let second = from + 1; second < to - 1; second++)
    for (let third = second + 1; third < to; third++) {
      let score = 0;
      for (let frame = from; frame < to; frame++) {
        const state = frame < second ? 0 : frame < third ? 1 : 2;
        score += scores[frame]![senones[at + state]!]!;
        if (frame > from && frame !== second && frame !== third) score += stay[at + state]!;
      }
      best = Math.max(best, score + leave[at]! + leave[at + 1]! + leave[at + 2]!);
    }
  return best;
}

/** What may come after a node, hubs looked through. */
function followersOf({ count, afterFrom, after, costs }: Network, node: number): { node: number; cost: number }[] {
  return Array.from({ length: afterFrom[node + 1]! - afterFrom[node]! }, (_, index) => afterFrom[node]! + index).flatMap((arc) => {
    const [to, cost] = [after[arc]!, costs[arc]!];
    return to < count
      ? [{ node: to, cost }]
      : followersOf({ count, afterFrom, after, costs } as Network, to).map((next) => ({ ...next, cost: cost + next.cost }));
  });
}

/** Every way through a network with its score, given what each senone scores in each frame. */
function* waysThrough(scores: readonly number[][], network: Network): Generator<{ score: number; way: { node: number; from: number }[] }> {
  const frames = scores.length;
  function* from(node: number, start: number, score: number, way: { node: number; from: number }[]): ReturnType<typeof waysThrough> {
    const place = network.places.get(node);
    if (place && (start < place.from || start >= place.to)) return;
    const here = [...way, { node, from: start }];
    for (let end = start + STATES; end <= frames; end++) {
      const sum = score + scoreOfSpan(scores, network, node, start, end);
      if (end === frames) {
        if (network.lastCosts[node]! < Infinity) yield { score: sum - network.lastCosts[node]!, way: here };
      } else for (const next of followersOf(network, node)) yield* from(next.node, end, sum - next.cost, here);
    }
  }
  for (const [node, cost] of network.firsts) yield* from(node, 0, -cost, []);
}

function scoresOf(features: Features): number[][] {
  const scorer = senoneScorer(model, features);
  const all = new Uint8Array(SOUNDS.length).fill(1);
  return Array.from({ length: features.frames }, (_, frame) => {
    const reference = scorer.goTo(frame, all);
    // One past the last is whatever fits best.
    return Array.from({ length: SENONES + 1 }, (_, senone) => scorer.scoreOf(senone) - reference);
  });
}

const placed = (aligned: readonly AlignedNode[] | undefined): { node: number; from: number }[] | undefined =>
  aligned?.map(({ node, from }) => ({ node, from }));
const words = fc.array(fc.array(fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 2 }), { minLength: 1, maxLength: 2 }), {
  minLength: 1,
  maxLength: 2,
});
const heard = fc.array(fc.double({ min: -0.5, max: 4, noNaN: true }), { minLength: 6, maxLength: 11 });

/** Whether what is found scores as much as the best of all ways there are; false where there is none. */
function isBestOf(network: Network, values: readonly number[]): boolean {
  const features = featuresOf(values);
  // The best of any sound is looked for among all of them in every frame, so that it is what it says.
  const aligned = placed(maybeAlignGraph(model, features, network, { ...WHOLE, allEvery: 1 }));
  let best: number | undefined;
  let own: number | undefined;
  for (const each of waysThrough(scoresOf(features), network)) {
    if (best === undefined || each.score > best) best = each.score;
    if (JSON.stringify(each.way) === JSON.stringify(aligned)) own = Math.max(own ?? -Infinity, each.score);
  }
  if (best === undefined) {
    expect(aligned).toBeUndefined();
    return false;
  }
  expect(own).toBeCloseTo(best, 5);
  return true;
}

it('no way through a graph is better than the one that is found, and one is found wherever there is one', () => {
  let found = 0;
  fc.assert(
    fc.property(words, heard, fc.constantFrom('all' as const, 'first' as const), fc.boolean(), (ways, values, extent, isPlaced) => {
      const places = [
        { from: 0, to: 4 },
        { from: 3, to: 20 },
      ];
      const { network } = wordGraph(model, ways as Ways[], {
        extent,
        places: isPlaced ? ways.map((_, word) => places[word]!) : undefined,
        pause: PAUSE,
      });
      if (isBestOf(network, values)) found += 1;
    }),
    { seed: 7, numRuns: 150 },
  );
  expect(found).toBeGreaterThan(50);
});

it('so it is where words may be left out and any sounds stand between, and among any sounds of a dictionary', () => {
  let found = 0;
  fc.assert(
    fc.property(words, heard, fc.constantFrom('all' as const, 'first' as const), (ways, values, extent) => {
      if (isBestOf(wordGraph(model, ways as Ways[], { extent, looseness: LOOSE, pause: PAUSE }).network, values.slice(0, 9))) found += 1;
      const said = ways.flat().filter((way) => way.length > 0);
      if (isBestOf(soundLoop(model, said, { pause: PAUSE, weight: 1 }).network, values.slice(0, 9))) found += 1;
    }),
    { seed: 8, numRuns: 60 },
  );
  expect(found).toBe(120);
});

it('a word that is not there is left out, and what no word explains stands where it is', () => {
  const near = (sound: number, frames: number): number[] => Array.from({ length: frames }, () => sound);
  // A, then C, which no word has, then B.
  const features = featuresOf([...near(1, 6), ...near(3, 6), ...near(2, 6)]);
  const graph = wordGraph(model, [[[1]], [[3], [3, 1]], [[2]]], { looseness: LOOSE, pause: PAUSE });
  const loosely = maybeAlignGraph(model, features, graph.network, WHOLE)!.map(({ node }) => graph.nodes[node]!);
  expect(loosely.flatMap(({ word }) => word ?? [])).toEqual([0, 1, 2]);
  const without = wordGraph(model, [[[1]], [[2]], [[1]]], { looseness: LOOSE, pause: PAUSE });
  const found = maybeAlignGraph(model, features, without.network, WHOLE)!;
  const told = found.map(({ node, from, to }) => [without.nodes[node]!.isAny ? 'any' : without.nodes[node]!.word, from, to]);
  expect(told).toEqual([
    [0, 0, 6],
    ['any', 6, 12],
    [1, 12, 18],
  ]);
  // What leaving out and entering cost is nobody's who stands beside it.
  expect(found[0]!.cost).toBeCloseTo(maybeAlignGraph(model, featuresOf(near(1, 6)), wordGraph(model, [[[1]]]).network, WHOLE)![0]!.cost, 1);
});

it('sounds are named as they come, the likely before the unlikely where both fit', () => {
  const loop = soundLoop(model, [[1, 2], [1, 2], [1, 2], [3]], { pause: PAUSE, weight: 2 });
  const soundsAt = (values: readonly number[]): unknown[] =>
    maybeAlignGraph(model, featuresOf(values), loop.network, WHOLE)!.map(({ node }) => loop.soundOf(node));
  expect(soundsAt([1, 1, 1, 1, 2, 2, 2, 2])).toEqual([1, 2]);
  expect(soundsAt([1, 1, 1, 1, 5, 5, 5, 5])).toEqual([1, 3]);
  // Between B and C, B follows A.
  expect(soundsAt([1, 1, 1, 1, 2.6, 2.6, 2.6, 2.6])).toEqual([1, 2]);
});

it('what costs nothing is the best of all sounds throughout', () => {
  const features = featuresOf([1, 1, 1.25, 1.25, 1.5, 1.5]);
  const [only] = maybeAlignGraph(model, features, wordGraph(model, [[[1]]]).network, WHOLE)!;
  const [other] = maybeAlignGraph(model, features, wordGraph(model, [[[3]]]).network, WHOLE)!;
  expect(only!.cost).toBeLessThan(other!.cost);
  expect([only!.from, only!.to]).toEqual([0, 6]);
});

it('a line may be left out only where lines have places', () => {
  const features = featuresOf(Array.from({ length: 12 }, () => 0));
  const without = wordGraph(model, [[[1]], [[2]]]);
  const nowhere = { from: 0, to: 0 };
  const everywhere = { from: 0, to: 12 };
  const said = (graph: WordGraph): unknown[] =>
    (maybeAlignGraph(model, features, graph.network, WHOLE) ?? []).flatMap(({ node }) => graph.nodes[node]!.word ?? []);
  expect(said(without)).toEqual([0, 1]);
  expect(said(wordGraph(model, [[[1]], [[2]]], { places: [nowhere, nowhere] }))).toEqual([]);
  expect(said(wordGraph(model, [[[1]], [[2]]], { places: [nowhere, everywhere] }))).not.toContain(0);
});
