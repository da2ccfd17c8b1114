/** What the docstrings show is what the functions do: every `@example call // result` of this folder is run. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as core from './index.js';

interface Example {
  readonly file: string;
  readonly call: string;
  readonly result: string;
}

function examplesOf(file: string): Example[] {
  const text = readFileSync(join(__dirname, file), 'utf8');
  // On one line, or the result on the next.
  return [...text.matchAll(/@example (.+?)(?:\n \*)?\s+\/\/ (.+?)(?: \*\/)?\n/g)].map(([, call, result]) => ({
    file,
    call: call!,
    result: result!,
  }));
}

const files = readdirSync(__dirname, { recursive: true, encoding: 'utf8' }).filter(
  (file) => file.endsWith('.ts') && !file.endsWith('.test.ts'),
);
const examples = files.flatMap(examplesOf);

it('none is missed', () => {
  const written = files.reduce((count, file) => count + readFileSync(join(__dirname, file), 'utf8').split('@example ').length - 1, 0);
  expect(examples).toHaveLength(written);
  expect(written).toBeGreaterThan(20);
});

it.each(examples)('$file: $call', async ({ file, call, result }) => {
  // What is used inside the folder only is not in its index.
  const known: Record<string, unknown> = { ...core, ...((await import(join(__dirname, file))) as object) };
  const evaluated = (code: string): unknown =>
    (new Function(...Object.keys(known), `return (${code});`) as (...given: unknown[]) => unknown)(...Object.values(known));
  expect(evaluated(call)).toEqual(evaluated(result));
});
