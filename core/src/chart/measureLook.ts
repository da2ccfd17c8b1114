/** The measures of any drawing, on the chart's scale, and the order of a chart by openness. */
import { measureShape, type MouthMeasures } from '../draw/measures.js';
import { boxOfArt } from '../draw/artFigure.js';
import { measurePicture } from '../picture/measurePicture.js';
import { rasterOfMarks } from '../picture/paintMarks.js';
import type { Art, DrawnArt, Look } from '../draw/art.js';

const AS_DRAWN = { width: 1, height: 1, angle: 0 };

/** Pixels a unit when a drawn mouth is measured. */
const PER_UNIT = 2;
/** Empty ground left around it, so that what is paper can be told. */
const MARGIN = 2;

const ofDrawn = new WeakMap<DrawnArt, MouthMeasures>();

function measureDrawn(art: DrawnArt): MouthMeasures {
  let measures = ofDrawn.get(art);
  if (!measures) {
    const { x, y, width, height } = boxOfArt(art);
    const box = { x: x - MARGIN, y: y - MARGIN, width: width + 2 * MARGIN, height: height + 2 * MARGIN };
    const inPixels = measurePicture(rasterOfMarks(art, { box, perUnit: PER_UNIT }));
    measures = { ...inPixels, opening: inPixels.opening / PER_UNIT, width: inPixels.width / PER_UNIT };
    ofDrawn.set(art, measures);
  }
  return measures;
}

function measureArt(art: Art): MouthMeasures {
  if (art.kind === 'built') return measureShape(art.shape);
  return art.kind === 'placed' ? art.measures : measureDrawn(art);
}

/** What a drawing shows; lengths in the chart's units. */
export function measureLook({ art, placement: { scale }, push = AS_DRAWN }: Look): MouthMeasures {
  const { opening, width, teeth, darkness } = measureArt(art);
  return { opening: opening * scale * push.height, width: width * scale * push.width, teeth, darkness };
}
