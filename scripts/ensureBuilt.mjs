/** Builds what is missing or older than its sources; quiet when there is nothing to do. */
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('..', import.meta.url));

/** Newest change below a folder, in milliseconds; 0 when it is not there. */
function newest(folder) {
  if (!existsSync(folder)) return 0;
  let latest = statSync(folder).mtimeMs;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    latest = Math.max(latest, entry.isDirectory() ? newest(path) : statSync(path).mtimeMs);
  }
  return latest;
}

/** Runs a program of the project's own packages with its output on standard error, so that standard output stays clean. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: ROOT, stdio: ['ignore', 2, 2], ...options });
  return result.status ?? 1;
}

/** The stamp a build leaves: tsc touches nothing when nothing changed, so outputs alone do not tell. */
const STAMP = { web: 'dist/index.html' };

function isStale(workspace) {
  const stamp = join(ROOT, workspace, STAMP[workspace] ?? 'dist/index.js');
  const main = existsSync(stamp) ? stamp : join(ROOT, workspace, 'dist/main.js');
  if (!existsSync(main)) return true;
  const built = workspace === 'web' ? statSync(main).mtimeMs : newest(join(ROOT, workspace, 'dist'));
  const sources =
    workspace === 'web' ? Math.max(newest(join(ROOT, 'web/src')), newest(join(ROOT, 'core/src'))) : newest(join(ROOT, workspace, 'src'));
  return sources > built;
}

export function ensureInstalled() {
  if (existsSync(join(ROOT, 'node_modules/.package-lock.json'))) return;
  process.stderr.write('Installing packages (once)…\n');
  if (run('npm', ['ci', '--no-audit', '--no-fund']) !== 0)
    throw new Error('The packages could not be installed. Check the network to the registry and run the command again.');
}

/** Installs and builds the named workspaces when needed. Throws when a build fails. */
export function ensureBuilt(workspaces) {
  ensureInstalled();
  const code = workspaces.filter((workspace) => workspace !== 'web');
  if (code.some(isStale)) {
    process.stderr.write('Building…\n');
    if (run(join(ROOT, 'node_modules/.bin/tsc'), ['-b', ...code]) !== 0) throw new Error('The build failed; what is wrong stands above.');
    // tsc leaves outputs alone that come out the same; the folder's time must still say that they are current.
    for (const workspace of code) utimesSync(join(ROOT, workspace, 'dist'), new Date(), new Date());
  }
  if (workspaces.includes('web') && isStale('web')) {
    process.stderr.write('Building the interface…\n');
    if (run(join(ROOT, 'node_modules/.bin/vite'), ['build', '--logLevel', 'warn'], { cwd: join(ROOT, 'web') }) !== 0)
      throw new Error('The interface could not be built; what is wrong stands above.');
  }
}
