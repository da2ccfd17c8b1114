/** Talking to the server: JSON in and out, and its problem documents as errors whose message is a sentence. */
import { door } from './door.js';

export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly body: Readonly<Record<string, unknown>>,
  ) {
    super(detail);
  }
}

/** The server could not be reached at all. */
export class Unreachable extends Error {
  constructor() {
    super('The server does not answer. Check that it is still running; your work is kept here meanwhile.');
  }
}

export async function api<Answer>(path: string, init: RequestInit = {}): Promise<Answer> {
  let response: Response;
  let text: string;
  try {
    response = await fetch(`/api${path}`, init);
    text = await response.text();
  } catch {
    throw new Unreachable();
  }
  let body: unknown = null;
  try {
    body = text === '' ? null : JSON.parse(text);
  } catch {
    body = null;
  }
  if (response.ok) return body as Answer;
  // What was tried at the door itself is told there.
  if (response.status === 401 && !path.startsWith('/room/')) door.setState({ isShut: true });
  const problem = (body ?? {}) as Record<string, unknown>;
  throw new ApiProblem(
    response.status,
    typeof problem['detail'] === 'string' ? problem['detail'] : `The server answered ${response.status}.`,
    problem,
  );
}

export function sendJson<Answer>(method: 'POST' | 'PATCH' | 'PUT', path: string, body: unknown, signal?: AbortSignal): Promise<Answer> {
  return api<Answer>(path, {
    method,
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
    ...(signal && { signal }),
  });
}

/** What to tell the user about any error. */
export function sentenceOf(error: unknown): string {
  return error instanceof Error ? error.message : 'Something went wrong. Nothing you had saved is lost; try it again.';
}
