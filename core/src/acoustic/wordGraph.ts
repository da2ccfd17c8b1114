/**
 * All the ways in which words may be said one after another, as a network of sounds beside their neighbours: each word in
 * any of its pronunciations, silence or none before, between and after. A sound at the edge of a word stands in it
 * once for each neighbour that it may have there. Loosely, words may be left out, with any sounds between.
 */
import type { AcousticModel } from './acousticModel.js';
import { NetworkMaker, type FramePlace, type Network } from './network.js';

/** The ways in which a word may be said, each as sounds by their numbers in the model. */
export type Ways = readonly (readonly number[])[];

/** What a node of a word graph belongs to. */
export interface Node {
  readonly sound: number;
  /** The word and its way; undefined for silence, and for sounds that no word explains. */
  readonly word: number | undefined;
  readonly way: number;
  /** Sounds that no word explains. */
  readonly isAny: boolean;
}

export interface WordGraph {
  readonly nodes: readonly Node[];
  readonly network: Network;
}

/** All words must be found here, or the first of them: the others may belong to what follows. */
export type Extent = 'all' | 'first';

/** What it costs to leave the script; nats. */
export interface Looseness {
  /** Leaving a word out. */
  readonly leftOut: number;
  /** A sound that no word explains, to begin with, and for each frame below the best of any sound. */
  readonly any: number;
  readonly anyFrame: number;
}

export interface WordGraphOptions {
  readonly extent?: Extent;
  /** Where each word may be said: the same place for the words of a line, which may be left out altogether. */
  readonly places?: readonly FramePlace[] | undefined;
  /** Every word must be said without it. */
  readonly looseness?: Looseness;
  /** What a silence costs; nats. */
  readonly pause?: number;
}

/**
 * A silence costs as much as a probability of 0.005 with a weight of 4: in a quiet room half of that finds the same
 * boundaries, in noise silence then takes the place of soft sounds.
 */
const PAUSE = -4 * Math.log(0.005);

interface Exit {
  readonly node: number;
  readonly sound: number;
  /** The sound that must come next: silence, or the first of the next word. */
  readonly next: number;
}

/** Where a word begins and ends beside silence, and the gap after it. */
interface Edges {
  readonly entries: number[];
  readonly exits: number[];
  readonly gap: readonly number[];
}

/**
 * The graph of some words.
 *
 * @param words the ways of each word in order; at least one word, each with at least one way of at least one sound
 */
export function wordGraph(
  model: AcousticModel,
  words: readonly Ways[],
  { extent = 'all', places, looseness, pause = PAUSE }: WordGraphOptions = {},
): WordGraph {
  const { silence } = model;
  const nodes: Node[] = [];
  const maker = new NetworkMaker(model);
  /** Silence, and loosely any sounds, in turn as often as need be. */
  const addGap = (isFirst: boolean): number[] => {
    const quiet = maker.add(silence, silence, silence, 'single');
    nodes.push({ sound: silence, word: undefined, way: 0, isAny: false });
    if (isFirst) maker.begin(quiet, pause);
    if (!looseness) return [quiet];
    const any = maker.addAny(looseness.anyFrame);
    nodes.push({ sound: silence, word: undefined, way: 0, isAny: true });
    if (isFirst) maker.begin(any, looseness.any);
    maker.link(quiet, any, looseness.any);
    maker.link(any, quiet, pause);
    return [quiet, any];
  };
  const enterGap = (from: number, [quiet, any]: readonly number[]): void => {
    maker.link(from, quiet!, pause);
    if (any !== undefined) maker.link(from, any, looseness!.any);
  };

  let gap = addGap(true);
  const gaps = [gap];
  const all: Edges[] = [];
  let quietBeforeLine = gap[0]!;
  let exits: Exit[] = [];
  words.forEach((ways, word) => {
    const isLast = word === words.length - 1;
    const following = isLast ? [] : words[word + 1]!.map((way) => way[0]!);
    const rights = [...new Set([silence, ...following])];
    const own: Exit[] = [];
    const entries: number[] = [];
    ways.forEach((sounds, way) => {
      const end = sounds.length - 1;
      const lefts = [...new Set([silence, ...exits.filter(({ next }) => next === sounds[0]).map(({ sound }) => sound)])];
      const add: NetworkMaker['add'] = (sound, ...around) => {
        nodes.push({ sound, word, way, isAny: false });
        const [left, right, position] = around;
        return maker.add(sound, left, right, position, places?.[word]);
      };
      const enter = (node: number, left: number): void => {
        if (word === 0) maker.begin(node);
        if (left === silence) {
          entries.push(node);
          for (const from of gap) maker.link(from, node);
        } else for (const exit of exits) if (exit.next === sounds[0] && exit.sound === left) maker.link(exit.node, node);
      };
      const leave = (node: number, next: number): void => {
        own.push({ node, sound: sounds[end]!, next });
        if (next === silence && (isLast || extent === 'first')) maker.end(node);
      };
      if (end === 0) {
        for (const left of lefts)
          for (const right of rights) {
            const node = add(sounds[0]!, left, right, 'single');
            enter(node, left);
            leave(node, right);
          }
        return;
      }
      let before = lefts.map((left) => {
        const node = add(sounds[0]!, left, sounds[1]!, 'begin');
        enter(node, left);
        return node;
      });
      for (let at = 1; at < end; at++) {
        const node = add(sounds[at]!, sounds[at - 1]!, sounds[at + 1]!, 'internal');
        for (const from of before) maker.link(from, node);
        before = [node];
      }
      for (const right of rights) {
        const node = add(sounds[end]!, sounds[end - 1]!, right, 'end');
        for (const from of before) maker.link(from, node);
        leave(node, right);
      }
    });
    if (places && word > 0 && places[word] !== places[word - 1]) quietBeforeLine = gap[0]!;
    gap = addGap(false);
    gaps.push(gap);
    if (places && places[word] !== places[word + 1]) maker.link(quietBeforeLine, gap[0]!, pause);
    const quietly = own.filter(({ next }) => next === silence).map(({ node }) => node);
    for (const node of quietly) enterGap(node, gap);
    if (isLast || extent === 'first') for (const node of gap) maker.end(node);
    all.push({ entries, exits: quietly, gap });
    exits = own;
  });
  if (looseness) leaveOut(maker, gaps, all, looseness.leftOut, extent);
  return { nodes, network: maker.made() };
}

/** Any run of words may be left out: what is before it is followed by what is after it. */
function leaveOut(maker: NetworkMaker, gaps: readonly (readonly number[])[], words: readonly Edges[], cost: number, extent: Extent): void {
  gaps.forEach((gap, before) => {
    const exits = [...gap, ...(words[before - 1]?.exits ?? [])];
    words.slice(before + 1).forEach(({ entries }, index) => {
      const skipped = cost * (index + 1);
      for (const to of entries) {
        if (before === 0) maker.begin(to, skipped);
        for (const from of exits) maker.link(from, to, skipped);
      }
    });
    if (extent === 'all') for (const from of exits) maker.end(from, cost * (words.length - before));
  });
}
