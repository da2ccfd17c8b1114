/** Paints one system of the bar sheet: paper and cells. Selection and playhead are elements above it. */
import { FONT, type Brush } from './brush.js';
import { paintCrib, paintMouths, paintOthers } from './paintMouths.js';
import { paintMarks, paintSounds, paintWords } from './paintReading.js';
import { paintClips, paintWave } from './paintWave.js';
import { rowNamed } from './plan.js';

/** Seconds between numbers where a row shows many. */
const SECOND_STEPS = [1, 2, 5, 10, 20, 30, 60, 120, 300, 600] as const;
/** Room for a number, for one with its second, and for a line, in pixels. */
const NUMBER_ROOM = { least: 30, usual: 44, second: 78, line: 6 } as const;

/** Every how many frames a number stands, so that numbers never crowd; every one of them where a frame is wide enough. */
export function numberStep(perFrame: number, framesPerSecond: number): number {
  if (perFrame >= NUMBER_ROOM.least) return 1;
  const steps = framesPerSecond % 8 === 0 ? [2, 4, 8] : framesPerSecond % 5 === 0 ? [5] : [2, 6];
  const within = steps.find((step) => step * perFrame >= NUMBER_ROOM.usual);
  if (within !== undefined) return within;
  const seconds = SECOND_STEPS.find((second) => second * framesPerSecond * perFrame >= NUMBER_ROOM.second);
  return (seconds ?? SECOND_STEPS.at(-1)!) * framesPerSecond;
}

/** Every how many frames a line stands. */
function lineStep(perFrame: number, framesPerSecond: number): number {
  if (perFrame >= NUMBER_ROOM.line) return 1;
  return (
    (SECOND_STEPS.find((second) => second * framesPerSecond * perFrame >= NUMBER_ROOM.line * 3) ?? SECOND_STEPS.at(-1)!) * framesPerSecond
  );
}

function paintGrid({ context, system, plan, data, palette }: Brush): void {
  const bottom = plan.systemHeight;
  const ruler = rowNamed(plan, 'ruler')!;
  const step = numberStep(system.scale.perFrame, data.framesPerSecond);
  const lines = lineStep(system.scale.perFrame, data.framesPerSecond);
  // Lines that look alike are one path: a hundred strokes take as long as all the rest of a row.
  const isSecond = (frame: number): boolean => frame % data.framesPerSecond === 0;
  const looks = [
    { colour: palette.rule, alpha: 1, from: 4, has: isSecond },
    { colour: palette.ruleSoft, alpha: 1, from: 17, has: (frame: number) => !isSecond(frame) && frame % 2 === 0 },
    { colour: palette.ruleSoft, alpha: 0.5, from: 17, has: (frame: number) => !isSecond(frame) && frame % 2 === 1 },
  ];
  for (const { colour, alpha, from, has } of looks) {
    context.strokeStyle = colour;
    context.globalAlpha = alpha;
    context.beginPath();
    for (let frame = Math.ceil(system.from / lines) * lines; frame <= system.to; frame += lines) {
      if (!has(frame)) continue;
      const x = Math.round(system.scale.x(frame)) + 0.5;
      context.moveTo(x, ruler.y + from);
      context.lineTo(x, bottom);
    }
    context.stroke();
  }
  context.globalAlpha = 1;
  const { grid } = data;
  if (grid !== undefined && grid * system.scale.perFrame >= NUMBER_ROOM.line) {
    // Where a mouth may start: a notch at the foot of the ruler.
    context.fillStyle = palette.zest;
    for (let frame = Math.ceil(system.from / grid) * grid; frame < system.to; frame += grid)
      context.fillRect(system.scale.x(frame) - 1, ruler.y + ruler.height - 3, 3, 4);
  }
  context.textAlign = 'left';
  context.textBaseline = 'alphabetic';
  let free = 0;
  for (let frame = Math.ceil(system.from / step) * step; frame < system.to; frame += step) {
    const isWhole = isSecond(frame);
    const x = system.scale.x(frame) + 3;
    // The number of a whole second is longer; the one after it gives way.
    if (x < free) continue;
    context.font = `${isWhole ? 650 : 450} 12px ${FONT}`;
    context.fillStyle = isWhole ? palette.ink : palette.inkSoft;
    const number = String(frame + data.firstFrame);
    const widthOf = (text: string): number => context.measureText(text).width;
    const withSecond = `${number} · ${frame / data.framesPerSecond} s`;
    const text = isWhole && x + widthOf(withSecond) <= plan.width ? withSecond : number;
    context.fillText(text, x, ruler.y + 14);
    free = x + widthOf(text) + 5;
  }
}

/** Notes of the checker at the head of the ruler: fuller the more they matter; what a person says is a ring. */
function paintNotes({ context, system, plan, data, palette }: Brush): void {
  const ruler = rowNamed(plan, 'ruler')!;
  for (const { from, to, weight, isChosen } of data.notes ?? []) {
    const x = system.scale.x(Math.max(from, system.from));
    const end = system.scale.x(Math.min(to, system.to));
    if (isChosen) {
      context.fillStyle = palette.zestSoft;
      context.fillRect(x, ruler.y, Math.max(2, end - x), plan.systemHeight - ruler.y);
    }
    if (from < system.from) continue;
    context.fillStyle = weight === 3 ? palette.bad : weight === 2 ? palette.ink : palette.graphite;
    context.strokeStyle = weight === 0 ? palette.ink : context.fillStyle;
    context.lineWidth = 1.4;
    context.beginPath();
    if (weight === 0) context.arc(x + 4, ruler.y + 4, 3, 0, 2 * Math.PI);
    else {
      const size = weight === 1 ? 4 : 6;
      context.moveTo(x, ruler.y);
      context.lineTo(x + size + 1, ruler.y);
      context.lineTo(x, ruler.y + size + 1);
      context.closePath();
      if (weight > 1) context.fill();
    }
    context.stroke();
    context.lineWidth = 1;
  }
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
  paintNotes(brush);
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
    const { cribName, part } = brush.data;
    const own = row.name === 'crib' ? cribName : row.name === 'mouth' ? part : undefined;
    context.fillText(own ?? LABELS[row.name]!, 2, row.y + row.height / 2);
  }
}
