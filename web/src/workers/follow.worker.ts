/** Follows a marked patch over pictures that are given one by one, in a thread of its own. */
import { greyOf, openFollower, type Box, type Followed, type GreyPicture } from '@zest-jaw/core';
import { answering } from './asking.js';

/** Pictures of one size. */
export type FollowQuestion =
  | { readonly kind: 'first'; readonly picture: ImageBitmap; readonly patch: Box }
  /** Answered with where it is, or that it is lost. */
  | { readonly kind: 'next'; readonly picture: ImageBitmap };

let follow: ((next: GreyPicture) => Followed | 'lost') | undefined;

function greyOfPicture(picture: ImageBitmap): GreyPicture {
  const { width, height } = picture;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true, alpha: false })!;
  context.drawImage(picture, 0, 0);
  picture.close();
  return greyOf({ width, height, pixels: context.getImageData(0, 0, width, height).data }, width);
}

answering<FollowQuestion>((question) => {
  const grey = greyOfPicture(question.picture);
  if (question.kind === 'next') return follow!(grey);
  follow = openFollower(grey, question.patch);
  return true;
});
