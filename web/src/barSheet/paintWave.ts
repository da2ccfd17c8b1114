/** Paints what is heard: the clips, their waves, and what counts as silent and as loud. */
import { decibels, extremesOf, maybeCutTo } from '@zest-jaw/core';
import { fitText, FONT, type Brush } from './brush.js';
import { CLIP_LINE } from './clipLane.js';
import type { Row } from './plan.js';

/** Clips as bars with their names, an end that is trimmed cut straight, one that is not round; the chosen one framed. */
export function paintClips({ context, system, data, palette, chosenClip }: Brush, row: Row): void {
  context.textAlign = 'left';
  context.textBaseline = 'middle';
  context.font = `500 12px ${FONT}`;
  for (const clip of data.clips) {
    const seen = maybeCutTo(clip, system);
    if (!seen) continue;
    const { from, to } = seen;
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

export function paintWave(brush: Brush, row: Row): void {
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
  paintChanges(brush, row);
}

/** A change of the sound by so many nepers has the darkest tick. */
const GREATEST_CHANGE = 2.5;

/** Where the sound changes, while an edge is dragged: the more it does the darker. */
function paintChanges({ context, system, data, palette }: Brush, row: Row): void {
  if (!data.changes) return;
  context.fillStyle = palette.ink;
  for (const { at, by } of data.changes) {
    context.globalAlpha = 0.15 + 0.5 * Math.min(1, by / GREATEST_CHANGE);
    context.fillRect(Math.round(system.scale.x(at)), row.y, 1, row.height);
  }
  context.globalAlpha = 1;
}
