/** The command line as it is used: the built program in a process of its own, with a folder for what it writes. */
import { maybeArpabet } from '@zest-jaw/core';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export const ROOT = join(__dirname, '../../..');
export const SPEECH = join(ROOT, 'core/fixtures/speech');
export const SENTENCES = readFileSync(join(SPEECH, 'sentences.txt'), 'utf8').trim().split('\n');
export const scratch = mkdtempSync(join(tmpdir(), 'zest-cli-'));

export function zest(...args: string[]): { status: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(ROOT, 'cli/bin/zest.mjs'), ...args], {
    encoding: 'utf8',
    maxBuffer: 1e8,
  });
  return { status, out: stdout, err: stderr };
}

/** A file with some content, by its path. */
export function written(name: string, content: string | Uint8Array): string {
  const file = join(scratch, name);
  writeFileSync(file, content);
  return file;
}

/** A labelled recording, by its path. */
export const recording = (voice: string, line: number): string => join(SPEECH, `${voice}-${String(line).padStart(2, '0')}.wav`);

/** Labels of a recording: silence left out, `ax` counted as AH (see the fixture's README). */
export function labels(voice: string, line: number): { symbol: string; fromSeconds: number }[] {
  const rows = readFileSync(recording(voice, line).replace(/wav$/, 'lab'), 'utf8')
    .trim()
    .split('\n')
    .map((row) => row.split('\t'));
  return rows.flatMap(([from, , symbol]) =>
    symbol === 'pau' ? [] : [{ symbol: maybeArpabet(symbol!)!.symbol, fromSeconds: Number(from) }],
  );
}
