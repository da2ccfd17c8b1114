/**
 * The mouths of an SVG: its groups or layers, each written as an SVG of its own on the same
 * canvas, with what it refers to and nothing else.
 */
import type { Box } from '../../draw/art.js';
import type { Refusal } from '../../document/refusal.js';
import { drawingsAmong, maybeLayerChoice, type Layer, type LayerChoice } from '../layerLevels.js';
import { readSvg, SVG_LIMITS, type SvgNode } from './svgTree.js';

export interface SvgPart {
  readonly name: string;
  /** The outermost layer that holds it. */
  readonly within?: string;
  /** Writes the part with a view of its own. */
  svg(view: Box): string;
}

export interface SvgParts {
  /** The whole canvas, in the file's units. */
  readonly canvas: Box;
  /** The groups or layers; one part when the file is one mouth. */
  readonly parts: readonly SvgPart[];
  /** Where layers lie inside layers. */
  readonly choice?: LayerChoice;
  readonly warnings: readonly string[];
}

function escaped(text: string): string {
  return text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);
}

/** A symbol is drawn where it is used; taken as a mouth itself it is a group. */
function written(node: SvgNode): string {
  const attributes = [...node.attributes].map(([name, value]) => ` ${name}="${escaped(value)}"`).join('');
  const { name } = node;
  return node.children.length > 0 ? `<${name}${attributes}>${node.children.map(written).join('')}</${name}>` : `<${name}${attributes}/>`;
}

const isPainted = ({ name }: SvgNode): boolean =>
  !['defs', 'symbol', 'clipPath', 'mask', 'linearGradient', 'radialGradient', 'pattern', 'stop'].includes(name);
const isGroup = ({ name }: SvgNode): boolean => ['g', 'symbol', 'svg'].includes(name);

function everyNode(node: SvgNode): SvgNode[] {
  return [node, ...node.children.flatMap(everyNode)];
}

