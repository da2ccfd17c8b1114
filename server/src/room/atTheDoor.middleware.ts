/**
 * Who is let in where a room shares the server: whoever has signed in, to everything; whoever came by a link, to look and to
 * shoot. The pages themselves hold nothing and are everybody's.
 */
import { createParamDecorator, type ExecutionContext } from '@nestjs/common';
import { NextFunction, Request, Response } from 'express';
import { answerProblem } from '../guard/answerProblem.js';
import type { Member, RoomService } from './room.service.js';

/** What the cookie is called. Without encryption the prefix that browsers hold to it cannot be had. */
export const cookieName = (isEncrypted: boolean): string => (isEncrypted ? '__Host-zest-room' : 'zest-room');

export interface RoomRequest extends Request {
  member?: Member;
}

/** What may be asked before anybody has signed in: how one stands, and to be let in. */
const BEFORE = new Set(['GET /api/room', 'POST /api/room/sessions', 'POST /api/room/links/entered']);
/** What a guest may change: how far a lane is shot, and what was taken of it; what they say of a scene; and to leave. */
const OF_GUESTS = [/^PUT \/api\/scenes\/[^/]+\/shooting\//, /^POST \/api\/scenes\/[^/]+\/remarks$/, /^DELETE \/api\/room\/sessions\/mine$/];
/** What is not a guest's to see: who else has signed in, and what is known of the room. */
const NOT_OF_GUESTS = /^\/api\/room\//i;

const mayGuest = ({ method, path }: Request): boolean =>
  ((method === 'GET' || method === 'HEAD') && !NOT_OF_GUESTS.test(path)) || OF_GUESTS.some((allowed) => allowed.test(`${method} ${path}`));

export function atTheDoor(room: RoomService, cookie: string): (request: RoomRequest, response: Response, next: NextFunction) => void {
  return (request, response, next) => {
    if (!room.isRoom) return next();
    const member = room.maybeMember((request.cookies as Record<string, unknown> | undefined)?.[cookie]);
    if (member) request.member = member;
    // As the router reads it: a path of other letters must not pass where that one is kept.
    const path = request.path.toLowerCase();
    if (!path.startsWith('/api/') && path !== '/api') return next();
    if (!member && !BEFORE.has(`${request.method} ${request.path}`))
      return answerProblem(
        response,
        401,
        'Not signed in',
        'Sign in with the passphrase of this room first. What you have not saved is kept meanwhile.',
      );
    if (member?.isGuest && !mayGuest(request))
      return answerProblem(
        response,
        403,
        'Refused',
        'By this link one can look and shoot, and say what one sees. To change the scene, sign in with the passphrase.',
        // Asking again does not help: whoever asks must become somebody else.
        { isFinal: true },
      );
    // What is only for those who have signed in stays with them.
    response.setHeader('Vary', 'Cookie');
    next();
  };
}

/** Who asks, where people sign in. */
export const Asking = createParamDecorator((_: unknown, context: ExecutionContext): Member | undefined => {
  return context.switchToHttp().getRequest<RoomRequest>().member;
});
