/**
 * All the ways in which words may be said one after another, as a graph of sounds beside their neighbours: each word in
 * any of its pronunciations, silence or none before, between and after. A sound at the edge of a word stands in the graph
 * once for each neighbour that it may have there.
 */
import { type AcousticModel, STATES, type Position } from './acousticModel.js';

/** The ways in which a word may be said, each as sounds by their numbers in the model. */
export type Ways = readonly (readonly number[])[];

export interface Node {
  readonly sound: number;
  readonly senones: Uint16Array;
  /** The word and its way; undefined for silence. */
  readonly word: number | undefined;
  readonly way: number;
  /** The nodes that may come right before it. */
  readonly before: number[];
  /** The recording may begin, or end, with it. */
  readonly isFirst: boolean;
  isLast: boolean;
  /** The frames that it may begin in, `[from, to)`; any without it. */
  readonly place: FramePlace | undefined;
}

/** Frames, `[from, to)`. */
export interface FramePlace {
  readonly from: number;
  readonly to: number;
}

export interface WordGraph {
  readonly nodes: readonly Node[];
  readonly states: number;
}

/** All words must be found here, or the first of them: the others may belong to what follows. */
export type Extent = 'all' | 'first';

interface Exit {
  readonly node: number;
  readonly sound: number;
  /** The sound that must come next: silence, or the first of the next word. */
  readonly next: number;
}

/**
 * The graph of some words.
 *
 * @param words the ways of each word in order; at least one word, each with at least one way of at least one sound
 * @param places where each word may be said: the same place for the words of a line, which may be left out altogether
 */
export function wordGraph(model: AcousticModel, words: readonly Ways[], extent: Extent = 'all', places?: readonly FramePlace[]): WordGraph {
  const { silence } = model;
  const nodes: Node[] = [];
  const add = (
    sound: number,
    left: number,
    right: number,
    position: Position,
    word: number | undefined,
    way: number,
    isFirst = false,
  ): number =>
    nodes.push({
      sound,
      senones: model.senonesOf(sound, left, right, position),
      word,
      way,
      before: [],
      isFirst,
      isLast: false,
      place: word === undefined ? undefined : places?.[word],
    }) - 1;
  const pause = (isFirst: boolean): number => add(silence, silence, silence, 'single', undefined, 0, isFirst);

  let quiet = pause(true);
  let quietBeforeLine = quiet;
  let exits: Exit[] = [];
  words.forEach((ways, word) => {
    const isLast = word === words.length - 1;
    const following = isLast ? [] : words[word + 1]!.map((way) => way[0]!);
    const rights = [...new Set([silence, ...following])];
    const own: Exit[] = [];
    ways.forEach((sounds, way) => {
      const end = sounds.length - 1;
      const lefts = [...new Set([silence, ...exits.filter(({ next }) => next === sounds[0]).map(({ sound }) => sound)])];
      const enter = (node: number, left: number): void => {
        if (left === silence) nodes[node]!.before.push(quiet);
        for (const exit of exits)
          if (exit.next === sounds[0] && exit.sound === left && left !== silence) nodes[node]!.before.push(exit.node);
      };
      const leave = (node: number, next: number): void => {
        own.push({ node, sound: sounds[end]!, next });
        if (next === silence && (isLast || extent === 'first')) nodes[node]!.isLast = true;
      };
      if (end === 0) {
        for (const left of lefts)
          for (const right of rights) {
            const node = add(sounds[0]!, left, right, 'single', word, way, word === 0);
            enter(node, left);
            leave(node, right);
          }
        return;
      }
      let before = lefts.map((left) => {
        const node = add(sounds[0]!, left, sounds[1]!, 'begin', word, way, word === 0);
        enter(node, left);
        return node;
      });
      for (let at = 1; at < end; at++) {
        const node = add(sounds[at]!, sounds[at - 1]!, sounds[at + 1]!, 'internal', word, way);
        nodes[node]!.before.push(...before);
        before = [node];
      }
      for (const right of rights) {
        const node = add(sounds[end]!, sounds[end - 1]!, right, 'end', word, way);
        nodes[node]!.before.push(...before);
        leave(node, right);
      }
    });
    if (places && word > 0 && places[word] !== places[word - 1]) quietBeforeLine = quiet;
    quiet = pause(false);
    if (places && places[word] !== places[word + 1]) nodes[quiet]!.before.push(quietBeforeLine);
    for (const { node, next } of own) if (next === silence) nodes[quiet]!.before.push(node);
    nodes[quiet]!.isLast = isLast || extent === 'first';
    exits = own;
  });
  return { nodes, states: nodes.length * STATES };
}
