/**
 * The body of a change of a document: what it says of itself by the rules of every body, its operations by the same, one after
 * another, with others answered in between.
 */
import { BadRequestException, Injectable, ValidationPipe, type PipeTransform, type Type } from '@nestjs/common';
import type { Patch, PatchOp } from '@zest-jaw/core';
import { cannotUse } from '../guard/problem.js';
import { MAX_OPS_PER_PATCH } from '../scenes/limits.js';
import { inTurns } from './inTurns.js';
import { PatchDocumentDto, PatchOpDto } from './patch.dto.js';

/** A change as it was sent, whole. */
export interface Change {
  readonly baseRevision: number;
  readonly patch: Patch;
}

/** A put with both sides spelled out, a shift without them: the DTO leaves what was not sent undefined. */
function wholeOp(op: PatchOpDto): unknown {
  const { table, id, before = null, after = null, track, at, by } = op;
  if (op.op === 'put') {
    if (id === undefined || (before === null && after === null)) throw cannotUse('A put needs an id, and a before or an after.');
    for (const record of [before, after])
      if (record && record['id'] !== id) throw cannotUse(`The record of a put must carry its id ${id}.`);
    return { op: 'put', table, id, before, after };
  }
  if (track === undefined || at === undefined || by === undefined) throw cannotUse('A shift needs a track, and the frames at and by.');
  return { op: 'shift', table, track, at, by };
}

/** As plain JSON, without what is undefined. */
const plain = <T>(value: unknown): T => JSON.parse(JSON.stringify(value)) as T;

const messagesOf = (error: BadRequestException): readonly string[] => {
  const answer = error.getResponse();
  const message = typeof answer === 'object' && 'message' in answer ? answer.message : error.message;
  return Array.isArray(message) ? (message as string[]) : [String(message)];
};

@Injectable()
export class PatchOfBody implements PipeTransform<unknown, Promise<Change>> {
  private readonly rules = new ValidationPipe({ whitelist: true, forbidNonWhitelisted: true, transform: true });

  async transform(body: unknown): Promise<Change> {
    const sent: unknown = body && typeof body === 'object' && 'ops' in body ? body.ops : undefined;
    if (!Array.isArray(sent)) throw await this.refusalOf(body);
    if (sent.length > MAX_OPS_PER_PATCH) throw new BadRequestException([`ops must contain no more than ${MAX_OPS_PER_PATCH} elements`]);
    const head = await this.checked(PatchDocumentDto, { ...(body as object), ops: [] });
    const ops: PatchOp[] = [];
    await inTurns(sent as readonly unknown[], async (op) => {
      ops.push(plain(wholeOp(await this.checkedOp(op, ops.length))));
    });
    const { baseRevision, patchId: id, reason, step, undoes, redoes } = head;
    return { baseRevision, patch: { ...plain<Patch>({ id, reason, ops: [], step, undoes, redoes }), ops } };
  }

  private checked<T>(metatype: Type<T>, value: unknown): Promise<T> {
    return this.rules.transform(value, { type: 'body', metatype }) as Promise<T>;
  }

  /** What is wrong with a body whose operations are no list: the rules say it. */
  private async refusalOf(body: unknown): Promise<unknown> {
    return this.checked(PatchDocumentDto, body).then(
      () => new BadRequestException(['ops must be an array']),
      (error: unknown) => error,
    );
  }

  private async checkedOp(op: unknown, index: number): Promise<PatchOpDto> {
    if (op === null || typeof op !== 'object' || Array.isArray(op)) throw new BadRequestException([`ops.${index} must be an object`]);
    try {
      return await this.checked(PatchOpDto, op);
    } catch (error) {
      if (!(error instanceof BadRequestException)) throw error;
      throw new BadRequestException(messagesOf(error).map((message) => `ops.${index}.${message}`));
    }
  }
}
