/** Faces and mouths drawn as bitmaps: for films, the practice camera, and what is held against what was shot. */
import { picturesOfChart, type ChartDocument } from '@zest-jaw/core';

export async function bytesOf(hash: string): Promise<Response> {
  const response = await fetch(`/api/assets/${hash}`);
  if (!response.ok) throw new Error('A recording or a picture of the scene could not be loaded. Reload the page and try again.');
  return response;
}

/** A file as a data URI: a picture inside another may not be fetched. */
async function dataUri(hash: string): Promise<string> {
  const blob = await (await bytesOf(hash)).blob();
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error('A picture of the chart could not be read. Reload the page and try again.'));
    reader.readAsDataURL(blob);
  });
}

/** A picture as bitmap, from SVG. */
export async function drawn(svg: string): Promise<ImageBitmap> {
  const image = new Image();
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  try {
    image.src = url;
    await image.decode();
    return await createImageBitmap(image);
  } finally {
    URL.revokeObjectURL(url);
  }
}

/** The pictures of charts as data URIs, by content hash. */
export async function picturesOfCharts(charts: Iterable<ChartDocument>): Promise<Map<string, string>> {
  const uris = new Map<string, string>();
  for (const chart of charts) for (const hash of picturesOfChart(chart)) uris.set(hash, await dataUri(hash));
  return uris;
}
