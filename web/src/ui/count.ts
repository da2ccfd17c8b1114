/** A number with its noun: 1 mouth, 2 mouths. */
export const count = (number: number, one: string, many: string): string => `${number} ${number === 1 ? one : many}`;
