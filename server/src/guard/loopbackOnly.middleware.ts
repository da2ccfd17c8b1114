/**
 * The application is for this computer alone: a page of another site must not reach it, not
 * even by a host name that points here. Checks `Host` on every request and `Origin` when
 * there is one.
 */
import { NextFunction, Request, Response } from 'express';

const LOOPBACK = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

export function loopbackOnly(request: Request, response: Response, next: NextFunction): void {
  const host = request.headers.host ?? '';
  const origin = request.headers.origin;
  const originHost = origin === undefined ? host : origin.replace(/^https?:\/\//, '');
  if (LOOPBACK.test(host) && LOOPBACK.test(originHost)) {
    next();
    return;
  }
  const detail = `This address answers only on this computer. Open it as http://127.0.0.1 with its port.`;
  response
    .status(403)
    .type('application/problem+json')
    .send(JSON.stringify({ type: 'about:blank', title: 'Refused', status: 403, detail }));
}
