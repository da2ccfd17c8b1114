/** What each drawing of a chart looks like beside each sound group, and which drawings play it. */
import { maybeDrawing, restDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import { REST, type SoundGroup } from '../chart/soundGroups.js';
import { articulationOf, AT_REST, lookDistance, meanArticulation, type Articulation } from '../phonetics/articulation.js';
import { isVowel } from '../phonetics/phonemes.js';
import { drawingForGroup } from './drawingForGroup.js';

export interface ChartLook {
  readonly rest: SoundGroup | undefined;
  readonly restDrawing: string;
  /**
   * The drawings that play a group, from the least open to the widest; at least one. Those that carry a tag where it is
   * asked for, else those that carry none, where there are any.
   */
  readonly sizesOf: (group: string, tag: string | null) => readonly string[];
  /** Whether a group's drawings take turns, whatever is loud. */
  readonly isInTurn: (group: string) => boolean;
  /** How much is lost when a drawing is seen in the place of a group: 0 to about 1. */
  readonly lost: (group: string, drawing: string) => number;
  /** The open drawing that is nearest to half way between a drawing and rest. */
  readonly relaxed: (drawing: string) => string;
}

/** A mouth that is shut while a vowel is heard is a fault that everybody sees: it loses so many times more. */
const SHUT_ON_A_VOWEL = 2;

const looks = new WeakMap<ChartDocument, ChartLook>();

export function articulationOfGroup(group: SoundGroup): Articulation {
  return meanArticulation(group.phonemes.map(articulationOf));
}

function makeLook(chart: ChartDocument): ChartLook {
  const groups = new Map(chart.groups.map((group) => [group.id, group]));
  const ofGroup = new Map(chart.groups.map((group) => [group.id, articulationOfGroup(group)]));
  const opening = new Map(chart.drawings.map((drawing) => [drawing.id, measureLook(drawing).opening]));
  const widest = Math.max(1e-9, ...opening.values());
  /** By the groups it plays; one that plays none by how open it is. */
  const ofDrawing = new Map(
    chart.drawings.map((drawing: Drawing) => {
      const played = drawing.groups.flatMap((id) => ofGroup.get(id) ?? []);
      const seen = played.length > 0 ? meanArticulation(played) : { ...AT_REST, press: 0, jaw: opening.get(drawing.id)! / widest };
      return [drawing.id, seen] as const;
    }),
  );
  const sizes = new Map(
    chart.groups.map((group) => {
      const own = chart.drawings
        .filter((drawing) => drawing.groups.includes(group.id))
        .map((drawing) => drawing.id)
        .sort((a, b) => opening.get(a)! - opening.get(b)!);
      return [group.id, own.length > 0 ? own : [drawingForGroup(chart, group.id).id]] as const;
    }),
  );
  const tags = new Map(chart.drawings.map(({ id, tags: own }) => [id, own]));
  const tagged = new Map<string, readonly string[]>();
  const sizesOf = (group: string, tag: string | null): readonly string[] => {
    const own = sizes.get(group) ?? [atRest];
    if (own.length === 1) return own;
    const key = `${group} ${tag ?? ''}`;
    let found = tagged.get(key);
    if (!found) {
      const asked = tag === null ? [] : own.filter((id) => tags.get(id)?.includes(tag));
      const plain = own.filter((id) => tags.get(id)?.length === 0);
      tagged.set(key, (found = [asked, plain, own].find((some) => some.length > 0)!));
    }
    return found;
  };
  const inTurn = new Set(chart.groups.flatMap(({ id, inTurn: takesTurns }) => (takesTurns ? [id] : [])));
  const isMust = (id: string): boolean => maybeDrawing(chart, id)!.groups.some((group) => groups.get(group)?.must);
  const atRest = restDrawing(chart).id;
  const isShut = (drawing: string): boolean => drawing === atRest || isMust(drawing);
  const isVoiced = (id: string): boolean => groups.get(id)?.phonemes.some(isVowel) ?? false;
  const halfWay = new Map<string, string>();
  const lostBetween = new Map<string, number>();
  return {
    rest: groups.get(REST),
    restDrawing: atRest,
    sizesOf,
    isInTurn: (group) => inTurn.has(group),
    lost: (group, drawing) => {
      const key = `${group} ${drawing}`;
      let lost = lostBetween.get(key);
      if (lost === undefined) {
        const isOwn = (sizes.get(group) ?? [atRest]).includes(drawing);
        lost = isOwn ? 0 : lookDistance(ofGroup.get(group) ?? AT_REST, ofDrawing.get(drawing) ?? AT_REST);
        if (!isOwn && isVoiced(group) && isShut(drawing)) lost *= SHUT_ON_A_VOWEL;
        lostBetween.set(key, lost);
      }
      return lost;
    },
    relaxed: (drawing) => {
      let found = halfWay.get(drawing);
      if (found === undefined) {
        const middle = meanArticulation([ofDrawing.get(drawing)!, { ...AT_REST, press: 0 }]);
        const open = chart.drawings.filter(({ id }) => !isMust(id) && id !== atRest);
        const away = (id: string): number => lookDistance(ofDrawing.get(id)!, middle);
        found = open.reduce((best, { id }) => (away(id) < away(best) ? id : best), open[0]?.id ?? drawing);
        halfWay.set(drawing, found);
      }
      return found;
    },
  };
}

/** Worked out once a chart. */
export function lookOfChart(chart: ChartDocument): ChartLook {
  let look = looks.get(chart);
  if (!look) looks.set(chart, (look = makeLook(chart)));
  return look;
}
