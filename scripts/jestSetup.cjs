/** A fixed seed for property tests, so that a red run can be repeated. */
const fc = require('fast-check');
fc.configureGlobal({ seed: 20_261_125, numRuns: 100 });
