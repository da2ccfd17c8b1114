/** Paints the lanes of mouths: the one that is worked on, the crib above it, and those of the others below. */
import { maybeCutTo } from '@zest-jaw/core';
import { heightAtWidth } from '../mouth/paintFigure.js';
import { box, fitText, FONT, type Brush } from './brush.js';
import { LABEL_WIDTH, lanesBelow, placeMouths, type PlacedMouth, type Row } from './plan.js';
import type { SheetExposure } from './sheetData.js';

/** A cell narrower than this is a stripe in its colour, and has no room for its drawing; in pixels. */
const NARROWEST_CELL = 3.2;

function paintStripe({ context, palette }: Brush, { exposure, x, width }: PlacedMouth<SheetExposure>, row: Row): void {
  context.fillStyle = exposure.colour;
  context.globalAlpha *= exposure.inked ? 1 : 0.55;
  context.fillRect(x, row.y + row.height * 0.4, Math.max(0.5, width - 0.5), row.height * 0.6);
  context.globalAlpha = 1;
  if (!exposure.inked) return;
  context.fillStyle = palette.ink;
  context.fillRect(x, row.y + row.height * 0.4 - 3, Math.max(0.5, width), 2);
}

function paintCell(brush: Brush, mouth: PlacedMouth<SheetExposure>, row: Row): void {
  const { context, palette } = brush;
  const { exposure, x, width, level, centre, size } = mouth;
  if (width < NARROWEST_CELL) {
    paintStripe(brush, mouth, row);
    return;
  }
  context.fillStyle = exposure.isProposed ? palette.zestSoft : exposure.inked ? palette.ground : palette.sheet;
  // What was played in has a blue of its own.
  const isSolid = exposure.inked || exposure.isPlayed === true;
  context.strokeStyle = exposure.isPlayed ? palette.hiss : exposure.inked ? palette.ink : palette.graphite;
  context.lineWidth = isSolid ? 1.8 : 1;
  context.setLineDash(isSolid ? [] : [3, 3]);
  box(context, x + 1, row.y + 1, width - 2, row.height - 2, 7);
  context.fill();
  context.stroke();
  context.setLineDash([]);
  context.fillStyle = exposure.colour;
  box(context, x + 4, row.y + row.height - 6, width - 8, 3, 1.5);
  context.fill();
  if (level !== 'full') return;
  const holdFrom = centre + size / 2 + 4;
  if (x + width - holdFrom < 16) return;
  context.fillStyle = context.strokeStyle = exposure.inked && palette.night ? palette.sheet : context.strokeStyle;
  context.lineWidth = exposure.inked ? 1.6 : 1;
  context.beginPath();
  context.moveTo(holdFrom, row.y + row.height / 2);
  context.lineTo(x + width - 10, row.y + row.height / 2);
  context.stroke();
  context.beginPath();
  context.arc(x + width - 10, row.y + row.height / 2, 2.4, 0, 7);
  context.fill();
}

function paintMouth({ context, sprites }: Brush, { exposure, width, level, centre, size }: PlacedMouth<SheetExposure>, row: Row): void {
  if (width < NARROWEST_CELL) return;
  const sprite = sprites.maybeGet(exposure.mouth, size, exposure.inked);
  if (!sprite) return;
  const height = heightAtWidth(size);
  // The upper lip of every mouth of a level lies on one line, as it does on the face.
  const lower = Math.min(row.height * 0.42, row.height - height * 0.72);
  const top = level === 'full' ? row.y + 4 : level === 'above' ? row.y + 2 : row.y + lower;
  context.drawImage(sprite, centre - size / 2, top, size, height);
}

