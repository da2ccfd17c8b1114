/** What is done at the door of a room, in the log: who tried what, from where, and what became of it. Never with what. */
import { ConsoleLogger, Logger } from '@nestjs/common';
import type { NextFunction, Response } from 'express';
import type { RoomRequest } from './atTheDoor.middleware.js';

const CONTEXT = 'Room';

/** What is told, by method and path below `/api/room`. */
const TOLD: readonly (readonly [asked: RegExp, what: string])[] = [
  [/^POST \/sessions$/, 'Signing in'],
  [/^POST \/links\/entered$/, 'Coming in by a link'],
  [/^DELETE \/sessions\/mine$/, 'Signing out'],
  [/^DELETE \/sessions\//, 'Showing somebody out'],
  [/^PUT \/passphrase$/, 'Changing the passphrase'],
  [/^POST \/links$/, 'Making a link'],
  [/^DELETE \/links\//, 'Taking a link away'],
];

/** Faults and warnings of everything, and of what else happens only what is told of the room. */
export class RoomLogger extends ConsoleLogger {
  override log(message: unknown, ...rest: unknown[]): void {
    if (rest.at(-1) === CONTEXT) super.log(message, ...(rest as [string]));
  }
}

/** To be used on `/api/room`, before anything there answers. */
export function toldOfRoom(logger = new Logger(CONTEXT)): (request: RoomRequest, response: Response, next: NextFunction) => void {
  return (request, response, next) => {
    const asked = `${request.method} ${request.path.toLowerCase().replace(/\/$/, '')}`;
    const what = TOLD.find(([pattern]) => pattern.test(asked))?.[1];
    const from = request.ip ?? 'somewhere';
    if (what !== undefined)
      response.on('finish', () => {
        const by = request.member ? ` (${JSON.stringify(request.member.name)})` : '';
        if (response.statusCode < 400) logger.log(`${what}, from ${from}${by}: done.`);
        else logger.warn(`${what}, from ${from}${by}: refused, ${response.statusCode}.`);
      });
    next();
  };
}
