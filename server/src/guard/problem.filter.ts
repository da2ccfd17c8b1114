/** Every error leaves as a problem document, and never with a stack. */
import { ArgumentsHost, Catch, ExceptionFilter, HttpException, Logger } from '@nestjs/common';
import { Response } from 'express';
import { DISK_FAULTS, maybeDiskFault } from '../storage/diskFault.js';
import { isServerAway } from '../storage/serverDatabase.js';
import { MAX_BODY, MAX_UPLOAD_BYTES } from '../scenes/limits.js';

interface Described {
  readonly status: number;
  readonly body: object;
}

/** What is said of a request that could not even be read, by what its reader says of it (http-errors, as express throws them). */
const UNREAD: Readonly<Record<number, readonly [title: string, detail: string]>> = {
  400: ['Cannot be understood', 'What was sent is not whole, or is no JSON. Send it again.'],
  404: ['Not there', 'There is no such file. Reload the page: the application may have been updated.'],
  413: ['Too large', `What was sent is larger than ${MAX_BODY.replace('mb', ' MB')}. Send less at once.`],
  415: ['Cannot be understood', 'What was sent is packed, or written, in a way that is not known here. Send it as plain JSON in UTF-8.'],
};

function maybeOfRequest(error: unknown): Described | undefined {
  const { status, statusCode } = (error ?? {}) as { readonly status?: unknown; readonly statusCode?: unknown };
  // Whoever sent a file went away in the middle of it: nobody’s fault, and nobody is there to be told (multer’s words).
  const wentAway = error instanceof Error && error.message === 'Request aborted';
  const code = wentAway ? 400 : typeof status === 'number' ? status : statusCode;
  const said = typeof code === 'number' ? UNREAD[code] : undefined;
  if (!said) return undefined;
  const [title, detail] = said;
  return { status: code as number, body: { type: 'about:blank', title, status: code, detail } };
}

function describe(error: unknown): Described {
  const uploadCode = (error as { code?: unknown } | null)?.code;
  if (uploadCode === 'LIMIT_FILE_SIZE' || (error instanceof HttpException && error.getStatus() === 413)) {
    const detail = `This file is larger than ${MAX_UPLOAD_BYTES / 1_048_576} MB. Cut the recording and drop the part you need.`;
    return { status: 413, body: { type: 'about:blank', title: 'Too large', status: 413, detail } };
  }
  if (error instanceof HttpException) {
    const status = error.getStatus();
    const answer = error.getResponse() as { title?: string; detail?: string; message?: string | string[] } | string;
    if (typeof answer === 'object' && answer.title && answer.detail) return { status, body: answer };
    const message = typeof answer === 'string' ? answer : answer.message;
    const told = Array.isArray(message) ? message.join('. ') : (message ?? error.message);
    const detail = /[.!?]$/.test(told) ? told : `${told}.`;
    return { status, body: { type: 'about:blank', title: status === 400 ? 'Cannot be understood' : 'Refused', status, detail } };
  }
  const known = maybeOfRequest(error);
  if (known) return known;
  const disk = maybeDiskFault(error);
  // Insufficient storage (RFC 4918, 11.5): trying again helps once somebody has made room.
  if (disk) return { status: 507, body: { type: 'about:blank', title: 'Not kept', status: 507, detail: DISK_FAULTS[disk] } };
  if (isServerAway(error))
    return {
      status: 503,
      body: {
        type: 'about:blank',
        title: 'Not reached',
        status: 503,
        detail:
          'The database cannot be reached at the moment. Nothing that was saved is lost, and what is not saved yet goes in when it is back.',
      },
    };
  return {
    status: 500,
    body: {
      type: 'about:blank',
      title: 'Our fault',
      status: 500,
      detail: 'Something went wrong inside. Nothing you had saved is lost; try it again.',
    },
  };
}

@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly logger = new Logger('Problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    const { status, body } = describe(error);
    if (status === 507 || status === 503) this.logger.warn((body as { detail: string }).detail);
    else if (status >= 500) this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    if (response.headersSent) {
      response.end();
      return;
    }
    response.status(status).type('application/problem+json').send(JSON.stringify(body));
  }
}
