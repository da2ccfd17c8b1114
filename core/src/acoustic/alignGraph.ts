/**
 * The likeliest way through a graph of sounds, given the features of a recording: the Viterbi algorithm (A. Viterbi, 1967)
 * by passing tokens (S. Young, N. Russell and J. Thornton, 1989), with ways that fall far behind the best no longer followed.
 */
import { type AcousticModel, STATES } from './acousticModel.js';
import type { Features } from './cepstra.js';
import { senoneScorer } from './senoneScores.js';
import type { WordGraph } from './wordGraph.js';

export interface AlignedNode {
  readonly node: number;
  /** Frames, `[from, to)`. */
  readonly from: number;
  readonly to: number;
  /** How far its states are below the best of any sound without context in its frames, in all, its transitions too; nats. */
  readonly cost: number;
}

export interface AlignSettings {
  /** Ways this far behind the best are given up; nats. */
  readonly beam: number;
  /** What a silence costs; nats. */
  readonly pause: number;
}

/**
 * Beams of 1e-80: with 1e-48 words after a pause are lost on two voices of four. A silence costs as much as a probability of
 * 0.005 with a weight of 4: in a quiet room half of that finds the same boundaries, in noise silence then takes the
 * place of soft sounds.
 */
export const STRICT: AlignSettings = { beam: 80 * Math.LN10, pause: -4 * Math.log(0.005) };
/** Wider each time, for what the one before finds no way through; at last nothing is given up. */
export const WIDER: readonly AlignSettings[] = [240 * Math.LN10, Infinity].map((beam) => ({ ...STRICT, beam }));

/** What is remembered of a sound's entry: it grows by doubling. */
class Tokens {
  count = 0;
  private nodes = new Int32Array(4096);
  private befores = new Int32Array(4096);
  private frames = new Int32Array(4096);
  private scores = new Float64Array(4096);
  add(node: number, before: number, frame: number, score: number): number {
    if (this.count === this.nodes.length) {
      const grown = <T extends Int32Array | Float64Array>(values: T, into: T): T => (into.set(values), into);
      this.nodes = grown(this.nodes, new Int32Array(this.count * 2));
      this.befores = grown(this.befores, new Int32Array(this.count * 2));
      this.frames = grown(this.frames, new Int32Array(this.count * 2));
      this.scores = grown(this.scores, new Float64Array(this.count * 2));
    }
    this.nodes[this.count] = node;
    this.befores[this.count] = before;
    this.frames[this.count] = frame;
    this.scores[this.count] = score;
    return this.count++;
  }
  /** The nodes up to a token, with where each ended. */
  trace(token: number, frames: number, score: number): AlignedNode[] {
    const found: AlignedNode[] = [];
    let [to, last] = [frames, score];
    for (let at = token; at >= 0; at = this.befores[at]!) {
      found.push({ node: this.nodes[at]!, from: this.frames[at]!, to, cost: this.scores[at]! - last });
      [to, last] = [this.frames[at]!, this.scores[at]!];
    }
    return found.reverse();
  }
}

/** Aligns; undefined where no way through the graph fits into the recording. */
export function maybeAlignGraph(
  model: AcousticModel,
  features: Features,
  { nodes }: WordGraph,
  { beam, pause }: AlignSettings = STRICT,
): AlignedNode[] | undefined {
  const count = nodes.length;
  const { frames } = features;
  const scorer = senoneScorer(model, features);
  const stay = new Float64Array(count * STATES);
  const leave = new Float64Array(count * STATES);
  const senones = new Uint16Array(count * STATES);
  const after: number[][] = nodes.map(() => []);
  nodes.forEach((node, index) => {
    const transitions = model.transitionsOf(node.sound);
    stay.set(transitions.subarray(0, STATES), index * STATES);
    leave.set(transitions.subarray(STATES), index * STATES);
    senones.set(node.senones, index * STATES);
    for (const before of node.before) after[before]!.push(index);
  });

  const scores = new Float64Array(count * STATES).fill(-Infinity);
  const tokens = new Int32Array(count * STATES).fill(-1);
  const entering = new Float64Array(count).fill(-Infinity);
  const enteringToken = new Int32Array(count);
  const isAsked = new Uint8Array(model.sounds.length);
  const kept = new Tokens();
  let [active, next] = [new Int32Array(count), new Int32Array(count)];
  const isActive = new Uint8Array(count);
  let activeCount = 0;
  const activate = (node: number): void => {
    if (isActive[node]) return;
    isActive[node] = 1;
    active[activeCount++] = node;
  };
  nodes.forEach((node, index) => {
    if (!node.isFirst || (node.place && node.place.from > 0)) return;
    entering[index] = node.word === undefined ? -pause : 0;
    enteringToken[index] = -1;
    activate(index);
  });

  for (let frame = 0; frame < frames; frame++) {
    isAsked.fill(0);
    for (let index = 0; index < activeCount; index++) isAsked[nodes[active[index]!]!.sound] = 1;
    const reference = scorer.goTo(frame, isAsked);
    let best = -Infinity;
    for (let index = 0; index < activeCount; index++) {
      const node = active[index]!;
      const first = node * STATES;
      for (let state = first + STATES - 1; state > first; state--) {
        const [stayed, moved] = [scores[state]! + stay[state]!, scores[state - 1]! + leave[state - 1]!];
        if (stayed === -Infinity && moved === -Infinity) continue;
        if (moved > stayed) tokens[state] = tokens[state - 1]!;
        scores[state] = Math.max(stayed, moved) + scorer.scoreOf(senones[state]!) - reference;
        if (scores[state]! > best) best = scores[state]!;
      }
      const stayed = scores[first]! + stay[first]!;
      const entered = entering[node]!;
      if (entered > stayed) tokens[first] = kept.add(node, enteringToken[node]!, frame, entered);
      if (stayed > -Infinity || entered > -Infinity)
        scores[first] = Math.max(stayed, entered) + scorer.scoreOf(senones[first]!) - reference;
      if (scores[first]! > best) best = scores[first]!;
      entering[node] = -Infinity;
    }
    if (best === -Infinity) return undefined;

    // Who goes on, and whom they reach.
    const before = active;
    const beforeCount = activeCount;
    for (let index = 0; index < beforeCount; index++) isActive[before[index]!] = 0;
    [active, next] = [next, active];
    activeCount = 0;
    for (let index = 0; index < beforeCount; index++) {
      const node = before[index]!;
      const first = node * STATES;
      let isLeft = false;
      for (let state = first; state < first + STATES; state++) {
        if (scores[state]! < best - beam) scores[state] = -Infinity;
        else isLeft = true;
      }
      if (isLeft) activate(node);
      const out = scores[first + STATES - 1]! + leave[first + STATES - 1]!;
      if (out === -Infinity) continue;
      for (const follower of after[node]!) {
        const { place } = nodes[follower]!;
        if (place && (frame + 1 < place.from || frame + 1 >= place.to)) continue;
        const score = nodes[follower]!.word === undefined ? out - pause : out;
        if (score <= entering[follower]!) continue;
        entering[follower] = score;
        enteringToken[follower] = tokens[first + STATES - 1]!;
        activate(follower);
      }
    }
  }

  let [end, score] = [-1, -Infinity];
  nodes.forEach((node, index) => {
    const last = index * STATES + STATES - 1;
    if (node.isLast && scores[last]! + leave[last]! > score) [end, score] = [last, scores[last]! + leave[last]!];
  });
  return end < 0 ? undefined : kept.trace(tokens[end]!, frames, score);
}
