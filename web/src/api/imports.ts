/** Bringing pictures in: files are looked at by the server, and only what is accepted is kept. */
import { hasEnded, type ImportRequest, type ImportView, type JobView, type PlacedArt } from '@zest-jaw/core';
import { api, sendJson } from './http.js';
import { watchJob } from './job.js';

/** A file with the folder it came from, when it came in one. */
export interface ChosenFile {
  readonly file: File;
  readonly path: string;
}

export function beginImport(files: readonly ChosenFile[], request: ImportRequest): Promise<JobView> {
  const form = new FormData();
  for (const [key, value] of Object.entries(request)) form.append(key, String(value));
  for (const { file, path } of files) form.append('files', file, path);
  return api<JobView>('/imports', { method: 'POST', body: form });
}

export const importAgain = (id: string, request: ImportRequest): Promise<JobView> => sendJson('POST', `/imports/${id}/again`, request);

export const foundByImport = (id: string): Promise<ImportView> => api<ImportView>(`/imports/${id}`);

export const acceptImport = (id: string, mouths: readonly number[]): Promise<PlacedArt[]> =>
  sendJson('POST', `/imports/${id}/accept`, { mouths });

export const giveUpImport = (id: string): Promise<null> => api<null>(`/imports/${id}`, { method: 'DELETE' });

export const previewUrl = (id: string, index: number): string => `/api/imports/${id}/previews/${index}`;

function ended(id: string): Promise<JobView> {
  return new Promise((resolve) => {
    watchJob(id, (job) => hasEnded(job) && resolve(job));
  });
}

/** One file as one picture, kept at once. Throws an error whose message is a sentence. */
export async function importOne(file: File): Promise<PlacedArt> {
  const { id } = await beginImport([{ file, path: file.name }], { cut: 'single', clearPaper: false });
  const job = await ended(id);
  if (job.state !== 'done') throw new Error(job.message);
  const [art] = await acceptImport(id, [0]);
  return art!;
}

/** Every file of what was dropped, folders opened. */
export async function filesOfDrop(transfer: DataTransfer): Promise<ChosenFile[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.() ?? null);
  if (entries.every((entry) => entry === null)) return [...transfer.files].map((file) => ({ file, path: file.name }));
  const inside = await Promise.all(entries.map((entry) => (entry ? filesOfEntry(entry) : [])));
  return inside.flat();
}

async function filesOfEntry(entry: FileSystemEntry): Promise<ChosenFile[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ file, path: entry.fullPath.replace(/^\//, '') }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: FileSystemEntry[] = [];
  // A reader answers with a hundred at a time.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) break;
    found.push(...some);
  }
  return (await Promise.all(found.map(filesOfEntry))).flat();
}
