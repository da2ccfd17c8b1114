/**
 * Which of the layers inside layers of a drawing are its mouths. A layer that holds nothing
 * but further layers may be a folder of drawings (“front”, with a mouth in each) or one drawing
 * in parts (“ee”, with lips and teeth): names tell by themselves, and one may choose how deep.
 */

export interface Layer<T> {
  readonly name: string;
  readonly item: T;
  readonly children: readonly Layer<T>[];
  /** It holds layers and nothing else, so that it can be opened. */
  readonly isFolder: boolean;
}

/** A drawing found among layers, with the folders around it, outermost first. */
export interface FoundLayer<T> {
  readonly name: string;
  readonly layer: Layer<T>;
  readonly around: readonly Layer<T>[];
}

export interface LayerLevel {
  readonly count: number;
  /** The first few. */
  readonly names: readonly string[];
}

/** One line of the tree of layers, outermost first, in the file's order. */
export interface LayerLine {
  readonly name: string;
  readonly depth: number;
  /** Taken as a drawing at the level asked for. */
  readonly isDrawing: boolean;
}

/** What there is to choose among layers inside layers. */
export interface LayerChoice {
  /** At each depth, outermost first. */
  readonly levels: readonly LayerLevel[];
  /** The tree down to the drawings, and one more. */
  readonly outline: readonly LayerLine[];
}

/** More lines of a tree are not shown. */
const MOST_LINES = 300;

/** Names that drawing programs give, and that say nothing: Layer 3, g1203, Group, path-7. */
const GIVEN = /^(?:layer|group|g|path|folder|ebene|gruppe|calque|groupe|capa|grupo|livello|gruppo|svg|_?x)?[ _.#-]*\d*$/i;
/** Names of parts of one mouth. */
const PART =
  /^(?:upper|lower|top|bottom|left|right|back|front|inner|outer)?[ _-]*(?:lips?|teeth|tooth|tongue|gums?|inside|outside|outline|lines?|fills?|colou?rs?|shadows?|shades?|shading|lights?|highlights?|sketch|rough|ink|paint|base|jaw|mask|throat|dark|flats?)[ _-]*\d*$/i;

function opensByItself<T>({ isFolder, children }: Layer<T>): boolean {
  if (!isFolder || children.length < 2) return false;
  const names = children.map(({ name }) => name.trim());
  return new Set(names).size === names.length && names.every((name) => !GIVEN.test(name) && !PART.test(name));
}

function found<T>(
  layers: readonly Layer<T>[],
  isOpened: (layer: Layer<T>, depth: number) => boolean,
  around: readonly Layer<T>[] = [],
): FoundLayer<T>[] {
  return layers.flatMap((layer) =>
    layer.children.length > 0 && isOpened(layer, around.length)
      ? found(layer.children, isOpened, [...around, layer])
      : [{ name: layer.name, layer, around }],
  );
}

/** The drawings among layers: those that the names tell, or with every folder opened so many times. */
export function drawingsAmong<T>(layers: readonly Layer<T>[], level?: number): FoundLayer<T>[] {
  const drawings = found(layers, (layer, depth) => (level === undefined ? opensByItself(layer) : layer.isFolder && depth < level));
  const counts = new Map<string, number>();
  for (const { name } of drawings) counts.set(name, (counts.get(name) ?? 0) + 1);
  // The same name in two folders needs its folder's name to tell them apart.
  return drawings.map((drawing) =>
    counts.get(drawing.name)! > 1 && drawing.around.length > 0
      ? { ...drawing, name: `${drawing.around.at(-1)!.name} ${drawing.name}` }
      : drawing,
  );
}

/** The tree of layers, and which of them are the drawings; folders stand before what they hold. */
function outlineOf<T>(layers: readonly Layer<T>[], level?: number): LayerLine[] {
  const drawings = new Set(drawingsAmong(layers, level).map(({ layer }) => layer));
  const lines = (inside: readonly Layer<T>[], depth: number, isTaken: boolean): LayerLine[] =>
    inside.flatMap((layer) => {
      const isDrawing = drawings.has(layer);
      return [{ name: layer.name, depth, isDrawing }, ...(isTaken ? [] : lines(layer.children, depth + 1, isDrawing))];
    });
  return lines(layers, 0, false).slice(0, MOST_LINES);
}

/** What can be chosen among layers, and what a level takes of them; nothing where no layer can be opened. */
export function maybeLayerChoice<T>(layers: readonly Layer<T>[], level?: number): LayerChoice | undefined {
  const levels = levelsOf(layers);
  return levels.length > 1 ? { levels, outline: outlineOf(layers, level) } : undefined;
}

/** What there is at each depth, outermost first; one level when there is nothing to choose. */
export function levelsOf<T>(layers: readonly Layer<T>[]): LayerLevel[] {
  const levels: LayerLevel[] = [];
  for (let level = 0; level < 12; level += 1) {
    const drawings = drawingsAmong(layers, level);
    if (levels.at(-1)?.count === drawings.length) break;
    levels.push({ count: drawings.length, names: drawings.slice(0, 4).map(({ name }) => name) });
  }
  return levels;
}
