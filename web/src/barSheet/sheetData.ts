/** What the bar sheet shows, gathered once a document: words and sounds in frames, exposures, the wave. */
import {
  chartStretches,
  exposuresOfTrack,
  indexAtSorted,
  framePositionOfSample,
  FEELS,
  heardWaves,
  ipaOf,
  mouthLaneOf,
  nameOfLane,
  maybeGroupOfPhoneme,
  placedNotSpeech,
  placedSounds,
  maybeFeel,
  maybeDrawing,
  placedPhrases,
  placedWords,
  sceneSettings,
  sharedEnds,
  sharesOf,
  writtenNumber,
  type ChartDocument,
  type Drawing,
  type EarMark,
  type Exposure,
  type Feel,
  type HeardWave,
  type LoudnessRange,
  type NoiseKind,
  type SceneDocument,
  type Track,
  type SoundsOf,
  type Pause,
  type WavePyramid,
} from '@zest-jaw/core';
import { layClips, type SheetClip } from './clipLane.js';

export interface SheetWord {
  readonly id: string;
  readonly clip: string;
  readonly text: string;
  readonly from: number;
  readonly to: number;
  readonly confidence: number;
  readonly guessed: boolean;
  /** Set or accepted by hand. */
  readonly inked: boolean;
  /** Read again, and not taken yet. */
  readonly isProposed?: boolean;
}

export interface SheetSound {
  readonly id: string;
  readonly symbol: string;
  readonly ipa: string;
  readonly from: number;
  readonly to: number;
  readonly colour: string;
  /** Read again, and not taken yet. */
  readonly isProposed?: boolean;
}

/** A recording's wave where it is heard, and where nobody speaks in it. */
export interface PlacedWave extends HeardWave {
  /** In samples of the recording. */
  readonly pauses: readonly Pause[];
}

/** What is known of a recording once it has been measured. */
export interface Measured {
  readonly pyramid: WavePyramid;
  readonly pauses: readonly Pause[];
}

/** The recordings of a scene where they are heard; those that are not measured yet are left out. */
export function placedWaves(scene: SoundsOf, measured: ReadonlyMap<string, Measured>): PlacedWave[] {
  return heardWaves(scene, (audio) => measured.get(audio)?.pyramid).map((wave) => ({ ...wave, pauses: measured.get(wave.audio)!.pauses }));
}

/** An exposure with what it shows: drawings of different charts may have the same id. */
export interface SheetExposure extends Exposure {
  /** The drawing among those of every chart: what sprites are found by. */
  readonly mouth: string;
  readonly label: string;
  /** As it stands on an exposure sheet. */
  readonly number: string;
  readonly colour: string;
  /** What would be there were the rules at hand taken. */
  readonly isProposed?: boolean;
  /** Played in, and not taken yet. */
  readonly isPlayed?: boolean;
}

/** A note, or what a person says, as the ruler shows it. */
export interface SheetNote {
  readonly from: number;
  readonly to: number;
  /** Of a person: 0. */
  readonly weight: 0 | 1 | 2 | 3;
  /** The one that is looked at. */
  readonly isChosen?: boolean;
}

/** The lane of another speaker. */
export interface OtherLane {
  readonly track: string;
  readonly name: string;
  readonly exposures: readonly SheetExposure[];
  /** To a line. */
  readonly folded?: true;
}

export interface SheetData {
  readonly words: readonly SheetWord[];
  readonly sounds: readonly SheetSound[];
  /** Where the recording is not speech. */
  readonly notSpeech: readonly { readonly from: number; readonly to: number; readonly kind?: NoiseKind }[];
  readonly exposures: readonly SheetExposure[];
  /** What the lane is of, where it is not a mouth. */
  readonly part?: string;
  /** The other lanes of the scene, in order. */
  readonly others: readonly OtherLane[];
  /** The plan to key by hand against. */
  readonly crib?: readonly SheetExposure[];
  /** What is in the place of the crib, where it is something else. */
  readonly cribName?: string;
  /** Frames where the hand differs from the crib. */
  readonly differs?: readonly { readonly from: number; readonly to: number }[];
  /** What counts as silent and as loudest where a mouth is keyed by loudness, in dBFS, and the frames where it is. */
  readonly range?: (LoudnessRange & { readonly from: number; readonly to: number }) | undefined;
  /** Phrases keyed by rules of their own, with the name of their feel. */
  readonly feels: readonly { readonly from: number; readonly to: number; readonly name: string }[];
  /** What was heard by ear. */
  readonly marks: readonly EarMark[];
  /** Frames at which the lane, or its head, has a key of its place. */
  readonly places: readonly number[];
  /** Frames where the track goes over to another chart. */
  readonly chartChanges: readonly number[];
  readonly clips: readonly SheetClip[];
  readonly waves: readonly PlacedWave[];
  /** Whose lane this is: the waves of others are drawn faintly. */
  readonly characterId: string;
  /** Where the sound changes, while an edge is dragged: in frames, and how much. */
  readonly changes?: readonly { readonly at: number; readonly by: number }[];
  /** The loudness is drawn over the wave. */
  readonly showsLoudness: boolean;
  /** What the checker found, in order, and which of it is looked at. */
  readonly notes?: readonly SheetNote[];
  /** Mouths start on every so many frames: shown on the ruler. */
  readonly grid?: number;
  readonly firstFrame: number;
  readonly framesPerSecond: number;
}

