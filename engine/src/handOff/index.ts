/** @zest-jaw/engine/hand-off: what is made of a scene for others, apart from what reads one, so that neither loads the other. */
export { exposureSheetPdf, type SheetPdfOptions } from './exposureSheetPdf.js';
export type { Paper } from './pdfPage.js';
export { shootingListPdf, type ShootingListOptions } from './shootingListPdf.js';
export { SPRITE_LIMITS, spriteSheet, type Sprite, type SpriteOptions, type SpriteTable } from './spriteSheet.js';
export { renderPictures, type NumberedPicture } from '../renderPictures.js';
export { readBundle, writeBundle, type Bundle, type BundleMedium } from './bundle.js';
