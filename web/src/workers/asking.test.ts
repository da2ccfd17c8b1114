/** Questions to a worker: matched, faults told, and of each kind only the newest waits. */
import { createAsker, latestOnly, type Answered, type WorkerLike } from './asking.js';

/** A worker that answers when it is told to. */
class HeldWorker implements WorkerLike {
  onmessage: WorkerLike['onmessage'] = null;
  onerror: WorkerLike['onerror'] = null;
  readonly asked: { id: number; text: string }[] = [];
  ended = false;
  postMessage(message: unknown): void {
    this.asked.push(message as { id: number; text: string });
  }
  say(data: Answered): void {
    this.onmessage?.({ data } as MessageEvent<Answered>);
  }
  terminate(): void {
    this.ended = true;
  }
}

const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 5; turn++) await Promise.resolve();
};

describe('asking a worker', () => {
  it('answers each question with its own answer, in whatever order they come', async () => {
    const worker = new HeldWorker();
    const asker = createAsker<{ text: string }>(() => worker);
    const [first, second] = [asker.ask<string>({ text: 'a' }), asker.ask<string>({ text: 'b' })];
    worker.say({ id: worker.asked[1]!.id, answer: 'B' });
    worker.say({ id: worker.asked[0]!.id, answer: 'A' });
    expect([await first, await second]).toEqual(['A', 'B']);
  });

  it('brings what was thrown to whoever asked, and to nobody else', async () => {
    const worker = new HeldWorker();
    const asker = createAsker<{ text: string }>(() => worker);
    const [first, second] = [asker.ask({ text: 'a' }), asker.ask<string>({ text: 'b' })];
    worker.say({ id: worker.asked[0]!.id, fault: 'The chart is gone.' });
    worker.say({ id: worker.asked[1]!.id, answer: 'B' });
    await expect(first).rejects.toThrow('The chart is gone.');
    expect(await second).toBe('B');
  });

  it('tells all who wait that a worker broke down, and starts another for the next question', async () => {
    const workers: HeldWorker[] = [];
    let lost = 0;
    const asker = createAsker<{ text: string }>(
      () => workers[workers.push(new HeldWorker()) - 1]!,
      () => (lost += 1),
    );
    const first = asker.ask({ text: 'a' });
    workers[0]!.onerror?.({ message: 'out of memory' } as ErrorEvent);
    await expect(first).rejects.toThrow(/broke down: out of memory/);
    expect([workers[0]!.ended, lost]).toEqual([true, 1]);
    const second = asker.ask<string>({ text: 'b' });
    workers[1]!.say({ id: workers[1]!.asked[0]!.id, answer: 'B' });
    expect(await second).toBe('B');
  });

  it('ends a worker only once all that was asked is answered', async () => {
    const workers: HeldWorker[] = [];
    const asker = createAsker<{ text: string }>(() => workers[workers.push(new HeldWorker()) - 1]!);
    const answers = [asker.ask<string>({ text: 'a' }), asker.ask<string>({ text: 'b' })];
    asker.end();
    workers[0]!.say({ id: 1, answer: 'A' });
    expect(workers[0]!.ended).toBe(false);
    workers[0]!.say({ id: 2, answer: 'B' });
    expect(await Promise.all(answers)).toEqual(['A', 'B']);
    expect(workers[0]!.ended).toBe(true);

    void asker.ask({ text: 'c' });
    workers[1]!.say({ id: 3, answer: 'C' });
    expect([workers.length, workers[1]!.ended]).toEqual([2, false]);
    asker.end();
    expect(workers[1]!.ended).toBe(true);
  });
});

describe('a slot for the newest question', () => {
  it('drops those between the one that is asked and the newest', async () => {
    const slot = latestOnly();
    const asked: number[] = [];
    const answers: ((value: string) => void)[] = [];
    const ask = (number: number): Promise<string | undefined> =>
      slot(() => {
        asked.push(number);
        return new Promise<string>((resolve) => answers.push(resolve));
      });
    const all = [1, 2, 3, 4].map(ask);
    expect(asked).toEqual([1]);
    answers[0]!('one');
    await settled();
    expect(asked).toEqual([1, 4]);
    answers[1]!('four');
    expect(await Promise.all(all)).toEqual(['one', undefined, undefined, 'four']);
  });

  it('goes on after a question that failed', async () => {
    const slot = latestOnly();
    const failing = slot(() => Promise.reject(new Error('no')));
    const next = slot(() => Promise.resolve('yes'));
    await expect(failing).rejects.toThrow('no');
    expect(await next).toBe('yes');
  });
});
