/** Paints one system of the bar sheet: paper and cells. Selection and playhead are elements above it. */
import { decibels, extremesOf } from '@zest-jaw/core';
import type { MouthSprites } from '../mouth/paintFigure.js';
import { heightAtWidth } from '../mouth/paintFigure.js';
import { CLIP_LINE } from './clipLane.js';
import type { Palette } from './palette.js';
import {
  isSpokenIn,
  LABEL_WIDTH,
  OTHER_LANE,
  placeMouths,
  rowNamed,
  type BarSheetPlan,
  type PlacedMouth,
  type Row,
  type SystemPlan,
} from './plan.js';
import { SURE_WORD, type SheetData, type SheetExposure } from './sheetData.js';

const FONT = "'Source Sans 3 Variable', sans-serif";

interface Brush {
  readonly context: CanvasRenderingContext2D;
  readonly system: SystemPlan;
  readonly plan: BarSheetPlan;
  readonly data: SheetData;
  readonly palette: Palette;
  readonly sprites: MouthSprites;
  readonly chosenClip?: string | undefined;
}

function box(context: CanvasRenderingContext2D, x: number, y: number, width: number, height: number, radius: number): void {
  context.beginPath();
  context.roundRect(x, y, Math.max(0.5, width), height, Math.min(radius, Math.max(0, width / 2)));
}

/** The words or sounds of the system, whole, as x and width; one too long for any row is cut at its ends. */
function* visibleSpans<T extends { from: number; to: number }>(
  spans: readonly T[],
  system: SystemPlan,
): Generator<{ item: T; x: number; width: number }> {
  const { wordsFrom, wordsTo, scale } = system;
  for (const item of spans) {
    if (!isSpokenIn(system, item)) continue;
    const x = scale.x(Math.max(item.from, wordsFrom));
    yield { item, x, width: scale.x(Math.min(item.to, wordsTo)) - x };
  }
}

/** Every how many frames a number stands, so that numbers never crowd. */
function numberStep(perFrame: number, framesPerSecond: number): number {
  const steps = framesPerSecond % 8 === 0 ? [4, 8] : framesPerSecond % 5 === 0 ? [5] : [6];
  return steps.find((step) => step * perFrame >= 44) ?? steps.at(-1)! * 2;
}

function paintGrid({ context, system, plan, data, palette }: Brush): void {
  const bottom = plan.systemHeight;
  const ruler = rowNamed(plan, 'ruler')!;
  const step = numberStep(system.scale.perFrame, data.framesPerSecond);
  for (let frame = system.from; frame <= system.to; frame++) {
    const x = Math.round(system.scale.x(frame)) + 0.5;
    const isSecond = frame % data.framesPerSecond === 0;
    context.strokeStyle = isSecond ? palette.rule : palette.ruleSoft;
    context.globalAlpha = isSecond || frame % 2 === 0 ? 1 : 0.5;
    context.beginPath();
    context.moveTo(x, ruler.y + (isSecond ? 4 : 17));
    context.lineTo(x, bottom);
    context.stroke();
  }
  context.globalAlpha = 1;
  context.textAlign = 'left';
  context.textBaseline = 'alphabetic';
  let free = 0;
  for (let frame = Math.ceil(system.from / step) * step; frame < system.to; frame += step) {
    const isSecond = frame % data.framesPerSecond === 0;
    const x = system.scale.x(frame) + 3;
    // The number of a whole second is longer; the one after it gives way.
    if (x < free) continue;
    context.font = `${isSecond ? 650 : 450} 12px ${FONT}`;
    context.fillStyle = isSecond ? palette.ink : palette.inkSoft;
    const number = String(frame + data.firstFrame);
    const text = isSecond ? `${number} · ${frame / data.framesPerSecond} s` : number;
    context.fillText(text, x, ruler.y + 14);
    free = x + context.measureText(text).width + 5;
  }
}

function fitText(context: CanvasRenderingContext2D, text: string, width: number): string {
  if (context.measureText(text).width <= width) return text;
  for (let length = text.length - 1; length > 0; length--) {
    const cut = `${text.slice(0, length)}…`;
    if (context.measureText(cut).width <= width) return cut;
  }
  return '';
}

