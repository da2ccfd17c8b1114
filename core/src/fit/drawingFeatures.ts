/**
 * What a drawing shows of a mouth, on the scale of sounds (`articulation.ts`): from its parameters where it was
 * built, else from its label where that names sounds and from its picture. The scales are our own.
 */
import type { ChartDocument, Drawing } from '../chart/chart.js';
import { maybeMatchOfName } from '../chart/matchName.js';
import { measureLook } from '../chart/measureLook.js';
import { REST, type SoundGroup } from '../chart/soundGroups.js';
import type { MouthShape } from '../draw/mouthShape.js';
import { articulationOf, AT_REST, FEATURES, meanArticulation, type Articulation, type Feature } from '../phonetics/articulation.js';

const within = (value: number): number => Math.max(0, Math.min(1, value));

/** A mouth this wide is neither spread nor pursed, and how much wider is quite spread. */
const NEUTRAL_WIDTH = 0.55;
const WIDE = 0.35;

/** Of a mouth that was built its parameters say all. */
export function featuresOfShape({ jaw, width, round, press, bite, teethUpper, teethLower, tipUp, tipOut }: MouthShape): Articulation {
  return {
    jaw: within(jaw),
    spread: within((width - NEUTRAL_WIDTH) / WIDE) * (1 - within(round)),
    round: within(round),
    press: within(press),
    bite: within(bite),
    teeth: within(Math.max(teethUpper, teethLower)),
    tip: within(tipUp),
    tongue: within(tipOut),
  };
}

/** Of a picture: how open it is and how wide beside the others, and how much of it is teeth. A narrow open mouth is round. */
function featuresOfPicture(drawing: Drawing, chart: ChartDocument): Articulation {
  const all = chart.drawings.map(measureLook);
  const [openest, widest] = [Math.max(1e-9, ...all.map(({ opening }) => opening)), Math.max(1e-9, ...all.map(({ width }) => width))];
  const { opening, width, teeth } = measureLook(drawing);
  const [jaw, wide] = [opening / openest, width / widest];
  return {
    jaw: within(jaw),
    spread: within((wide - 0.7) / 0.3) * (1 - within(jaw)),
    round: within((0.75 - wide) / 0.4),
    press: jaw < 0.06 ? 0.6 : 0,
    bite: 0,
    teeth: within(teeth * 2),
    tip: 0,
    tongue: 0,
  };
}

/** How much a label that names sounds says beside a picture, and beside parameters: it is what the animator meant. */
const LABEL_SHARE = { picture: 0.7, built: 0.5 } as const;
/** Lips that lie together and press nothing. */
const RESTING: Articulation = { ...AT_REST, press: 0.15 };

export function featuresOfGroup({ id, phonemes }: SoundGroup): Articulation {
  return id === REST || phonemes.length === 0 ? RESTING : meanArticulation(phonemes.map(articulationOf));
}

/** What a drawing shows. */
export function featuresOfDrawing(drawing: Drawing, chart: ChartDocument): Articulation {
  const isBuilt = drawing.art.kind === 'built';
  const seen = drawing.art.kind === 'built' ? featuresOfShape(drawing.art.shape) : featuresOfPicture(drawing, chart);
  const match = maybeMatchOfName(drawing.label, chart.groups);
  // “Shut” says nothing of whether lips press that their parameters do not.
  if (!match || match.isWeak || (isBuilt && match.groups.includes(REST))) return seen;
  const named = meanArticulation(match.groups.map((id) => featuresOfGroup(chart.groups.find((group) => group.id === id)!)));
  const share = isBuilt ? LABEL_SHARE.built : LABEL_SHARE.picture;
  const mixed = (feature: Feature): number => share * named[feature] + (1 - share) * seen[feature];
  return Object.fromEntries(FEATURES.map((feature) => [feature, mixed(feature)])) as Record<Feature, number>;
}
