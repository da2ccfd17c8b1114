/** How a command ends when it does not succeed. */
import { readFileSync } from 'node:fs';
import { parseArgs, type ParseArgsConfig } from 'node:util';

/** The command line is wrong: exit status 2. */
export class WrongUse extends Error {}

/** The command line is right but the job cannot be done: exit status 1. */
export class CannotDo extends Error {}

type Options = Readonly<Record<string, { type: 'string' | 'boolean'; multiple?: boolean; default?: string | boolean | readonly string[] }>>;

/** Each option's value: always there when it has a default. */
type Values<O extends Options> = {
  [K in keyof O]:
    | (O[K] extends { multiple: true } ? string[] : O[K]['type'] extends 'boolean' ? boolean : string)
    | (O[K] extends { default: string | boolean | readonly string[] } ? never : undefined);
};

/** Options and file names of a command line. Throws WrongUse with a sentence. */
export function parseCommandLine<const O extends Options>(args: string[], options: O): { values: Values<O>; positionals: string[] } {
  try {
    const config = { args, options, allowPositionals: true, strict: true } as ParseArgsConfig;
    const { values, positionals } = parseArgs(config);
    return { values: values as Values<O>, positionals };
  } catch (error) {
    throw new WrongUse(error instanceof Error ? error.message.split('\n')[0]! : 'The options could not be read.');
  }
}

export function readBytes(file: string): Uint8Array {
  try {
    return readFileSync(file);
  } catch {
    throw new CannotDo(`The file ${file} could not be read. Check that it is there.`);
  }
}

export function readText(file: string): string {
  return Buffer.from(readBytes(file))
    .toString('utf8')
    .replace(/^\uFEFF/, '');
}

export function readJson(file: string): unknown {
  try {
    return JSON.parse(readText(file));
  } catch (error) {
    if (error instanceof CannotDo) throw error;
    throw new CannotDo(`The file ${file} is not JSON. See docs/formats.md for what it should be.`);
  }
}

/** A whole number in a range, or WrongUse. */
export function wholeNumber(name: string, text: string, least: number, most: number): number {
  const value = Number(text);
  if (!/^-?\d+$/.test(text.trim()) || value < least || value > most)
    throw new WrongUse(`--${name} is “${text}”. It must be a whole number from ${least} to ${most}.`);
  return value;
}
