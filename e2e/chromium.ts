/** Where Debian's Chromium is; the tests do not download one. */
import { accessSync, constants } from 'node:fs';
import { delimiter, join } from 'node:path';

const NAMES = ['chromium', 'chromium-browser', 'google-chrome'];

export function chromiumPath(): string {
  for (const folder of (process.env['PATH'] ?? '').split(delimiter)) {
    for (const name of NAMES) {
      try {
        accessSync(join(folder, name), constants.X_OK);
        return join(folder, name);
      } catch {
        // Not in this folder.
      }
    }
  }
  throw new Error('Chromium is not on the PATH. On Debian: apt-get install chromium');
}
