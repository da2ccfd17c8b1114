/** @jest-environment node */
import { ALL_SOUNDS, maybePhoneme } from '@zest-jaw/core';
import { execFileSync } from 'node:child_process';
import { maybeSpokenSound } from './spokenSounds.js';

/** What the synthesiser itself writes in IPA for what it is told, in a program of its own. */
function ipaSaid(told: readonly { voice: string; said: string }[]): string[] {
  const script = `
    const { default: open } = await import('espeak-ng');
    const written = [];
    for (const { voice, said } of ${JSON.stringify(told)}) {
      const run = await open({
        arguments: ['-q', '--ipa', '--phonout', 'ipa', '-v', voice, '[[' + said + ']]'],
        print: () => undefined,
        printErr: () => undefined,
      });
      written.push(run.FS.readFile('ipa', { encoding: 'utf8' }).trim());
    }
    process.stdout.write(JSON.stringify(written));`;
  return JSON.parse(
    execFileSync(process.execPath, ['--input-type=module', '-e', script], { encoding: 'utf8', cwd: __dirname }),
  ) as string[];
}

it('has the synthesiser say the sound that the map shows, by its own IPA', () => {
  const sounds = ALL_SOUNDS.filter(({ symbol }) => maybeSpokenSound(symbol));
  const written = ipaSaid(sounds.map(({ symbol }) => maybeSpokenSound(symbol)!));
  const plain = (ipa: string): string => ipa.normalize('NFD').replace(/[ˈˌː\u200d\u0361]/gu, '');
  // Its ɝ is written without the hook.
  const wrong = sounds.filter(({ symbol, ipa }, index) => !plain(written[index]!).includes(symbol === 'ER' ? 'ɜ' : plain(ipa)));
  expect(wrong.map(({ symbol }) => `${symbol}: ${written[sounds.findIndex((one) => one.symbol === symbol)]}`)).toEqual([]);
  expect(sounds).toHaveLength(58);
});

it('knows what it cannot say: clicks, trilled lips, and three sounds that none of its voices has', () => {
  expect(ALL_SOUNDS.filter(({ symbol }) => !maybeSpokenSound(symbol)).map(({ ipa }) => ipa)).toEqual([
    ...['ʏ', 'ɸ', 'ɥ', 'ʙ', 'ʘ', 'ǀ', 'ǃ', 'ǂ', 'ǁ'],
  ]);
  expect(maybePhoneme('rr')?.ipa).toBe('r');
});
