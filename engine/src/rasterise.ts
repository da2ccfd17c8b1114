/** SVG to PNG with transparency, by resvg: no browser, no fonts, nothing fetched. */
import { Resvg } from '@resvg/resvg-js';

/** @returns PNG bytes at the SVG's own width and height */
export function svgToPng(svg: string): Uint8Array {
  return new Resvg(svg, { font: { loadSystemFonts: false }, background: 'rgba(0,0,0,0)' }).render().asPng();
}
