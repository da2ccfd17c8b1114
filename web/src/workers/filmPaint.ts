/** What a frame of a film looks like: the character, the line below it as the bar sheet has it, and what is burnt in. */
import {
  formatTimecode,
  frameNumber,
  looksOfFrames,
  maybeDrawing,
  placedWords,
  SAMPLE_RATE,
  sampleAtFrame,
  sceneSettings,
  writtenNumber,
  type PlacedWord,
} from '@zest-jaw/core';
import type { FilmPart, FilmTask } from './film.worker.js';

/** The share of the picture that the line has, and seconds of it that are seen. */
const LINE = { height: 0.24, seconds: 3 } as const;
const PAPER = '#f6efe0';
const INK = '#1f2a44';
const SOFT = '#b9b29f';
const ZEST = '#f5a400';

interface Mouth {
  readonly from: number;
  readonly to: number;
  readonly number: string;
}

export interface Painter {
  /** @param part which state of the scene is shown, where it is one after the other */
  paint(context: OffscreenCanvasRenderingContext2D, frame: number, part: number): void;
}

/** The words said in each frame, the frame's number and time, and the drawing's number: what is asked for of them. */
function linesOf({ trackId, charts, frameNumbers, timecode, words, drawings }: FilmTask, { scene }: FilmPart): string[] {
  if (!frameNumbers && !timecode && !words && !drawings) return [];
  const { frameRate } = sceneSettings(scene);
  const said = placedWords(scene);
  let next = 0;
  return looksOfFrames(scene, trackId, charts, 'keyed').map((look, frame) => {
    const start = sampleAtFrame(frameRate, frame);
    while (next < said.length && said[next]!.to <= start) next += 1;
    const word = said[next] && said[next]!.from < sampleAtFrame(frameRate, frame + 1) ? said[next]!.text : '';
    const drawing = look && maybeDrawing(charts.get(look.chartId)!, look.drawing);
    return [
      frameNumbers && String(frameNumber(scene, frame)),
      timecode && formatTimecode(frameRate, frame),
      drawings && drawing && `${writtenNumber(drawing)} ${drawing.label}`,
      words && word,
    ]
      .filter(Boolean)
      .join('   ');
  });
}

/** The mouths of the lane, each as long as it stays. */
function mouthsOf({ trackId, charts }: FilmTask, { scene }: FilmPart): Mouth[] {
  const mouths: Mouth[] = [];
  looksOfFrames(scene, trackId, charts, 'keyed').forEach((look, frame) => {
    const drawing = look && maybeDrawing(charts.get(look.chartId)!, look.drawing);
    const number = drawing ? writtenNumber(drawing) : '';
    const last = mouths.at(-1);
    if (last?.number === number) mouths[mouths.length - 1] = { ...last, to: frame + 1 };
    else mouths.push({ from: frame, to: frame + 1, number });
  });
  return mouths;
}