const NO_GROUPS: ChartDocument['groups'] = [];

export const NO_GROUP_COLOUR = '#a79e8b';

/** Words surer than this need no second listen. */
export const SURE_WORD = 0.88;

/** A drawing among those of every chart. */
export function mouthKey(chartId: string, drawing: string): string {
  return `${chartId}/${drawing}`;
}

/** What `mouthKey` puts together: ids of charts have no slash. */
export function partsOfMouthKey(mouth: string): { readonly chartId: string; readonly drawing: string } {
  const at = mouth.indexOf('/');
  return { chartId: mouth.slice(0, at), drawing: mouth.slice(at + 1) };
}

/** The colour of the first group a drawing plays; of an in-between, that of the nearer of its two. */
export function colourOfDrawing(chart: ChartDocument, drawing: Drawing): string {
  const [near] = [...sharesOf(drawing.id)].sort((a, b) => b[1] - a[1])[0]!;
  const { groups } = (drawing.groups.length === 0 && maybeDrawing(chart, near)) || drawing;
  return chart.groups.find((group) => group.id === groups[0])?.colour ?? NO_GROUP_COLOUR;
}

interface Face {
  readonly mouth: string;
  readonly label: string;
  readonly number: string;
  readonly colour: string;
}

/** How the lanes were shown last on some charts: what has not changed since is not made again. */
interface ShownLane {
  readonly of: readonly Exposure[];
  readonly views: SceneDocument['views'];
  readonly tracks: SceneDocument['tracks'];
  readonly made: readonly SheetExposure[];
}

const shownBefore = new WeakMap<ReadonlyMap<string, ChartDocument>, Map<string, ShownLane>>();

export function sheetExposures(
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
): readonly SheetExposure[] {
  const exposures = exposuresOfTrack(scene, trackId);
  const lanes = shownBefore.get(charts) ?? new Map<string, ShownLane>();
  shownBefore.set(charts, lanes);
  const last = lanes.get(trackId);
  const before = last?.views === scene.views && last.tracks === scene.tracks ? last : { of: [], made: [] };
  const { head, tail } = sharedEnds(before.of, exposures);
  if (head === exposures.length && head === before.of.length) return before.made;

  const known = new Map(before.of.slice(head, before.of.length - tail).map((exposure, index) => [exposure, before.made[head + index]!]));
  const faces = new Map<string, Face>();
  const faceOf = (chartId: string, id: string): Face => {
    const mouth = mouthKey(chartId, id);
    let face = faces.get(mouth);
    if (!face) {
      const chart = charts.get(chartId);
      const drawing = chart && maybeDrawing(chart, id);
      const seen = drawing
        ? { label: drawing.label, number: writtenNumber(drawing), colour: colourOfDrawing(chart, drawing) }
        : { label: id, number: '', colour: NO_GROUP_COLOUR };
      faces.set(mouth, (face = { mouth, ...seen }));
    }
    return face;
  };
  const stretches = chartStretches(scene, trackId);
  const chartAt = (frame: number): string =>
    stretches[
      Math.max(
        0,
        indexAtSorted(stretches, frame, ({ from }) => from),
      )
    ]?.chartId ?? '';
  const changed = exposures
    .slice(head, exposures.length - tail)
    .map((exposure) => known.get(exposure) ?? { ...exposure, ...faceOf(chartAt(exposure.from), exposure.drawing) });
  const made = [...before.made.slice(0, head), ...changed, ...before.made.slice(before.made.length - tail)];
  lanes.set(trackId, { of: exposures, views: scene.views, tracks: scene.tracks, made });
  return made;
}

/** What was made last is given again while it would be made of the same things. */
function remembering<Made>(): (of: readonly unknown[], make: () => Made) => Made {
  let last: { readonly of: readonly unknown[]; readonly made: Made } | undefined;
  return (of, make) => {
    if (!last || last.of.length !== of.length || last.of.some((one, index) => one !== of[index])) last = { of, made: make() };
    return last.made;
  };
}

export interface SheetOptions {
  readonly showsLoudness?: boolean;
  readonly nameOf?: (characterId: string) => string;
  readonly ownFeels?: readonly Feel[];
  /** Those of the others who speak, too. */
  readonly allCharts?: ReadonlyMap<string, ChartDocument>;
}

export type MakeSheetData = (
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
  waves: readonly PlacedWave[],
  options?: SheetOptions,
) => SheetData;

const areSame = (one: readonly unknown[], other: readonly unknown[]): boolean =>
  one.length === other.length && one.every((item, index) => item === other[index]);

