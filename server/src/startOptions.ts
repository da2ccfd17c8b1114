/** What is said on the command line when it is started, checked. */
import { X509Certificate } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { networkInterfaces } from 'node:os';
import { parseArgs } from 'node:util';
import type { Certificate } from './guard/gate.js';

/** Listens on every address of this computer. */
const EVERYWHERE = ['0.0.0.0', '::'];

export const START_HELP = `npm start                       on this computer alone
npm start -- --host ADDRESS     for a room, which signs in with a passphrase
  --cert FILE --key FILE        encrypted (HTTPS), with a certificate and its key in PEM
  --new-passphrase              asks for another passphrase
ZEST_PASSPHRASE gives the passphrase where nobody is there to type it. PORT and ZEST_DATA are as always;
ZEST_DATABASE=postgres://… keeps the data in a server database, and with
ZEST_HELPERS=1 readings and renders are done by helpers: npm run helper.
`;

export interface StartOptions {
  readonly host?: string;
  /** Further addresses and names by which it is reached. */
  readonly names: readonly string[];
  readonly certificate?: Certificate;
  readonly isNewPassphrase: boolean;
  readonly wantsHelp: boolean;
}

/** The addresses by which other devices reach this computer, not of loopback. */
export function ownAddresses(): string[] {
  return Object.values(networkInterfaces()).flatMap((all) => (all ?? []).filter(({ internal }) => !internal).map(({ address }) => address));
}

function readPem(file: string, what: string): Buffer {
  try {
    return readFileSync(file);
  } catch {
    throw new Error(`The ${what} ${file} cannot be read. Give the path of a file in PEM.`);
  }
}

/** The names a certificate is for: what a browser that trusts it asks for. */
function namesOf(cert: Buffer, file: string): string[] {
  let certificate: X509Certificate;
  try {
    certificate = new X509Certificate(cert);
  } catch {
    throw new Error(`${file} is no certificate. It must be one in PEM, as whoever gave it to you made it.`);
  }
  if (Date.parse(certificate.validTo) < Date.now())
    throw new Error(`The certificate ${file} ended on ${certificate.validTo}. Get a new one: browsers refuse it.`);
  // “DNS:sheets.studio.example, IP Address:192.168.7.4”, as the runtime writes subject alternative names.
  const names = (certificate.subjectAltName ?? '').split(/,\s*/).map((entry) => entry.replace(/^(DNS|IP Address):/, ''));
  return names.filter((name) => name !== '' && !name.includes('*'));
}

/** @throws a sentence for what cannot be understood */
export function startOptions(args: readonly string[]): StartOptions {
  let values;
  try {
    ({ values } = parseArgs({
      args: [...args],
      options: {
        host: { type: 'string' },
        cert: { type: 'string' },
        key: { type: 'string' },
        'new-passphrase': { type: 'boolean' },
        help: { type: 'boolean' },
      },
    }));
  } catch (error) {
    throw new Error(`${(error as Error).message.split('. ')[0]}. It may be:\n${START_HELP}`);
  }
  const { host, cert, key, 'new-passphrase': isNewPassphrase = false, help: wantsHelp = false } = values;
  if (host === undefined) {
    if (cert !== undefined || key !== undefined || isNewPassphrase)
      throw new Error(`A certificate and a passphrase are for a room: say --host ADDRESS too.\n${START_HELP}`);
    return { names: [], isNewPassphrase, wantsHelp };
  }
  if (!/^[\w.:-]{1,253}$/.test(host)) throw new Error(`--host is “${host}”. It must be an address or a name of this computer.`);
  if ((cert === undefined) !== (key === undefined)) throw new Error('A certificate needs its key: give --cert FILE and --key FILE.');
  const certificate = cert && key ? { cert: readPem(cert, 'certificate'), key: readPem(key, 'key') } : undefined;
  const names = [...(EVERYWHERE.includes(host) ? ownAddresses() : []), ...(certificate ? namesOf(certificate.cert, cert!) : [])];
  return { host, names, ...(certificate && { certificate }), isNewPassphrase, wantsHelp };
}
