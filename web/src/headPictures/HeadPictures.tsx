/** The dialogs about pictures of a head, where one of them was asked for. */
import { lazy, Suspense, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { askedOfPictures, askOfPictures } from './asked.js';

const BringDialog = lazy(async () => ({ default: (await import('./BringDialog.js')).BringDialog }));
const FollowDialog = lazy(async () => ({ default: (await import('./FollowDialog.js')).FollowDialog }));

export function HeadPictures(): ReactElement | null {
  const asked = useStore(askedOfPictures, (state) => state.asked);
  const close = (): void => askOfPictures(undefined);
  if (!asked) return null;
  return <Suspense>{asked === 'bring' ? <BringDialog onClose={close} /> : <FollowDialog onClose={close} />}</Suspense>;
}
