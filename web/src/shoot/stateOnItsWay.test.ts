/** What is pressed on the stage while the server is slow, away, or asked meanwhile. */
import type { ShootingState } from '@zest-jaw/core';
import { ApiProblem, sendJson } from '../api/http.js';
import { stateOnItsWay } from './stateOnItsWay.js';

jest.mock('../api/http.js', () => ({ ...jest.requireActual('../api/http.js'), sendJson: jest.fn() }));

const at = (picture: number): ShootingState => ({ at: picture, shot: [[0, picture]], again: [] });

/** A server whose answers are given one by one, in any order. */
function slowServer(): { kept: () => ShootingState | null; answers: { give(): void; fail(error: Error): void }[] } {
  let kept: ShootingState | null = null;
  const answers: { give(): void; fail(error: Error): void }[] = [];
  jest.mocked(sendJson).mockImplementation(
    (_method, _path, body) =>
      new Promise<never>((resolve, reject) => {
        const { state } = body as { state: ShootingState };
        answers.push({
          give: () => {
            kept = state;
            resolve(undefined as never);
          },
          fail: reject,
        });
      }),
  );
  return { kept: () => kept, answers };
}

/** All that can be done without the server is done. */
const settle = async (): Promise<void> => {
  for (let turn = 0; turn < 20; turn++) await Promise.resolve();
};

beforeEach(() => localStorage.clear());

it('hands over the newest, one after another: what was pressed first never stands over what was pressed last', async () => {
  const { kept, answers } = slowServer();
  const onItsWay = stateOnItsWay('/first');
  onItsWay.press(at(1));
  const looked = onItsWay.handOver();
  await settle();
  onItsWay.press(at(2));
  const pressed = onItsWay.handOver();
  await settle();
  // The second waits for the first.
  expect(answers).toHaveLength(1);
  answers[0]!.give();
  expect(await looked).toEqual(at(2));
  await settle();
  expect(answers).toHaveLength(2);
  answers[1]!.give();
  expect(await pressed).toEqual(at(2));
  expect(kept()).toEqual(at(2));
  expect(await onItsWay.handOver()).toBeUndefined();
});

it('answers with what is pressed while the server is asked', async () => {
  slowServer();
  const onItsWay = stateOnItsWay('/asked');
  let answer = (_: { state: ShootingState | null }): void => undefined;
  const asked = onItsWay.askAfter(() => new Promise((resolve) => (answer = resolve)));
  await settle();
  onItsWay.press(at(3));
  answer({ state: at(1) });
  expect(await asked).toEqual(at(3));
});

it('keeps what the server did not get, over a page that is opened again, and drops what it refuses for good', async () => {
  const { answers } = slowServer();
  const onItsWay = stateOnItsWay('/away');
  onItsWay.press(at(4));
  const first = onItsWay.handOver();
  await settle();
  answers[0]!.fail(new Error('The server does not answer.'));
  await expect(first).rejects.toThrow('does not answer');
  expect(localStorage.getItem('zest-jaw /away')).toBe(JSON.stringify(at(4)));
  const second = onItsWay.handOver();
  await settle();
  answers[1]!.fail(new ApiProblem(422, 'This is not how far this lane can be shot.', {}));
  expect(await second).toBeUndefined();
  expect(localStorage.getItem('zest-jaw /away')).toBe('');
  // What a page that went has left is handed over by the next.
  localStorage.setItem('zest-jaw /left', JSON.stringify(at(5)));
  const left = stateOnItsWay('/left').handOver();
  await settle();
  answers[2]!.give();
  expect(await left).toEqual(at(5));
});
