/**
 * An SVG as a tree of what is allowed in one: read by a streaming parser that stops at the
 * first thing that does not belong in a drawing. Nothing of the file's own text is kept; the
 * drawing is written again from the tree.
 */
import { SaxesParser } from 'saxes';
import type { Refusal } from '../../document/refusal.js';
import { cascaded, maybeTransformAttribute, MOST_MATCHES, rulesOf, type Styled } from './cascade.js';
import { kindOfValue } from './values.js';

export interface SvgNode {
  readonly name: string;
  readonly attributes: ReadonlyMap<string, string>;
  readonly children: readonly SvgNode[];
  /** What the drawing program calls it: a layer's name, a title, an id. */
  readonly label: string;
}

export interface SvgTree {
  readonly root: SvgNode;
  /** What was left out, as sentences. */
  readonly warnings: readonly string[];
}

/** `drawn` counts what is used again each time it is; `outline` is of all paths, in letters. */
export const SVG_LIMITS = { elements: 50_000, drawn: 200_000, depth: 120, bytes: 32 * 1_048_576, outline: 4_000_000 } as const;

const SHAPES = ['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon', 'image', 'use'];
const GROUPS = ['svg', 'g', 'symbol', 'switch'];
const PAINT = ['defs', 'clipPath', 'mask', 'linearGradient', 'radialGradient', 'stop', 'pattern'];
const ALLOWED = new Set([...SHAPES, ...GROUPS, ...PAINT]);

/** Attributes that say how something is painted; also what a style may set. */
const PRESENTATION = new Set(
  (
    'fill fill-opacity fill-rule stroke stroke-width stroke-opacity stroke-linecap stroke-linejoin stroke-miterlimit stroke-dasharray ' +
    'stroke-dashoffset opacity color clip-path clip-rule mask display visibility stop-color stop-opacity paint-order vector-effect'
  ).split(' '),
);
const GEOMETRY = new Set(
  (
    'id d x y x1 y1 x2 y2 cx cy r rx ry fx fy width height points transform viewBox preserveAspectRatio offset gradientUnits ' +
    'gradientTransform spreadMethod clipPathUnits maskUnits maskContentUnits patternUnits patternContentUnits patternTransform'
  ).split(' '),
);

/** Attributes in which drawing programs keep a layer's name, whatever their prefix. */
const LABELS = ['label', 'data-name', 'layer-name'];

const EMBEDDED = /^data:image\/(png|jpeg);base64,[a-z0-9+/=\s]+$/i;

class Refused extends Error {}

interface OpenNode extends SvgNode {
  readonly name: string;
  readonly attributes: Map<string, string>;
  readonly children: OpenNode[];
  label: string;
  /** As selectors see it. */
  readonly styled: Styled;
}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1);

/** A value that does nothing but paint; undefined for what nobody here knows. Throws {@link Refused} where it points out of the file. */
function maybeSafeValue(value: string, file: string): string | undefined {
  const text = value.trim();
  const kind = kindOfValue(text);
  if (kind === 'outside')
    throw new Refused(`${file} refers to something outside the file (${text.slice(0, 60)}). Export it again with everything embedded.`);
  return kind === 'harmless' ? text : undefined;
}

/** A picture inside the file, written in one way only, so that whoever looks for its size finds it. */
function embedded(text: string): string {
  const [head = '', data = ''] = text.split(',', 2);
  return `${head.toLowerCase().replace(/\s+/g, '')},${data.replace(/\s+/g, '')}`;
}

function maybeHref(element: string, value: string, file: string): string | undefined {
  const text = value.trim();
  if (text.startsWith('#')) return /^#[\w.:-]+$/.test(text) ? text : undefined;
  if (element === 'image' && EMBEDDED.test(text)) return embedded(text);
  if (/^data:/i.test(text))
    throw new Refused(`${file} holds something that is neither a PNG nor a JPEG picture (${text.slice(0, 30)}…). Embed pictures as PNG.`);
  throw new Refused(
    `${file} refers to something outside the file (${text.slice(0, 60)}). Embed the picture in the file, or take it out, and export it again.`,
  );
}

