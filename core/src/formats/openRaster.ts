/**
 * The layers of an OpenRaster file: its `stack.xml`, by the OpenRaster baseline
 * specification (freedesktop.org, 0.0.5): stacks and layers from top to bottom, each with
 * `name`, `x`, `y`, `opacity`, and a layer's `src`.
 */
import { SaxesParser } from 'saxes';
import type { Refusal } from '../document/refusal.js';
import { drawingsAmong, maybeLayerChoice, type Layer, type LayerChoice } from './layerLevels.js';

export interface OpenRasterLayer {
  /** Path of the PNG inside the file. */
  readonly src: string;
  readonly x: number;
  readonly y: number;
  readonly opacity: number;
}

/** One mouth: a layer, or a stack of layers painted together, from bottom to top. */
export interface OpenRasterMouth {
  readonly name: string;
  readonly layers: readonly OpenRasterLayer[];
  /** The outermost stack that holds it. */
  readonly within?: string;
}

export interface OpenRasterStack {
  readonly width: number;
  readonly height: number;
  /** From top to bottom, as the layer list shows them. */
  readonly mouths: readonly OpenRasterMouth[];
  /** Where stacks lie inside stacks. */
  readonly choice?: LayerChoice;
}

interface Entry {
  readonly name: string;
  readonly layer?: OpenRasterLayer;
  readonly children: Entry[];
}

const MOST_LAYERS = 2000;

/** A place in whole pixels; 0 where none is given, or none that is a number. */
const wholePixels = (text: string | undefined): number => Math.round(Number(text ?? 0)) || 0;

function layersOf(entry: Entry): OpenRasterLayer[] {
  return entry.layer ? [entry.layer] : entry.children.flatMap(layersOf).reverse();
}

function layerOf(entry: Entry, otherwise: string): Layer<Entry> {
  return {
    name: entry.name || otherwise,
    item: entry,
    isFolder: entry.children.length > 0,
    children: entry.children.map((child, index) => layerOf(child, `layer ${index + 1}`)),
  };
}

/**
 * Reads `stack.xml`.
 *
 * @param depth how often stacks inside stacks are opened; by their names where it is not given
 */
export function stackOfOpenRaster(xml: string, file: string, depth?: number): OpenRasterStack | Refusal {
  const parser = new SaxesParser({ xmlns: false });
  const root: Entry = { name: '', children: [] };
  const open: { entry: Entry; x: number; y: number; opacity: number }[] = [{ entry: root, x: 0, y: 0, opacity: 1 }];
  let [width, height, count] = [0, 0, 0];
  let broken = false;
  parser.on('error', () => void (broken = true));
  parser.on('opentag', ({ name, attributes }) => {
    const given = attributes as Record<string, string>;
    if (name === 'image') [width, height] = [Number(given['w']), Number(given['h'])];
    if (name !== 'stack' && name !== 'layer') return;
    count += 1;
    const above = open.at(-1)!;
    const x = above.x + wholePixels(given['x']);
    const y = above.y + wholePixels(given['y']);
    const opacity = above.opacity * Math.max(0, Math.min(1, Number(given['opacity'] ?? 1) || 0));
    const layer = name === 'layer' && given['src'] ? { src: given['src'], x, y, opacity } : undefined;
    const entry: Entry = { name: given['name'] ?? '', children: [], ...(layer && { layer }) };
    above.entry.children.push(entry);
    open.push({ entry, x, y, opacity });
  });
  parser.on('closetag', ({ name }) => {
    if ((name === 'stack' || name === 'layer') && open.length > 1) open.pop();
  });
  try {
    parser.write(xml.replace(/^\uFEFF/, '')).close();
  } catch {
    broken = true;
  }
  if (broken || !(width > 0) || !(height > 0))
    return { refusal: `${file} is not an OpenRaster file that can be read: its list of layers is broken. Save it again.` };
  if (count > MOST_LAYERS) return { refusal: `${file} has ${count} layers. It may have ${MOST_LAYERS}.` };
  let level = root.children;
  while (level.length === 1 && !level[0]!.layer) level = level[0]!.children;
  const layers = level.map((entry, index) => layerOf(entry, `layer ${index + 1}`));
  const mouths = drawingsAmong(layers, depth).map(({ name, layer, around: [outermost] }) => ({
    name,
    layers: layersOf(layer.item),
    ...(outermost && { within: outermost.name }),
  }));
  const choice = maybeLayerChoice(layers, depth);
  return { width, height, mouths: mouths.filter((mouth) => mouth.layers.length > 0), ...(choice && { choice }) };
}
