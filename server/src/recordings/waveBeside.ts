/** Where the wave file of a recording is left when it has been decoded, until it is kept. */
export const waveBeside = (path: string): string => `${path}.wav`;
