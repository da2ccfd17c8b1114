/** What is seen on the page against what is handed off, by pixels. */
import type { Page } from '@playwright/test';

/** Where the page finds a picture: what a picture that is compared names it by. */
export const hrefOf = (hash: string): string => `/api/assets/${hash}`;

/** Most that any pixel of the easel differs from the picture that is handed off of that frame, both drawn by the browser. */
export async function differsFromPicture(page: Page, picture: string): Promise<number> {
  return page.evaluate(async (svg) => {
    const side = 400;
    // A picture within a picture shows nothing that lies elsewhere: pictures are put into it.
    const inlined = async (markup: string): Promise<string> => {
      const addresses = [...new Set([...markup.matchAll(/href="([^"]*\/api\/assets\/[^"]+)"/g)].map(([, address]) => address!))];
      let whole = markup;
      for (const address of addresses) {
        const reader = new FileReader();
        const read = new Promise((resolve) => (reader.onload = resolve));
        reader.readAsDataURL(await (await fetch(address)).blob());
        await read;
        whole = whole.replaceAll(`href="${address}"`, `href="${reader.result as string}"`);
      }
      return whole;
    };
    const pixels = async (markup: string): Promise<Uint8ClampedArray> => {
      const image = new Image(side, side);
      image.src = URL.createObjectURL(new Blob([await inlined(markup)], { type: 'image/svg+xml' }));
      await image.decode();
      const canvas = new OffscreenCanvas(side, side);
      const context = canvas.getContext('2d')!;
      context.drawImage(image, 0, 0, side, side);
      return context.getImageData(0, 0, side, side).data;
    };
    const easel = document.querySelector('[data-testid="easel"] svg')!.cloneNode(true) as SVGElement;
    easel.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
    easel.setAttribute('width', String(side));
    easel.setAttribute('height', String(side));
    const [one, other] = await Promise.all([pixels(easel.outerHTML), pixels(svg)]);
    let most = 0;
    let inked = 0;
    one.forEach((value, at) => {
      most = Math.max(most, Math.abs(value - other[at]!));
      if (at % 4 === 3 && value > 0) inked += 1;
    });
    return inked > 1000 ? most : Infinity;
  }, picture);
}
