/** Where Debian's Chromium is; the tests do not download one. */
import { accessSync, constants } from 'node:fs';
import { delimiter, join } from 'node:path';

/** The one without a window first: the same browser, in two thirds of the time. */
const NAMES = ['chromium-headless-shell', 'chromium', 'chromium-browser', 'google-chrome'];

/** @returns {string} its path */
export function chromiumPath() {
  for (const name of NAMES) {
    for (const folder of (process.env['PATH'] ?? '').split(delimiter)) {
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
