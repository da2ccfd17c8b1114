/**
 * A map proposed for any chart: which drawing plays which sound group, what is lost by it in words, which one more
 * drawing would help most, and which is not worth having. What looks unlike, and what would look alike, is weighed
 * by how often it is said.
 */
import type { ChartDocument, Drawing } from '../chart/chart.js';
import { REST, type SoundGroup } from '../chart/soundGroups.js';
import { lookDistance, type Articulation } from '../phonetics/articulation.js';
import { isVowel, maybePhoneme } from '../phonetics/phonemes.js';
import { frequencyOfSound } from '../phonetics/soundFrequencies.js';
import { featuresOfDrawing, featuresOfGroup } from './drawingFeatures.js';
import { solveFit, type FitCosts } from './solveFit.js';

/** Silence beside sounds: about a seventh of the time of a line is pauses (the labelled lines of this project). */
const REST_SHARE = 0.14;
/** What must be seen counts so many times more; and a mouth that is shut under a vowel. */
const MUST = 3;
const SHUT_VOWEL = 2;
/** Two groups that one drawing plays lose what tells them apart: so much of their distance, as often as the rarer is said. */
const CONFUSED = 0.6;
/** Farther than this a drawing does not show its group; two farther apart are seen to be one: distances of `lookDistance`. */
const FAR = 0.3;
/** Two drawings nearer than this look the same the more, the nearer they are. */
const ALIKE = 0.12;
/** A drawing that saves less than this share of the cost is not worth having; one more is told of when it saves this. */
const WORTH = 0.01;
const HELPS = 0.05;

export interface FitChoice {
  readonly group: string;
  readonly drawing: string;
  /** How unlike the two are, 0 to about 1. */
  readonly distance: number;
}

export interface FitProposal {
  readonly choices: readonly FitChoice[];
  readonly cost: number;
  /** What is lost, worst first, as sentences. */
  readonly losses: readonly string[];
  /** The group a drawing of its own would help most, and the share of the cost it would save; undefined where none would. */
  readonly more: { readonly group: string; readonly saves: number } | undefined;
  /** Drawings without which it would be hardly worse, by id. */
  readonly idle: readonly string[];
}

const weightOf = ({ id, phonemes, must }: SoundGroup): number => {
  const said = id === REST ? REST_SHARE : phonemes.reduce((sum, symbol) => sum + frequencyOfSound(symbol), 0);
  return said * (must ? MUST : 1);
};

const isShut = ({ press, jaw }: Articulation): boolean => press > 0.3 && jaw < 0.12;

/** What a drawing in the place of a group costs beside one that fits, and what two groups on one drawing lose. */
function costsOf(groups: readonly SoundGroup[], drawings: readonly Articulation[], fixed: ReadonlyMap<string, number>): FitCosts {
  const features = groups.map(featuresOfGroup);
  const weights = groups.map(weightOf);
  const distance = (group: number, drawing: Articulation): number => {
    const away = lookDistance(features[group]!, drawing);
    return groups[group]!.phonemes.some(isVowel) && isShut(drawing) ? away * SHUT_VOWEL : away;
  };
  return {
    alone: groups.map((_, group) => drawings.map((drawing) => weights[group]! * distance(group, drawing))),
    together: groups.map((_, a) =>
      groups.map((__, b) => (a === b ? 0 : CONFUSED * Math.min(weights[a]!, weights[b]!) * lookDistance(features[a]!, features[b]!))),
    ),
    alike: drawings.map((one) => drawings.map((other) => Math.max(0, 1 - lookDistance(one, other) / ALIKE))),
    fixed: groups.map(({ id }) => fixed.get(id)),
  };
}

/** A sound as one writes it, by its commonest letters. */
const lettersOf = (symbol: string): string => /\*(.+)\*/.exec(maybePhoneme(symbol)?.example ?? '')?.[1] ?? symbol.toLowerCase();

/** The sound of a group that is said most, in the letters of a word; silence for Rest. */
function saidMost({ id, phonemes }: SoundGroup): string {
  if (id === REST || phonemes.length === 0) return 'silence';
  const most = phonemes.reduce((best, symbol) => (frequencyOfSound(symbol) > frequencyOfSound(best) ? symbol : best));
  return `${lettersOf(most)} of “${maybePhoneme(most)!.example.replaceAll('*', '')}”`;
}

