import { PICTURE_FILE_LIMITS } from '@zest-jaw/core';

export { PICTURE_FILE_LIMITS };

/** Pictures are kept no larger than this, in pixels a side. */
export const KEPT_SIDE = 1600;
/** The small copy for cards and the tray. */
export const PREVIEW_SIDE = 240;

/** A file that cannot be used, with a sentence that says why. */
export class CannotUsePicture extends Error {}

/** Before any of them is painted. Throws {@link CannotUsePicture}. */
export function checkMouthCount(count: number, file: string): void {
  const { mouths } = PICTURE_FILE_LIMITS;
  if (count > mouths)
    throw new CannotUsePicture(`${file} holds ${count} drawings. An import may have ${mouths}: choose fewer, or open fewer of its layers.`);
}
