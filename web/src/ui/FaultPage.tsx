/** What a page shows when it could not be drawn: in our words, with a way on. */
import type { ReactElement } from 'react';
import type { FallbackProps } from 'react-error-boundary';
import { Link } from 'react-router';
import { Button } from './Button.js';
import { TopBar } from './Frame.js';
import { Notice } from './Notice.js';

/** Whether the application itself could not be fetched: it was updated, or the server is away. */
const isMissingPart = (error: unknown): boolean =>
  error instanceof Error && /import|fetch|chunk|module script/i.test(error.message) && error.name === 'TypeError';

type Fault = Pick<FallbackProps, 'error'>;

/** A whole page. */
export function FaultPage({ error }: Fault): ReactElement {
  return (
    <div className="flex h-full flex-col">
      <TopBar>
        <span className="flex-1" />
      </TopBar>
      <FaultInPlace error={error} />
    </div>
  );
}

/** In the place of what could not be drawn, what lies around it still there. */
export function FaultInPlace({ error }: Fault): ReactElement {
  const isMissing = isMissingPart(error);
  return (
    <div className="grid flex-1 place-items-center p-8" role="alert">
      <Notice title={isMissing ? 'This page could not be fetched' : 'This page could not be shown'}>
        <p>
          {isMissing
            ? 'The server does not answer, or it was updated while this was open. Your work is kept.'
            : 'Something in it is not as it should be. What you did is saved or kept in this browser; nothing is lost.'}
        </p>
        {error instanceof Error && !isMissing && (
          <details className="mt-3 text-[14px]">
            <summary className="cursor-pointer">What went wrong</summary>
            {error.message}
          </details>
        )}
        <p className="mt-4 flex items-center justify-center gap-4">
          <Button weight="main" onClick={() => window.location.reload()}>
            Open it again
          </Button>
          <Link to="/" className="font-semibold underline underline-offset-2">
            Go to the scenes
          </Link>
        </p>
      </Notice>
    </div>
  );
}