function paintWords({ context, system, data, palette }: Brush, row: Row): void {
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  for (const { item, x, width } of visibleSpans(data.words, system)) {
    context.font = `560 14px ${FONT}`;
    if (context.measureText(item.text).width > width - 4) context.font = `560 12px ${FONT}`;
    context.fillStyle = palette.word;
    box(context, x + 0.5, row.y, width - 1, row.height - 1, 6);
    context.fill();
    context.fillStyle = palette.ink;
    context.fillText(fitText(context, item.text, width + 5), x + width / 2, row.y + row.height / 2);
    if (item.guessed) paintGuess(context, x, width, row, palette);
    else if (item.confidence < SURE_WORD) paintDoubt(context, x, width, row, palette);
  }
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

/** Hatched, with words where they have room: what is heard there is not speech. */
function paintNotSpeech({ context, system, data, palette }: Brush, row: Row): void {
  for (const span of data.notSpeech) {
    const [from, to] = [Math.max(span.from, system.from), Math.min(span.to, system.to)];
    if (from >= to) continue;
    const [x, width] = [system.scale.x(from), (to - from) * system.scale.perFrame];
    context.save();
    box(context, x + 0.5, row.y, width - 1, row.height - 3, 4);
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
    const label = 'not speech';
    context.font = `500 12px ${FONT}`;
    const needed = context.measureText(label).width + 12;
    if (needed < width) {
      context.fillStyle = palette.sheet;
      context.fillRect(x + (width - needed) / 2, row.y, needed, row.height - 3);
      context.fillStyle = palette.inkSoft;
      context.textAlign = 'center';
      context.textBaseline = 'middle';
      context.fillText(label, x + width / 2, row.y + row.height / 2 - 1);
    }
    context.restore();
  }
}

function paintSounds(brush: Brush, row: Row): void {
  const { context, system, data, palette } = brush;
  paintNotSpeech(brush, row);
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  for (const { item, x, width } of visibleSpans(data.sounds, system)) {
    context.fillStyle = item.colour;
    context.globalAlpha = palette.night ? 0.32 : 0.18;
    box(context, x + 0.5, row.y, width - 1, row.height - 3, 4);
    context.fill();
    context.globalAlpha = 1;
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
function paintMarks({ context, system, data, palette }: Brush, row: Row): void {
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

/** Clips as bars with their names, an end that is trimmed cut straight, one that is not round; the chosen one framed. */
function paintClips({ context, system, data, palette, chosenClip }: Brush, row: Row): void {
  context.textAlign = 'left';
  context.textBaseline = 'middle';
  context.font = `500 12px ${FONT}`;
  for (const clip of data.clips) {
    const [from, to] = [Math.max(clip.from, system.from), Math.min(clip.to, system.to)];
    if (from >= to) continue;
    const [x, width] = [system.scale.x(from), (to - from) * system.scale.perFrame];
    const y = row.y + clip.level * CLIP_LINE;
    const [left, right] = [clip.from < system.from || clip.trimmedFrom ? 1 : 8, clip.to > system.to || clip.trimmedTo ? 1 : 8];
    context.globalAlpha = clip.silent ? 0.45 : 1;
    context.beginPath();
    context.roundRect(x + 0.5, y + 0.5, Math.max(2, width - 1), CLIP_LINE - 3, [left, right, right, left]);
    context.fillStyle = palette.word;
    context.fill();
    context.strokeStyle = clip.id === chosenClip ? palette.ink : palette.graphite;
    context.lineWidth = clip.id === chosenClip ? 1.8 : 1;
    context.setLineDash(clip.silent ? [3, 3] : []);
    context.stroke();
    context.setLineDash([]);
    context.lineWidth = 1;
    context.fillStyle = palette.ink;
    context.fillText(fitText(context, clip.silent ? `${clip.name} (silent)` : clip.name, width - 16), x + 9, y + CLIP_LINE / 2 - 0.5);
    context.globalAlpha = 1;
  }
}

/** Width of one bar of the wave, in pixels. */
const BAR = 2;
/** Quiet sounds are drawn larger than life, or a wave of speech would be all spikes. */
const LIFT = 0.7;

/** The loudness is averaged over this many pixels to either side, and shown over so many decibels. */
const LOUDNESS_REACH = 5;
const LOUDNESS_RANGE_DB = 50;

/** Where a level lies in the row of the wave: its floor is −50 dB, its top full scale. */
export function levelAtHeight(row: Row, within: number): number {
  return Math.round(((row.height - 2 - within) / (row.height - 4) - 1) * LOUDNESS_RANGE_DB);
}

export function heightOfLevel(row: Row, level: number): number {
  return row.height - 2 - Math.min(1, Math.max(0, 1 + level / LOUDNESS_RANGE_DB)) * (row.height - 4);
}

/** The floor and the peak that a mouth keyed by loudness goes by. */
function paintRange({ context, system, data, palette }: Brush, row: Row): void {
  if (!data.range) return;
  const [from, to] = [Math.max(system.from, data.range.from), Math.min(system.to, data.range.to)];
  if (from >= to) return;
  context.strokeStyle = palette.zest;
  context.lineWidth = 1.4;
  context.setLineDash([5, 3]);
  for (const level of [data.range.floorDb, data.range.peakDb]) {
    const y = row.y + heightOfLevel(row, level);
    context.beginPath();
    context.moveTo(system.scale.x(from), y);
    context.lineTo(system.scale.x(to), y);
    context.stroke();
  }
  context.setLineDash([]);
  context.lineWidth = 1;
}

function paintWave(brush: Brush, row: Row): void {
  const { context, system, data, palette } = brush;
  const middle = row.y + row.height / 2;
  context.strokeStyle = palette.ruleSoft;
  context.beginPath();
  context.moveTo(system.scale.x(system.from), middle);
  context.lineTo(system.scale.x(system.to), middle);
  context.stroke();
  for (const { characterId, startFrame, fromFrame, toFrame, samplesPerFrame, gain, pyramid, pauses } of data.waves) {
    const [from, to] = [Math.max(system.from, fromFrame), Math.min(system.to, toFrame)];
    if (from >= to) continue;
    const [left, right] = [system.scale.x(from), system.scale.x(to)];
    const [blocks] = pyramid.levels;
    const blocksPerFrame = samplesPerFrame / blocks.samplesPerBlock;
    const blockAt = (x: number): number => Math.floor((from + (x - left) / system.scale.perFrame - startFrame) * blocksPerFrame);
    const frameOf = (sample: number): number => startFrame + sample / samplesPerFrame;
    context.globalAlpha = gain === 0 || characterId !== data.characterId ? 0.3 : 1;
    context.fillStyle = palette.ruleSoft;
    for (const pause of pauses) {
      const [begins, ends] = [Math.max(from, frameOf(pause.from)), Math.min(to, frameOf(pause.to))];
      if (begins < ends) context.fillRect(system.scale.x(begins), row.y + row.height - 3, (ends - begins) * system.scale.perFrame, 3);
    }
    const loudest = Math.max(0.05, blocks.loudest);
    const half = row.height / 2 - 1;
    const high = (level: number): number => Math.min(half, ((level * (gain || 1)) / loudest) ** LIFT * half);
    // Bars of two pixels: each takes the extremes of every block under it, so no peak is lost.
    for (let x = left; x < right; x += BAR) {
      const first = blockAt(x);
      const last = Math.max(first + 1, blockAt(x + BAR));
      if (last <= 0 || first >= blocks.lowest.length) continue;
      const { lowest, highest, hiss } = extremesOf(pyramid, first, last);
      const [up, down] = [high(highest), high(-lowest)];
      context.fillStyle = hiss > 0.5 ? palette.hiss : palette.voice;
      context.fillRect(x, middle - up - 0.4, BAR - 0.3, up + down + 0.8);
    }
    if (data.showsLoudness) {
      // A curve of the mean power around each point, from the floor of the row (−50 dB) to its top (full scale).
      context.strokeStyle = palette.ink;
      context.lineWidth = 1.4;
      context.beginPath();
      for (let x = left; x < right; x += BAR) {
        const { power } = extremesOf(pyramid, blockAt(x - LOUDNESS_REACH), blockAt(x + LOUDNESS_REACH) + 1);
        const share = Math.max(0, 1 + decibels(Math.sqrt(power) * (gain || 1)) / LOUDNESS_RANGE_DB);
        const y = row.y + row.height - 2 - share * (row.height - 4);
        if (x === left) context.moveTo(x, y);
        else context.lineTo(x, y);
      }
      context.stroke();
      context.lineWidth = 1;
    }
    context.globalAlpha = 1;
  }
  paintRange(brush, row);
}

function paintCell({ context, palette }: Brush, { exposure, x, width, level, centre, size }: PlacedMouth<SheetExposure>, row: Row): void {
  context.fillStyle = exposure.isProposed ? palette.zestSoft : exposure.inked ? palette.ground : palette.sheet;
  context.strokeStyle = exposure.inked ? palette.ink : palette.graphite;
  context.lineWidth = exposure.inked ? 1.8 : 1;
  context.setLineDash(exposure.inked ? [] : [3, 3]);
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

function paintMouth({ context, sprites }: Brush, { exposure, level, centre, size }: PlacedMouth<SheetExposure>, row: Row): void {
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
    const [from, to] = [Math.max(feel.from, system.from), Math.min(feel.to, system.to)];
    if (from >= to) continue;
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
function paintCrib(brush: Brush, row: Row): void {
  const { context, data, system, palette } = brush;
  const placed = placeMouths(data.crib ?? [], system, 0.8);
  context.globalAlpha = 0.75;
  for (const mouth of placed) paintCell(brush, mouth, row);
  for (const mouth of placed) paintMouth(brush, mouth, row);
  context.globalAlpha = 1;
  context.fillStyle = palette.zest;
  for (const span of data.differs ?? []) {
    const [from, to] = [Math.max(span.from, system.from), Math.min(span.to, system.to)];
    if (from < to) context.fillRect(system.scale.x(from) + 1, row.y + row.height - 1, (to - from) * system.scale.perFrame - 2, 3);
  }
  context.lineWidth = 1;
}

function paintMouths(brush: Brush, row: Row): void {
  const placed = placeMouths(brush.data.exposures, brush.system, brush.plan.growth);
  for (const mouth of placed) paintCell(brush, mouth, row);
  for (const mouth of placed) paintMouth(brush, mouth, row);
  paintChartChanges(brush, row);
  paintFeels(brush, row);
  brush.context.lineWidth = 1;
}

/** The lanes of the others who speak, small, one below the other. */
function paintOthers(brush: Brush, row: Row): void {
  const { context, data, system, palette } = brush;
  data.others.forEach(({ name, exposures }, index) => {
    const lane: Row = { name: 'others', y: row.y + index * OTHER_LANE, height: OTHER_LANE - 3 };
    const placed = placeMouths(exposures, system, 0.45);
    context.globalAlpha = 0.8;
    for (const mouth of placed) paintCell(brush, mouth, lane);
    for (const mouth of placed) paintMouth(brush, mouth, lane);
    context.globalAlpha = 1;
    context.font = `450 12px ${FONT}`;
    context.fillStyle = palette.inkSoft;
    context.textAlign = 'left';
    context.textBaseline = 'middle';
    context.fillText(fitText(context, name, LABEL_WIDTH - 4), 2, lane.y + lane.height / 2);
  });
  context.lineWidth = 1;
}

const LABELS: Readonly<Record<string, string>> = {
  words: 'words',
  sounds: 'sounds',
  marks: 'by ear',
  clips: 'clips',
  wave: 'wave',
  crib: 'crib',
  mouth: 'mouth',
};

/** Paints the whole system; the canvas is `plan.width` by `plan.systemHeight` CSS pixels. */
export function paintSystem(brush: Brush): void {
  const { context, plan, palette } = brush;
  context.clearRect(0, 0, plan.width, plan.systemHeight);
  paintGrid(brush);
  const painters = {
    words: paintWords,
    sounds: paintSounds,
    marks: paintMarks,
    clips: paintClips,
    wave: paintWave,
    crib: paintCrib,
    mouth: paintMouths,
    others: paintOthers,
  } as const;
  for (const row of plan.rows) {
    if (row.name === 'ruler') continue;
    painters[row.name](brush, row);
    // The others have their names beside their lanes.
    if (row.name === 'others') continue;
    context.font = `450 12px ${FONT}`;
    context.fillStyle = palette.inkSoft;
    context.textAlign = 'left';
    context.textBaseline = 'middle';
    context.fillText(LABELS[row.name]!, 2, row.y + row.height / 2);
  }
}
