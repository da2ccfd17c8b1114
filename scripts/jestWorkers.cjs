/** Tests of the server run from source, but its worker threads from the build. */
const { join } = require('node:path');
process.env.ZEST_WORKERS = join(__dirname, '../server/dist/workers');