/** A bracket over the lane with the name of the feel: phrases that do not go by their track's. */
function paintFeels({ context, data, system, palette }: Brush, row: Row): void {
  context.textAlign = 'left';
  context.textBaseline = 'alphabetic';
  context.font = `550 12px ${FONT}`;
  for (const feel of data.feels) {
    const seen = maybeCutTo(feel, system);
    if (!seen) continue;
    const { from, to } = seen;
    const [left, right, y] = [system.scale.x(from) + 1, system.scale.x(to) - 1, row.y - 4.5];
    context.strokeStyle = palette.ink;
    context.lineWidth = 1.4;
    context.beginPath();
    if (from === feel.from) context.moveTo(left, y + 5);
    context.lineTo(left, y);
    context.lineTo(right, y);
    if (to === feel.to) context.lineTo(right, y + 5);
    context.stroke();
    if (from !== feel.from) continue;
    const width = context.measureText(feel.name).width + 10;
    context.fillStyle = palette.sheet;
    context.beginPath();
    context.roundRect(left + 5, y - 8, width, 14, 4);
    context.fill();
    context.fillStyle = palette.ink;
    context.fillText(feel.name, left + 10, y + 3.5);
  }
  context.lineWidth = 1;
}

/** A tab at the foot of the lane where the track goes over to another chart. */
function paintChartChanges({ context, data, system, palette }: Brush, row: Row): void {
  for (const frame of data.chartChanges) {
    if (frame < system.from || frame >= system.to) continue;
    const x = system.scale.x(frame);
    context.fillStyle = palette.ink;
    context.fillRect(x - 1, row.y, 2, row.height);
    context.beginPath();
    context.moveTo(x, row.y + row.height);
    context.lineTo(x + 9, row.y + row.height);
    context.lineTo(x, row.y + row.height - 9);
    context.closePath();
    context.fill();
  }
}

/** The plan above the hand's lane, a little smaller, and marks where the hand differs. */
export function paintCrib(brush: Brush, row: Row): void {
  const { context, data, system, palette } = brush;
  const placed = placeMouths(data.crib ?? [], system, 0.8);
  context.globalAlpha = 0.75;
  for (const mouth of placed) paintCell(brush, mouth, row);
  for (const mouth of placed) paintMouth(brush, mouth, row);
  context.globalAlpha = 1;
  context.fillStyle = palette.zest;
  for (const span of data.differs ?? []) {
    const seen = maybeCutTo(span, system);
    if (seen) context.fillRect(system.scale.x(seen.from) + 1, row.y + row.height - 1, (seen.to - seen.from) * system.scale.perFrame - 2, 3);
  }
  context.lineWidth = 1;
}

/** A small lozenge at the top of the lane where a key of its place is. */
function paintPlaces({ context, data, system, palette }: Brush, row: Row): void {
  context.fillStyle = palette.ink;
  for (const frame of data.places) {
    if (frame < system.from || frame >= system.to) continue;
    const [x, y, half] = [system.scale.x(frame) + system.scale.perFrame / 2, row.y + 1, 4];
    context.beginPath();
    context.moveTo(x, y - half);
    context.lineTo(x + half, y);
    context.lineTo(x, y + half);
    context.lineTo(x - half, y);
    context.fill();
  }
}

export function paintMouths(brush: Brush, row: Row): void {
  const placed = placeMouths(brush.data.exposures, brush.system, brush.plan.mouthGrowth);
  for (const mouth of placed) paintCell(brush, mouth, row);
  for (const mouth of placed) paintMouth(brush, mouth, row);
  paintChartChanges(brush, row);
  paintFeels(brush, row);
  paintPlaces(brush, row);
  brush.context.lineWidth = 1;
}

/** The lanes of the others who speak, small, one below the other. */
export function paintOthers(brush: Brush, row: Row): void {
  const { context, data, system, palette } = brush;
  lanesBelow(data.others).forEach(({ lane: { name, exposures, folded }, y, height }) => {
    const lane: Row = { name: 'others', y: row.y + y, height: height - 3 };
    const placed = placeMouths(exposures, system, 0.45);
    context.globalAlpha = 0.8;
    for (const mouth of placed) {
      if (folded) paintStripe(brush, mouth, lane);
      else paintCell(brush, mouth, lane);
    }
    if (!folded) for (const mouth of placed) paintMouth(brush, mouth, lane);
    context.globalAlpha = 1;
    context.font = `450 ${folded ? 10 : 12}px ${FONT}`;
    context.fillStyle = palette.inkSoft;
    context.textAlign = 'left';
    context.textBaseline = 'middle';
    context.fillText(fitText(context, name, LABEL_WIDTH - 4), 2, lane.y + lane.height / 2);
  });
  context.lineWidth = 1;
}
