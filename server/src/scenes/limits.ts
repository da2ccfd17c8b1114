/** Limits of what may be sent. */
export const MAX_UPLOAD_BYTES = 200 * 1_048_576;
export const MAX_OPS_PER_PATCH = 200_000;
export const MAX_BODY = '64mb';
