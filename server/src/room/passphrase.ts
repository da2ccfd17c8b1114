/**
 * The passphrase of a room: Argon2id as its library sets it (19 MiB, two passes, one lane: what the OWASP Password Storage
 * Cheat Sheet asks for at least, from memory), on threads of its own, so that nobody else waits for it.
 */
import { hash, verify } from '@node-rs/argon2';

/** Letters of a passphrase: as OWASP ASVS 4.0.3 has them in 2.1.1 and 2.1.2. */
export const LEAST_LETTERS = 12;
export const MOST_LETTERS = 128;

/** Below 10⁸ guesses: “somewhat guessable” and worse, by the scale of zxcvbn (D. L. Wheeler, USENIX Security 2016). */
const LEAST_SCORE = 3;

/** The same letters however a keyboard composes them. */
const composed = (passphrase: string): string => passphrase.normalize('NFKC');

/** How soon a passphrase is guessed, 0 to 4. What it is held against is read only where somebody sets one: it takes a while. */
async function scoreOf(passphrase: string): Promise<number> {
  const [{ zxcvbn, zxcvbnOptions }, { adjacencyGraphs, dictionary }] = await Promise.all([
    import('@zxcvbn-ts/core'),
    import('@zxcvbn-ts/language-common'),
  ]);
  // Its list of leaked passwords (49 000, the most used first), words that are drawn by dice, and rows of keyboards.
  zxcvbnOptions.setOptions({ dictionary, graphs: adjacencyGraphs });
  return zxcvbn(passphrase).score;
}

/** What is wrong with a new passphrase, as a sentence. */
export async function maybeFaultOfPassphrase(passphrase: string): Promise<string | undefined> {
  const letters = [...composed(passphrase)];
  if (letters.length < LEAST_LETTERS || letters.length > MOST_LETTERS)
    return `The passphrase has ${letters.length} letters. It may have ${LEAST_LETTERS} to ${MOST_LETTERS}: a few words that the room remembers are best.`;
  if (new Set(letters).size < 5) return 'The passphrase is the same few letters over and over. Take a few words that the room remembers.';
  if ((await scoreOf(passphrase)) < LEAST_SCORE)
    return 'That passphrase is soon guessed: it is much like one that many use. Take a few words that only this room would put together.';
  return undefined;
}

export const hashOfPassphrase = (passphrase: string): Promise<string> => hash(composed(passphrase));

export const isPassphrase = (kept: string, tried: string): Promise<boolean> => verify(kept, composed(tried)).catch(() => false);
