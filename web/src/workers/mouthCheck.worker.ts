/** Holds what was shot against what was asked for, in a thread of its own: pictures are given one by one, and judged at the end. */
import { COMPARED_WIDTH, greyOf, openMouthChecker, type GreyPicture, type MouthCheck, type TakenPicture } from '@zest-jaw/core';
import { answering } from './asking.js';

export type MouthCheckQuestion =
  | { readonly kind: 'add'; readonly taken: TakenPicture; readonly jpeg: Blob }
  /** What a mouth looks like, drawn; given after the first picture. */
  | { readonly kind: 'draw'; readonly mouth: string; readonly face: ImageBitmap }
  | { readonly kind: 'check' };

const checker = openMouthChecker();
let size: { readonly width: number; readonly height: number } | undefined;

/** All pictures are compared at the size of the first. */
function greyAtSize(image: ImageBitmap): GreyPicture {
  const across = Math.min(image.width, 2 * COMPARED_WIDTH);
  size ??= { width: across, height: Math.round((image.height * across) / image.width) };
  const { width, height } = size;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true, alpha: false })!;
  context.drawImage(image, 0, 0, width, height);
  image.close();
  return greyOf({ width, height, pixels: context.getImageData(0, 0, width, height).data });
}

answering<MouthCheckQuestion>((question): Promise<true> | true | MouthCheck => {
  if (question.kind === 'check') return checker.check();
  if (question.kind === 'draw') {
    checker.draw(question.mouth, greyAtSize(question.face));
    return true;
  }
  return createImageBitmap(question.jpeg).then((image) => {
    checker.add(question.taken, greyAtSize(image));
    return true;
  });
});
