/**
 * The shapes a mouth should take, one after another without a gap, each with the frame it
 * should change at: sounds, the halves of diphthongs, and what a mouth does in pauses.
 */
import { chartSettings, type ChartDocument, type DiphthongEnds } from '../chart/chart.js';
import { maybeGroupOfPhoneme, REST, type SoundGroup } from '../chart/soundGroups.js';
import { articulationOf } from '../phonetics/articulation.js';
import { isVowel } from '../phonetics/phonemes.js';
import { isRoundedVowel } from '../phonetics/soundPlaces.js';
import { framesPerSecond, SAMPLE_RATE } from '../time/frameRate.js';
import { lookOfChart } from './chartLook.js';
import type { KeyingJob, SceneSound } from './keyingJob.js';
import { rulesOfSounds } from './ruledParts.js';
import { fullRules, type FullRules } from './rules.js';

/** Frames in which a sound must be seen at least once, whole and inclusive. */
export interface MustBeSeen {
  readonly sound: number;
  readonly first: number;
  readonly last: number;
}

export interface Shape {
  /** Indexes of the sounds it plays; none for a pause. */
  readonly sounds: readonly number[];
  readonly group: string;
  readonly drawing: string;
  /** The frame it should change at, with its fraction. */
  readonly target: number;
  /** Where the next shape should begin; the scene's end for the last. */
  readonly end: number;
  /** What it costs not to show it, of something quite different. */
  readonly weight: number;
  /** What must be seen of it, in order. */
  readonly musts: readonly MustBeSeen[];
  readonly isPause: boolean;
}

/** A shape with the rules it is keyed by: a pause has those of what was said before it. */
export interface RuledShape extends Shape {
  readonly rules: FullRules;
}

/** How long after its lips open a stop is still the stop, in seconds: the voice of p comes late (L. Lisker and A. Abramson, 1964; from memory). */
const BREATH_BEFORE_VOICE: Readonly<Record<string, number>> = { P: 0.05, B: 0.01 };

/** A vowel with primary stress, another, one without; and a pause for each second it lasts. Ours, set by eye. */
const WEIGHT = {
  stressed: 3,
  vowel: 2,
  unstressed: 1.2,
  must: 6,
  consonant: 0.5,
  pause: 2,
  pauseSecond: 4,
  relaxed: 2.2,
  secondHalf: 1.6,
} as const;
/** Where a diphthong goes over to its second shape, as a share of it; and what each ends as. */
const TURNS_AT = 0.55;
const ENDS_AS: Readonly<Record<string, string>> = { AY: 'IY', AW: 'UW', OY: 'IY', EY: 'IY', OW: 'UW' };
const BEGINS_AS: Readonly<Record<string, string>> = { EY: 'EH' };

function weightOf({ symbol, stress }: SceneSound, isMust: boolean): number {
  if (isMust) return WEIGHT.must;
  if (isVowel(symbol)) return stress === 1 ? WEIGHT.stressed : stress === 0 ? WEIGHT.unstressed : WEIGHT.vowel;
  // What lips and tongue do outside is seen; what the tongue does inside goes first.
  const { press, bite, round, tongue, teeth } = articulationOf(symbol);
  return WEIGHT.consonant + Math.max(press, bite, round, tongue, teeth / 2);
}

/** How loud a span of frames is, 0 to 1; undefined when it is not known. */
function levelOf(loudness: Float32Array | undefined, from: number, to: number): number | undefined {
  if (!loudness) return undefined;
  let most = 0;
  for (let frame = Math.max(0, Math.floor(from)); frame < Math.min(loudness.length, Math.ceil(to)); frame++)
    most = Math.max(most, loudness[frame]!);
  return most;
}

/** Of several drawings of a group the one whose size fits how loud and how stressed a sound is. */
function sized(sizes: readonly string[], sound: SceneSound, level: number | undefined, accents: boolean): string {
  if (sizes.length === 1) return sizes[0]!;
  const middle = sizes[(sizes.length - 1) >> 1]!;
  if (!accents) return middle;
  const stress = sound.stress === 1 ? 0.75 : sound.stress === 0 ? 0.25 : 0.5;
  const size = level === undefined ? stress : 0.7 * level + 0.3 * stress;
  return sizes[Math.min(sizes.length - 1, Math.floor(size * sizes.length))]!;
}

/**
 * Drawings that take turns. Each phrase begins its own round, one drawing further than the phrase before it began, so
 * that what is changed in one phrase moves nothing in the others.
 */
