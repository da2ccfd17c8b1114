/**
 * Many applications, one after the other, in one process: what takes longest of starting one
 * is reading its code. Asked by messages, each answered with its number.
 */
const { serve } = await import('../server/dist/serve.js');

const serving = new Map();

async function open({ folder }) {
  const app = await serve(folder, 0);
  serving.set(app.address, app);
  return { address: app.address };
}

async function close({ address }) {
  const app = serving.get(address);
  serving.delete(address);
  await app?.close();
  return {};
}

process.on('message', async ({ number, ask, ...rest }) => {
  try {
    process.send({ number, ...(await (ask === 'open' ? open(rest) : close(rest))) });
  } catch (error) {
    process.send({ number, fault: error.stack ?? String(error) });
  }
});
process.on('disconnect', () => process.exit(0));
process.send({ number: 0 });
