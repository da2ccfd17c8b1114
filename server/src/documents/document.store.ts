/**
 * Documents and their revisions: scenes and charts alike. Every change, whoever makes it, is
 * a patch applied in one transaction: the revision row and the document are written
 * together or not at all.
 */
import type { EntityClass, FilterQuery, RequiredEntityData } from '@mikro-orm/core';
import { EntityManager } from '@mikro-orm/knex';
import { Inject, Injectable } from '@nestjs/common';
import {
  applyPatch,
  invertPatch,
  PatchMismatch,
  type DocumentChange,
  type DocumentKind,
  type Patch,
  type RevisionView,
} from '@zest-jaw/core';
import { setImmediate as othersAreAnswered } from 'node:timers/promises';
import { maybeFaultOfRecord, maybeTooMany, type ShapeName } from '@zest-jaw/engine/documents';
import { cannotUse, notThere, staleBase } from '../guard/problem.js';
import { RevisionRow } from '../storage/entities.js';
import { DocumentChanges } from './changes.js';
import { inTurns } from './inTurns.js';

/** What one answer holds of a document's past. */
const MAX_PATCHES_A_PAGE = 40;
const MAX_PAGE_LETTERS = 2_000_000;

export interface Revised<D> {
  id: string;
  document: D;
  revision: number;
}

export interface Applied<D> {
  readonly revision: number;
  readonly document: D;
}

const viewOfRevision = ({ revision, patch, at, by }: RevisionRow): RevisionView => ({
  revision,
  patch,
  at: at.toISOString(),
  ...(by !== null && { by }),
});

/** Decorated although abstract: what Nest is to hand to the constructor is read from here. */
@Injectable()
export abstract class DocumentStore<D, Row extends Revised<D>> {
  /** What the user calls it: scene, mouth chart. */
  protected abstract readonly noun: string;
  protected abstract readonly kind: DocumentKind<D>;
  /** By which description its records are checked. */
  protected abstract readonly shape: ShapeName;
  protected abstract readonly rows: EntityClass<Row>;
  protected abstract readonly revisions: EntityClass<RevisionRow>;
  /** The property of a revision row that points at its document. */
  protected abstract readonly owner: string;
  /** Under which address its documents are. */
  protected abstract readonly table: DocumentChange['table'];
  @Inject(DocumentChanges) private readonly changes!: DocumentChanges;

  constructor(readonly em: EntityManager) {}

  /** Refuses a document that breaks an invariant, with the first sentence of what is wrong. */
  abstract check(document: D, row?: Row): Promise<void>;

  /** What follows a change of the row: its title, when it was touched. */
  protected abstract touch(row: Row): void;

  async load(id: string): Promise<Row> {
    const row = await this.em.findOne(this.rows, { id } as FilterQuery<Row>, { populate: ['document'] as never });
    if (!row) throw notThere(this.noun);
    return row as Row;
  }

  async patchesSince(id: string, revision: number): Promise<RevisionView[]> {
    const where = { [this.owner]: id, revision: { $gt: revision } } as FilterQuery<RevisionRow>;
    const rows = await this.em.find(this.revisions, where, { orderBy: { revision: 'asc' } as never });
    return rows.map(viewOfRevision);
  }

  /** A document as it was at an earlier revision: what came after it taken back, newest first. */
  async documentAt(id: string, revision: number): Promise<D> {
    const row = await this.load(id);
    const since = await this.patchesSince(id, revision);
    return since.reduceRight((document, { patch }) => applyPatch(this.kind, document, invertPatch(patch, '')), row.document);
  }

  /**
   * The patches that led to a revision, newest first, as many as go into one answer: at most
   * `MAX_PATCHES_A_PAGE`, and no more than about `MAX_PAGE_LETTERS` of JSON, but always one.
   */
  async patchesUpTo(id: string, revision: number): Promise<RevisionView[]> {
    const where = { [this.owner]: id, revision: { $lte: revision } } as FilterQuery<RevisionRow>;
    const newest = await this.em.find(this.revisions, where, { orderBy: { revision: 'desc' } as never, limit: MAX_PATCHES_A_PAGE });
    let letters = 0;
    const fitting = newest.findIndex((row) => (letters += JSON.stringify(row.patch).length) > MAX_PAGE_LETTERS);
    return newest.slice(0, fitting < 0 ? undefined : Math.max(1, fitting)).map(viewOfRevision);
  }