function openTurns(): { next(group: string, drawings: readonly string[]): string; endPhrase(): void } {
  let phrase = 0;
  const taken = new Map<string, number>();
  return {
    next: (group, drawings) => {
      const turn = taken.get(group) ?? phrase;
      taken.set(group, turn + 1);
      return drawings[turn % drawings.length]!;
    },
    endPhrase: () => {
      phrase += 1;
      taken.clear();
    },
  };
}

/** Adds a shape; one that shows what the shape before it shows is one with it. */
function addShape(shapes: RuledShape[], shape: RuledShape): void {
  const before = shapes.at(-1);
  if (!before) {
    shapes.push({ ...shape, target: Math.min(0, shape.target) });
    return;
  }
  const target = Math.max(shape.target, before.target);
  if (before.drawing === shape.drawing && before.group === shape.group) {
    shapes[shapes.length - 1] = {
      ...before,
      sounds: [...before.sounds, ...shape.sounds.filter((sound) => sound !== before.sounds.at(-1))],
      end: shape.end,
      // The halves of one sound are lost once, sounds that look alike each.
      weight:
        shape.sounds[0] !== undefined && shape.sounds[0] === before.sounds.at(-1)
          ? Math.max(before.weight, shape.weight)
          : before.weight + shape.weight,
      musts: [...before.musts, ...shape.musts],
    };
    return;
  }
  shapes[shapes.length - 1] = { ...before, end: target };
  shapes.push({ ...shape, target, end: Math.max(target, shape.end) });
}

/**
 * The first frame in which a sound that must be seen may be seen last. For p and b the sound
 * is the opening: the lips are closed on the frame before it (common practice, no source).
 */
function firstSeen({ symbol, from, to }: SceneSound, fps: number, lead: number): number {
  const first = Math.max(0, Math.ceil((from / SAMPLE_RATE) * fps - lead - 1));
  const breath = BREATH_BEFORE_VOICE[symbol];
  if (breath === undefined) return first;
  const release = Math.max((from + to) / 2, to - breath * SAMPLE_RATE) / SAMPLE_RATE;
  return Math.max(first, Math.round(release * fps - lead) - 1);
}

/** How the chart shows a diphthong, where that is said; a group that is gone says nothing. */
function endsOf(chart: ChartDocument, symbol: string): DiphthongEnds | undefined {
  const ends = chartSettings(chart)?.diphthongs?.find((one) => one.symbol === symbol);
  const isThere = (id: string | null | undefined): boolean => chart.groups.some((group) => group.id === id);
  return (
    ends && {
      symbol,
      ...(isThere(ends.first) && { first: ends.first! }),
      ...((ends.second === null || isThere(ends.second)) && { second: ends.second! }),
    }
  );
}

/** Those that take the shape of what follows, where their group says so: the tongue does them, and the lips are free (common practice, no source). */
const FOLLOWERS = new Set(['R', 'L', 'HH', 'AH']);
/** A vowel after a longer gap has nothing to do with the sound before it, in samples: 30 ms. */
const NEXT_WITHIN = 0.03 * SAMPLE_RATE;

/**
 * The group a sound looks like beside what is said next: r, l, h and schwa may look like the vowel after them, and a
 * rounded vowel may round the consonants before it. Lips that must be seen are nobody else's.
 */
function besideNext(groups: readonly SoundGroup[], sound: SceneSound, next: SceneSound | undefined): SoundGroup | undefined {
  const own = maybeGroupOfPhoneme(groups, sound.symbol);
  if (!own || own.must || !next || !isVowel(next.symbol) || next.from - sound.to > NEXT_WITHIN) return own;
  const after = maybeGroupOfPhoneme(groups, next.symbol);
  if (own.follows && FOLLOWERS.has(sound.symbol) && sound.stress !== 1) return after ?? own;
  return after?.rounds && !isVowel(sound.symbol) && isRoundedVowel(next.symbol) ? after : own;
}

