/**
 * The port, taken before anything else is done: a second start must not touch what the first
 * one has open. Until the application is ready the gate says that it is starting.
 */
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/** An idle connection stays open this long, in milliseconds. Longer than a pause for thought: a request sent on a connection that is just being closed is lost. */
const KEEP_OPEN_MS = 75_000;

const STARTING = `<!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="1"><title>Zest Jaw</title>
<body style="font:18px sans-serif;background:#F6F0E3;color:#1E2A44;display:grid;place-items:center;height:90vh">Zest Jaw is starting…</body></html>`;

export interface Gate {
  readonly server: Server;
  readonly address: string;
  /** Lets everything through to the application. */
  open(application: RequestListener): void;
  close(): void;
}

/**
 * @param isShared other devices of the network reach it too
 * @throws the socket's error; `EADDRINUSE` when the port is taken
 */
export async function takePort(port: number, isShared = false): Promise<Gate> {
  let answer: RequestListener = (_, response) => {
    response.writeHead(503, { 'content-type': 'text/html; charset=utf-8', 'retry-after': '1' });
    response.end(STARTING);
  };
  const server = createServer((request, response) => answer(request, response));
  server.keepAliveTimeout = KEEP_OPEN_MS;
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, isShared ? '0.0.0.0' : '127.0.0.1', resolve);
  });
  return {
    server,
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    open: (application) => (answer = application),
    close: () => {
      server.close();
      server.closeAllConnections();
    },
  };
}
