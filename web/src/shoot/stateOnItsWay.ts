/**
 * What was pressed on the stage and the server has not got yet. The newest press stands: whoever hands over, a press, a look
 * at the server or a page that was opened again, hands over the newest there is, and one after another.
 */
import type { ShootingState } from '@zest-jaw/core';
import { ApiProblem, sendJson } from '../api/http.js';
import { keep, maybeKept } from '../ui/browserStore.js';
import { inTurn } from '../ui/inTurn.js';

/** Of this page, for a browser that keeps nothing. */
const pressed = new Map<string, string>();

export interface StateOnItsWay {
  press(state: ShootingState): void;
  /**
   * Gives the server what waits.
   *
   * @returns the newest that was pressed; undefined when nothing waited, or the server refused it for good
   */
  handOver(): Promise<ShootingState | undefined>;
  /** Asks the server when nothing is being handed over. @returns its answer, or what was pressed meanwhile */
  askAfter(ask: () => Promise<{ readonly state: ShootingState | null }>): Promise<ShootingState | null>;
}

/** @param path where the server keeps it */
export function stateOnItsWay(path: string): StateOnItsWay {
  const here = `zest-jaw ${path}`;
  const waiting = (): string => pressed.get(here) ?? maybeKept(here) ?? '';
  const forget = (sent: string): void => {
    if (pressed.get(here) === sent) pressed.delete(here);
    if (maybeKept(here) === sent) keep(here, '');
  };
  const parsed = (text: string): ShootingState => JSON.parse(text) as ShootingState;
  return {
    press: (state) => {
      pressed.set(here, JSON.stringify(state));
      keep(here, JSON.stringify(state));
    },
    handOver: async () => {
      const sent = await inTurn(path, async () => {
        const text = waiting();
        if (text === '') return '';
        try {
          await sendJson('PUT', path, { state: parsed(text) });
        } catch (error) {
          const isRefused = error instanceof ApiProblem && error.status < 500;
          if (!isRefused) throw error;
          // The scene has become another one: what the server knows stands.
          forget(text);
          return '';
        }
        forget(text);
        return text;
      });
      const newest = waiting() || sent;
      return newest === '' ? undefined : parsed(newest);
    },
    askAfter: async (ask) => {
      const { state } = await inTurn(path, ask);
      const newer = waiting();
      return newer === '' ? state : parsed(newer);
    },
  };
}
