export { PICTURE_FILE_LIMITS } from '@zest-jaw/core';

/** Pictures are kept no larger than this, in pixels a side. */
export const KEPT_SIDE = 1600;
/** The small copy for cards and the tray. */
export const PREVIEW_SIDE = 240;

/** A file that cannot be used, with a sentence that says why. */
export class CannotUsePicture extends Error {}
