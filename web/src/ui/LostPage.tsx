import type { ReactElement } from 'react';
import { Link } from 'react-router';
import { TopBar } from './Frame.js';
import { Notice } from './Notice.js';

export function LostPage(): ReactElement {
  return (
    <div className="flex h-full flex-col">
      <TopBar>
        <span className="flex-1" />
      </TopBar>
      <div className="grid flex-1 place-items-center">
        <Notice title="There is no page here">
          <Link to="/" className="font-semibold underline underline-offset-2">
            Go to the scenes
          </Link>
        </Notice>
      </div>
    </div>
  );
}
