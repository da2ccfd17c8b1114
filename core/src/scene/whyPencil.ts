/** Why a rule put a drawing in pencil: of a part's lane, and what a feel added to the plan of a mouth. */
import { maybeDrawing, type ChartDocument } from '../chart/chart.js';
import { madeOf } from '../draw/madeDrawings.js';
import { planBlinks } from '../keying/blinks.js';
import { planLifts } from '../keying/lifts.js';
import { saidOfLink } from '../keying/links.js';
import { overlaps } from '../time/span.js';
import { blinkJobOf, linkedSpans, ruledDrawings, stressedWords } from './partLanes.js';
import { frameNumber, sceneSettings, type Exposure, type SceneDocument, type Track } from './sceneDocument.js';

/** What of a mouth's pencil is no mouth of the plan: an in-between, a breath, a hold that settles; undefined for one that is. */
export function maybeWhyAdded({ drawing, inked }: Exposure, chart: ChartDocument): string | undefined {
  const { plain, mix, push } = madeOf(drawing);
  if (inked || (!mix && !push)) return undefined;
  const label = (id: string): string => `“${maybeDrawing(chart, id)?.label ?? id}”`;
  if (push) return `A long hold of ${label(plain)} begins a little larger for one hold, and settles: the feel asks for it.`;
  return `From ${label(mix!.a)} to ${label(mix!.b)} the mouth opens far, or it breathes in after a long rest: the feel puts what lies between, where there is a frame to spare.`;
}

/**
 * Why a part's lane shows what it does, as sentences.
 *
 * @param charts by id, that of the lane and those of the lanes that lead
 */
export function whyOfPart(
  scene: SceneDocument,
  track: Track,
  exposure: Exposure,
  { chart, charts }: { readonly chart: ChartDocument; readonly charts: ReadonlyMap<string, ChartDocument> },
): string[] {
  if (exposure.inked) return ['You decided it: it is ink, and no rule moves it.'];
  const { drawing } = exposure;
  const { shut, half, up, idle } = ruledDrawings(chart);
  const at = (frame: number): string => `frame ${frameNumber(scene, frame)}`;
  const why: string[] = [];
  if (track.blinks && (drawing === shut?.id || drawing === half?.id)) {
    const blink = planBlinks(blinkJobOf(scene, track, track.blinks)).find((one) => overlaps(one, exposure));
    if (blink)
      why.push(
        `A blink, shut from ${at(blink.shutFrom)}: ${track.blinks.perMinute} a minute, where an eye expects one or about as long after the last, never on lips that meet or in the middle of a stressed word.`,
      );
  }
  if (track.lifts && drawing === up?.id) {
    const { lengthFrames } = sceneSettings(scene);
    const lift = planLifts(track.lifts, stressedWords(scene, track.characterId), lengthFrames).find((one) => overlaps(one, exposure));
    if (lift) why.push('It goes up with a stressed word whose vowel is held long, a moment before it.');
  }
  for (const link of track.links ?? []) {
    if (maybeDrawing(chart, drawing)?.label.toLowerCase() !== link.put.toLowerCase()) continue;
    if (linkedSpans(scene, track.characterId, link, charts).some((span) => overlaps(span, exposure)))
      why.push(`It goes with ${link.of?.toLowerCase() ?? 'the mouth'}: when that ${saidOfLink(link)} this is “${link.put}”.`);
  }
  if (why.length > 0) return why;
  if (track.idle !== undefined && idle.some(({ id }) => id === drawing))
    return [`Nothing else is keyed here: the drawings tagged “idle” are gone through, each for ${track.idle} frames.`];
  return ['Nothing is keyed here: it is at rest.'];
}
