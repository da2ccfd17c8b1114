/** Long work on many things, with others answered in between. */
import { setImmediate as othersAreAnswered } from 'node:timers/promises';

/** Milliseconds after which others have their turn. */
const TURN = 5;

/** Does something with each, in order; it ends with the first that throws. */
export async function inTurns<Item>(items: Iterable<Item>, work: (item: Item) => void | Promise<void>): Promise<void> {
  let began = performance.now();
  for (const item of items) {
    await work(item);
    if (performance.now() - began < TURN) continue;
    await othersAreAnswered();
    began = performance.now();
  }
}
