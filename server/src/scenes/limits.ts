/** Limits of what may be sent. */
export const MAX_UPLOAD_BYTES = 200 * 1_048_576;
/** Thirty minutes with every lane keyed anew are less than half of that. */
export const MAX_OPS_PER_PATCH = 100_000;
export const MAX_BODY = '64mb';
