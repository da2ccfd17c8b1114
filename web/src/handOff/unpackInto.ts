/** The files of a zip written straight into a folder that was chosen, where the browser can. */
import { Unzip, UnzipInflate, UnzipPassThrough } from 'fflate';

declare global {
  interface Window {
    /** File System Access, WICG; not in every browser. */
    showDirectoryPicker?(options: { mode: 'readwrite' }): Promise<FileSystemDirectoryHandle>;
  }
}

export const canChooseFolder = (): boolean => typeof window.showDirectoryPicker === 'function';

/** A folder to write into; undefined when none was chosen. */
export async function maybeChosenFolder(): Promise<FileSystemDirectoryHandle | undefined> {
  try {
    return await window.showDirectoryPicker?.({ mode: 'readwrite' });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return undefined;
    throw error;
  }
}

async function write(folder: FileSystemDirectoryHandle, path: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
  const steps = path.split('/').filter((step) => step !== '' && step !== '..');
  let into = folder;
  for (const step of steps.slice(0, -1)) into = await into.getDirectoryHandle(step, { create: true });
  const file = await into.getFileHandle(steps.at(-1)!, { create: true });
  const stream = await file.createWritable();
  await stream.write(bytes);
  await stream.close();
}

/** Writes what comes as it comes: a thousand pictures are never in memory at once. */
export async function unpackInto(folder: FileSystemDirectoryHandle, url: string): Promise<void> {
  const response = await fetch(url);
  if (!response.ok || !response.body) throw new Error('The files could not be fetched from the server. Save them again.');
  let writing = Promise.resolve();
  let fault: Error | undefined;
  const unzip = new Unzip((file) => {
    const pieces: Uint8Array[] = [];
    file.ondata = (error, piece, isLast) => {
      if (error) {
        fault ??= error;
        return;
      }
      pieces.push(piece);
      if (isLast)
        writing = writing.then(async () => write(folder, file.name, new Uint8Array(await new Blob(pieces as BlobPart[]).arrayBuffer())));
    };
    file.start();
  });
  unzip.register(UnzipPassThrough);
  unzip.register(UnzipInflate);
  const reader = response.body.getReader();
  for (;;) {
    const { done, value } = await reader.read();
    unzip.push(value ?? new Uint8Array(), done);
    // No more is taken in than has been written.
    await writing;
    if (done) break;
  }
  await writing;
  if (fault) throw new Error(`The files could not be taken out of their zip: ${fault.message}. Save them again.`);
}
