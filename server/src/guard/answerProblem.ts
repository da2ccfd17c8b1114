/** A problem document (RFC 9457) as an answer, for what is refused before it reaches a controller, with members of its own. */
import type { Response } from 'express';

export function answerProblem(response: Response, status: number, title: string, detail: string, extra: object = {}): void {
  response
    .status(status)
    .type('application/problem+json')
    .send(JSON.stringify({ type: 'about:blank', title, status, detail, ...extra }));
}
