/** A page that is fetched when it is opened, and is there at once where it has been fetched before. */
import { lazy, useState, type FunctionComponent, type ReactElement } from 'react';

export interface FetchedPage {
  (): ReactElement;
  fetch(): Promise<unknown>;
}

export const isFetched = (type: unknown): type is FetchedPage => typeof type === 'function' && 'fetch' in type;

/** @param load gives its component */
export function page(load: () => Promise<FunctionComponent>): FetchedPage {
  let There: FunctionComponent | undefined;
  const fetch = async (): Promise<FunctionComponent> => (There ??= await load());
  const Awaited = lazy(async () => ({ default: await fetch() }));
  const Page = (): ReactElement => {
    // One or the other for as long as it is shown: changing over would begin it anew.
    const [Shown] = useState<FunctionComponent>(() => There ?? Awaited);
    return <Shown />;
  };
  return Object.assign(Page, { fetch });
}
