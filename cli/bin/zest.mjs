#!/usr/bin/env node
/** Starts `zest` from the built tree, building it first when it is not there or stale. */
import { ensureBuilt } from '../../scripts/ensureBuilt.mjs';

ensureBuilt(['core', 'engine', 'cli']);
const { main } = await import('../dist/main.js');
process.exitCode = await main(process.argv.slice(2));
