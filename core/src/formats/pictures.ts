/**
 * Numbered pictures: one a frame, and a plan of which frames share a picture, so that each
 * distinct one is rendered once. A base name has no digit, so that the number after it can
 * always be told from it.
 */
import type { ChartDocument } from '../chart/chart.js';
import { chartSettings, lookIndexAt, maybeDrawing, seenOf, restDrawing } from '../chart/chart.js';
import type { ChartHead, MouthPlace } from '../chart/head.js';
import { shownParts, type PartLook } from '../chart/headParts.js';
import { faceToSvg, lookToSvg, mouthTransform, type Moved } from '../chart/headToSvg.js';
import { boilAt, type Boil } from '../draw/boil.js';
import { framesPerSecond } from '../time/frameRate.js';
import { isHash, isNumberWithin } from '../document/checks.js';
import { MOUTH_BOX } from '../draw/mouthFigure.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt } from '../scene/trackCharts.js';
import { blendedDrawing } from '../scene/blend.js';
import { exposuresOfTrack } from '../scene/exposures.js';

export type WhichPictures = 'every' | 'changes' | 'chart';
export type PictureFormat = 'png' | 'webp';

export interface PictureOptions {
  /** Letters, spaces, `-` and `_`; no digits. */
  readonly baseName: string;
  /** Number of the first picture, from 0. */
  readonly firstNumber: number;
  /** Digits that number them; 4 when left out. */
  readonly digits?: number;
  /** One a frame, only where the picture changes, or each drawing of the chart once, by its own number. */
  readonly which?: WhichPictures;
  readonly format?: PictureFormat;
  /** A colour under everything; transparent when left out. */
  readonly ground?: string | null;
  /** Pixels. */
  readonly width: number;
  readonly height: number;
  /** Each picture cut to its ink, with its place in the whole one in a table. */
  readonly cut?: boolean;
  /** What the mouth is put on in the place of the head. */
  readonly template?: PictureTemplate | null;
}

/** A picture with the mouth placed, turned and scaled on it: a texture of a model, a plate. */
export interface PictureTemplate {
  /** By content hash. */
  readonly picture: string;
  /** Its own units, pixels for a bitmap. */
  readonly width: number;
  readonly height: number;
  /** The mouth's cross on it. */
  readonly mouth: MouthPlace;
  /** Whether it is written with the mouth, or only says where the mouth is. */
  readonly isSeen: boolean;
}

/** A zip has at most 65 535 files (ZIP Application Note 4.4.1.4, without its 64-bit extension); a table goes with the pictures. */
export const PICTURE_LIMITS = { least: 16, most: 4096, fewestDigits: 3, mostDigits: 7, mostFiles: 65_000 } as const;

const USUAL_DIGITS = 4;

