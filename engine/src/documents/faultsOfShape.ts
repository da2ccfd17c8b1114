/**
 * Whether documents that come from outside have the shape of documents, field by field, before
 * anything relies on it: one description, for the server and the command line.
 */
import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';
import { CHART_SHAPES } from './chartShape.js';
import { SCENE_SHAPES } from './sceneShape.js';

export type ShapeName = 'scene' | 'chart';

const SHAPES: Readonly<Record<ShapeName, Readonly<Record<string, new () => object>>>> = { scene: SCENE_SHAPES, chart: CHART_SHAPES };
const NOUNS: Readonly<Record<ShapeName, string>> = { scene: 'scene', chart: 'mouth chart' };

/** More sentences than this help nobody. */
const MOST_FAULTS = 20;
/** A table with more records than this is none that anybody made: thirty minutes on ones are 43 200 frames, and an import 400 drawings. */
const MOST_RECORDS: Readonly<Record<ShapeName, number>> = { scene: 200_000, chart: 2000 };

const isRecord = (value: unknown): value is Record<string, unknown> => value !== null && typeof value === 'object' && !Array.isArray(value);

/** What stands in a field, short. */
function said(value: unknown): string {
  if (value === undefined) return 'missing';
  if (typeof value === 'string') return `“${value.length > 40 ? `${value.slice(0, 40)}…” (${value.length} letters)` : `${value}”`}`;
  if (Array.isArray(value)) return `a list of ${value.length}`;
  return isRecord(value) ? 'a record' : String(value);
}

/** Where a list has nothing in one of its places: no list may, and the transformer does not stand it. */
function maybeHole(value: unknown, path = ''): string | undefined {
  if (value === null || typeof value !== 'object') return undefined;
  for (const [key, inner] of Object.entries(value)) {
    const where = path === '' ? key : `${path}.${key}`;
    if (Array.isArray(value) && (inner === null || inner === undefined)) return where;
    const hole = maybeHole(inner, where);
    if (hole !== undefined) return hole;
  }
  return undefined;
}

/** The first fault of a field, or of what lies in it: where, what it is, what it may be. */
function faultOf({ property, value, constraints, children = [] }: ValidationError, path = ''): string {
  const where = path === '' ? property : `${path}.${property}`;
  const [inner] = children;
  if (inner) return faultOf(inner, where);
  const [name, allowed = 'something else'] = Object.entries(constraints ?? {})[0] ?? [];
  if (name === 'unknownValue') return `has a field “${path}” of a kind that is not known.`;
  if (name === 'whitelistValidation') return `has a field “${where}” that is not known.`;
  return `has a field “${where}” that is ${said(value)}. It must be ${allowed}.`;
}

/** What is wrong with a would-be record of a table, as a sentence; undefined when it has the table's shape. */
export function maybeFaultOfRecord(shape: ShapeName, table: string, candidate: unknown): string | undefined {
  const known = Object.hasOwn(SHAPES[shape], table) ? SHAPES[shape][table] : undefined;
  if (!known) return `A ${NOUNS[shape]} has no table “${table.slice(0, 40)}”. Reload the page and make the change again.`;
  if (!isRecord(candidate)) return `A record of the ${table} is ${said(candidate)}, and no record.`;
  const id = typeof candidate['id'] === 'string' ? candidate['id'].slice(0, 60) : 'without an id';
  const told = (fault: string): string => `The record ${id} of the ${table} ${fault} Reload the page and make the change again.`;
  const hole = maybeHole(candidate);
  if (hole !== undefined) return told(`has a field “${hole.slice(0, 200)}” that is null. Nothing in a list may be.`);
  const [fault] = validateSync(plainToInstance(known, candidate), {
    whitelist: true,
    forbidNonWhitelisted: true,
    forbidUnknownValues: true,
    stopAtFirstError: true,
    validationError: { target: false },
  });
  return fault && told(faultOf(fault));
}

/** Why a table has more records than it may, as a sentence. */
export function maybeTooMany(shape: ShapeName, table: string, records: readonly unknown[]): string | undefined {
  const most = MOST_RECORDS[shape];
  return records.length > most
    ? `There are ${records.length} ${table}. A ${NOUNS[shape]} may have ${most}: take out some, or make another.`
    : undefined;
}

/** What is wrong with the shape of a would-be document, as sentences; empty when it is one. */
export function faultsOfShape(shape: ShapeName, candidate: unknown): string[] {
  if (!isRecord(candidate))
    return [
      `This is not a ${NOUNS[shape]}: it must be a record with the tables ${Object.keys(SHAPES[shape]).join(', ')}. See docs/formats.md.`,
    ];
  const unknown = Object.keys(candidate).find((table) => !Object.hasOwn(SHAPES[shape], table));
  if (unknown !== undefined) return [`A ${NOUNS[shape]} has no table “${unknown.slice(0, 40)}”. See docs/formats.md.`];
  const faults: string[] = [];
  for (const table of Object.keys(SHAPES[shape])) {
    const records = candidate[table];
    if (!Array.isArray(records)) {
      faults.push(
        `This is not a ${NOUNS[shape]}: it must have a list of ${table}, and here that is ${said(records)}. See docs/formats.md.`,
      );
      continue;
    }
    const tooMany = maybeTooMany(shape, table, records);
    if (tooMany) {
      faults.push(tooMany);
      continue;
    }
    for (const record of records as unknown[]) {
      if (faults.length >= MOST_FAULTS) return faults;
      const fault = maybeFaultOfRecord(shape, table, record);
      if (fault) faults.push(fault);
    }
  }
  return faults;
}
