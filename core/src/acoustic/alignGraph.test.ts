/** The search on a model of four made-up sounds, beside every way there is through its graph, tried one after another. */
import fc from 'fast-check';
import { STATES, STREAM_LENGTH, STREAMS, type AcousticModel } from './acousticModel.js';
import { maybeAlignGraph, STRICT, type AlignedNode } from './alignGraph.js';
import type { Features } from './cepstra.js';
import { senoneScorer } from './senoneScores.js';
import { wordGraph, type Ways, type WordGraph } from './wordGraph.js';

const SOUNDS = ['SIL', 'A', 'B', 'C'];
const DENSITIES = 4;
const SENONES = SOUNDS.length * STATES;
const WHOLE = { ...STRICT, beam: Infinity, pause: 1.5 };

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
function scoreOfSpan(scores: readonly number[][], { nodes }: WordGraph, node: number, from: number, to: number): number {
  const [stay0, stay1, stay2, leave0, leave1, leave2] = model.transitionsOf(nodes[node]!.sound) as unknown as number[];
  let best = -Infinity;
  for (let second = from + 1; second < to - 1; second++)
    for (let third = second + 1; third < to; third++) {
      let score = nodes[node]!.word === undefined ? -WHOLE.pause : 0;
      for (let frame = from; frame < to; frame++) {
        const state = frame < second ? 0 : frame < third ? 1 : 2;
        score += scores[frame]![nodes[node]!.senones[state]!]!;
        if (frame > from && frame !== second && frame !== third) score += [stay0!, stay1!, stay2!][state]!;
      }
      best = Math.max(best, score + leave0! + leave1! + leave2!);
    }
  return best;
}

/** Every way through a graph with its score, given what each senone scores in each frame. */
function* waysThrough(scores: readonly number[][], graph: WordGraph): Generator<{ score: number; way: { node: number; from: number }[] }> {
  const { nodes } = graph;
  const frames = scores.length;
  function* from(node: number, start: number, score: number, way: { node: number; from: number }[]): ReturnType<typeof waysThrough> {
    const { place, isLast } = nodes[node]!;
    if (place && (start < place.from || start >= place.to)) return;
    const here = [...way, { node, from: start }];
    for (let end = start + STATES; end <= frames; end++) {
      const sum = score + scoreOfSpan(scores, graph, node, start, end);
      if (end === frames) {
        if (isLast) yield { score: sum, way: here };
      } else
        for (const [next, { before }] of nodes.entries()) for (const other of before) if (other === node) yield* from(next, end, sum, here);
    }
  }
  for (const [node, { isFirst }] of nodes.entries()) if (isFirst) yield* from(node, 0, 0, []);
}

function scoresOf(features: Features): number[][] {
  const scorer = senoneScorer(model, features);
  const all = new Uint8Array(SOUNDS.length).fill(1);
  return Array.from({ length: features.frames }, (_, frame) => {
    scorer.goTo(frame, all);
    return Array.from({ length: SENONES }, (_, senone) => scorer.scoreOf(senone));
  });
}

const placed = (aligned: readonly AlignedNode[] | undefined): { node: number; from: number }[] | undefined =>
  aligned?.map(({ node, from }) => ({ node, from }));
const words = fc.array(fc.array(fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 2 }), { minLength: 1, maxLength: 2 }), {
  minLength: 1,
  maxLength: 2,
});
const heard = fc.array(fc.double({ min: -0.5, max: 4, noNaN: true }), { minLength: 6, maxLength: 11 });

it('no way through a graph is better than the one that is found, and one is found wherever there is one', () => {
  let found = 0;
  fc.assert(
    fc.property(words, heard, fc.constantFrom('all' as const, 'first' as const), fc.boolean(), (ways, values, extent, isPlaced) => {
      const features = featuresOf(values);
      const places = [
        { from: 0, to: 4 },
        { from: 3, to: 20 },
      ];
      const graph = wordGraph(model, ways as Ways[], extent, isPlaced ? ways.map((_, word) => places[word]!) : undefined);
      const scores = scoresOf(features);
      let best: { score: number; way: { node: number; from: number }[] } | undefined;
      const aligned = placed(maybeAlignGraph(model, features, graph, WHOLE));
      let own: number | undefined;
      for (const each of waysThrough(scores, graph)) {
        if (!best || each.score > best.score) best = each;
        if (JSON.stringify(each.way) === JSON.stringify(aligned)) own = each.score;
      }
      if (!best) return expect(aligned).toBeUndefined();
      found += 1;
      expect(own).toBeCloseTo(best.score, 6);
    }),
    { seed: 7, numRuns: 150 },
  );
  expect(found).toBeGreaterThan(50);
});

it('what costs nothing is the best of all sounds throughout', () => {
  const features = featuresOf([1, 1, 1.25, 1.25, 1.5, 1.5]);
  const [only] = maybeAlignGraph(model, features, wordGraph(model, [[[1]]]), WHOLE)!;
  const [other] = maybeAlignGraph(model, features, wordGraph(model, [[[3]]]), WHOLE)!;
  expect(only!.cost).toBeLessThan(other!.cost);
  expect([only!.from, only!.to]).toEqual([0, 6]);
});

it('a line may be left out only where lines have places', () => {
  const features = featuresOf(Array.from({ length: 12 }, () => 0));
  const without = wordGraph(model, [[[1]], [[2]]]);
  const nowhere = { from: 0, to: 0 };
  const everywhere = { from: 0, to: 12 };
  const said = (graph: WordGraph): unknown[] =>
    (maybeAlignGraph(model, features, graph, WHOLE) ?? []).flatMap(({ node }) => graph.nodes[node]!.word ?? []);
  expect(said(without)).toEqual([0, 1]);
  expect(said(wordGraph(model, [[[1]], [[2]]], 'all', [nowhere, nowhere]))).toEqual([]);
  expect(said(wordGraph(model, [[[1]], [[2]]], 'all', [nowhere, everywhere]))).not.toContain(0);
});
