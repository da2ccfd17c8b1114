/** Around every page: where the server wants a sign-in first, it comes before the page, or over one that is open. */
import { useState, type ReactElement, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { door } from '../api/door.js';
import { SignInDialog, SignInPage } from './SignIn.js';
import { useRoom } from './useRoom.js';

export function Door({ children }: { children: ReactNode }): ReactElement {
  const isShut = useStore(door, (state) => state.isShut);
  const { data } = useRoom();
  const [wasIn, setWasIn] = useState(false);
  if (data?.me && !wasIn) setWasIn(true);
  const isStranger = data?.isRoom === true && data.me === null && !wasIn;
  // A link lets in by itself.
  if (isStranger && window.location.pathname !== '/in') return <SignInPage />;
  return (
    <>
      {children}
      {isShut && wasIn && <SignInDialog />}
    </>
  );
}
