/** Ids of what is new. */
import { v4 as newUuid } from 'uuid';

/** Not the browser's own: it keeps that from pages that came unencrypted from another computer. */
export const newId = (): string => newUuid();
