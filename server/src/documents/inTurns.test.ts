/** Many things looked at in turns: in order, each once, with others answered in between, and the first fault ends it. */
import { inTurns } from './inTurns.js';

describe('long work in turns', () => {
  let now = 0;
  beforeEach(() => {
    now = 0;
    jest.spyOn(performance, 'now').mockImplementation(() => now);
  });
  afterEach(() => jest.restoreAllMocks());

  it('lets others have their turn while it goes on, and none where it is short', async () => {
    const done: number[] = [];
    const others: number[] = [];
    const answer = (): void => {
      others.push(done.length);
      if (done.length < 20) setImmediate(answer);
    };
    setImmediate(answer);
    await inTurns(
      Array.from({ length: 20 }, (_, index) => index),
      (item) => {
        now += 2;
        done.push(item);
      },
    );
    expect(done).toEqual(Array.from({ length: 20 }, (_, index) => index));
    // Three at two milliseconds each are a turn.
    expect(others.slice(0, 6)).toEqual([3, 6, 9, 12, 15, 18]);

    let isAnswered = false;
    setImmediate(() => (isAnswered = true));
    await inTurns([1, 2], () => undefined);
    expect(isAnswered).toBe(false);
  });

  it('ends with the first that is refused', async () => {
    const seen: number[] = [];
    const work = inTurns([1, 2, 3], (item) => {
      seen.push(item);
      if (item === 2) throw new Error('Two is not allowed.');
    });
    await expect(work).rejects.toThrow('Two is not allowed.');
    expect(seen).toEqual([1, 2]);
  });
});
