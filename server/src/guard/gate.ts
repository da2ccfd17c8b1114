/**
 * The port, taken before anything else is done: a second start must not touch what the first
 * one has open. Until the application is ready the gate says that it is starting.
 */
import { createServer, type IncomingMessage, type RequestListener, type Server } from 'node:http';
import { createServer as createEncryptedServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import type { Duplex } from 'node:stream';

/** An idle connection stays open this long, in milliseconds. Longer than a pause for thought: a request sent on a connection that is just being closed is lost. */
const KEEP_OPEN_MS = 75_000;

const STARTING = `<!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="1"><title>Zest Jaw</title>
<body style="font:18px sans-serif;background:#F6F0E3;color:#1E2A44;display:grid;place-items:center;height:90vh">Zest Jaw is starting…</body></html>`;

/** Takes up a connection that is to stay open both ways. */
export type UpgradeListener = (request: IncomingMessage, socket: Duplex, head: Buffer) => void;

/** A certificate and its key, as PEM. */
export interface Certificate {
  readonly cert: string | Buffer;
  readonly key: string | Buffer;
}

export interface Gate {
  readonly server: Server;
  readonly address: string;
  /** Lets everything through to the application. */
  open(application: RequestListener, takeUp: UpgradeListener): void;
  close(): void;
}

/**
 * @param host the address or name to listen on; this computer alone without one
 * @param certificate what is served is encrypted with it
 * @throws the socket's error; `EADDRINUSE` when the port is taken
 */
export async function takePort(port: number, host = '127.0.0.1', certificate?: Certificate): Promise<Gate> {
  let answer: RequestListener = (_, response) => {
    response.writeHead(503, { 'content-type': 'text/html; charset=utf-8', 'retry-after': '1' });
    response.end(STARTING);
  };
  let takeUp: UpgradeListener = (_, socket) => socket.destroy();
  const listener: RequestListener = (request, response) => answer(request, response);
  const server = certificate ? createEncryptedServer({ ...certificate, minVersion: 'TLSv1.2' }, listener) : createServer(listener);
  server.on('upgrade', (request, socket, head) => takeUp(request, socket, head));
  server.keepAliveTimeout = KEEP_OPEN_MS;
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, resolve);
  });
  return {
    server,
    address: `${certificate ? 'https' : 'http'}://${host.includes(':') ? `[${host}]` : host}:${(server.address() as AddressInfo).port}`,
    open: (application, upgrade) => {
      answer = application;
      takeUp = upgrade;
    },
    close: () => {
      server.close();
      server.closeAllConnections();
    },
  };
}
