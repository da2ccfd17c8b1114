/** Starts the server on this computer's loopback address and prints where. */
import { ownAddresses } from './guard/whoMay.middleware.js';
import { OWN_DATA_FOLDER, serve } from './serve.js';

const port = Number(process.env['PORT'] ?? 4178);

if (!Number.isInteger(port) || port < 0 || port > 65_535) {
  process.stderr.write(`PORT is “${process.env['PORT']}”. It must be a whole number from 0 to 65535.\n`);
  process.exit(2);
}

try {
  // Shared on the network for a second device at the stage, where somebody has asked for it.
  const shared = process.env['ZEST_SHARE'] ? ownAddresses() : [];
  const { address, shut } = await serve(process.env['ZEST_DATA'] ?? OWN_DATA_FOLDER, port, shared);
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, shut);
  process.stdout.write(`Zest Jaw is at ${address}\n`);
  for (const other of shared) process.stdout.write(`To look and to shoot from another device: http://${other}:${new URL(address).port}\n`);
} catch (error) {
  const code = (error as { code?: string }).code;
  const message =
    code === 'EADDRINUSE'
      ? `Port ${port} is taken. Stop what uses it, or choose another: PORT=4179 npm start`
      : error instanceof Error
        ? error.message
        : String(error);
  process.stderr.write(`Zest Jaw could not start. ${message}\n`);
  process.exit(1);
}
