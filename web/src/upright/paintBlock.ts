/** Paints a block of rows of the exposure sheet. */
import { extremesOf, maybeCutTo } from '@zest-jaw/core';
import { box, fitText, FONT } from '../barSheet/brush.js';
import type { Palette } from '../barSheet/palette.js';
import type { SystemPlan } from '../barSheet/plan.js';
import { SURE_WORD, type SheetData, type SheetExposure } from '../barSheet/sheetData.js';
import { FRAMES_PER_FOOT, type Looking } from '../looking/looking.js';
import { heightAtWidth, type MouthSprites } from '../mouth/paintFigure.js';
import { columnNamed, type Column, type UprightPlan } from './uprightPlan.js';

export interface UprightBrush {
  readonly context: CanvasRenderingContext2D;
  readonly plan: UprightPlan;
  readonly block: SystemPlan;
  readonly data: SheetData;
  readonly palette: Palette;
  readonly sprites: MouthSprites;
  readonly thick: Looking['thick'];
}

const y = ({ block, plan }: UprightBrush, frame: number): number => (frame - block.from) * plan.rowHeight;

function paintRows(brush: UprightBrush): void {
  const { context, plan, block, data, palette, thick } = brush;
  const column = columnNamed(plan, 'frame');
  const every = thick === 'feet' ? FRAMES_PER_FOOT : data.framesPerSecond;
  const beat = thick === 'feet' ? FRAMES_PER_FOOT / 2 : data.framesPerSecond / 2;
  context.textBaseline = 'middle';
  for (let frame = block.from; frame < block.to; frame++) {
    const top = y(brush, frame);
    const isThick = frame % every === 0;
    context.fillStyle = isThick ? palette.ink : palette.rule;
    context.globalAlpha = isThick || frame % beat === 0 ? 1 : 0.5;
    context.fillRect(0, top, plan.width, isThick ? 2 : 1);
    context.globalAlpha = 1;
    const middle = top + plan.rowHeight / 2 + 1;
    context.textAlign = 'right';
    context.fillStyle = isThick ? palette.ink : palette.inkSoft;
    context.font = `${isThick ? 650 : 450} 13px ${FONT}`;
    context.fillText(String(frame + data.firstFrame), column.x + column.width - 34, middle);
    if (!isThick) continue;
    context.textAlign = 'left';
    context.font = `650 12px ${FONT}`;
    context.fillText(thick === 'feet' ? `${frame / every} ft` : `${frame / every} s`, column.x + column.width - 28, middle);
  }
}

function paintWave({ context, plan, block, data, palette }: UprightBrush): void {
  const { x, width } = columnNamed(plan, 'wave');
  const [middle, half] = [x + width / 2, width / 2 - 2];
  for (const { characterId, startFrame, fromFrame, toFrame, samplesPerFrame, gain, pyramid } of data.waves) {
    const [from, to] = [Math.max(block.from, fromFrame), Math.min(block.to, toFrame)];
    if (from >= to) continue;
    const [blocks] = pyramid.levels;
    const perFrame = samplesPerFrame / blocks.samplesPerBlock;
    const loudest = Math.max(0.05, blocks.loudest);
    const wide = (level: number): number => Math.min(half, ((level * (gain || 1)) / loudest) ** 0.7 * half);
    context.globalAlpha = gain === 0 || characterId !== data.characterId ? 0.3 : 1;
    for (let top = (from - block.from) * plan.rowHeight; top < (to - block.from) * plan.rowHeight; top += 2) {
      const at = (pixels: number): number => Math.floor((block.from + pixels / plan.rowHeight - startFrame) * perFrame);
      const first = at(top);
      const last = Math.max(first + 1, at(top + 2));
      if (last <= 0 || first >= blocks.lowest.length) continue;
      const { lowest, highest, hiss } = extremesOf(pyramid, first, last);
      const [right, left] = [wide(highest), wide(-lowest)];
      context.fillStyle = hiss > 0.5 ? palette.hiss : palette.voice;
      context.fillRect(middle - left - 0.4, top, left + right + 0.8, 1.7);
    }
    context.globalAlpha = 1;
  }
}

function paintSpoken(brush: UprightBrush): void {
  const { context, plan, block, data, palette } = brush;
  const [words, sounds] = [columnNamed(plan, 'words'), columnNamed(plan, 'sounds')];
  context.textBaseline = 'middle';
  for (const word of data.words) {
    const seen = maybeCutTo(word, block);
    if (!seen) continue;
    const [top, height] = [y(brush, seen.from), (seen.to - seen.from) * plan.rowHeight];
    context.fillStyle = palette.word;
    box(context, words.x, top + 1, words.width, height - 1, 6);
    context.fill();
    if (word.confidence < SURE_WORD || word.guessed) {
      context.fillStyle = palette.zest;
      context.fillRect(words.x, top + 3, 3, height - 5);
    }
    if (seen.from !== word.from && seen.to - seen.from < 1) continue;
    context.fillStyle = palette.ink;
    context.textAlign = 'left';
    context.font = `560 14px ${FONT}`;
    context.fillText(fitText(context, word.text, words.width - 14), words.x + 8, top + Math.min(height / 2, plan.rowHeight * 0.6));
  }
  for (const sound of data.sounds) {
    const seen = maybeCutTo(sound, block);
    if (!seen) continue;
    const [top, height] = [y(brush, seen.from), (seen.to - seen.from) * plan.rowHeight];
    context.fillStyle = sound.colour;
    context.globalAlpha = palette.night ? 0.32 : 0.18;
    box(context, sounds.x, top + 1, sounds.width, height - 1, 4);
    context.fill();
    context.globalAlpha = 1;
    context.fillRect(sounds.x, top + 1, 3, Math.max(1, height - 1));
    if (height < 11) continue;
    context.fillStyle = palette.ink;
    context.textAlign = 'center';
    context.font = `500 14px ${FONT}`;
    context.fillText(sound.ipa, sounds.x + sounds.width / 2 + 1, top + height / 2 + 0.5);
  }
}

