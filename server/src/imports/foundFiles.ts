/** Where the pictures of an import lie until they are accepted. */
import { join } from 'node:path';

/** Where a found mouth's picture and its small copy lie. */
export function fileOfMouth(folder: string, index: number, which: 'picture' | 'preview'): string {
  return join(folder, `${index}.${which}`);
}
