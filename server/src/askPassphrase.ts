/** Asks for a passphrase at the terminal, unseen, twice. */
import { read } from 'read';
import { LEAST_LETTERS, maybeFaultOfPassphrase } from './room/passphrase.js';

/** @throws a sentence where there is no terminal to ask at */
export async function askPassphrase(): Promise<string> {
  if (!process.stdin.isTTY)
    throw new Error('A room signs in with a passphrase, and there is none yet. Start it at a terminal, or give one as ZEST_PASSPHRASE.');
  for (;;) {
    const passphrase = await read({ prompt: `A passphrase for the room, ${LEAST_LETTERS} letters or more: `, silent: true });
    const fault = await maybeFaultOfPassphrase(passphrase);
    if (fault === undefined && (await read({ prompt: 'The same again: ', silent: true })) === passphrase) return passphrase;
    process.stdout.write(`${fault ?? 'These two were not the same.'}\n`);
  }
}
