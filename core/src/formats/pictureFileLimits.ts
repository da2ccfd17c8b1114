/** Limits of the pictures that mouths come in. */

/** What may be imported. */
export const PICTURE_FILE_LIMITS = {
  /** Pixels of one picture. */
  pixels: 40_000_000,
  /** Pixels a side. */
  side: 16_000,
  /** Files of one import, those in archives counted. */
  files: 400,
  /** Mouths of one import. */
  mouths: 400,
  /** Bytes of everything an archive unpacks to. */
  unpackedBytes: 400 * 1_048_576,
  /** Frames of an animated picture. */
  frames: 200,
} as const;
