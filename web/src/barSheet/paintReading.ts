/** Paints what was read: words, sounds, what is not speech, and what was heard by ear. */
import { maybeCutTo } from '@zest-jaw/core';
import { box, fitText, FONT, type Brush } from './brush.js';
import type { Palette } from './palette.js';
import { isSpokenIn, type Row, type SystemPlan } from './plan.js';
import { SURE_WORD } from './sheetData.js';

/** The words or sounds of the system, whole, as x and width; one too long for any row is cut at its ends. */
function* visibleSpans<T extends { from: number; to: number }>(
  spans: readonly T[],
  system: SystemPlan,
): Generator<{ item: T; x: number; width: number }> {
  const { wordsFrom, wordsTo, scale } = system;
  let told = Number.NEGATIVE_INFINITY;
  for (const item of spans) {
    if (!isSpokenIn(system, item)) continue;
    const x = scale.x(Math.max(item.from, wordsFrom));
    const end = scale.x(Math.min(item.to, wordsTo));
    // In half an hour on one row, most of what is said has no pixel of its own.
    if (end < told + LEAST_SEEN) continue;
    told = end;
    yield { item, x, width: end - x };
  }
}

/** Ends nearer to each other than this cannot be told apart, in pixels. */
const LEAST_SEEN = 0.4;

/** Narrower spans have no room for a letter; in pixels. */
const NARROWEST_TEXT = 6;

export function paintWords(brush: Brush, row: Row): void {
  const { context, system, data, palette } = brush;
  paintNotSpeech(brush, row, true);
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  for (const { item, x, width } of visibleSpans(data.words, system)) {
    if (width < NARROWEST_TEXT) {
      context.fillStyle = item.isProposed ? palette.zestSoft : palette.word;
      context.fillRect(x, row.y, Math.max(0.5, width - 0.5), row.height - 1);
      continue;
    }
    context.font = `560 14px ${FONT}`;
    if (context.measureText(item.text).width > width - 4) context.font = `560 12px ${FONT}`;
    context.fillStyle = item.isProposed ? palette.zestSoft : palette.word;
    box(context, x + 0.5, row.y, width - 1, row.height - 1, 6);
    context.fill();
    if (item.isProposed) paintProposed(context, x, width, row, palette);
    if (item.inked) {
      // What a hand has set is ink here too.
      box(context, x + 1.5, row.y + 1, width - 3, row.height - 3, 5);
      context.strokeStyle = palette.ink;
      context.lineWidth = 1.4;
      context.stroke();
      context.lineWidth = 1;
    }
    context.fillStyle = palette.ink;
    context.fillText(fitText(context, item.text, width + 5), x + width / 2, row.y + row.height / 2);
    if (item.guessed) paintGuess(context, x, width, row, palette);
    else if (item.confidence < SURE_WORD) paintDoubt(context, x, width, row, palette);
  }
}

/** A dashed edge around a word that was read again and not taken yet. */
function paintProposed(context: CanvasRenderingContext2D, x: number, width: number, row: Row, palette: Palette): void {
  context.strokeStyle = palette.zest;
  context.setLineDash([3, 3]);
  box(context, x + 1, row.y + 0.5, width - 2, row.height - 2, 6);
  context.stroke();
  context.setLineDash([]);
}

/** A wavy line under a word that should be listened to again. */
function paintDoubt(context: CanvasRenderingContext2D, x: number, width: number, row: Row, palette: Palette): void {
  context.strokeStyle = palette.zest;
  context.lineWidth = 1.4;
  context.beginPath();
  for (let along = 4, up = true; along <= width - 4; along += 4, up = !up) {
    const y = row.y + row.height - (up ? 4 : 2);
    if (along === 4) context.moveTo(x + along, y);
    else context.lineTo(x + along, y);
  }
  context.stroke();
  context.lineWidth = 1;
}

