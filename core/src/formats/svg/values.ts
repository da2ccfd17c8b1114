/** Values of attributes and properties: what in them points out of the file, read as CSS reads it (css-tree). */
import { ident, parse, walk, type CssNode } from 'css-tree';

/** Functions of colours, shapes, sums and transforms: nothing is fetched by them. */
const HARMLESS = new Set(
  (
    'rgb rgba hsl hsla hwb lab lch oklab oklch color color-mix calc min max clamp var path polygon circle ellipse inset rect ' +
    'matrix matrix3d translate translatex translatey translatez translate3d scale scalex scaley scalez scale3d rotate rotatex rotatey ' +
    'rotatez rotate3d skew skewx skewy perspective'
  ).split(' '),
);
/** Functions by which something is fetched, however they are written. */
const FETCHING = new Set('url src image image-set -webkit-image-set cross-fade element paint'.split(' '));

/** What is known of a value. */
export type ValueKind = 'harmless' | 'unknown' | 'outside';

const isOwnFragment = (address: string): boolean => /^#[\w.:-]+$/.test(address.trim());

const WORST_FIRST: readonly ValueKind[] = ['outside', 'unknown', 'harmless'];

function kindOfNode(node: CssNode): ValueKind {
  if (node.type === 'Url') return isOwnFragment(node.value) ? 'harmless' : 'outside';
  if (node.type === 'Raw') return /url/i.test(ident.decode(node.value)) ? 'outside' : 'unknown';
  if (node.type !== 'Function') return 'harmless';
  const name = ident.decode(node.name).toLowerCase();
  if (FETCHING.has(name)) return 'outside';
  return HARMLESS.has(name) ? 'harmless' : 'unknown';
}

/** Whether a value points out of its file, or does what nobody here knows. */
export function kindOfValue(text: string): ValueKind {
  if (/expression|javascript:|@import|[<>&]/i.test(text)) return /url\(|javascript:|@import/i.test(text) ? 'outside' : 'unknown';
  // Without a function or an escape there is nothing that could be called: paths of a megabyte are not taken apart.
  if (!/[(\\]/.test(text)) return 'harmless';
  let value: CssNode;
  try {
    value = parse(text, { context: 'value' });
  } catch {
    // What cannot be read as CSS may still be meant to fetch something.
    return /[a-z]+:\/\/|\b(?:url|src|image)\s*\(/i.test(ident.decode(text)) ? 'outside' : 'unknown';
  }
  const kinds = new Set<ValueKind>();
  walk(value, (node) => void kinds.add(kindOfNode(node)));
  return WORST_FIRST.find((kind) => kinds.has(kind))!;
}
