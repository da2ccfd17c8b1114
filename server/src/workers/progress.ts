/** Where work tells how far it is, wherever it runs. */
export interface Progress {
  /** The share done, what is being done, and with which part of the whole. */
  postMessage(told: readonly [done: number, doing: string, part?: number]): void;
}
