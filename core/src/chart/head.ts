/**
 * The head behind the mouths of a chart: a picture or a built one, where the mouth sits on
 * it, and a jaw piece that goes down as the mouth opens.
 */
import { isHash, isNumberWithin } from '../document/checks.js';
import { BUILT_HEAD_MOUTH, BUILT_HEAD_SIZE, maybeFaultOfHeadShape, PLAIN_HEAD, type HeadShape } from '../draw/headShape.js';
import type { Box } from '../draw/art.js';

/** Where the mouth's cross sits on the head, how large one unit of the chart is there, and its turn in degrees. */
export interface MouthPlace {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
  readonly angle: number;
}

/** A picture over the head that moves down by `travel` units of the head when the mouth is as open as the chart goes. */
export interface JawPiece {
  readonly picture: string;
  readonly box: Box;
  readonly travel: number;
}

/** How the jaw follows the mouth. */
export interface JawMotion {
  /** Frames before the mouth that drives it. */
  readonly lead: number;
  /** Frames on either side over which it is smoothed. */
  readonly ease: number;
  /** Of how far the mouth opens. */
  readonly share: number;
}

export const JAW_LIMITS = { lead: 6, ease: 6, share: 2, travel: 5000 } as const;

/** A part of the face beside the mouth, and where it sits. */
export interface HeadPart {
  readonly id: string;
  /** Lids, brows: a lane is of all parts of its name, on whichever view of the character. */
  readonly name: string;
  readonly chartId: string;
  /** Its depth: below 0 behind the mouth, from 0 before it. */
  readonly order: number;
  /** Where the cross of its chart is: on the head, or on the part that it follows. */
  readonly at: MouthPlace;
  /** The part that carries it, by id. */
  readonly follows?: string;
  /** How far it goes down as the jaw does, in the units of what carries it; below 0 it goes up. */
  readonly jaw?: number;
  /**
   * What it stands for, where it is pictures of a scene: `head`, in the place of the head's own art; `plate`, behind the head and
   * still when that moves. Seen only where its lane shows something.
   */
  readonly role?: PartRole;
}

export type PartRole = 'head' | 'plate';

export const PART_ROLES: readonly PartRole[] = ['head', 'plate'];

/** A named set of drawings over several parts of a face. */
export interface HeadPose {
  readonly id: string;
  readonly name: string;
  /** What each part shows, by its id on the head. */
  readonly drawings: readonly { readonly part: string; readonly drawing: string }[];
}

export type HeadArt = { readonly kind: 'picture'; readonly picture: string } | { readonly kind: 'built'; readonly shape: HeadShape };

export interface ChartHead {
  readonly id: 'head';
  readonly art: HeadArt;
  /** The head's own units, pixels for a picture. */
  readonly width: number;
  readonly height: number;
  readonly mouth: MouthPlace;
  readonly jaw?: JawPiece;
  /** Left out the jaw goes with the mouth, at once and as far. */
  readonly jawMotion?: JawMotion;
  readonly parts?: readonly HeadPart[];
  readonly poses?: readonly HeadPose[];
  /** Colours behind the character, top to bottom. */
  readonly backdrop: readonly string[];
}

/** A built head, for a chart that has no head drawing yet. */
export const BUILT_HEAD: ChartHead = {
  id: 'head',
  art: { kind: 'built', shape: PLAIN_HEAD },
  width: BUILT_HEAD_SIZE,
  height: BUILT_HEAD_SIZE,
  mouth: BUILT_HEAD_MOUTH,
  backdrop: ['#e6ecdf', '#efe9d8', '#e0d3b6'],
};

export function picturesOfHead({ art, jaw }: ChartHead): string[] {
  return [...(art.kind === 'picture' ? [art.picture] : []), ...(jaw ? [jaw.picture] : [])];
}

const isBox = (box: Box | undefined): boolean =>
  !!box &&
  [box.x, box.y].every((value) => isNumberWithin(value, -20_000, 20_000)) &&
  [box.width, box.height].every((value) => isNumberWithin(value, 1, 20_000));

/** What is wrong with a head, as a sentence; undefined when nothing is. */
export function maybeFaultOfHead(head: ChartHead): string | undefined {
  const { art, width, height, mouth, jaw, backdrop } = head;
  if (!isNumberWithin(width, 1, 20_000) || !isNumberWithin(height, 1, 20_000)) return 'The head needs a size from 1 to 20000.';
  if (art?.kind === 'picture' ? !isHash(art.picture) : art?.kind !== 'built') return 'The head must be a picture, or built.';
  if (art.kind === 'built' && maybeFaultOfHeadShape(art.shape))
    return `The built head’s ${maybeFaultOfHeadShape(art.shape)} is out of range.`;
  if (
    !mouth ||
    !isNumberWithin(mouth.x, -20_000, 20_000) ||
    !isNumberWithin(mouth.y, -20_000, 20_000) ||
    !isNumberWithin(mouth.angle, -180, 180)
  )
    return 'The mouth needs a place on the head, and a turn from −180 to 180 degrees.';
  if (!isNumberWithin(mouth.scale, 0.01, 200)) return 'The mouth’s size on the head must be 0.01 to 200.';
  if (jaw && (!isHash(jaw.picture) || !isBox(jaw.box) || !isNumberWithin(jaw.travel, 0, 20_000)))
    return 'The jaw piece needs a picture, a place, and a travel that is not below 0.';
  const { lead, ease, share } = head.jawMotion ?? { lead: 0, ease: 0, share: 1 };
  if (
    ![lead, ease].every((frames) => Number.isInteger(frames) && frames >= 0 && frames <= JAW_LIMITS.lead) ||
    !isNumberWithin(share, 0, JAW_LIMITS.share)
  )
    return `The jaw may lead and ease by 0 to ${JAW_LIMITS.lead} frames, by a share of 0 to ${JAW_LIMITS.share}.`;
  if (
    !Array.isArray(backdrop) ||
    backdrop.length !== 3 ||
    !backdrop.every((colour) => /^(#[0-9a-f]{6}|transparent)$/i.test(String(colour)))
  )
    return 'The backdrop needs three colours, such as #dce9e6.';
  return undefined;
}
