/** Whoever tries passphrases or links one after another waits: a person who mistypes does not notice, a program gets nowhere. */
import type { Request, RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { answerProblem } from '../guard/answerProblem.js';

const MINUTE = 60_000;
/** Wrong ones in a quarter of an hour, by one address: below the hundred an hour of OWASP ASVS 4.0.3, 2.2.1. */
const MOST_WRONG = 10;

/** A try at coming in: signing in, a link, or the passphrase as it is before it is changed. */
const isTry = ({ method, path }: Request): boolean =>
  (method === 'POST' && /^\/(sessions|links\/entered)\/?$/i.test(path)) || (method === 'PUT' && /^\/passphrase\/?$/i.test(path));

/** A new count for each server. */
export function slowly(): RequestHandler {
  return rateLimit({
    windowMs: 15 * MINUTE,
    limit: MOST_WRONG,
    skipSuccessfulRequests: true,
    skip: (request) => !isTry(request),
    standardHeaders: 'draft-7',
    legacyHeaders: false,
    handler: (_, response) =>
      answerProblem(
        response,
        429,
        'Too many tries',
        `${MOST_WRONG} wrong tries came from this device. It may try again in a quarter of an hour; ask who started Zest Jaw for the passphrase.`,
      ),
  });
}