/** @returns shapes that follow one another from frame 0 to the scene's end; at least one */
export function shapesOf(job: KeyingJob): RuledShape[] {
  const { sounds, frameRate, lengthFrames, chart, loudness } = job;
  const ruled = rulesOfSounds(job);
  const whole = fullRules(job.rules);
  const look = lookOfChart(chart);
  const fps = framesPerSecond(frameRate);
  const perSample = fps / SAMPLE_RATE;
  const shapes: RuledShape[] = [];
  const turns = openTurns();
  const drawingOf = (group: string, rules: FullRules, pick: (drawings: readonly string[]) => string): string => {
    const drawings = look.sizesOf(group, rules.tag);
    return drawings.length > 1 && look.isInTurn(group) ? turns.next(group, drawings) : pick(drawings);
  };
  // What is said in a phrase keyed by loudness has no shapes: to the plan it is a pause, behind a wall.
  const said = sounds.flatMap((_, index) => (ruled[index]!.source === 'loudness' ? [] : [index]));
  /** The chart's own rest where it may be shown. */
  const restOf = (drawings: readonly string[]): string => (drawings.includes(look.restDrawing) ? look.restDrawing : drawings[0]!);
  const pause = (from: number, to: number, next: FullRules): void => {
    const seconds = (to - from) / fps;
    const before = shapes.at(-1);
    const rules = before?.rules ?? next;
    const [lead, settle] = [rules.leadFrames, rules.settleFrames];
    const isRest = !before || seconds >= rules.restPause || to >= lengthFrames;
    if (!isRest && seconds < rules.holdPause) return;
    if (isRest && before) turns.endPhrase();
    const drawing = isRest ? drawingOf(REST, rules, restOf) : look.relaxed(before.drawing);
    const target = from - lead + (before ? Math.min(settle, Math.max(0, to - from - 1)) : 0);
    const weight = isRest ? WEIGHT.pause + WEIGHT.pauseSecond * seconds : WEIGHT.relaxed;
    addShape(shapes, { sounds: [], group: REST, drawing, target, end: to - lead, weight, musts: [], isPause: true, rules });
  };
  let end = 0;
  said.forEach((index, place) => {
    const sound = sounds[index]!;
    const rules = ruled[index]!;
    const lead = rules.leadFrames;
    const [from, to] = [sound.from * perSample, sound.to * perSample];
    const gap = from - end;
    if (gap > 1e-6) pause(end, from, rules);
    const startsPhrase = place === 0 || (shapes.at(-1)!.isPause && gap / fps >= rules.restPause);
    const next = sounds[said[place + 1] ?? -1];
    const own = besideNext(chart.groups, sound, next)?.id ?? REST;
    const isMust = chart.groups.some((group) => group.id === own && group.must) && isPlayed(job, own);
    // It never eats up the rest before it.
    const anticipation = startsPhrase ? Math.min(rules.anticipationFrames, Math.max(0, gap - lead - rules.holdFrames)) : 0;
    const musts: MustBeSeen[] = isMust
      ? [{ sound: index, first: firstSeen(sound, fps, lead), last: Math.min(lengthFrames, Math.ceil(to)) - 1 }]
      : [];
    const level = levelOf(loudness, from, to);
    const part = (group: string, target: number, until: number, weight: number): void =>
      addShape(shapes, {
        sounds: [index],
        group,
        drawing: drawingOf(group, rules, (drawings) => sized(drawings, sound, level, rules.accents)),
        target,
        end: until,
        weight,
        musts,
        isPause: false,
        rules,
      });
    const weight = weightOf(sound, isMust);
    const groupAs = (symbol: string | undefined): string | undefined =>
      symbol === undefined ? undefined : maybeGroupOfPhoneme(chart.groups, symbol)?.id;
    const ends = endsOf(chart, sound.symbol);
    const first = ends?.first ?? groupAs(BEGINS_AS[sound.symbol]) ?? own;
    const second = ends?.second === null ? undefined : (ends?.second ?? (BEGINS_AS[sound.symbol] ? own : groupAs(ENDS_AS[sound.symbol])));
    if (ENDS_AS[sound.symbol] && second && second !== first && (to - from) * (1 - TURNS_AT) >= 1) {
      const turn = from + (to - from) * TURNS_AT;
      part(first, from - lead - anticipation, turn - lead, weight);
      part(second, turn - lead, to - lead, WEIGHT.secondHalf);
    } else part(ends?.first ?? own, from - lead - anticipation, to - lead, weight);
    end = to;
  });
  if (end < lengthFrames) pause(end, lengthFrames, whole);
  if (shapes.length === 0) pause(0, Math.max(1, lengthFrames), whole);
  shapes[shapes.length - 1] = { ...shapes.at(-1)!, end: lengthFrames };
  return shapes;
}

/** Whether a group has a drawing of its own: what has none cannot be seen. */
function isPlayed({ chart }: KeyingJob, group: string): boolean {
  return chart.drawings.some((drawing) => drawing.groups.includes(group));
}
