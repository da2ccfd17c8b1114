/** Pictures of placed mouths, fetched once and kept, so that a canvas can paint them at once. */

const loaded = new Map<string, HTMLImageElement>();
const loading = new Map<string, Promise<void>>();

export function assetUrl(hash: string): string {
  return `/api/assets/${hash}`;
}

/** A picture that has been fetched; undefined before that. */
export function maybeImage(hash: string): HTMLImageElement | undefined {
  return loaded.get(hash);
}

function load(hash: string): Promise<void> {
  let promise = loading.get(hash);
  if (!promise) {
    const image = new Image();
    image.src = assetUrl(hash);
    promise = image.decode().then(
      () => void loaded.set(hash, image),
      // Asked for again the next time it is wanted.
      () => void loading.delete(hash),
    );
    loading.set(hash, promise);
  }
  return promise;
}

/** Fetches pictures; answers whether any came that were not here before. */
export async function loadPictures(hashes: Iterable<string>): Promise<boolean> {
  const missing = [...hashes].filter((hash) => !loaded.has(hash));
  await Promise.all(missing.map(load));
  return missing.length > 0;
}
