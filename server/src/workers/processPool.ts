/** A process for one kind of foreign file: what a file takes too much of ends the process, and nothing else. */
import workerpool, { type Pool } from 'workerpool';
import type { Allowance, Performed } from './file.process.js';

/** What there was too much of, or that what reads the file ended for another reason. */
export type TooMuchOf = 'memory' | 'time' | 'unknown';

/** A file took more than it may, or brought down what read it. */
export class Overstepped extends Error {
  constructor(
    readonly of: TooMuchOf,
    readonly allowance: Allowance,
  ) {
    super(`A file took too much (${of}).`);
  }
}

/** Why, as the end of a sentence whose subject is a file. */
export function overstepInWords({ of, allowance }: Overstepped): string {
  const { memory, seconds } = allowance;
  if (of === 'memory') return `needs more than ${Math.round(memory / 2 ** 20)} MB of memory to be read`;
  if (of === 'time') return `takes more than ${seconds} s of the processor’s time to be read`;
  return 'ends what reads it: it is damaged, or made to do harm';
}

/** Kept for this long without work, in milliseconds. */
const IDLE = 10_000;
/** A process that holds more than this afterwards is not used again: what code that is not JavaScript took is seldom given back. */
const HOLDS_TOO_MUCH = 400 * 2 ** 20;
/** A busy process is given this long to end by itself, in milliseconds. */
const LAST_WORDS = 100;

/** How a process ended that did not end by itself; the pool tells it in words only. */
function tooMuchOf(error: unknown): TooMuchOf {
  const said = error instanceof Error ? error.message : '';
  const signal = /signalCode: `(\w+)`/.exec(said)?.[1];
  // Abort is what both V8 and Rust do where memory is refused them.
  if (signal === 'SIGKILL' || signal === 'SIGABRT' || /exitCode: `134`/.test(said)) return 'memory';
  return signal === 'SIGXCPU' ? 'time' : 'unknown';
}

const hasEnded = (error: unknown): boolean => error instanceof Error && /terminated Unexpectedly|Worker error/.test(error.message);

export class ProcessPool {
  private pool: Pool | undefined;
  private idle: NodeJS.Timeout | undefined;

  /** @param file name of the module, beside this one, that does the work */
  constructor(
    private readonly folder: string,
    private readonly file: string,
    private readonly allowance: Allowance,
  ) {}

  /**
   * One task at a time; whoever asks keeps the turns. Aborting the signal ends the process.
   *
   * @throws {Overstepped}
   */
  async run<Answer>(task: object, signal: AbortSignal, report: (told: unknown) => void): Promise<Answer> {
    clearTimeout(this.idle);
    const work = this.opened().exec('perform', [this.file, task, this.allowance], { on: report });
    const giveUp = (): void => void work.cancel();
    signal.addEventListener('abort', giveUp, { once: true });
    try {
      const { answer, holds } = (await work) as Performed;
      if (holds > HOLDS_TOO_MUCH) await this.close();
      return answer as Answer;
    } catch (error) {
      await this.close();
      signal.throwIfAborted();
      throw hasEnded(error) ? new Overstepped(tooMuchOf(error), this.allowance) : error;
    } finally {
      signal.removeEventListener('abort', giveUp);
      this.idle = setTimeout(() => void this.close(), IDLE).unref();
    }
  }

  async close(): Promise<void> {
    clearTimeout(this.idle);
    const pool = this.pool;
    this.pool = undefined;
    await pool?.terminate(true);
  }

  private opened(): Pool {
    this.pool ??= workerpool.pool(`${this.folder}/file.process.js`, {
      workerType: 'process',
      maxWorkers: 1,
      workerTerminateTimeout: LAST_WORDS,
      forkOpts: { serialization: 'advanced', execArgv: [`--max-old-space-size=${Math.round(this.allowance.memory / 2 ** 20)}`] },
    });
    return this.pool;
  }
}
