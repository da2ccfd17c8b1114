/** Follows a marked patch over pictures that are given one by one, in a thread of its own. */
import { greyOf, openFollower, type Box, type Followed, type GreyPicture } from '@zest-jaw/core';
import { answering } from './asking.js';

export type FollowQuestion =
  | { readonly kind: 'first'; readonly picture: Blob; readonly patch: Box }
  /** Answered with where it is, or that it is lost. */
  | { readonly kind: 'next'; readonly picture: Blob };

let follow: ((next: GreyPicture) => Followed | 'lost') | undefined;
let size: { readonly width: number; readonly height: number } | undefined;

/** Every picture at the size of the first. */
async function greyOfPicture(picture: Blob): Promise<GreyPicture> {
  const image = await createImageBitmap(picture);
  size ??= { width: image.width, height: image.height };
  const canvas = new OffscreenCanvas(size.width, size.height);
  const context = canvas.getContext('2d', { willReadFrequently: true, alpha: false })!;
  context.drawImage(image, 0, 0, size.width, size.height);
  image.close();
  return greyOf({ ...size, pixels: context.getImageData(0, 0, size.width, size.height).data }, size.width);
}

answering<FollowQuestion>(async (question) => {
  const grey = await greyOfPicture(question.picture);
  if (question.kind === 'next') return follow!(grey);
  follow = openFollower(grey, question.patch);
  return true;
});