/** The ids that a node's tree refers to. */
function referredIds(node: SvgNode): string[] {
  return everyNode(node).flatMap(({ attributes }) =>
    [...attributes].flatMap(([name, value]) =>
      name === 'href'
        ? value.startsWith('#')
          ? [value.slice(1)]
          : []
        : [...value.matchAll(/url\(\s*["']?#([\w.:-]+)/g)].map((match) => match[1]!),
    ),
  );
}

/** Groups inside groups and uses of uses followed one after another. */
const DEEPEST_CHAIN = 600;

/**
 * How many elements a node draws with everything it refers to drawn in its place: a handful
 * of uses of uses can stand for millions. What refers to itself in a circle counts once.
 */
function drawnElements(node: SvgNode, byId: ReadonlyMap<string, SvgNode>, known = new Map<SvgNode, number>(), deep = 0): number {
  // A chain of uses this long draws nothing that a mouth needs, and would be followed for ever.
  if (deep > DEEPEST_CHAIN) return Infinity;
  const before = known.get(node);
  if (before !== undefined) return before;
  known.set(node, 1);
  const inside = node.children.reduce((sum, child) => sum + drawnElements(child, byId, known, deep + 1), 0);
  const own = { ...node, children: [] };
  const referred = referredIds(own).reduce((sum, id) => sum + (byId.has(id) ? drawnElements(byId.get(id)!, byId, known, deep + 1) : 0), 0);
  const count = 1 + inside + referred;
  known.set(node, count);
  return count;
}

/** The definitions a node needs, and those that they need. A definition that leads back to itself is taken once. */
function neededDefinitions(node: SvgNode, byId: ReadonlyMap<string, SvgNode>): SvgNode[] {
  const found = new Map<string, SvgNode>();
  const inside = new Set(everyNode(node).map((inner) => inner.attributes.get('id')));
  const waiting = referredIds(node);
  while (waiting.length > 0) {
    const id = waiting.pop()!;
    const definition = byId.get(id);
    if (!definition || found.has(id) || inside.has(id)) continue;
    found.set(id, definition);
    waiting.push(...referredIds(definition));
  }
  return [...found.values()];
}

const number = (text: string | undefined): number => Number.parseFloat(text ?? '');

function canvasOf({ attributes }: SvgNode): Box | undefined {
  const view = (attributes.get('viewBox') ?? '').split(/[\s,]+/).map(Number);
  if (view.length === 4 && view.every(Number.isFinite) && view[2]! > 0 && view[3]! > 0)
    return { x: view[0]!, y: view[1]!, width: view[2]!, height: view[3]! };
  const [width, height] = [number(attributes.get('width')), number(attributes.get('height'))];
  return width > 0 && height > 0 ? { x: 0, y: 0, width, height } : undefined;
}

/** A group that only holds groups is the sheet they lie on: what it says of them goes along. */
interface Level {
  readonly wrappers: readonly SvgNode[];
  readonly nodes: readonly SvgNode[];
}

/** A file of symbols that nothing uses is a library of mouths. */
function unusedSymbols(root: SvgNode): SvgNode[] {
  const every = everyNode(root);
  const used = new Set(every.flatMap(({ name, attributes }) => (name === 'use' ? [attributes.get('href')?.slice(1)] : [])));
  return every
    .filter(({ name, attributes }) => name === 'symbol' && !used.has(attributes.get('id')))
    .map((symbol) => ({ ...symbol, name: 'g' }));
}

function levelOfMouths(root: SvgNode): Level {
  const painted = root.children.filter(isPainted);
  let level: Level = { wrappers: [], nodes: painted.length > 0 ? painted : unusedSymbols(root) };
  for (;;) {
    const [only, ...others] = level.nodes;
    const inner = only?.children.filter(isPainted) ?? [];
    if (!only || others.length > 0 || !isGroup(only) || inner.filter(isGroup).length < 2) return level;
    level = { wrappers: [...level.wrappers, only], nodes: inner };
  }
}

/** A group as a layer: a folder when all it holds are groups. */
function layerOf(node: SvgNode, otherwise: string): Layer<SvgNode> {
  const painted = node.children.filter(isPainted);
  const isFolder = painted.length > 0 && painted.every(isGroup);
  return {
    name: node.label || otherwise,
    item: node,
    isFolder,
    children: isFolder ? painted.map((child, index) => layerOf(child, `group ${index + 1}`)) : [],
  };
}

/** A layer that is switched off is still a mouth: one shows them in turn. */
function shown(node: SvgNode): SvgNode {
  const attributes = new Map(node.attributes);
  if (attributes.get('display') === 'none') attributes.delete('display');
  if (attributes.get('visibility') === 'hidden') attributes.delete('visibility');
  return { ...node, attributes };
}

/**
 * Reads an SVG's groups or layers.
 *
 * @param whole takes it as one picture whatever groups it has
 * @param level how often layers inside layers are opened; by their names where it is not given
 */
export function svgParts(text: string, file: string, whole = false, level?: number): SvgParts | Refusal {
  const tree = readSvg(text, file);
  if ('refusal' in tree) return tree;
  const { root } = tree;
  const canvas = canvasOf(root);
  if (!canvas) return { refusal: `${file} does not say how large it is. Export it with a size or a view box.` };
  if (canvas.width > 20_000 || canvas.height > 20_000)
    return {
      refusal: `${file} is ${canvas.width} by ${canvas.height} units. It may be 20000 by 20000: scale it down and export it again.`,
    };
  const byId = new Map(everyNode(root).flatMap((node) => (node.attributes.has('id') ? [[node.attributes.get('id')!, node] as const] : [])));
  if (drawnElements(root, byId) > SVG_LIMITS.drawn)
    return {
      refusal: `${file} draws its parts over and over, more than ${SVG_LIMITS.drawn} times in all. Simplify it, or export it as PNG.`,
    };
  const { wrappers, nodes } = levelOfMouths(root);
  const groups = nodes.filter(isGroup);
  const loose = nodes.length - groups.length;
  const inherited = [...root.attributes].filter(
    ([name]) => !['id', 'x', 'y', 'width', 'height', 'viewBox', 'preserveAspectRatio', 'transform'].includes(name),
  );
  const wrapped = (inner: readonly SvgNode[], around: readonly SvgNode[]): SvgNode =>
    [...wrappers, ...around].reduceRight<SvgNode>((node, wrapper) => ({ ...shown(wrapper), children: [node] }), {
      name: 'g',
      attributes: new Map(inherited),
      children: inner,
      label: '',
    });
  const partOf = (inner: readonly SvgNode[], name: string, around: readonly SvgNode[] = []): SvgPart => {
    const node = wrapped(inner.map(shown), around);
    const definitions = neededDefinitions(node, byId);
    return {
      name,
      svg: (view) =>
        `<svg xmlns="http://www.w3.org/2000/svg" width="${view.width}" height="${view.height}" viewBox="${view.x} ${view.y} ${view.width} ${view.height}">` +
        `${definitions.length > 0 ? `<defs>${definitions.map(written).join('')}</defs>` : ''}${written(node)}</svg>`,
    };
  };
  if (whole || groups.length < 2)
    return { canvas, parts: [partOf(nodes, file.replace(/^.*\//, '').replace(/\.[^.]*$/, ''))], warnings: tree.warnings };
  const warnings =
    loose > 0
      ? [
          ...tree.warnings,
          `${file}: ${loose} loose ${loose === 1 ? 'shape lies' : 'shapes lie'} outside its groups and ${loose === 1 ? 'is' : 'are'} left out.`,
        ]
      : tree.warnings;
  const layers = groups.map((group, index) => layerOf(group, `group ${index + 1}`));
  const parts = drawingsAmong(layers, level).map(({ name, layer, around }) => ({
    ...partOf(
      [layer.item],
      name,
      around.map((folder) => folder.item),
    ),
    ...(around[0] && { within: around[0].name }),
  }));
  const choice = maybeLayerChoice(layers, level);
  return { canvas, parts, warnings, ...(choice && { choice }) };
}
