/**
 * A mouth as a figure: a flat list of filled and stroked paths, back to front, that a
 * canvas, an SVG writer and a rasteriser all paint the same way.
 */
import { mouthGeometry, movedNode, pathOfNodes, reversedNodes, type MouthGeometry, type Node } from './mouthGeometry.js';
import type { MouthShape } from './mouthShape.js';

/** One path of a figure. Widths and coordinates in the mouth's own units. */
export interface FigurePath {
  readonly path: string;
  readonly fill?: string;
  readonly stroke?: string;
  readonly strokeWidth?: number;
  readonly opacity?: number;
  /** Path data that clips this path. */
  readonly clip?: string;
  /** Filled by the even-odd rule, so that a ring inside another is a hole. */
  readonly evenOdd?: boolean;
}

/** A picture in a figure, by its content hash. */
export interface FigurePicture {
  readonly picture: string;
  /** The small copy of it. */
  readonly preview: string;
  readonly width: number;
  readonly height: number;
}

export type FigurePart = FigurePath | FigurePicture;
export type Figure = readonly FigurePart[];

/** How a chart's built mouths are finished. Colours are `#rrggbb`. */
export interface MouthStyle {
  readonly line: string;
  readonly lip: string;
  readonly inside: string;
  readonly teeth: string;
  readonly tongue: string;
  /** Width of the line at its thickest. */
  readonly weight: number;
  /** Least turned-out lip: a beak or a clay mouth always shows its rim. */
  readonly rim: number;
}

/** Every mouth of a chart lies inside this box (x, y, width, height). */
export const MOUTH_BOX = { x: -62, y: -30, width: 124, height: 106 } as const;

/** The part of the box that the starter mouths fill, for showing one as large as it goes. */
export const MOUTH_FOCUS = { x: -52, y: -20, width: 104, height: 86 } as const;

const part = (value: number): number => Math.round(value * 100) / 100;

/** A line that swells in the middle and runs thin into the corners, as a brush draws it. */
function brushLine(nodes: readonly Node[], swell: number, thin: number): string {
  const raised = nodes.map((node, index) => {
    const along = Math.sin((Math.PI * index) / (nodes.length - 1));
    return movedNode(node, 0, -(thin + (swell - thin) * along));
  });
  const lowered = nodes.map((node) => movedNode(node, 0, thin * 0.4));
  const back = pathOfNodes(reversedNodes(lowered), false).slice(1);
  return `${pathOfNodes(raised, false)}L${back}Z`;
}

function teethPaths(shape: MouthShape, geometry: MouthGeometry, style: MouthStyle, clip: string): FigurePath[] {
  const { top, bottom } = geometry;
  const height = bottom - top;
  const paths: FigurePath[] = [];
  const edge = { fill: style.teeth, stroke: style.line, strokeWidth: part(style.weight * 0.34), clip };
  if (shape.teethUpper > 0.02) {
    const deep = top + Math.min(24, height * 0.66) * shape.teethUpper + shape.bite * (height * 0.3);
    paths.push({
      ...edge,
      path: `M-70 ${part(top - 20)}H70V${part(deep - 3)}C34 ${part(deep + 3.5)} -34 ${part(deep + 3.5)} -70 ${part(deep - 3)}Z`,
    });
  }
  if (shape.teethLower > 0.02) {
    const deep = bottom - Math.min(20, height * 0.48) * shape.teethLower;
    paths.push({
      ...edge,
      path: `M-70 ${part(bottom + 20)}H70V${part(deep)}C34 ${part(deep + 4)} -34 ${part(deep + 4)} -70 ${part(deep)}Z`,
    });
  }
  return paths;
}

function tonguePaths(shape: MouthShape, geometry: MouthGeometry, style: MouthStyle, clip: string): FigurePath[] {
  const { halfWidth, top, bottom } = geometry;
  const height = bottom - top;
  const paths: FigurePath[] = [];
  if (shape.tongue > 0.02) {
    const crest = bottom - height * (0.2 + 0.42 * shape.tongue);
    const side = halfWidth * 0.82;
    const low = bottom + 14;
    paths.push({
      clip,
      fill: style.tongue,
      path: `M${part(-side)} ${part(low)}C${part(-side)} ${part(crest)} ${part(-side * 0.5)} ${part(crest - 2)} 0 ${part(crest + 2)}C${part(side * 0.5)} ${part(crest - 2)} ${part(side)} ${part(crest)} ${part(side)} ${part(low)}Z`,
    });
  }
  if (shape.tipUp > 0.02) {
    const crest = bottom - (height - 8) * shape.tipUp;
    const foot = halfWidth * 0.66;
    paths.push({
      clip,
      fill: style.tongue,
      stroke: style.line,
      strokeWidth: part(style.weight * 0.42),
      path: `M${part(-foot)} ${part(bottom + 10)}C${part(-foot)} ${part(bottom - height * 0.3)} -13 ${part(bottom - height * 0.24)} -11 ${part(crest + 8)}C-9.5 ${part(crest)} 9.500 ${part(crest)} 11 ${part(crest + 8)}C13 ${part(bottom - height * 0.24)} ${part(foot)} ${part(bottom - height * 0.3)} ${part(foot)} ${part(bottom + 10)}Z`,
    });
  }
  return paths;
}

