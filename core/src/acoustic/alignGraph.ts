/**
 * The likeliest way through a network of sounds, given the features of a recording: the Viterbi algorithm (A. Viterbi, 1967)
 * by passing tokens (S. Young, N. Russell and J. Thornton, 1989), with ways that fall far behind the best no longer followed.
 */
import { type AcousticModel, STATES } from './acousticModel.js';
import type { Features } from './cepstra.js';
import { senoneScorer, type ScorerSettings } from './senoneScores.js';
import type { Network } from './network.js';

export interface AlignedNode {
  readonly node: number;
  /** Frames, `[from, to)`. */
  readonly from: number;
  readonly to: number;
  /** How far its states are below the best of any sound without context in its frames, in all, its transitions too; nats. */
  readonly cost: number;
}

export interface AlignSettings extends ScorerSettings {
  /** Ways this far behind the best are given up; nats. */
  readonly beam: number;
}

/** Beams of 1e-80: with 1e-48 words after a pause are lost on two voices of four. */
export const STRICT: AlignSettings = { beam: 80 * Math.LN10 };
/** Wider each time, for what the one before finds no way through; at last nothing is given up. */
export const WIDER: readonly AlignSettings[] = [{ beam: 240 * Math.LN10 }, { beam: Infinity }];

/** What is remembered of a sound's entry: it grows by doubling. */
class Tokens {
  count = 0;
  private nodes = new Int32Array(4096);
  private befores = new Int32Array(4096);
  private frames = new Int32Array(4096);
  /** As it is entered, and what was left with. */
  private scores = new Float64Array(4096);
  private lefts = new Float64Array(4096);
  add(node: number, before: number, frame: number, score: number, left: number): number {
    if (this.count === this.nodes.length) {
      const grown = <T extends Int32Array | Float64Array>(values: T, into: T): T => (into.set(values), into);
      this.nodes = grown(this.nodes, new Int32Array(this.count * 2));
      this.befores = grown(this.befores, new Int32Array(this.count * 2));
      this.frames = grown(this.frames, new Int32Array(this.count * 2));
      this.scores = grown(this.scores, new Float64Array(this.count * 2));
      this.lefts = grown(this.lefts, new Float64Array(this.count * 2));
    }
    this.nodes[this.count] = node;
    this.befores[this.count] = before;
    this.frames[this.count] = frame;
    this.scores[this.count] = score;
    this.lefts[this.count] = left;
    return this.count++;
  }
  /** The nodes up to a token, with where each ended. */
  trace(token: number, frames: number, score: number): AlignedNode[] {
    const found: AlignedNode[] = [];
    let [to, last] = [frames, score];
    for (let at = token; at >= 0; at = this.befores[at]!) {
      found.push({ node: this.nodes[at]!, from: this.frames[at]!, to, cost: this.scores[at]! - last });
      [to, last] = [this.frames[at]!, this.lefts[at]!];
    }
    return found.reverse();
  }
}

/** Aligns; undefined where no way through the network fits into the recording. */
export function maybeAlignGraph(
  model: AcousticModel,
  features: Features,
  { count, hubs, sounds, senones, stay, leave, afterFrom, after, costs, firsts, lastCosts, places }: Network,
  { beam, ...scoring }: AlignSettings = STRICT,
): AlignedNode[] | undefined {
  const { frames } = features;
  const scorer = senoneScorer(model, features, scoring);
  const hasPlaces = places.size > 0;
  const mayBegin = (node: number, frame: number): boolean => {
    const place = places.get(node);
    return !place || (frame >= place.from && frame < place.to);
  };

  const scores = new Float64Array(count * STATES).fill(-Infinity);
  const tokens = new Int32Array(count * STATES).fill(-1);
  const entering = new Float64Array(count + hubs).fill(-Infinity);
  const enteringToken = new Int32Array(count + hubs);
  /** Entering is nobody's cost: neither of the one before nor of the one that is entered. */
  const enteringCost = new Float64Array(count + hubs);
  const isAsked = new Uint8Array(model.sounds.length);
  const kept = new Tokens();
  let [active, next] = [new Int32Array(count), new Int32Array(count)];
  const isActive = new Uint8Array(count + hubs);
  let activeCount = 0;
  const activeHubs = new Int32Array(hubs);
  let activeHubCount = 0;
  for (const [node, cost] of firsts) {
    if (!mayBegin(node, 0) || -cost <= entering[node]!) continue;
    if (!isActive[node]) active[activeCount++] = node;
    isActive[node] = 1;
    entering[node] = -cost;
    enteringCost[node] = cost;
    enteringToken[node] = -1;
  }

  let [frame, least] = [0, -Infinity];
  /** What leaves a node, or a hub, is there where it leads to in the next frame, if nothing better is. */
  const reach = (from: number, out: number, paid: number, token: number): void => {
    // One that is out already reaches nobody.
    if (out < least) return;
    for (let arc = afterFrom[from]!; arc < afterFrom[from + 1]!; arc++) {
      const follower = after[arc]!;
      const score = out - costs[arc]!;
      if (score <= entering[follower]! || score < least || (hasPlaces && !mayBegin(follower, frame + 1))) continue;
      entering[follower] = score;
      enteringCost[follower] = paid + costs[arc]!;
      enteringToken[follower] = token;
      if (isActive[follower]) continue;
      isActive[follower] = 1;
      if (follower < count) active[activeCount++] = follower;
      else activeHubs[activeHubCount++] = follower;
    }
  };
  for (; frame < frames; frame++) {
    isAsked.fill(0);
    for (let index = 0; index < activeCount; index++) isAsked[sounds[active[index]!]!] = 1;
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
      if (entered > stayed) tokens[first] = kept.add(node, enteringToken[node]!, frame, entered, entered + enteringCost[node]!);
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
    least = best - beam;
    for (let index = 0; index < beforeCount; index++) {
      const node = before[index]!;
      const first = node * STATES;
      let isLeft = false;
      for (let state = first; state < first + STATES; state++) {
        if (scores[state]! < least) scores[state] = -Infinity;
        else isLeft = true;
      }
      if (isLeft && !isActive[node]) {
        isActive[node] = 1;
        active[activeCount++] = node;
      }
      const out = scores[first + STATES - 1]! + leave[first + STATES - 1]!;
      reach(node, out, 0, tokens[first + STATES - 1]!);
    }
    for (let index = 0; index < activeHubCount; index++) {
      const hub = activeHubs[index]!;
      isActive[hub] = 0;
      reach(hub, entering[hub]!, enteringCost[hub]!, enteringToken[hub]!);
      entering[hub] = -Infinity;
    }
    activeHubCount = 0;
  }

  let [end, score] = [-1, -Infinity];
  for (let node = 0; node < count; node++) {
    const last = node * STATES + STATES - 1;
    const ended = scores[last]! + leave[last]! - lastCosts[node]!;
    if (ended > score) [end, score] = [last, ended];
  }
  return end < 0 ? undefined : kept.trace(tokens[end]!, frames, score + lastCosts[Math.floor(end / STATES)]!);
}
