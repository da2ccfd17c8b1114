#!/usr/bin/env node
/** Starts `zest` from the built tree, building it first when it is not there or stale. */
import { ensureBuilt } from '../../scripts/ensureBuilt.mjs';

// `npm run` starts everything in the project's own folder; file names are meant from where it was typed.
if (process.env.npm_lifecycle_event === 'zest' && process.env.INIT_CWD) process.chdir(process.env.INIT_CWD);

ensureBuilt(['core', 'engine', 'cli']);
const { main } = await import('../dist/main.js');
process.exitCode = await main(process.argv.slice(2));