/**
 * Gathers the data of one sheet over and over: a mouth that changes makes no word, no sound
 * and no other mouth again.
 */
export function sheetGatherer(): MakeSheetData {
  const keyFrames = remembering<SheetData['places']>();
  const [words, sounds, places, exposures, others] = [
    remembering<SheetData['words']>(),
    remembering<SheetData['sounds']>(),
    remembering<Pick<SheetData, 'notSpeech' | 'feels' | 'clips'>>(),
    remembering<SheetData['exposures']>(),
    remembering<SheetData['others']>(),
  ];
  let shownLanes: readonly OtherLane[] = [];
  const kept = new Map<string, { readonly of: readonly unknown[]; readonly exposures: readonly Exposure[]; readonly lane: OtherLane }>();
  /** A lane that is as it was stays the same: a mouth that changes paints no other lane again. */
  const laneOf = (
    scene: SceneDocument,
    { id: track, folded }: Track,
    name: string,
    charts: ReadonlyMap<string, ChartDocument>,
  ): OtherLane => {
    const exposures = exposuresOfTrack(scene, track);
    const of = [name, charts, scene.views, folded];
    const before = kept.get(track);
    if (before && areSame(before.of, of) && areSame(before.exposures, exposures)) return before.lane;
    const lane = { track, name, exposures: sheetExposures(scene, track, charts), ...(folded && { folded }) };
    kept.set(track, { of, exposures, lane });
    return lane;
  };
  return (scene, trackId, charts, waves, { showsLoudness = false, nameOf = () => '', ownFeels = [], allCharts = charts } = {}) => {
    const settings = sceneSettings(scene);
    const { frameRate, firstFrame } = settings;
    const frames = (sample: number): number => framePositionOfSample(frameRate, sample);
    const track = scene.tracks.find((candidate) => candidate.id === trackId);
    const speaker = track?.characterId ?? '';
    // Sounds look as their mouth has them, on whichever lane of the face.
    const mouth = track && mouthLaneOf(scene, track);
    const groups = charts.get(mouth?.chartId ?? '')?.groups ?? NO_GROUPS;
    const inFrames = <T extends { readonly from: number; readonly to: number }>(span: T): T => ({
      ...span,
      from: frames(span.from),
      to: frames(span.to),
    });
    return {
      words: words([scene.words, scene.clips, settings, speaker], () => placedWords(scene, speaker).map(inFrames)),
      sounds: sounds([scene.phonemes, scene.clips, settings, speaker, groups], () => {
        const looks = new Map<string, { readonly ipa: string; readonly colour: string }>();
        return placedSounds(scene, speaker).map(({ id, symbol, from, to }) => {
          let look = looks.get(symbol);
          if (!look)
            looks.set(symbol, (look = { ipa: ipaOf(symbol), colour: maybeGroupOfPhoneme(groups, symbol)?.colour ?? NO_GROUP_COLOUR }));
          return { id, symbol, ipa: look.ipa, from: frames(from), to: frames(to), colour: look.colour };
        });
      }),
      ...places([scene.clips, settings, speaker, ownFeels, nameOf], () => ({
        notSpeech: placedNotSpeech(scene, speaker).map(inFrames),
        feels: placedPhrases(scene, speaker).map(({ from, to, rules }) => ({
          from: frames(from),
          to: frames(to),
          name: maybeFeel(rules, [...FEELS, ...ownFeels])?.name ?? (rules.source === 'loudness' ? 'by loudness' : 'own feel'),
        })),
        clips: layClips(scene, nameOf),
      })),
      ...(track?.part !== undefined && { part: track.part.toLowerCase() }),
      exposures: exposures([scene.exposures, scene.views, scene.tracks, trackId, charts], () => sheetExposures(scene, trackId, charts)),
      others: others([scene.exposures, scene.views, scene.tracks, trackId, allCharts, nameOf], () => {
        const now = scene.tracks
          .filter(({ id }) => id !== trackId)
          .map((other) => {
            // Of the same face it is said what it is, of another's whose.
            const name =
              other.characterId === speaker ? (other.part?.toLowerCase() ?? 'mouth') : nameOfLane(other, nameOf(other.characterId));
            return laneOf(scene, other, name, allCharts);
          });
        return (shownLanes = areSame(shownLanes, now) ? shownLanes : now);
      }),
      marks: scene.marks.filter((mark) => mark.characterId === speaker),
      places: keyFrames([scene.places, trackId], () => [
        ...new Set(scene.places.filter((key) => key.track === trackId).map((key) => key.frame)),
      ]),
      chartChanges: chartStretches(scene, trackId)
        .slice(1)
        .map((stretch) => stretch.from),
      waves,
      characterId: speaker,
      showsLoudness,
      firstFrame,
      framesPerSecond: Math.round(frameRate.num / frameRate.den),
    };
  };
}

/** The data of a sheet that is gathered once. */
export const sheetData: MakeSheetData = (...of) => sheetGatherer()(...of);
