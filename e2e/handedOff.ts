/** What is handed off, by the page: gone to, saved, opened. */
import { readFileSync } from 'node:fs';
import type { SceneDocument } from '@zest-jaw/core';
import type { Page } from '@playwright/test';
import Papa from 'papaparse';
import { expect } from './app.js';

/** Goes to a kind of file. */
export const kind = (page: Page, name: string): Promise<void> =>
  page
    .getByRole('navigation', { name: 'What is handed off' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click();

/** Presses a button, and opens what is saved. */
export async function savedBy(page: Page, button: string): Promise<{ name: string; bytes: Uint8Array; text: string }> {
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: button }).click();
  const download = await downloading;
  const bytes = new Uint8Array(readFileSync(await download.path()));
  return { name: download.suggestedFilename(), bytes, text: Buffer.from(bytes).toString('utf8') };
}

export const rowsOf = (csv: string): string[][] => Papa.parse<string[]>(csv, { skipEmptyLines: true }).data;

export interface SceneAnswer {
  readonly document: SceneDocument;
}

/** Width, height and colour type of a PNG (ISO/IEC 15948, 11.2.2 IHDR); 6 is truecolour with alpha. */
export function header(png: Uint8Array): { width: number; height: number; colourType: number } {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  expect([...png.slice(0, 8)]).toEqual([137, 80, 78, 71, 13, 10, 26, 10]);
  return { width: view.getUint32(16), height: view.getUint32(20), colourType: png[25]! };
}
