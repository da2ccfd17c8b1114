/** What can be done to the map of a chart: which sounds look alike, and which drawings play them. */
import { applyPatch, putsOf, type Patch, type PutOp } from '../document/patch.js';
import type { Reason } from '../document/reasons.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { CHART_KIND, chartSettings, checkChart, maybeDrawing, type ChartDocument, type DiphthongEnds } from './chart.js';
import { REST, type SoundGroup } from './soundGroups.js';

const put = putsOf<ChartDocument>();

/** A chart has at most this many groups. */
export const MAX_GROUPS = 40;
const NOT_THERE: Refusal = { refusal: 'That sound group is no longer in the chart.' };

const changed = (groups: readonly SoundGroup[], change: (group: SoundGroup) => SoundGroup): PutOp[] =>
  groups.flatMap((group) => {
    const after = change(group);
    return after === group ? [] : [put('groups', group, after)];
  });

const withoutSounds = (group: SoundGroup, symbols: ReadonlySet<string>): SoundGroup =>
  group.phonemes.some((symbol) => symbols.has(symbol))
    ? { ...group, phonemes: group.phonemes.filter((symbol) => !symbols.has(symbol)) }
    : group;

/** A patch of groups and drawings, refused where the chart would break a law by it. */
export function mapPatch(chart: ChartDocument, reason: Reason, ops: readonly PutOp[], newId: IdSource, refusal: string): Patch | Refusal {
  if (ops.length === 0) return { refusal };
  const made: Patch = { id: newId(), reason, ops: [...ops] };
  const [fault] = checkChart(applyPatch(CHART_KIND, chart, made));
  return fault === undefined ? made : { refusal: fault };
}

/** Sounds go to another group, or to none. */
export function moveSounds(chart: ChartDocument, symbols: readonly string[], groupId: string | null, newId: IdSource): Patch | Refusal {
  if (groupId === REST) return { refusal: 'Rest plays silence, and no sound. Choose another group.' };
  if (groupId !== null && !chart.groups.some(({ id }) => id === groupId)) return NOT_THERE;
  const moved = new Set(symbols);
  const ops = changed(chart.groups, (group) => {
    if (group.id !== groupId) return withoutSounds(group, moved);
    const fresh = symbols.filter((symbol) => !group.phonemes.includes(symbol));
    return fresh.length === 0 ? group : { ...group, phonemes: [...group.phonemes, ...fresh] };
  });
  return mapPatch(chart, 'group.sounds', ops, newId, 'They are in that group already.');
}

export type GroupChanges = Partial<Pick<SoundGroup, 'name' | 'colour' | 'must' | 'look'>> & {
  readonly follows?: boolean;
  readonly rounds?: boolean;
  readonly inTurn?: boolean;
};

/** A name that a group may have: 1 to 40 letters, and no other group's. */
function faultOfName(chart: ChartDocument, name: string, own?: string): Refusal | undefined {
  if (name === '' || name.length > 40) return { refusal: `A sound group has a name of 1 to 40 letters; “${name}” has ${name.length}.` };
  const other = chart.groups.find((group) => group.id !== own && group.name.toLowerCase() === name.toLowerCase());
  return other && { refusal: `There is a group “${other.name}” already. Choose another name, or merge the two.` };
}

/** A group of the animator's own, with some sounds that leave theirs; a group split in two is this. */
export function addGroup(
  chart: ChartDocument,
  { name, phonemes = [], colour }: { readonly name: string; readonly phonemes?: readonly string[]; readonly colour: string },
  newId: IdSource,
): Patch | Refusal {
  const said = name.trim();
  const fault = faultOfName(chart, said);
  if (fault) return fault;
  if (chart.groups.length >= MAX_GROUPS) return { refusal: `A chart has ${MAX_GROUPS} sound groups at most. Merge two of them first.` };
  const moved = new Set(phonemes);
  const made: SoundGroup = { id: newId(), name: said, phonemes: [...phonemes], look: 'as you drew it', must: false, colour };
  return mapPatch(
    chart,
    'group.add',
    [...changed(chart.groups, (group) => withoutSounds(group, moved)), put('groups', null, made)],
    newId,
    '',
  );
}

/** Names, colours a group, says whether it must be seen and what it does beside its neighbours. */
export function changeGroup(chart: ChartDocument, id: string, changes: GroupChanges, newId: IdSource): Patch | Refusal {
  const group = chart.groups.find((candidate) => candidate.id === id);
  if (!group) return NOT_THERE;
  const name = (changes.name ?? group.name).trim();
  const fault = faultOfName(chart, name, id);
  if (fault) return fault;
  const { follows, rounds, inTurn, ...plain } = changes;
  const { follows: wasFollowing, rounds: wasRounding, inTurn: tookTurns, ...rest } = group;
  const after: SoundGroup = {
    ...rest,
    ...plain,
    name,
    ...((follows ?? wasFollowing) && { follows: true as const }),
    ...((rounds ?? wasRounding) && { rounds: true as const }),
    ...((inTurn ?? tookTurns) && { inTurn: true as const }),
  };
  return mapPatch(chart, 'group.change', [put('groups', group, after)], newId, '');
}