/** The wave, the words and the mouths around a frame, the frame itself in the middle. */
function paintLine(
  context: OffscreenCanvasRenderingContext2D,
  { parts: [{ scene }], width, height }: FilmTask,
  { words, mouths, sound }: { words: readonly PlacedWord[]; mouths: readonly Mouth[]; sound: Float32Array },
  frame: number,
): void {
  const { frameRate } = sceneSettings(scene);
  const [top, deep] = [height * (1 - LINE.height), height * LINE.height];
  const middle = (sampleAtFrame(frameRate, frame) + sampleAtFrame(frameRate, frame + 1)) / 2;
  const across = LINE.seconds * SAMPLE_RATE;
  const xOf = (sample: number): number => ((sample - middle) / across + 0.5) * width;
  context.fillStyle = PAPER;
  context.fillRect(0, top, width, deep);
  context.fillStyle = SOFT;
  for (let x = 0; x < width; x += 2) {
    const from = Math.round(middle + (x / width - 0.5) * across);
    let loudest = 0;
    for (let at = Math.max(0, from); at < Math.min(sound.length, from + (2 * across) / width); at += 8)
      loudest = Math.max(loudest, Math.abs(sound[at]!));
    context.fillRect(x, top + deep * (0.22 - 0.2 * loudest), 1.6, deep * 0.4 * loudest + 0.5);
  }
  const size = Math.round(deep / 6.5);
  context.textBaseline = 'middle';
  context.textAlign = 'center';
  const box = (from: number, to: number, y: number, text: string, isNow: boolean): void => {
    const [left, right] = [xOf(from), xOf(to)];
    if (right < 0 || left > width) return;
    context.strokeStyle = SOFT;
    context.fillStyle = isNow ? ZEST : PAPER;
    context.fillRect(left + 1, y, right - left - 2, deep * 0.24);
    context.strokeRect(left + 1, y, right - left - 2, deep * 0.24);
    context.fillStyle = INK;
    context.font = `${isNow ? 700 : 400} ${size}px sans-serif`;
    context.fillText(text, (left + right) / 2, y + deep * 0.125, Math.max(1, right - left - 6));
  };
  for (const { from, to, text } of words) box(from, to, top + deep * 0.46, text, from <= middle && middle < to);
  for (const { from, to, number } of mouths)
    if (number) box(sampleAtFrame(frameRate, from), sampleAtFrame(frameRate, to), top + deep * 0.73, number, from <= frame && frame < to);
  context.fillStyle = INK;
  context.fillRect(width / 2 - 1, top, 2, deep);
  context.textAlign = 'start';
}

function paintText(context: OffscreenCanvasRenderingContext2D, line: string, width: number, bottom: number, height: number): void {
  const size = Math.max(12, Math.round(height / 30));
  context.font = `600 ${size}px sans-serif`;
  context.textBaseline = 'middle';
  context.fillStyle = 'rgb(20 24 38 / 0.82)';
  context.fillRect(0, bottom - size * 1.9, width, size * 1.9);
  context.fillStyle = '#fff';
  context.fillText(line, size * 0.8, bottom - size * 0.92, width - size * 1.6);
}

/** What a part is called, at the head of its picture. */
function paintTitle(context: OffscreenCanvasRenderingContext2D, title: string, left: number, width: number, height: number): void {
  if (title === '') return;
  const size = Math.max(12, Math.round(height / 26));
  context.font = `600 ${size}px sans-serif`;
  context.textBaseline = 'middle';
  const across = Math.min(width, context.measureText(title).width + size * 1.4);
  context.fillStyle = 'rgb(20 24 38 / 0.82)';
  context.fillRect(left, 0, across, size * 1.8);
  context.fillStyle = '#fff';
  context.fillText(title, left + size * 0.7, size * 0.92, across - size * 1.4);
}

/** @param sound the scene's, mixed */
export function painterOf(task: FilmTask, sound: Float32Array): Painter {
  const { ground, pictures, parts, arranged, width, height, withLine } = task;
  const lines = parts.map((part) => linesOf(task, part));
  const words = placedWords(parts[0].scene);
  const around = withLine ? parts.map((part) => ({ words, mouths: mouthsOf(task, part), sound })) : undefined;
  const bottom = around ? Math.round(height * (1 - LINE.height)) : height;
  const isSide = arranged === 'side' && parts.length > 1;
  const columns = isSide ? parts.length : 1;
  const wide = width / columns;
  return {
    paint: (context, frame, at) => {
      context.fillStyle = ground;
      context.fillRect(0, 0, width, height);
      const shown = isSide ? parts : [parts[at]!];
      shown.forEach((part, column) => {
        const picture = pictures[part.shown[Math.min(frame, part.shown.length - 1)] ?? -1];
        // Above the line, or beside another, the character has less room, and keeps its shape.
        const scale = Math.min(bottom / height, wide / width);
        const left = column * wide;
        const top = (bottom - height * scale) / 2;
        if (picture) context.drawImage(picture, left + (wide - width * scale) / 2, top, width * scale, height * scale);
        paintTitle(context, part.title, left, wide, height);
      });
      const of = isSide ? 0 : at;
      if (around) paintLine(context, task, around[of]!, frame);
      const line = lines[of]![frame];
      if (line) paintText(context, line, width, bottom, height);
    },
  };
}