  /**
   * Applies a client's patch. The same patch id again answers with the revision it got the
   * first time; a stale base answers 409 with the patches since.
   *
   * @param by who makes it, where people sign in
   */
  async apply(id: string, baseRevision: number, patch: Patch, by?: string): Promise<Applied<D>> {
    await this.checkShape(patch);
    return this.told(id, async () => {
      const row = await this.load(id);
      const known = await this.em.findOne(this.revisions, { [this.owner]: id, patchId: patch.id } as FilterQuery<RevisionRow>);
      if (known) return { revision: known.revision, document: row.document };
      if (baseRevision !== row.revision) throw staleBase(this.noun, baseRevision, row.revision, await this.patchesSince(id, baseRevision));
      return this.write(row, patch, by);
    });
  }

  /** Refuses a patch whose records have not the shape of their tables: what is stored has, and so has what comes of both. */
  private checkShape({ ops }: Patch): Promise<void> {
    return inTurns(ops, (op) => {
      if (op.op === 'shift') {
        const known = (this.kind as unknown as Record<string, { span?: unknown } | undefined>)[op.table];
        if (!known?.span) throw cannotUse(`Time cannot be put into the table “${op.table}”. Reload the page and make the change again.`);
        return;
      }
      const fault = maybeFaultOfRecord(this.shape, op.table, op.after ?? op.before);
      // What goes may be as it likes, but its table must be there.
      if (fault && (op.after || fault.includes('has no table'))) throw cannotUse(fault);
    });
  }

  /** Applies a patch that the server makes from the document as it is: a step of undo for everybody who has it open. */
  applyOwn(id: string, makePatch: (document: D) => Promise<Patch>): Promise<Applied<D>> {
    // Whoever has it open did not make this, but it is theirs to take back.
    return this.applyMade(id, async (document) => ({ ...(await makePatch(document)), forAll: true }));
  }

  /** The same for what is nobody's to take back but who has it open may see, such as what somebody says of it. */
  applyMade(id: string, makePatch: (document: D) => Promise<Patch>, by?: string): Promise<Applied<D>> {
    return this.told(id, async () => {
      const row = await this.load(id);
      const patch = await makePatch(row.document);
      if (patch.ops.length === 0) return { revision: row.revision, document: row.document };
      return this.write(row, patch, by);
    });
  }

  /** A change in a transaction of its own; who has the document open hears of it when it is on the disk. */
  private async told(id: string, work: () => Promise<Applied<D>>): Promise<Applied<D>> {
    const applied = await this.inTransaction(work);
    this.changes.next({ table: this.table, id, revision: applied.revision });
    return applied;
  }

  /** What is injected follows the transaction: whatever is asked meanwhile, of any store, goes through its entity manager. */
  protected inTransaction<Answer>(work: () => Promise<Answer>): Promise<Answer> {
    // Nothing that was read before it counts: between that and now another change may have come in.
    return this.em.transactional(work, { clear: true });
  }

  private async write(row: Row, patch: Patch, by: string | undefined): Promise<Applied<D>> {
    let document: D;
    try {
      document = applyPatch(this.kind, row.document, patch);
    } catch (error) {
      if (error instanceof PatchMismatch) throw cannotUse(`${error.message} Reload the ${this.noun} and make the change again.`);
      throw error;
    }
    for (const [table, records] of Object.entries(document as Readonly<Record<string, readonly unknown[]>>)) {
      const tooMany = maybeTooMany(this.shape, table, records);
      if (tooMany) throw cannotUse(tooMany);
    }
    // Each of these takes a while for a large document: whoever asks for something that is not in the database is answered in between.
    await othersAreAnswered();
    await this.check(document, row);
    await othersAreAnswered();
    row.document = document;
    row.revision += 1;
    this.touch(row);
    const revision = { [this.owner]: row, revision: row.revision, patchId: patch.id, patch, at: new Date(), by: by ?? null };
    this.em.persist(this.em.create(this.revisions, revision as unknown as RequiredEntityData<RevisionRow>));
    await this.em.flush();
    return { revision: row.revision, document };
  }
}