/** The tongue tip between the teeth hangs over the lower lip, so it is not clipped. */
function tipOutPath(shape: MouthShape, geometry: MouthGeometry, style: MouthStyle): FigurePath[] {
  if (shape.tipOut <= 0.02) return [];
  const { halfWidth, top, bottom } = geometry;
  const side = halfWidth * 0.5;
  const root = bottom - (bottom - top) * 0.48;
  const reach = bottom + 3.5 * shape.tipOut;
  return [
    {
      fill: style.tongue,
      stroke: style.line,
      strokeWidth: part(style.weight * 0.6),
      path: `M${part(-side)} ${part(bottom - 3.5)}C${part(-side)} ${part(root - 3)} ${part(side)} ${part(root - 3)} ${part(side)} ${part(bottom - 3.5)}C${part(side * 0.86)} ${part(reach + 3)} ${part(-side * 0.86)} ${part(reach + 3)} ${part(-side)} ${part(bottom - 3.5)}Z`,
    },
  ];
}

/** The lower lip rolled in under the teeth. */
function bitePath(shape: MouthShape, geometry: MouthGeometry, style: MouthStyle): FigurePath[] {
  if (shape.bite <= 0.02) return [];
  const { halfWidth, top, bottom } = geometry;
  const side = halfWidth * 0.8;
  const upper = top + (bottom - top) * 0.62;
  const lower = bottom + 6;
  return [
    {
      fill: style.lip,
      stroke: style.line,
      strokeWidth: part(style.weight * 0.62),
      path: `M${part(-side)} ${part(upper)}C${part(-side * 0.45)} ${part(upper - 4.5)} ${part(side * 0.45)} ${part(upper - 4.5)} ${part(side)} ${part(upper)}C${part(side * 0.72)} ${part(lower + 3)} ${part(-side * 0.72)} ${part(lower + 3)} ${part(-side)} ${part(upper)}Z`,
    },
  ];
}

/** The dent under the lower lip of a closed mouth, which gives a flat line its volume. */
function chinPath(shape: MouthShape, geometry: MouthGeometry, style: MouthStyle): FigurePath[] {
  const closed = 1 - Math.min(1, shape.jaw * 6);
  if (closed <= 0.05) return [];
  const y = geometry.bottom + 11 + shape.press * 2;
  return [
    {
      path: `M-10 ${part(y)}C-5 ${part(y + 3)} 5 ${part(y + 3)} 10 ${part(y)}`,
      stroke: style.line,
      strokeWidth: part(style.weight * 0.55),
      opacity: part(0.34 * closed),
    },
  ];
}

/**
 * The figure of one mouth in a style.
 *
 * @example mouthFigure(STARTER_SHAPES.drop, STARTER_STYLES.brush).length > 0 // true
 */
export function mouthFigure(shape: MouthShape, style: MouthStyle): readonly FigurePath[] {
  const rimmed = { ...shape, upperLip: Math.max(shape.upperLip, style.rim), lowerLip: Math.max(shape.lowerLip, style.rim) };
  const geometry = mouthGeometry(rimmed);
  const opening = pathOfNodes(geometry.opening, true);
  const isOpen = geometry.bottom - geometry.top > 2.5;
  const upper = geometry.opening.slice(0, 5);
  const lower = reversedNodes([...geometry.opening.slice(4), geometry.opening[0]]);
  const figure: FigurePath[] = [];
  if (rimmed.upperLip + rimmed.lowerLip > 0.02 || rimmed.press > 0.02) {
    figure.push({ path: pathOfNodes(geometry.lips, true), fill: style.lip, stroke: style.line, strokeWidth: part(style.weight * 0.62) });
  }
  if (isOpen) {
    figure.push(
      { path: opening, fill: style.inside },
      ...tonguePaths(shape, geometry, style, opening),
      ...teethPaths(shape, geometry, style, opening),
      { path: opening, stroke: style.line, strokeWidth: part(style.weight * 0.66) },
    );
  }
  figure.push({ path: brushLine(upper, style.weight * (isOpen ? 0.66 : 0.8 - 0.5 * shape.press), style.weight * 0.3), fill: style.line });
  if (!isOpen) figure.push({ path: pathOfNodes(lower, false), stroke: style.line, strokeWidth: part(style.weight * 0.5) });
  figure.push(...tipOutPath(shape, geometry, style), ...bitePath(shape, geometry, style), ...chinPath(shape, geometry, style));
  return figure;
}