/** Two groups as one: the first is gone, its sounds and its drawings are the second's. */
export function mergeGroups(chart: ChartDocument, from: string, into: string, newId: IdSource): Patch | Refusal {
  const [gone, kept] = [from, into].map((id) => chart.groups.find((group) => group.id === id));
  if (!gone || !kept || from === into) return NOT_THERE;
  if (from === REST || into === REST) return { refusal: 'Rest plays silence and stays by itself.' };
  const drawings = chart.drawings.flatMap((drawing) => {
    if (!drawing.groups.includes(from)) return [];
    // A drawing of both stays one of the group; one that only the first had becomes another of the second.
    const groups = [...new Set(drawing.groups.map((id) => (id === from ? into : id)))];
    return [put('drawings', drawing, { ...drawing, groups })];
  });
  const sounds = put('groups', kept, { ...kept, phonemes: [...kept.phonemes, ...gone.phonemes] });
  return mapPatch(chart, 'group.merge', [sounds, ...drawings, put('groups', gone, null)], newId, '');
}

/** Takes a group out; its sounds have none until they are given one, and silence is seen in their place. */
export function removeGroup(chart: ChartDocument, id: string, newId: IdSource): Patch | Refusal {
  const group = chart.groups.find((candidate) => candidate.id === id);
  if (!group) return NOT_THERE;
  if (id === REST) return { refusal: 'Rest plays silence: a chart needs it.' };
  const drawings = chart.drawings.flatMap((drawing) =>
    drawing.groups.includes(id) ? [put('drawings', drawing, { ...drawing, groups: drawing.groups.filter((other) => other !== id) })] : [],
  );
  return mapPatch(chart, 'group.remove', [...drawings, put('groups', group, null)], newId, '');
}

/** What of the drawings changes when groups are played by others than now. */
function given(chart: ChartDocument, choices: ReadonlyMap<string, readonly string[]>): PutOp[] {
  return chart.drawings.flatMap((drawing) => {
    const kept = drawing.groups.filter((id) => choices.get(id)?.includes(drawing.id) ?? true);
    const fresh = [...choices].flatMap(([id, drawings]) => (drawings.includes(drawing.id) && !kept.includes(id) ? [id] : []));
    return kept.length === drawing.groups.length && fresh.length === 0
      ? []
      : [put('drawings', drawing, { ...drawing, groups: [...kept, ...fresh] })];
  });
}

/** The drawing of a group, chosen by hand: in the place of those it has, or beside them, for louder or softer. */
export function setDrawingOfGroup(
  chart: ChartDocument,
  { group: id, drawing, beside = false }: { readonly group: string; readonly drawing: string; readonly beside?: boolean },
  newId: IdSource,
): Patch | Refusal {
  const group = chart.groups.find((candidate) => candidate.id === id);
  if (!group || !maybeDrawing(chart, drawing)) return NOT_THERE;
  const own = chart.drawings.filter((other) => other.groups.includes(id)).map((other) => other.id);
  const chosen = beside ? [...new Set([...own, drawing])] : [drawing];
  const ops = [...given(chart, new Map([[id, chosen]])), ...(group.inked ? [] : [put('groups', group, { ...group, inked: true })])];
  return mapPatch(chart, 'group.drawing', ops, newId, 'It plays that group already.');
}

/** Takes a drawing from a group; the last one leaves it without. */
export function removeDrawingOfGroup(chart: ChartDocument, id: string, drawing: string, newId: IdSource): Patch | Refusal {
  const own = chart.drawings.filter((other) => other.groups.includes(id) && other.id !== drawing).map((other) => other.id);
  return mapPatch(chart, 'group.drawing', given(chart, new Map([[id, own]])), newId, 'It does not play that group.');
}

/** What a diphthong begins and ends as; with nothing said it is shown as usual. */
export function setDiphthong(chart: ChartDocument, { symbol, first, second }: DiphthongEnds, newId: IdSource): Patch | Refusal {
  const before = chartSettings(chart);
  const others = (before.diphthongs ?? []).filter((one) => one.symbol !== symbol);
  const isSaid = first !== undefined || second !== undefined;
  const said = isSaid ? [{ symbol, ...(first !== undefined && { first }), ...(second !== undefined && { second }) }] : [];
  const { diphthongs: _, ...rest } = before;
  const all = [...others, ...said].sort((a, b) => (a.symbol < b.symbol ? -1 : 1));
  const after = { ...rest, ...(all.length > 0 && { diphthongs: all }) };
  return mapPatch(chart, 'group.sounds', [put('settings', before, after)], newId, '');
}

/** Lets proposals choose the drawing of a group again. */
export function freeGroup(chart: ChartDocument, id: string, newId: IdSource): Patch | Refusal {
  const group = chart.groups.find((candidate) => candidate.id === id);
  if (!group) return NOT_THERE;
  const { inked: _, ...free } = group;
  return mapPatch(
    chart,
    'group.drawing',
    group.inked ? [put('groups', group, free)] : [],
    newId,
    'A proposal may choose its drawing already.',
  );
}

/** Takes a proposed map: what a hand chose stays, and so do several drawings of a group that has the one proposed. */
export function takeFit(
  chart: ChartDocument,
  choices: readonly { readonly group: string; readonly drawing: string }[],
  newId: IdSource,
): Patch | Refusal {
  const inked = new Set(chart.groups.filter((group) => group.inked).map(({ id }) => id));
  const plays = (group: string, drawing: string): boolean => maybeDrawing(chart, drawing)?.groups.includes(group) ?? false;
  const wanted = choices.filter(({ group, drawing }) => !inked.has(group) && !plays(group, drawing));
  const ops = given(chart, new Map(wanted.map(({ group, drawing }) => [group, [drawing]])));
  return mapPatch(chart, 'group.fit', ops, newId, 'The map is as it is proposed.');
}
