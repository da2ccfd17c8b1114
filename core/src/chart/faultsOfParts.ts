/** What may be wrong with the parts of a head. */
import { isNumberWithin } from '../document/checks.js';
import { JAW_LIMITS, PART_ROLES, type HeadPart, type HeadPose, type MouthPlace } from './head.js';

/** The most parts a head has, and how deep they may lie. */
export const PART_LIMITS = { most: 24, nameLetters: 40, depth: 100, poses: 60 } as const;

const isPlace = (at: MouthPlace | undefined): boolean =>
  !!at &&
  isNumberWithin(at.x, -20_000, 20_000) &&
  isNumberWithin(at.y, -20_000, 20_000) &&
  isNumberWithin(at.angle, -180, 180) &&
  isNumberWithin(at.scale, 0.01, 200);

/** What is wrong with the parts of a head, as a sentence; undefined when nothing is. */
export function maybeFaultOfParts(parts: readonly HeadPart[]): string | undefined {
  if (!Array.isArray(parts) || parts.length > PART_LIMITS.most) return `A head may have ${PART_LIMITS.most} parts at most.`;
  const known = new Map((parts as readonly HeadPart[]).map((part) => [part?.id, part]));
  if (known.size !== parts.length) return 'Two parts of the head have the same id.';
  for (const part of parts as readonly HeadPart[]) {
    const { name, order, at, follows } = part ?? {};
    if (typeof name !== 'string' || name.trim() === '' || name.length > PART_LIMITS.nameLetters)
      return `A part of the head needs a name of 1 to ${PART_LIMITS.nameLetters} letters.`;
    if (typeof part.id !== 'string' || typeof part.chartId !== 'string') return `The part “${name}” needs a chart.`;
    if (!Number.isInteger(order) || Math.abs(order) > PART_LIMITS.depth)
      return `The depth of “${name}” is ${String(order)}. It may be a whole number from −${PART_LIMITS.depth} to ${PART_LIMITS.depth}.`;
    if (!isPlace(at)) return `The part “${name}” needs a place on the head, a turn from −180 to 180 degrees and a size from 0.01 to 200.`;
    if (part.role !== undefined && !PART_ROLES.includes(part.role))
      return `“${name}” stands for ${JSON.stringify(part.role)}. Pictures may stand for the head, or for the plate behind it.`;
    if (part.jaw !== undefined && !isNumberWithin(part.jaw, -JAW_LIMITS.travel, JAW_LIMITS.travel))
      return `The part “${name}” may go down with the jaw by −${JAW_LIMITS.travel} to ${JAW_LIMITS.travel}.`;
    const before = new Set<string>([part.id]);
    for (let next = follows; next !== undefined; next = known.get(next)?.follows) {
      if (!known.has(next)) return `The part “${name}” follows one that is not there.`;
      if (before.has(next)) return `The part “${name}” follows itself.`;
      before.add(next);
    }
  }
  const names = (parts as readonly HeadPart[]).map(({ name }) => name.toLowerCase());
  const twice = names.find((name, index) => names.indexOf(name) !== index);
  return twice === undefined ? undefined : `Two parts are called “${twice}”. Give one of them another name.`;
}

/** What is wrong with the poses of a head, as a sentence; undefined when nothing is. A part that is gone is no fault: it is left out. */
export function maybeFaultOfPoses(poses: readonly HeadPose[]): string | undefined {
  if (!Array.isArray(poses) || poses.length > PART_LIMITS.poses) return `A head may have ${PART_LIMITS.poses} poses at most.`;
  const names = new Set<string>();
  for (const { name, drawings } of poses as readonly Partial<HeadPose>[]) {
    if (typeof name !== 'string' || name.trim() === '' || name.length > PART_LIMITS.nameLetters)
      return `A pose needs a name of 1 to ${PART_LIMITS.nameLetters} letters.`;
    if (!Array.isArray(drawings) || drawings.length === 0 || drawings.length > PART_LIMITS.most)
      return `The pose “${name}” holds no drawing. Give a part of the face a lane first.`;
    if (names.has(name.toLowerCase())) return `Two poses are called “${name}”. Give one of them another name.`;
    names.add(name.toLowerCase());
  }
  return undefined;
}
