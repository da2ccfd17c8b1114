/**
 * Errors as problem documents (RFC 9457): what was got, what is allowed, what to do. Named
 * factories, so that each text lives once.
 */
import { HttpException } from '@nestjs/common';

export class Problem extends HttpException {
  constructor(status: number, title: string, detail: string, extra: Record<string, unknown> = {}) {
    super({ type: 'about:blank', title, status, detail, ...extra }, status);
    // For whoever meets it elsewhere than in an answer, as at the start.
    this.message = detail;
  }
}

export const notThere = (what: string): Problem =>
  new Problem(404, 'Not there', `There is no such ${what}. It may have been removed; go back and choose another.`);

export const cannotUse = (detail: string): Problem => new Problem(422, 'Cannot be used', detail);

export const staleBase = (noun: string, baseRevision: number, revision: number, patchesSince: unknown[]): Problem =>
  new Problem(
    409,
    'It has changed',
    `This change was made on revision ${baseRevision}, but the ${noun} is at ${revision}. Take in the changes since and send it again.`,
    {
      revision,
      patchesSince,
    },
  );
