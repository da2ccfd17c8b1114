/** What may be said when it is started, and what is said of the rest. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { generate } from 'selfsigned';
import { ownAddresses, startOptions } from './startOptions.js';

const folder = mkdtempSync(join(tmpdir(), 'zest-start-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const file = (name: string, text: string): string => {
  writeFileSync(join(folder, name), text);
  return join(folder, name);
};

/** Names as subject alternative names (RFC 5280, 4.2.1.6): 2 is a name, 7 an address. */
const certificate = (notAfterDate: Date) =>
  generate([{ name: 'commonName', value: 'sheets.studio.example' }], {
    notAfterDate,
    extensions: [
      {
        name: 'subjectAltName',
        altNames: [
          { type: 2, value: 'sheets.studio.example' },
          { type: 2, value: '*.studio.example' },
          { type: 7, ip: '192.168.7.4' },
        ],
      },
    ],
  });

it('is of this computer alone with nothing said', () => {
  expect(startOptions([])).toEqual({ names: [], isNewPassphrase: false, wantsHelp: false });
});

it('is of a room by one address, or by all of them', () => {
  expect(startOptions(['--host', '192.168.7.4'])).toMatchObject({ host: '192.168.7.4', names: [] });
  expect(startOptions(['--host=0.0.0.0', '--new-passphrase'])).toMatchObject({ names: ownAddresses(), isNewPassphrase: true });
  expect(ownAddresses()).not.toContain('127.0.0.1');
});

it('is reached by every name of its certificate but those that stand for many', async () => {
  const { cert, private: key } = await certificate(new Date(Date.now() + 1e10));
  const options = startOptions(['--host', '192.168.7.4', '--cert', file('c.pem', cert), '--key', file('k.pem', key)]);
  expect(options.names).toEqual(['sheets.studio.example', '192.168.7.4']);
  expect(options.certificate?.cert.toString()).toBe(cert);
});

it('says what is wrong', async () => {
  const { cert, private: key } = await certificate(new Date('2026-01-05'));
  const [old, its, none] = [file('old.pem', cert), file('old.key', key), file('none.pem', 'no certificate')];
  expect(() => startOptions(['--hots', '1.2.3.4'])).toThrow(/Unknown option '--hots'\. It may be:\nnpm start/);
  expect(() => startOptions(['--host'])).toThrow(/It may be:/);
  expect(() => startOptions(['--host', 'http://a.b/'])).toThrow(
    '--host is “http://a.b/”. It must be an address or a name of this computer.',
  );
  expect(() => startOptions(['--cert', old])).toThrow(/say --host ADDRESS too/);
  expect(() => startOptions(['--host', 'a', '--cert', old])).toThrow(/needs its key/);
  expect(() => startOptions(['--host', 'a', '--cert', `${old}x`, '--key', its])).toThrow(/certificate .*old\.pemx cannot be read/);
  expect(() => startOptions(['--host', 'a', '--cert', none, '--key', its])).toThrow(/none\.pem is no certificate/);
  expect(() => startOptions(['--host', 'a', '--cert', old, '--key', its])).toThrow(/ended on Jan {2}5 .*2026/);
});
