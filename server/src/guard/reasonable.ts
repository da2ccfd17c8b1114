/**
 * What a request may be before anything is made of it: a path of letters that can be shown, a body of a kind that no form of
 * another site can send unasked, and JSON that is no deeper than any document here.
 */
import { BadRequestException } from '@nestjs/common';
import { NextFunction, Request, Response } from 'express';
import type { IncomingMessage } from 'node:http';
import { answerProblem } from './answerProblem.js';

/** Documents are a dozen deep. */
export const MOST_DEPTH = 64;

/** Kinds of body that a page of another site can send without being asked first, and that nothing here is sent as. */
const SIMPLE = /^\s*(application\/x-www-form-urlencoded|text\/plain)\b/i;

export function reasonable(request: Request, response: Response, next: NextFunction): void {
  let path: string;
  try {
    path = decodeURIComponent(request.path);
  } catch {
    return answerProblem(response, 400, 'Cannot be understood', 'This address cannot be read. Follow a link to it instead of typing it.');
  }
  if (/[\u0000-\u001f\u007f]/.test(path))
    return answerProblem(response, 400, 'Cannot be understood', 'This address has characters in it that no name here has.');
  if (SIMPLE.test(request.headers['content-type'] ?? ''))
    return answerProblem(response, 415, 'Cannot be understood', 'What is sent here is JSON, or files of a form. Send it as one of those.');
  next();
}

/** How deep JSON goes, without reading it; what is no JSON is left to whoever reads it. */
export function depthOfJson(bytes: Uint8Array): number {
  let [depth, most, isText] = [0, 0, false];
  for (let at = 0; at < bytes.length; at++) {
    const byte = bytes[at]!;
    if (isText) {
      if (byte === 0x5c) at += 1;
      else if (byte === 0x22) isText = false;
    } else if (byte === 0x22) isText = true;
    else if (byte === 0x5b || byte === 0x7b) most = Math.max(most, (depth += 1));
    else if (byte === 0x5d || byte === 0x7d) depth -= 1;
  }
  return most;
}

/** Looks at a body before it is read. */
export function refuseDeep(_request: IncomingMessage, _response: unknown, body: Buffer): void {
  const depth = depthOfJson(body);
  if (depth > MOST_DEPTH)
    throw new BadRequestException(
      `What was sent goes ${depth} lists and records deep. It may go ${MOST_DEPTH}: nothing that is kept here is deeper.`,
    );
}
