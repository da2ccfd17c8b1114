/** Zip archives, unpacked with an eye on where their files would go and what they grow to. */
import { Unzip, UnzipInflate } from 'fflate';
import { CannotUsePicture, PICTURE_FILE_LIMITS } from './limits.js';

export interface NamedFile {
  /** With its folders, as it came. */
  readonly name: string;
  readonly bytes: Uint8Array;
}

const STEP = 16_384;
/** Bytes of one file in an archive: no more than one may be by itself. */
const ONE_FILE = 200 * 1_048_576;

/** An archive unpacks to more than there is room for. */
export class UnpacksToTooMuch extends CannotUsePicture {}

function leadsOut(path: string): boolean {
  return /^[\\/]|^[a-z]:|\\|\0/i.test(path) || path.split('/').includes('..');
}

/** Files that systems leave behind, and folders. */
const isLitter = (path: string): boolean =>
  path.endsWith('/') || path.startsWith('__MACOSX/') || /(^|\/)(\.|Thumbs\.db$|desktop\.ini$)/i.test(path);

/**
 * Unpacks an archive. Throws {@link CannotUsePicture}.
 *
 * @param room bytes that it may still unpack to, where others came before it
 */
export function unpack(bytes: Uint8Array, file: string, room: number = PICTURE_FILE_LIMITS.unpackedBytes): NamedFile[] {
  const { files: most, unpackedBytes } = PICTURE_FILE_LIMITS;
  const files: NamedFile[] = [];
  let [total, entries] = [0, 0];
  const others = room < unpackedBytes ? ', with the archives before it,' : '';
  const tooMuch = `${file}${others} unpacks to more than ${unpackedBytes / 1_048_576} MB. Pack fewer or smaller pictures.`;
  let fault: string | undefined;
  const unzip = new Unzip((entry) => {
    entries += 1;
    if (leadsOut(entry.name))
      fault ??= `${file} holds a file that would be put outside its folder (${entry.name}). Pack the pictures again.`;
    if (entries > most * 4) fault ??= `${file} holds more than ${most * 4} files. Pack only the mouths.`;
    // Where it says what it unpacks to, it need not be unpacked to be refused.
    if (total + (entry.originalSize ?? 0) > room) fault ??= tooMuch;
    if (fault || isLitter(entry.name)) return;
    const chunks: Uint8Array[] = [];
    let size = 0;
    entry.ondata = (error, chunk, final) => {
      if (error) fault ??= `${file} is damaged at ${entry.name}. Pack the pictures again.`;
      if (fault) return;
      total += chunk.length;
      size += chunk.length;
      if (size > ONE_FILE) fault = `${file} holds a file of more than ${ONE_FILE / 1_048_576} MB (${entry.name}). Pack smaller pictures.`;
      if (total > room) fault = tooMuch;
      chunks.push(chunk);
      if (final) files.push({ name: entry.name, bytes: Buffer.concat(chunks) });
    };
    entry.start();
  });
  unzip.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length && !fault; at += STEP) unzip.push(bytes.subarray(at, at + STEP), at + STEP >= bytes.length);
  } catch {
    fault ??= `${file} is damaged, or packed in a way that cannot be read. Pack the pictures again as a plain zip.`;
  }
  if (fault === tooMuch) throw new UnpacksToTooMuch(fault);
  if (fault) throw new CannotUsePicture(fault);
  if (files.length > most) throw new CannotUsePicture(`${file} holds ${files.length} files. An import may have ${most}: pack fewer.`);
  return files;
}