/** Room for the label of a drawing, in pixels. */
const LABEL_ROOM = 72;

/** The number where a drawing begins, and the line down as far as it is held. */
function paintExposure(brush: UprightBrush, exposure: SheetExposure, column: Column): void {
  const { context, plan, block, palette, sprites } = brush;
  const seen = maybeCutTo(exposure, block);
  if (!seen) return;
  const { rowHeight } = plan;
  const [top, height] = [y(brush, seen.from), (seen.to - seen.from) * rowHeight];
  const ink = exposure.isPlayed ? palette.hiss : exposure.inked ? palette.ink : palette.graphite;
  const { x, width } = column;
  context.fillStyle = exposure.isProposed ? palette.zestSoft : exposure.inked ? palette.ground : palette.sheet;
  box(context, x, top + 1.5, width, height - 2, 5);
  context.fill();
  context.setLineDash(exposure.inked || exposure.isPlayed ? [] : [3, 3]);
  context.strokeStyle = ink;
  context.lineWidth = exposure.inked ? 1.6 : 1;
  context.stroke();
  context.setLineDash([]);
  context.fillStyle = exposure.colour;
  context.fillRect(x + 2, top + 4, 3, height - 7);
  const night = exposure.inked && palette.night;
  if (seen.from === exposure.from) {
    context.fillStyle = night ? palette.sheet : palette.ink;
    context.textBaseline = 'middle';
    context.textAlign = 'left';
    const middle = top + rowHeight / 2 + 1.5;
    context.font = `650 14px ${FONT}`;
    context.fillText(exposure.number, x + 11, middle);
    const after = x + 11 + context.measureText(exposure.number).width + 8;
    context.font = `450 13px ${FONT}`;
    // A drawing has room where it is held for two rows and more.
    const size = Math.min(rowHeight * 2.4, height * 1.5, width * 0.42);
    const sprite = sprites.maybeGet(exposure.mouth, size, exposure.inked);
    context.fillText(fitText(context, exposure.label, LABEL_ROOM), after, middle);
    if (sprite) {
      const tall = heightAtWidth(size);
      context.save();
      context.beginPath();
      context.rect(x, top + 2, width, height - 3);
      context.clip();
      context.drawImage(
        sprite,
        x + Math.min(width - size - 4, 40 + LABEL_ROOM),
        top + Math.max(1, Math.min((height - tall) / 2, 4)),
        size,
        tall,
      );
      context.restore();
    }
  }
  const from = seen.from === exposure.from ? top + rowHeight : top;
  const to = top + height - (seen.to === exposure.to ? 5 : 0);
  if (to - from < 4) return;
  context.fillStyle = night ? palette.sheet : ink;
  context.fillRect(x + 15, from, exposure.inked ? 1.8 : 1, to - from);
  if (seen.to === exposure.to) context.fillRect(x + 11, to - 1, 9, 1.6);
}

function paintLanes(brush: UprightBrush): void {
  const { context, plan, block, data, palette } = brush;
  for (const column of plan.columns) {
    const exposures =
      column.name === 'mouth' ? data.exposures : column.name === 'others' ? (data.others[column.index]?.exposures ?? []) : undefined;
    if (!exposures) continue;
    context.globalAlpha = column.name === 'others' ? 0.75 : 1;
    for (const exposure of exposures) paintExposure(brush, exposure, column);
    context.globalAlpha = 1;
  }
  const lane = columnNamed(plan, 'mouth');
  context.fillStyle = palette.ink;
  for (const frame of data.chartChanges)
    if (frame >= block.from && frame < block.to) context.fillRect(lane.x - 3, y(brush, frame) - 1, lane.width + 6, 3);
  context.fillStyle = palette.zest;
  for (const span of data.differs ?? []) {
    const seen = maybeCutTo(span, block);
    if (seen) context.fillRect(lane.x + lane.width - 3, y(brush, seen.from) + 2, 3, (seen.to - seen.from) * plan.rowHeight - 3);
  }
  context.lineWidth = 1;
}

/** What was heard by ear, in the margin of the words. */
function paintMarks(brush: UprightBrush): void {
  const { context, plan, block, data, palette } = brush;
  const words = columnNamed(plan, 'words');
  context.textAlign = 'right';
  context.textBaseline = 'middle';
  context.font = `550 12px ${FONT}`;
  context.fillStyle = palette.ink;
  for (const { frame, text } of data.marks)
    if (frame >= block.from && frame < block.to)
      context.fillText(text, words.x + words.width - 5, y(brush, frame) + plan.rowHeight / 2 + 1);
}

/** Paints the whole block; the canvas is as wide as the sheet and as high as its rows, in CSS pixels. */
export function paintBlock(brush: UprightBrush): void {
  const { context, plan, block } = brush;
  context.clearRect(0, 0, plan.width, (block.to - block.from) * plan.rowHeight);
  paintRows(brush);
  paintWave(brush);
  paintSpoken(brush);
  paintMarks(brush);
  paintLanes(brush);
}