/** A dotted line under a word whose sounds were guessed from its spelling. */
function paintGuess(context: CanvasRenderingContext2D, x: number, width: number, row: Row, palette: Palette): void {
  context.strokeStyle = palette.zest;
  context.lineWidth = 2;
  context.lineCap = 'round';
  context.setLineDash([0.1, 4]);
  context.beginPath();
  context.moveTo(x + 4, row.y + row.height - 4);
  context.lineTo(x + width - 4, row.y + row.height - 4);
  context.stroke();
  context.setLineDash([]);
  context.lineCap = 'butt';
  context.lineWidth = 1;
}

/** Hatched, with what it is where that has room: what is heard there is not speech. A noise of the mouth lies among the words, for it has sounds. */
function paintNotSpeech({ context, system, data, palette }: Brush, row: Row, isOfMouth: boolean): void {
  for (const span of data.notSpeech) {
    const seen = maybeCutTo(span, system);
    if (!seen || (span.kind !== undefined) !== isOfMouth) continue;
    const { from, to } = seen;
    const [x, width] = [system.scale.x(from), (to - from) * system.scale.perFrame];
    const height = row.height - (isOfMouth ? 1 : 3);
    context.save();
    box(context, x + 0.5, row.y, width - 1, height, isOfMouth ? 6 : 4);
    context.clip();
    context.strokeStyle = palette.graphite;
    context.globalAlpha = 0.4;
    context.beginPath();
    for (let along = x - row.height; along < x + width; along += 7) {
      context.moveTo(along, row.y + row.height);
      context.lineTo(along + row.height, row.y);
    }
    context.stroke();
    context.globalAlpha = 1;
    const label = span.kind ?? 'not speech';
    context.font = `${isOfMouth ? 'italic ' : ''}500 ${isOfMouth ? 14 : 12}px ${FONT}`;
    const needed = context.measureText(label).width + 12;
    if (needed < width) {
      context.fillStyle = palette.sheet;
      context.fillRect(x + (width - needed) / 2, row.y, needed, height);
      context.fillStyle = palette.inkSoft;
      context.textAlign = 'center';
      context.textBaseline = 'middle';
      context.fillText(label, x + width / 2, row.y + row.height / 2 - (isOfMouth ? 0 : 1));
    }
    context.restore();
  }
}

export function paintSounds(brush: Brush, row: Row): void {
  const { context, system, data, palette } = brush;
  paintNotSpeech(brush, row, false);
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  for (const { item, x, width } of visibleSpans(data.sounds, system)) {
    context.fillStyle = item.isProposed ? palette.zestSoft : item.colour;
    if (!item.isProposed) context.globalAlpha = palette.night ? 0.32 : 0.18;
    if (width < NARROWEST_TEXT) {
      const seen = Math.max(0.5, width - 0.5);
      context.fillRect(x, row.y, seen, row.height - 3);
      context.globalAlpha = 1;
      context.fillStyle = item.colour;
      context.fillRect(x, row.y + row.height - 4, seen, 3);
      continue;
    }
    box(context, x + 0.5, row.y, width - 1, row.height - 3, 4);
    context.fill();
    context.globalAlpha = 1;
    context.fillStyle = item.colour;
    box(context, x + 0.5, row.y + row.height - 4, width - 1, 3, 1.5);
    context.fill();
    context.fillStyle = palette.ink;
    for (const size of [14, 12]) {
      context.font = `500 ${size}px ${FONT}`;
      if (context.measureText(item.ipa).width > width + (size === 12 ? 2 : -1)) continue;
      context.fillText(item.ipa, x + width / 2, row.y + row.height / 2 - 2);
      break;
    }
  }
}

/** Each mark as a tick at its frame with what was heard behind it. */
export function paintMarks({ context, system, data, palette }: Brush, row: Row): void {
  context.textAlign = 'left';
  context.textBaseline = 'middle';
  context.font = `550 13px ${FONT}`;
  for (const { frame, text } of data.marks) {
    if (frame < system.from || frame >= system.to) continue;
    const x = system.scale.x(frame);
    context.fillStyle = palette.ink;
    context.fillRect(x, row.y + 1, 2, row.height - 4);
    context.fillText(text, x + 5, row.y + row.height / 2 - 1);
  }
}
