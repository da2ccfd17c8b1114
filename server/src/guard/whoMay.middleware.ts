/**
 * The application is for this computer alone: a page of another site must not reach it, not even by a host name that points
 * here. Checks `Host` on every request and `Origin` when there is one. Where it is shared, other devices reach it by the
 * numbers of this computer's own addresses, to look, and to shoot; whatever else changes something is done here.
 */
import { NextFunction, Request, Response } from 'express';
import { networkInterfaces } from 'node:os';

const LOOPBACK = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;
/** What a second device may change: how far a lane is shot, and what was taken of it. */
const SHOOTING = /^\/api\/scenes\/[^/]+\/shooting\//;
/** And what somebody says of a scene that they look at. */
const REMARKS = /^\/api\/scenes\/[^/]+\/remarks$/;

/** The addresses by which other devices reach this computer: IPv4, not of loopback. */
export function ownAddresses(): string[] {
  return Object.values(networkInterfaces()).flatMap((all) =>
    (all ?? []).filter(({ family, internal }) => family === 'IPv4' && !internal).map(({ address }) => address),
  );
}

function refuse(response: Response, detail: string): void {
  response
    .status(403)
    .type('application/problem+json')
    .send(JSON.stringify({ type: 'about:blank', title: 'Refused', status: 403, detail }));
}

/** @param shared addresses by which other devices may come; none when it is not shared */
export function whoMay(shared: readonly string[]): (request: Request, response: Response, next: NextFunction) => void {
  return (request, response, next) => {
    const host = request.headers.host ?? '';
    const { origin } = request.headers;
    const originHost = origin === undefined ? host : origin.replace(/^https?:\/\//, '');
    // Another port of this computer is another site.
    if (LOOPBACK.test(host) && originHost === host) return next();
    // A name may point anywhere; a number of this computer is this computer.
    if (!shared.includes(host.replace(/:\d+$/, '')) || originHost !== host)
      return refuse(response, 'This address answers only on this computer. Open it as http://127.0.0.1 with its port.');
    const isLooking = request.method === 'GET' || request.method === 'HEAD';
    const isShooting = request.method === 'PUT' && SHOOTING.test(request.path);
    if (isLooking || isShooting || (request.method === 'POST' && REMARKS.test(request.path))) return next();
    refuse(
      response,
      'From another device one can look and shoot, and say what one sees. Change the scene on the computer that Zest Jaw runs on.',
    );
  };
}
