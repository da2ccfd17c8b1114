/** What leaves where something went wrong that nobody here threw in words. */
import type { ArgumentsHost } from '@nestjs/common';
import { Logger } from '@nestjs/common';
import { ProblemFilter } from './problem.filter.js';

/** What is answered to an error, and what is logged of it. */
function answerTo(error: unknown): { status: number; detail: string; logged: string[] } {
  const logged: string[] = [];
  for (const level of ['error', 'warn'] as const)
    jest.spyOn(Logger.prototype, level).mockImplementation((...said: unknown[]) => void logged.push(`${level} ${String(said[0])}`));
  let [status, sent] = [0, ''];
  const response = {
    headersSent: false,
    status: (code: number) => ((status = code), response),
    type: () => response,
    send: (text: string) => (sent = text),
  };
  new ProblemFilter().catch(error, { switchToHttp: () => ({ getResponse: () => response }) } as unknown as ArgumentsHost);
  jest.restoreAllMocks();
  return { status, detail: (JSON.parse(sent) as { detail: string }).detail, logged };
}

it('says that a disk is full, or cannot be written, and logs the sentence alone', () => {
  const full = answerTo(new Error('COMMIT; - database or disk is full'));
  expect(full).toMatchObject({ status: 507, detail: expect.stringMatching(/is full\. Nothing that was saved is lost: make room on it/) });
  expect(full.logged).toEqual([`warn ${full.detail}`]);
  expect(answerTo(Object.assign(new Error('no'), { code: 'EROFS' }))).toMatchObject({
    status: 507,
    detail: expect.stringMatching(/cannot be written/),
  });
});

it('logs nothing where somebody went away in the middle of sending', () => {
  expect(answerTo(new Error('Request aborted'))).toMatchObject({ status: 400, logged: [] });
});

it('says nothing of a fault of ours but that it is one, and logs where it was', () => {
  const ours = answerTo(new TypeError('x is not a function'));
  expect(ours).toMatchObject({ status: 500, detail: 'Something went wrong inside. Nothing you had saved is lost; try it again.' });
  expect(ours.logged[0]).toMatch(/^error TypeError: x is not a function\n {4}at /);
});
