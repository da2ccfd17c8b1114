/** What a command, a reading or a file answers with that cannot be done: a sentence, and nothing is changed. */
export interface Refusal {
  /** What was got, what is allowed, what to do: for the user. */
  readonly refusal: string;
}

export function isRefusal(result: unknown): result is Refusal {
  return typeof result === 'object' && result !== null && 'refusal' in result;
}

/** Where new ids come from: `crypto.randomUUID` in the application, counted ones in tests. */
export type IdSource = () => string;
