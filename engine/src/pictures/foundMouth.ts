/** A mouth that was found in a file: what is known of it, and how a raster becomes one. */
import { cropped, figureOf, maybeBoxOfMask, measurePicture, type Box, type LayerChoice, type PlacedArt, type Raster } from '@zest-jaw/core';
import { pngOfRaster } from './decode.js';
import { KEPT_SIDE, PREVIEW_SIDE } from './limits.js';

/** How one picture with many mouths on it is taken. */
export type Cut =
  | { readonly how: 'whole' }
  /** Every file is one picture: neither groups, layers nor frames are taken apart. */
  | { readonly how: 'single' | 'pages' }
  | { readonly how: 'figures' }
  | { readonly how: 'grid'; readonly columns: number; readonly rows: number };

export interface ImportOptions {
  readonly cut: Cut;
  /** Paper around a mouth becomes transparent. */
  readonly clearPaper: boolean;
  /** How often layers inside layers are opened; by their names where it is not given. */
  readonly level?: number;
}

/** How the layers of a file are taken, and whom to tell what can be chosen. */
export interface LayerOptions {
  readonly single: boolean;
  readonly level: number | undefined;
  readonly noteChoice: (choice: LayerChoice | undefined) => void;
}

/** Where a mouth came from, in words. */
export type FoundAs = 'picture' | 'group' | 'layer' | 'figure' | 'cell' | 'frame';

/** A mouth that was found, and its files. */
export interface FoundMouth {
  /** What the file, layer or group is called. */
  readonly name: string;
  /** The file it was found in. */
  readonly file: string;
  readonly as: FoundAs;
  /** Which of how many in its file, from 1. */
  readonly index: number;
  readonly of: number;
  /** The outermost layer that holds it, where layers lie inside layers. */
  readonly within?: string;
  /** Mouths of one page lie on it as they were drawn, so that they can be lined up as there. */
  readonly pageKey: string;
  readonly art: Omit<PlacedArt, 'picture' | 'preview'>;
  readonly mediaType: 'image/png' | 'image/svg+xml';
  readonly picture: Uint8Array;
  readonly preview: Uint8Array;
}

/** A mouth before it is said which file it is from. */
export type Found = Omit<FoundMouth, 'file'>;

export const baseName = (path: string): string => path.replace(/^.*\//, '');
export const stem = (path: string): string => baseName(path).replace(/\.[^.]*$/, '');

/** Empty ground left around a mouth, in pixels, so that its edge stays soft. */
export const MARGIN = 2;

/** The ink of a raster: what is not ground, or all of it when it is one opaque area; undefined when it is empty. */
export function maybeInk(raster: Raster): Box | undefined {
  const ink = maybeBoxOfMask(figureOf(raster));
  if (ink) return ink;
  const isOpaque = raster.pixels.every((value, index) => index % 4 !== 3 || value > 127);
  return isOpaque ? { x: 0, y: 0, width: raster.width, height: raster.height } : undefined;
}

/** How a raster is kept. */
export interface Keeping {
  /** Where its first pixel lies on its page. */
  readonly origin?: { readonly x: number; readonly y: number };
  /** Not cropped to its ink. */
  readonly isWhole?: boolean;
  /** The raster with its paper still on it: only there can a bare inside be told from white teeth. */
  readonly seen?: Raster;
}

/** A raster kept as PNG, cropped to its ink unless it is to stay whole; undefined when there is nothing on it. */
export async function maybePlaced(
  raster: Raster,
  { origin = { x: 0, y: 0 }, isWhole = false, seen = raster }: Keeping = {},
): Promise<Pick<Found, 'art' | 'mediaType' | 'picture' | 'preview'> | undefined> {
  const ink = maybeInk(raster);
  if (!ink) return undefined;
  const left = isWhole ? 0 : Math.max(0, ink.x - MARGIN);
  const top = isWhole ? 0 : Math.max(0, ink.y - MARGIN);
  const box: Box = isWhole
    ? { x: 0, y: 0, width: raster.width, height: raster.height }
    : {
        x: left,
        y: top,
        width: Math.min(raster.width, ink.x + ink.width + MARGIN) - left,
        height: Math.min(raster.height, ink.y + ink.height + MARGIN) - top,
      };
  const part = cropped(raster, box);
  const [picture, preview] = await Promise.all([pngOfRaster(part, KEPT_SIDE), pngOfRaster(part, PREVIEW_SIDE)]);
  return {
    mediaType: 'image/png',
    picture,
    preview,
    art: {
      kind: 'placed',
      width: box.width,
      height: box.height,
      ink: { x: ink.x - left, y: ink.y - top, width: ink.width, height: ink.height },
      page: { x: origin.x + left, y: origin.y + top },
      measures: measurePicture(cropped(seen, box)),
    },
  };
}
