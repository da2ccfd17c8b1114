/** The map of a chart by itself: groups and which sounds look alike, to be kept, sent on, and put on other charts. */
import { putsOf, type Patch, type PutOp } from '../document/patch.js';
import { sameJson } from '../document/documentKind.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { maybePhoneme } from '../phonetics/phonemes.js';
import type { ChartDocument } from './chart.js';
import { mapPatch, MAX_GROUPS } from './groupCommands.js';
import { REST, type SoundGroup } from './soundGroups.js';

/** As JSON. */
export interface SoundMap {
  readonly name: string;
  readonly groups: readonly Omit<SoundGroup, 'inked'>[];
}

const put = putsOf<ChartDocument>();

export function mapOfChart(chart: ChartDocument, name: string): SoundMap {
  return { name, groups: chart.groups.map(({ inked: _, ...group }) => group) };
}

const isText = (value: unknown, least: number, most: number): value is string =>
  typeof value === 'string' && value.length >= least && value.length <= most;

/** What is wrong with a map, as sentences; empty when nothing is. Anything may be passed. */
export function checkMap(candidate: unknown): string[] {
  const map = candidate as Partial<SoundMap> | null;
  if (!map || typeof map !== 'object' || !isText(map.name, 1, 80) || !Array.isArray(map.groups))
    return [
      'This is not a map of sounds: it must have a name of 1 to 80 letters, and groups. Take one out of a chart, or see docs/formats.md.',
    ];
  if (map.groups.length > MAX_GROUPS) return [`The map has ${map.groups.length} groups. It may have ${MAX_GROUPS}.`];
  const faults: string[] = [];
  const ids = new Set<unknown>();
  const sounds = new Set<string>();
  for (const group of map.groups as Partial<SoundGroup>[]) {
    const name = isText(group?.name, 1, 80) ? group.name : String(group?.id ?? '');
    if (!isText(group?.id, 1, 120) || ids.has(group.id) || !isText(group.name, 1, 80)) {
      faults.push(`Group “${name}” needs an id of its own and a name of 1 to 80 letters.`);
      continue;
    }
    ids.add(group.id);
    if (!isText(group.look, 0, 200) || typeof group.must !== 'boolean' || !/^#[0-9a-f]{6}$/i.test(String(group.colour)))
      faults.push(`Group “${name}” needs a look in words, whether it must be seen, and a colour such as #c8435a.`);
    if (!Array.isArray(group.phonemes)) faults.push(`Group “${name}” needs a list of its sounds.`);
    else
      for (const symbol of group.phonemes as unknown[]) {
        if (typeof symbol !== 'string' || !maybePhoneme(symbol))
          faults.push(
            `Group “${name}” has “${String(symbol)}”, which is no sound: ARPAbet without a stress digit, or the IPA letter of one that English lacks.`,
          );
        else if (sounds.has(symbol)) faults.push(`The sound ${symbol} is in two groups. A sound looks like one of them.`);
        else sounds.add(symbol);
      }
  }
  if (!ids.has(REST)) faults.push('The map has no group “rest”, which plays silence.');
  return faults;
}

/** What of the JSON of a map is a map: nothing else is kept. */
export function readMap(text: string): SoundMap | Refusal {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return { refusal: 'This is not JSON. Take a map out of a chart and bring that in.' };
  }
  const [fault] = checkMap(value);
  if (fault !== undefined) return { refusal: fault };
  const { name, groups } = value as SoundMap;
  return {
    name,
    groups: groups.map(({ id, name: said, phonemes, look, must, colour, follows, rounds, inTurn }) => ({
      id,
      name: said,
      phonemes,
      look,
      must,
      colour,
      ...(follows === true && { follows }),
      ...(rounds === true && { rounds }),
      ...(inTurn === true && { inTurn }),
    })),
  };
}

/**
 * A chart with another map: its drawings go on playing the groups that both have, by id, and what no drawing plays
 * then is proposed by `choose`.
 *
 * @param choose which drawing shows each group of a chart best, as `fitChart` does
 */
export function putMap(
  chart: ChartDocument,
  map: SoundMap,
  choose: (chart: ChartDocument, fixed: ReadonlyMap<string, string>) => readonly { readonly group: string; readonly drawing: string }[],
  newId: IdSource,
): Patch | Refusal {
  const [fault] = checkMap(map);
  if (fault !== undefined) return { refusal: fault };
  const before = new Map(chart.groups.map((group) => [group.id, group]));
  const groups = map.groups.map((group): SoundGroup => ({ ...group, ...(before.get(group.id)?.inked && { inked: true as const }) }));
  const ids = new Set(groups.map(({ id }) => id));
  const drawings = chart.drawings.map((drawing) => ({ ...drawing, groups: drawing.groups.filter((id) => ids.has(id)) }));
  const played = new Map(
    groups.flatMap(({ id }) => {
      const own = drawings.find((drawing) => drawing.groups.includes(id));
      return own ? [[id, own.id] as const] : [];
    }),
  );
  const missing = choose({ ...chart, groups, drawings }, played).filter(({ group }) => !played.has(group));
  const after = drawings.map((drawing) => ({
    ...drawing,
    groups: [...drawing.groups, ...missing.flatMap(({ group, drawing: id }) => (id === drawing.id ? [group] : []))],
  }));
  const ops: PutOp[] = [
    // Drawings leave a group before it goes, and play one only once it is there.
    ...groups.flatMap((group) => {
      const old = before.get(group.id) ?? null;
      return old && sameJson(old, group) ? [] : [put('groups', old, group)];
    }),
    ...chart.drawings.flatMap((drawing, index) => (sameJson(drawing, after[index]!) ? [] : [put('drawings', drawing, after[index]!)])),
    ...chart.groups.filter(({ id }) => !ids.has(id)).map((group) => put('groups', group, null)),
  ];
  return mapPatch(chart, 'group.fit', ops, newId, 'The chart has this map already.');
}

export interface MapChange {
  /** Sounds that go to another group, with its name; null for none. */
  readonly moved: readonly { readonly symbol: string; readonly group: string | null }[];
  /** Names of groups that come, and that go. */
  readonly fresh: readonly string[];
  readonly gone: readonly string[];
  /** Groups that another drawing plays: their name and the drawing's label; null for none. */
  readonly played: readonly { readonly group: string; readonly drawing: string | null }[];
}

/** What is otherwise on a chart than it was, of its map. */
export function mapChange(before: ChartDocument, after: ChartDocument): MapChange {
  const [was, is] = [before, after].map(
    ({ groups }) => new Map(groups.flatMap((group) => group.phonemes.map((symbol) => [symbol, group] as const))),
  ) as [Map<string, SoundGroup>, Map<string, SoundGroup>];
  const symbols = [...new Set([...was.keys(), ...is.keys()])];
  const playedBy = ({ drawings }: ChartDocument, id: string): string | undefined =>
    drawings.find((drawing) => drawing.groups.includes(id))?.label;
  const names = (groups: readonly SoundGroup[], others: readonly SoundGroup[]): string[] =>
    groups.filter(({ id }) => !others.some((other) => other.id === id)).map(({ name }) => name);
  return {
    moved: symbols.flatMap((symbol) =>
      was.get(symbol)?.id === is.get(symbol)?.id ? [] : [{ symbol, group: is.get(symbol)?.name ?? null }],
    ),
    fresh: names(after.groups, before.groups),
    gone: names(before.groups, after.groups),
    played: after.groups.flatMap(({ id, name }) => {
      const drawing = playedBy(after, id);
      return drawing === playedBy(before, id) ? [] : [{ group: name, drawing: drawing ?? null }];
    }),
  };
}