function cleanAttributes(element: string, given: Readonly<Record<string, string>>, file: string): Map<string, string> {
  const attributes = new Map<string, string>();
  for (const [name, value] of Object.entries(given)) {
    const local = localName(name);
    if (/^on/i.test(local))
      throw new Refused(`${file} would run something (${name}). A drawing needs no script: export it again as plain SVG.`);
    if (local === 'href') {
      if (element === 'use' || element === 'image' || element.endsWith('Gradient') || element === 'pattern') {
        const href = maybeHref(element, value, file);
        if (href) attributes.set('href', href);
      }
      continue;
    }
    if (!PRESENTATION.has(name) && !GEOMETRY.has(name)) continue;
    const safe = maybeSafeValue(value, file);
    if (safe !== undefined) attributes.set(name, safe);
  }
  return attributes;
}

function labelOf(attributes: Readonly<Record<string, string>>): string {
  const named = Object.entries(attributes).find(([name, value]) => LABELS.includes(localName(name)) && value.trim() !== '');
  return (named?.[1] ?? attributes['id'] ?? '').trim();
}

/** Sets what style sheets and the element's own style say, which is stronger than its attributes. */
function setStyles(node: OpenNode, rules: ReturnType<typeof rulesOf>, file: string, warnings: Set<string>): void {
  const styles = cascaded(node.styled, rules);
  for (const [property, value] of styles) {
    if (property === 'transform') {
      const transform = maybeTransformAttribute(value, styles.get('transform-origin'));
      if (transform === undefined) warnings.add(`${file}: a transform that only a page can do is left out (${value.slice(0, 40)}).`);
      else node.attributes.set('transform', transform);
      continue;
    }
    if (property === 'filter' || property === 'mix-blend-mode') {
      if (value !== 'none' && value !== 'normal') warnings.add(`${file}: effects such as blur or blending are left out.`);
      continue;
    }
    // In CSS the geometry of shapes is a property too.
    if (!PRESENTATION.has(property) && !['d', 'r', 'cx', 'cy', 'rx', 'ry', 'x', 'y', 'width', 'height'].includes(property)) continue;
    const safe = maybeSafeValue(value, file);
    if (safe === undefined) continue;
    if (PRESENTATION.has(property)) node.attributes.set(property, safe);
    else if (property === 'd') node.attributes.set('d', safe.replace(/^path\(\s*["']|["']\s*\)$/g, ''));
    else node.attributes.set(property, safe.replace(/px$/, ''));
  }
  for (const child of node.children) setStyles(child, rules, file, warnings);
}

function parse(text: string, file: string): SvgTree {
  const parser = new SaxesParser({ xmlns: false });
  const open: OpenNode[] = [];
  const warnings = new Set<string>();
  const sheets: string[] = [];
  let root: OpenNode | undefined;
  let [elements, skippedDepth, outline] = [0, 0, 0];
  let reading: 'style' | 'title' | undefined;
  let read = '';
  let fault: string | undefined;
  const stop = (sentence: string): void => void (fault ??= sentence);
  parser.on('error', () => stop(`${file} is not an SVG that can be read: its markup is broken. Export it again.`));
  parser.on('doctype', (doctype) => {
    // Editors declare short names for their addresses; nothing that names another entity is taken.
    for (const [, name, value] of doctype.matchAll(/<!ENTITY\s+([\w.-]+)\s+["']([^"'&%<]{0,300})["']\s*>/g))
      parser.ENTITIES[name!] = value!;
    if (/<!ENTITY\s+%|SYSTEM\s+["'](?!http:\/\/www\.w3\.org)/i.test(doctype))
      stop(`${file} refers to something outside the file in its first lines. Export it again as plain SVG.`);
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (fault) return;
    elements += 1;
    if (elements > SVG_LIMITS.elements)
      return stop(`${file} has more than ${SVG_LIMITS.elements} elements. A mouth needs far fewer: simplify it, or export it as PNG.`);
    if (open.length > SVG_LIMITS.depth)
      return stop(`${file} is nested more than ${SVG_LIMITS.depth} deep. Ungroup it and export it again.`);
    const given = attributes as Record<string, string>;
    outline += (given['d']?.length ?? 0) + (given['points']?.length ?? 0);
    if (outline > SVG_LIMITS.outline)
      return stop(
        `${file} has outlines of more than ${SVG_LIMITS.outline / 1e6} million letters, some ${Math.round(SVG_LIMITS.outline / 10_000)} 000 corners. Simplify them, or export it as PNG.`,
      );
    const local = localName(name);
    if (local === 'script') return stop(`${file} contains a script. A drawing needs none: export it again as plain SVG.`);
    if (skippedDepth > 0) {
      skippedDepth += 1;
      return;
    }
    if (open.length === 0 && local !== 'svg') return stop(`${file} is not an SVG: it begins with <${name}>.`);
    if (local === 'style' || local === 'title') {
      [reading, read] = [local, ''];
      return;
    }
    if (!ALLOWED.has(local) || (name.includes(':') && !name.startsWith('svg:'))) {
      if (local === 'text') warnings.add(`${file}: lettering is left out. Turn it into outlines to keep it.`);
      if (local === 'filter') warnings.add(`${file}: effects such as blur or blending are left out.`);
      if (local === 'foreignObject') warnings.add(`${file}: a page inside the drawing is left out.`);
      if (/^(animate|set$)/.test(local)) warnings.add(`${file}: movement is left out; it is taken as it stands.`);
      if (local === 'marker') warnings.add(`${file}: arrow heads and other markers are left out.`);
      skippedDepth = 1;
      return;
    }
    try {
      const cleaned = cleanAttributes(local, given, file);
      const styled: Styled = { name: local, given, parent: open.at(-1)?.styled ?? null, children: [] };
      styled.parent?.children.push(styled);
      open.push({ name: local === 'switch' ? 'g' : local, attributes: cleaned, children: [], label: labelOf(given), styled });
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      stop(error.message);
    }
    return;
  });
  const take = (chunk: string): void => void (reading && read.length < 500_000 && (read += chunk));
  parser.on('text', take);
  parser.on('cdata', take);
  parser.on('closetag', ({ name }) => {
    if (fault) return;
    if (skippedDepth > 0) {
      skippedDepth -= 1;
      return;
    }
    if (reading) {
      if (reading === 'style') sheets.push(read);
      else if (open.length > 1 && read.trim()) open.at(-1)!.label = read.trim();
      reading = undefined;
      return;
    }
    const node = open.pop();
    if (!node || (node.name !== localName(name) && localName(name) !== 'switch')) return;
    if (open.length > 0) open.at(-1)!.children.push(node);
    else root = node;
  });
  // In pieces, so that a file that is refused early is not read to its end.
  for (let at = 0; at < text.length && !fault; at += 65_536) parser.write(text.slice(at, at + 65_536));
  if (!fault) parser.close();
  if (fault) throw new Refused(fault);
  if (!root) throw new Refused(`${file} is empty. Export it again.`);
  const rules = sheets.flatMap((css, index) => rulesOf(css, index * 1e6));
  if (rules.length * elements > MOST_MATCHES)
    throw new Refused(
      `${file} has ${rules.length} style rules for ${elements} elements, more than can be held against one another. Export it with plain attributes.`,
    );
  setStyles(root, rules, file, warnings);
  return { root, warnings: [...warnings] };
}

/**
 * Reads an SVG.
 *
 * @param file its name, for the sentence when it is refused: a script, a reference to anything
 * outside, too many elements, broken markup
 */
export function readSvg(text: string, file: string): SvgTree | Refusal {
  if (text.length > SVG_LIMITS.bytes)
    return { refusal: `${file} is larger than ${SVG_LIMITS.bytes / 1_048_576} MB. Simplify it, or export it as PNG.` };
  try {
    return parse(text.replace(/^\uFEFF/, ''), file);
  } catch (error) {
    if (error instanceof Refused) return { refusal: error.message };
    return { refusal: `${file} is not an SVG that can be read: its markup is broken. Export it again.` };
  }
}
