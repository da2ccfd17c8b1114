/**
 * Work on one thing that is done one after another, in the order it was asked for: whichever component of a page asks for it,
 * and in whichever window of the browser.
 */
const lasts = new Map<string, Promise<unknown>>();

/** Windows are told apart where the browser lets them wait for each other; a page from another device may not ask it. */
const among = <Answer>(name: string, work: () => Promise<Answer>): Promise<Answer> =>
  globalThis.navigator?.locks ? navigator.locks.request(`zest-jaw ${name}`, work) : work();

export function inTurn<Answer>(name: string, work: () => Promise<Answer>): Promise<Answer> {
  const before = lasts.get(name) ?? Promise.resolve();
  // What was before may have failed: that is for whoever asked for it.
  const answer = before.then(
    () => among(name, work),
    () => among(name, work),
  );
  lasts.set(name, answer);
  const forget = (): void => {
    if (lasts.get(name) === answer) lasts.delete(name);
  };
  answer.then(forget, forget);
  return answer;
}