/** What is wrong with the options for a number of frames, as sentences; empty when nothing is. */
export function checkPictureOptions(
  {
    baseName,
    firstNumber,
    width,
    height,
    digits = USUAL_DIGITS,
    which = 'every',
    ground = null,
    cut = false,
    template = null,
  }: PictureOptions,
  frames: number,
): string[] {
  const faults: string[] = [];
  const { least, most, fewestDigits, mostDigits } = PICTURE_LIMITS;
  if (!Number.isInteger(digits) || digits < fewestDigits || digits > mostDigits)
    return [`Pictures are numbered with ${fewestDigits} to ${mostDigits} digits, not ${digits}.`];
  if (ground !== null && !/^#[0-9a-f]{6}$/i.test(ground))
    faults.push(`The ground is “${ground}”. It may be a colour such as #f3ead6, or nothing.`);
  if (cut && ground !== null) faults.push('Pictures on a colour have no ink to be cut to. Leave out the colour, or do not cut.');
  const templateFault = template && maybeFaultOfTemplate(template);
  if (templateFault) faults.push(templateFault);
  if (which === 'every' && frames > PICTURE_LIMITS.mostFiles)
    faults.push(`${frames} pictures are too many for one zip, which holds ${PICTURE_LIMITS.mostFiles}. Choose only where it changes.`);
  const lastNumber = 10 ** digits - 1;
  if (!/^[\p{L}_-]([\p{L} _-]{0,38}[\p{L}_-])?$/u.test(baseName)) {
    faults.push(
      `“${baseName}” cannot name the pictures. A base name has 1 to 40 letters, spaces, - or _, and no digits, because the picture's number follows it.`,
    );
  }
  if (!Number.isInteger(firstNumber) || firstNumber < 0 || firstNumber > lastNumber)
    faults.push(`The first number is ${firstNumber}. It must be a whole number from 0 to ${lastNumber}.`);
  else if (firstNumber + frames - 1 > lastNumber)
    faults.push(
      `${frames} pictures from ${firstNumber} would pass ${lastNumber}, the last number with ${digits} digits. Start at ${Math.max(0, lastNumber - frames + 1)} or below.`,
    );
  for (const [name, value] of [
    ['width', width],
    ['height', height],
  ] as const) {
    if (!Number.isInteger(value) || value < least || value > most)
      faults.push(`The ${name} is ${value} pixels. It may be ${least} to ${most}.`);
  }
  return faults;
}

function maybeFaultOfTemplate({ picture, width, height, mouth }: PictureTemplate): string | undefined {
  const { x, y, scale, angle } = mouth ?? {};
  const isPlaced = isNumberWithin(x, -20_000, 20_000) && isNumberWithin(y, -20_000, 20_000) && isNumberWithin(angle, -360, 360);
  if (
    !isHash(picture) ||
    !isNumberWithin(width, 1, 20_000) ||
    !isNumberWithin(height, 1, 20_000) ||
    !isPlaced ||
    !isNumberWithin(scale, 0.001, 1000)
  )
    return 'The template is no picture with a place for the mouth. Choose it again.';
  return undefined;
}

/** `bramble` and 7 → `bramble0007.png`. */
export function pictureName(
  baseName: string,
  number: number,
  { digits = USUAL_DIGITS, format = 'png' }: Pick<PictureOptions, 'digits' | 'format'> = {},
): string {
  return `${baseName}${String(number).padStart(digits, '0')}.${format}`;
}

/** One picture that is written: its number, what it shows, and the frames that it stands for. */
export interface PlannedPicture {
  readonly number: number;
  readonly shown: FrameLook | undefined;
  /** What the other lanes show, where all of them are on one picture. */
  readonly others?: readonly (FrameLook | undefined)[];
  /** From 0; of a drawing of the chart, none. */
  readonly frame: number;
  readonly frames: number;
}

/**
 * Which pictures are written.
 *
 * @param frames what each frame shows
 * @param charts by id; for the drawings of the chart, those of the first are written
 * @param others what each frame of the other lanes shows, where all of them are on one picture
 */
export function plannedPictures(
  frames: readonly (FrameLook | undefined)[],
  charts: ReadonlyMap<string, ChartDocument>,
  { firstNumber, which = 'every' }: Pick<PictureOptions, 'firstNumber' | 'which'>,
  others: readonly (readonly (FrameLook | undefined)[])[] = [],
): PlannedPicture[] {
  if (which === 'chart') {
    const [first] = charts;
    return [...(first?.[1].drawings ?? [])]
      .sort((a, b) => a.number - b.number)
      .map(({ id, number }) => ({ number, shown: { chartId: first![0], drawing: id, look: 0 }, frame: 0, frames: 0 }));
  }
  const isSameLook = (one: FrameLook | undefined, other: FrameLook | undefined): boolean => keyOfLook(one) === keyOfLook(other);
  const planned: PlannedPicture[] = [];
  frames.forEach((shown, frame) => {
    const last = planned.at(-1);
    const isSame =
      frame > 0 && last && isSameLook(last.shown, shown) && others.every((lane, index) => isSameLook(last.others![index], lane[frame]));
    if (which === 'changes' && isSame) planned[planned.length - 1] = { ...last, frames: last.frames + 1 };
    else {
      const beside = others.length > 0 ? { others: others.map((lane) => lane[frame]) } : {};
      planned.push({ number: firstNumber + frame, shown, frame, frames: 1, ...beside });
    }
  });
  return planned;
}

/** The list of holds that goes with pictures of changes: which picture stands for how many frames. CSV after RFC 4180. */
export function holdsCsv(planned: readonly PlannedPicture[], options: Pick<PictureOptions, 'baseName' | 'digits' | 'format'>): string {
  const rows = planned.map(({ number, frames }) => `${pictureName(options.baseName, number, options)},${number},${frames}`);
  return ['picture,first frame,frames', ...rows, ''].join('\r\n');
}

/** Where a picture that is cut to its ink lies in the whole one, in pixels from its top left corner. */
export interface PicturePlace {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The table that goes with pictures cut to their ink. CSV after RFC 4180. */
export function placesCsv(
  places: readonly (readonly [name: string, place: PicturePlace])[],
  { width, height }: Pick<PictureOptions, 'width' | 'height'>,
): string {
  const rows = places.map(([name, place]) => [name, place.x, place.y, place.width, place.height, width, height].join(','));
  return ['picture,left,top,width,height,of width,of height', ...rows, ''].join('\r\n');
}

/** What one frame shows: a drawing, and which of its looks. */
export interface FrameLook {
  readonly chartId: string;
  readonly drawing: string;
  readonly look: number;
  /** How it is redrawn, where its lane boils. */
  readonly boil?: Boil;
  /** What the other parts of the face show, where the picture has them. */
  readonly face?: readonly PartLook[];
  /** Where the mouth and the head are, and the jaw, on a picture with a head. */
  readonly place?: Moved;
}

/**
 * One frame's picture as SVG on a transparent ground. Without a head the mouth fills the
 * picture, every drawing with its cross in the same place.
 *
 * @param shown undefined for a frame with no mouth: the picture is empty, or the head alone
 * @param hrefOf the bytes of a picture as a data URI, by content hash
 */
export function pictureSvg(
  chart: ChartDocument,
  shown: Pick<FrameLook, 'drawing' | 'look' | 'boil' | 'face' | 'place'> | undefined,
  {
    width,
    height,
    withHead,
    ground = null,
    template = null,
    idPrefix = 'mouth',
    charts,
  }: Pick<PictureOptions, 'width' | 'height' | 'ground' | 'template'> & {
    readonly withHead: boolean;
    readonly idPrefix?: string;
    /** Those of the parts of the face, by id. */
    readonly charts?: ReadonlyMap<string, ChartDocument>;
  },
  hrefOf: (hash: string) => string = () => '',
): string {
  const drawing = shown && maybeDrawing(chart, shown.drawing);
  const look = drawing && seenOf(drawing, shown.look, shown.boil);
  const head = template ? headOfTemplate(template) : withHead ? chart.head[0] : undefined;
  const { x, y, width: across, height: down } = head ? { x: 0, y: 0, ...head } : MOUTH_BOX;
  const parts = charts && shownParts(head, charts, shown?.face);
  const options = {
    idPrefix,
    hrefOf: ({ picture }: { picture: string }) => hrefOf(picture),
    hrefOfHash: hrefOf,
    ...(parts && { parts }),
    ...shown?.place,
  };
  const inner =
    template && !template.isSeen
      ? look
        ? `<g transform="${mouthTransform(template.mouth, shown?.place?.moved)}">${lookToSvg(chartSettings(chart).style, look, options)}</g>`
        : ''
      : faceToSvg({ ...chart, head: head ? [head] : [] }, drawing, look, options);
  // Wider than the box by its own size on every side: the picture may have another shape.
  const under =
    ground === null
      ? ''
      : `<rect x="${x - across * 8}" y="${y - down * 8}" width="${across * 17}" height="${down * 17}" fill="${ground}"/>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${x} ${y} ${across} ${down}" preserveAspectRatio="xMidYMid meet">${under}${inner}</svg>`;
}

/** A lane of a picture that has all of them. */
export interface LaneShown {
  readonly chart: ChartDocument;
  readonly shown: Pick<FrameLook, 'drawing' | 'look' | 'boil' | 'face' | 'place'> | undefined;
}

/** One frame of several lanes, side by side in equal columns, each as `pictureSvg` has it. */
export function pictureOfLanesSvg(
  lanes: readonly LaneShown[],
  options: Pick<PictureOptions, 'width' | 'height' | 'ground'> & {
    readonly withHead: boolean;
    readonly charts?: ReadonlyMap<string, ChartDocument>;
  },
  hrefOf?: (hash: string) => string,
): string {
  const { width, height, ground = null } = options;
  const wide = width / Math.max(1, lanes.length);
  const columns = lanes.map(({ chart, shown }, index) => {
    const column = pictureSvg(chart, shown, { ...options, ground: null, width: wide, idPrefix: `mouth${index}` }, hrefOf);
    return column.replace('<svg ', `<svg x="${index * wide}" `);
  });
  const under = ground === null ? '' : `<rect width="${width}" height="${height}" fill="${ground}"/>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${under}${columns.join('')}</svg>`;
}

/** A template in the place of the head. */
export function headOfTemplate({ picture, width, height, mouth }: PictureTemplate): ChartHead {
  return { id: 'head', art: { kind: 'picture', picture }, width, height, mouth, backdrop: [] };
}

/** What tells the pictures of two frames apart: alike where nothing that is seen differs. */
export function keyOfLook(look: FrameLook | undefined): string {
  if (!look) return '';
  const keyOf = ({ chartId, drawing, look: index, boil }: Omit<FrameLook, 'face' | 'place'>): string =>
    [chartId, drawing, index, ...(boil ?? [])].join(' ');
  const { moved = '', headMoved = '', jaw } = look.place ?? {};
  const placed = look.place ? [`${moved} ${headMoved} ${jaw?.toFixed(2) ?? ''}`] : [];
  return [
    keyOf(look),
    ...placed,
    ...(look.face ?? []).map((one) => (one.hidden ? '' : `${one.part} ${one.moved ?? ''} ${keyOf(one)}`)),
  ].join('|');
}

/**
 * What each frame of a track shows, undefined where nothing is exposed. Shape: one entry a frame.
 *
 * @param as 'keyed' leaves out how a lane blends from key to key
 */
export function looksOfFrames(
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
  as: 'seen' | 'keyed' = 'seen',
): (FrameLook | undefined)[] {
  const { lengthFrames, frameRate } = sceneSettings(scene);
  const { boil: strength, blend, hidden, muted } = scene.tracks.find(({ id }) => id === trackId) ?? {};
  const frames = new Array<FrameLook | undefined>(lengthFrames).fill(undefined);
  if (hidden && as === 'seen') return frames;
  const lane = exposuresOfTrack(scene, trackId);
  lane.forEach(({ from, to, drawing: keyed }, index) => {
    const { chartId } = chartStretchAt(scene, trackId, from)!;
    const chart = charts.get(chartId);
    const isMuted = chart && muted && as === 'seen';
    const id = isMuted ? restDrawing(chart).id : keyed;
    const drawing = chart && maybeDrawing(chart, id);
    for (let frame = from; frame < Math.min(to, lengthFrames); frame++) {
      const boil = boilAt(strength, frame, framesPerSecond(frameRate));
      const shown = chart && as === 'seen' && !isMuted ? blendedDrawing(lane, index, frame, chart, blend) : id;
      const look = drawing && shown === id ? lookIndexAt(drawing, frame, from) : 0;
      frames[frame] = { chartId, drawing: shown, look, ...(boil && { boil }) };
    }
  });
  return frames;
}
