/** Lanes that go with another of the same face: when that one shows a drawing, this one shows another, in pencil. */

/** One line of the table: drawings by their labels, so that it holds on every view of the character. */
export interface LaneLink {
  /** The part that leads, by name; null for the mouth. */
  readonly of: string | null;
  readonly shows: string;
  /** Asked of a mouth instead of a drawing: that it is so open or more, as a share of the widest of its chart. */
  readonly opens?: number;
  /** What this lane shows then. */
  readonly put: string;
}

export const LINK_LIMITS = { most: 40, letters: 40 } as const;

/** How far a mouth may be asked to be open, each in words. */
export const OPENINGS: readonly (readonly [opens: number, shows: string])[] = [
  [0.25, 'opens a little or more'],
  [0.5, 'opens by half or more'],
  [0.8, 'opens wide'],
];

/** What of its leader a link asks for, as it is said after its name. */
export function saidOfLink({ shows, opens }: Pick<LaneLink, 'shows' | 'opens'>): string {
  return opens === undefined ? `shows “${shows}”` : shows;
}

/** What is wrong with the links of a lane, as a sentence; undefined when nothing is. */
export function maybeFaultOfLinks(links: readonly LaneLink[], part: string): string | undefined {
  if (links.length > LINK_LIMITS.most) return `A lane may have ${LINK_LIMITS.most} links. Take one away first.`;
  if (links.some(({ of }) => of?.toLowerCase() === part.toLowerCase())) return 'A lane cannot go with itself. Choose another that leads.';
  const unlikely = links.find(({ of, opens }) => opens !== undefined && (of !== null || !(opens > 0 && opens <= 1)));
  if (unlikely) return 'Only a mouth opens, by a share of 0 to 1. Choose a drawing of the other lane instead.';
  const seen = new Set<string>();
  for (const { of, shows } of links) {
    const key = JSON.stringify([of?.toLowerCase() ?? null, shows.toLowerCase()]);
    if (seen.has(key)) return `There is a link for “${shows}” already. Change that one.`;
    seen.add(key);
  }
  return undefined;
}
