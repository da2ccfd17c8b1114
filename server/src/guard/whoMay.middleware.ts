/**
 * The application is for its own pages alone: a page of another site must not reach it, not even by a host name that points
 * here. Checks `Host` on every request and `Origin` when there is one. What it answers to is this computer by its numbers and
 * `localhost`, and, where it serves a room, the addresses and names it was given.
 */
import { NextFunction, Request, Response } from 'express';
import type { IncomingMessage } from 'node:http';
import { answerProblem } from './answerProblem.js';

const LOOPBACK = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/** @param hosts further addresses and names it answers to, without a port; none where it is this computer's alone */
export function isOwn({ headers }: Pick<IncomingMessage, 'headers'>, hosts: readonly string[]): boolean {
  const host = (headers.host ?? '').toLowerCase();
  const { origin } = headers;
  // Another port of this computer is another site.
  if (origin !== undefined && origin.toLowerCase().replace(/^https?:\/\//, '') !== host) return false;
  // A name may point anywhere; one that was given is meant.
  return LOOPBACK.test(host) || hosts.includes(host.replace(/:\d+$/, '').replace(/^\[(.*)\]$/, '$1'));
}

export function whoMay(hosts: readonly string[]): (request: Request, response: Response, next: NextFunction) => void {
  const where =
    hosts.length === 0
      ? 'This address answers only on this computer. Open it as http://127.0.0.1 with its port.'
      : 'This address answers only by the names it was started with, and to its own pages. Open it by the address that was printed when it started.';
  return (request, response, next) => (isOwn(request, hosts) ? next() : answerProblem(response, 403, 'Refused', where));
}