function lossesOf(
  groups: readonly SoundGroup[],
  drawings: readonly Drawing[],
  choice: readonly number[],
  seen: readonly Articulation[],
): string[] {
  const features = groups.map(featuresOfGroup);
  const weights = groups.map(weightOf);
  const found: { readonly lost: number; readonly sentence: string }[] = [];
  groups.forEach((group, a) => {
    const drawing = choice[a]!;
    const away = lookDistance(features[a]!, seen[drawing]!);
    if (away > FAR)
      found.push({
        lost: weights[a]! * away,
        sentence: `Nothing shows ${group.name} (${group.look}): ${saidMost(group)} goes to ${drawings[drawing]!.label}.`,
      });
    for (let b = a + 1; b < groups.length; b++) {
      const apart = lookDistance(features[a]!, features[b]!);
      if (choice[b] !== drawing || apart <= FAR / 2) continue;
      const other = groups[b]!;
      found.push({
        lost: CONFUSED * Math.min(weights[a]!, weights[b]!) * apart,
        sentence: `${group.name} and ${other.name} share ${drawings[drawing]!.label}: ${saidMost(group)} and ${saidMost(other)} will look alike.`,
      });
    }
  });
  return found.sort((x, y) => y.lost - x.lost).map(({ sentence }) => sentence);
}

/**
 * Fits a map to a chart.
 *
 * @param fixed groups whose drawing a hand has chosen, by id; they keep it
 * @example fitChart(starterChart('Test', 'brush')).choices.every(({ group, drawing }) => group === drawing) // true
 */
export function fitChart(chart: ChartDocument, fixed: ReadonlyMap<string, string> = new Map()): FitProposal {
  const { groups } = chart;
  const drawings = [...chart.drawings].sort((a, b) => a.place - b.place);
  const seen = drawings.map((drawing) => featuresOfDrawing(drawing, chart));
  const places = new Map(
    [...fixed].flatMap(([group, id]) => {
      const at = drawings.findIndex((drawing) => drawing.id === id);
      return at < 0 ? [] : [[group, at] as const];
    }),
  );
  const { choice, cost } = solveFit(costsOf(groups, seen, places));
  const costWith = (shown: readonly Articulation[]): number => solveFit(costsOf(groups, shown, places)).cost;
  // One that is just what a group needs, as a drawing beside the others.
  const isFar = (at: number): boolean => lookDistance(featuresOfGroup(groups[at]!), seen[choice[at]!]!) > FAR / 2;
  const shares = (at: number): boolean => choice.some((drawing, other) => other !== at && drawing === choice[at]);
  // A group that has a fitting drawing to itself needs no other.
  const gains = groups
    .filter(({ id }, at) => !places.has(id) && (isFar(at) || shares(at)))
    .map((group) => ({ group: group.id, saves: (cost - costWith([...seen, featuresOfGroup(group)])) / Math.max(1e-9, cost) }));
  const most = gains.reduce<(typeof gains)[number] | undefined>(
    (best, gain) => (best && best.saves >= gain.saves ? best : gain),
    undefined,
  );
  const held = new Set(places.values());
  const idle = drawings.filter((_, at) => {
    if (held.has(at) || drawings.length < 2) return false;
    // The others keep their places, and this one is as unlike everything as can be.
    const without = seen.map((shown, other) => (other === at ? NOTHING : shown));
    return costWith(without) - cost <= WORTH * cost + 1e-9;
  });
  return {
    choices: groups.map((group, at) => ({
      group: group.id,
      drawing: drawings[choice[at]!]!.id,
      distance: lookDistance(featuresOfGroup(group), seen[choice[at]!]!),
    })),
    cost,
    losses: lossesOf(groups, drawings, choice, seen),
    more: most && most.saves > HELPS ? most : undefined,
    idle: idle.map(({ id }) => id),
  };
}

/** A drawing that is no mouth at all: farther from every sound than any mouth is. */
const NOTHING: Articulation = { jaw: 9, spread: 9, round: 9, press: 9, bite: 9, teeth: 9, tip: 9, tongue: 9 };
