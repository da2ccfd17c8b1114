/** Around every page: where the server wants a sign-in first, it comes before the page, or over one that is open. */
import { lazy, Suspense, useState, type ReactElement, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { door } from '../api/door.js';
import { useRoom } from './useRoom.js';

/** Fetched where they are wanted: most never sign in. */
const SignInPage = lazy(async () => ({ default: (await import('./SignIn.js')).SignInPage }));
const SignInDialog = lazy(async () => ({ default: (await import('./SignIn.js')).SignInDialog }));

/** Above every page: why nothing can be changed. */
function ReadOnly({ why, children }: { why: string; children: ReactNode }): ReactElement {
  return (
    <div className="flex h-full flex-col">
      <p role="alert" className="shrink-0 border-b border-bad bg-bad-soft px-[18px] py-2 text-[14px] leading-snug">
        {why}
      </p>
      <div className="min-h-0 flex-1">{children}</div>
    </div>
  );
}

export function Door({ children }: { children: ReactNode }): ReactElement {
  const isShut = useStore(door, (state) => state.isShut);
  const { data } = useRoom();
  const [wasIn, setWasIn] = useState(false);
  if (data?.me && !wasIn) setWasIn(true);
  const isStranger = data?.isRoom === true && data.me === null && !wasIn;
  // A link lets in by itself.
  const mustSignIn = isStranger && window.location.pathname !== '/in';
  return (
    <>
      {!mustSignIn && (data?.readOnly ? <ReadOnly why={data.readOnly}>{children}</ReadOnly> : children)}
      <Suspense>
        {mustSignIn && <SignInPage />}
        {isShut && wasIn && <SignInDialog />}
      </Suspense>
    </>
  );
}
