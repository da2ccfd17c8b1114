/** Drawing a mouth on the desk: pen, fill, eraser, moving what is drawn, and the reference under it. */
import {
  DRAWN_LIMITS,
  eraseMarks,
  maybeMarkAt,
  movedMark,
  pathOfMark,
  setLook,
  type Box,
  type DrawnArt,
  type LineMark,
  type Mark,
  type Point,
  type Reason,
} from '@zest-jaw/core';
import { useRef, useState, type PointerEvent, type ReactElement, type ReactNode } from 'react';
import { toast } from 'sonner';
import { newId } from '../session/newId.js';
import { fillInWorker } from '../workers/heavy.js';
import { useOpenChart } from './openChart.js';

export interface PenSettings {
  readonly colour: string;
  /** Width of the pen at full pressure, and of the eraser, in units. */
  readonly size: number;
}

export interface PenTools {
  down(at: Point, event: PointerEvent): void;
  move(at: Point, event: PointerEvent): void;
  up(): void;
  /** Answers whether the key was one of these tools'. */
  key(key: string, move: readonly [number, number] | undefined): boolean;
  /** What is under way, over the drawing. */
  overlay(unit: number): ReactNode;
  /** The reference's box, while it is dragged too. */
  referenceBox(box: Box): Box;
}

/** What may be filled, in the chart's units. */
const FILL_BOX: Box = { x: -90, y: -60, width: 180, height: 160 };
/** Points nearer than this to the last are left out, in units. */
const POINT_STEP = 0.35;

type Gesture =
  | { readonly kind: 'line' | 'erase'; readonly points: number[] }
  | { readonly kind: 'move'; readonly mark: string; readonly from: Point; by: Point }
  | { readonly kind: 'reference'; readonly from: Point; by: Point; readonly scales: boolean };

const round = (value: number): number => Math.round(value * 100) / 100;

/** A mouse has no pressure and reports the half of it; a pen reports its own. */
const pressureOf = (event: PointerEvent): number => (event.pointerType === 'pen' ? Math.max(0.02, event.pressure) : 0.5);

function movedBox(box: Box, { from, by, scales }: Gesture & { kind: 'reference' }): Box {
  if (!scales) return { ...box, x: box.x + by.x, y: box.y + by.y };
  const ratio = Math.max(0.1, (from.x + by.x - box.x) / Math.max(1, from.x - box.x));
  return { ...box, width: box.width * ratio, height: box.height * ratio };
}

export function usePenTools({ colour, size }: PenSettings): PenTools {
  const { session, drawing, look, lookIndex, tool, change } = useOpenChart();
  const gesture = useRef<Gesture | null>(null);
  const [, showAgain] = useState(0);
  const [selected, select] = useState<string>();
  const art = look.art.kind === 'drawn' ? look.art : undefined;
  const { x, y, scale } = look.placement;
  const toArt = (at: Point): Point => ({ x: (at.x - x) / scale, y: (at.y - y) / scale });

  const setMarks = (make: (marks: readonly Mark[]) => readonly Mark[], reason: Reason): void => {
    if (!art) return;
    change((now) => {
      const current = now.drawings.find((candidate) => candidate.id === drawing.id);
      const there = lookIndex === 0 ? current?.art : current?.variants[lookIndex - 1]?.art;
      const drawn: DrawnArt = there?.kind === 'drawn' ? there : art;
      const marks = make(drawn.marks);
      if (marks.length > DRAWN_LIMITS.marks)
        return { refusal: `This mouth has ${drawn.marks.length} lines. It may have ${DRAWN_LIMITS.marks}: erase some first.` };
      return setLook(now, drawing.id, lookIndex, { art: { ...drawn, marks } }, reason, newId);
    });
  };

  const pour = async (at: Point): Promise<void> => {
    const fill = await fillInWorker(art!.marks, at, FILL_BOX, colour);
    if (!fill) {
      toast.message('Nothing was filled: this spot lies on a line, or the lines around it are open somewhere.');
      return;
    }
    // Under the first line, over the fills that are there.
    setMarks((marks) => {
      const place = marks.findIndex((mark) => mark.kind === 'line');
      return place < 0 ? [...marks, fill] : [...marks.slice(0, place), fill, ...marks.slice(place)];
    }, 'marks.fill');
  };

  const down = (at: Point, event: PointerEvent): void => {
    if (!art) return;
    const point = toArt(at);
    if (tool === 'pen') gesture.current = { kind: 'line', points: [round(point.x), round(point.y), pressureOf(event)] };
    else if (tool === 'erase') gesture.current = { kind: 'erase', points: [point.x, point.y] };
    else if (tool === 'fill') void pour(point);
    else if (tool === 'reference' && art.reference) {
      const { box } = art.reference;
      const scales = Math.hypot(at.x - box.x - box.width, at.y - box.y - box.height) < box.width * 0.08;
      gesture.current = { kind: 'reference', from: at, by: { x: 0, y: 0 }, scales };
    } else if (tool === 'move') {
      const mark = maybeMarkAt(art.marks, point.x, point.y, 1.5);
      select(mark?.id);
      if (mark) gesture.current = { kind: 'move', mark: mark.id, from: point, by: { x: 0, y: 0 } };
    }
    showAgain((count) => count + 1);
  };

  const move = (at: Point, event: PointerEvent): void => {
    const current = gesture.current;
    if (!current) return;
    const point = toArt(at);
    if (current.kind === 'move') current.by = { x: point.x - current.from.x, y: point.y - current.from.y };
    else if (current.kind === 'reference') current.by = { x: at.x - current.from.x, y: at.y - current.from.y };
    else {
      const step = current.kind === 'line' ? 3 : 2;
      const last = current.points.slice(-step);
      if (Math.hypot(point.x - last[0]!, point.y - last[1]!) < POINT_STEP) return;
      if (current.kind === 'line') current.points.push(round(point.x), round(point.y), round(pressureOf(event)));
      else current.points.push(point.x, point.y);
    }
    showAgain((count) => count + 1);
  };

  const up = (): void => {
    const current = gesture.current;
    gesture.current = null;
    if (!current || !art) return;
    // Each stroke is a step of undo of its own, however quickly one follows another.
    const mark = session.mark();
    if (current.kind === 'line') {
      // A tap makes a dot.
      const points =
        current.points.length === 3
          ? [...current.points, current.points[0]! + 0.1, current.points[1]!, current.points[2]!]
          : current.points;
      setMarks((marks) => [...marks, { id: newId(), kind: 'line', points, size, colour }], 'marks.line');
    } else if (current.kind === 'erase') setMarks((marks) => eraseMarks(marks, current.points, size / 2, newId), 'marks.erase');
    else if (current.kind === 'move') {
      const { mark: id, by } = current;
      if (Math.hypot(by.x, by.y) > 0.2)
        setMarks((marks) => marks.map((mark) => (mark.id === id ? movedMark(mark, by.x, by.y) : mark)), 'marks.move');
    } else if (current.kind === 'reference' && art.reference) {
      const reference = { ...art.reference, box: movedBox(art.reference.box, current) };
      change((now) => setLook(now, drawing.id, lookIndex, { art: { ...art, reference } }, 'drawing.reference', newId));
    }
    session.squash(mark);
    showAgain((count) => count + 1);
  };

  const key = (name: string, by: readonly [number, number] | undefined): boolean => {
    if (tool !== 'move' || !art || !selected || !art.marks.some((mark) => mark.id === selected)) return false;
    if (name === 'Delete' || name === 'Backspace') setMarks((marks) => marks.filter((mark) => mark.id !== selected), 'marks.remove');
    else if (by) setMarks((marks) => marks.map((mark) => (mark.id === selected ? movedMark(mark, by[0], by[1]) : mark)), 'marks.move');
    else return false;
    return true;
  };

  const overlay = (unit: number): ReactElement | null => {
    const current = gesture.current;
    const chosen = tool === 'move' ? art?.marks.find((mark) => mark.id === selected) : undefined;
    const by = current?.kind === 'move' ? current.by : { x: 0, y: 0 };
    const line: LineMark | undefined =
      current?.kind === 'line' ? { id: 'live', kind: 'line', points: current.points, size, colour } : undefined;
    if (!line && current?.kind !== 'erase' && !chosen) return null;
    return (
      <g transform={`translate(${x} ${y}) scale(${scale})`} pointerEvents="none">
        {line && <path d={pathOfMark(line)} fill={colour} data-part="live" />}
        {current?.kind === 'erase' && (
          <polyline
            points={current.points.join(' ')}
            fill="none"
            stroke="#fffcf5"
            strokeOpacity={0.8}
            strokeWidth={size}
            strokeLinecap="round"
            strokeLinejoin="round"
          />
        )}
        {chosen && (
          <path
            d={pathOfMark(chosen)}
            transform={`translate(${by.x} ${by.y})`}
            fill="none"
            stroke="var(--zest)"
            strokeWidth={(unit * 0.6) / scale}
            data-part="selected"
          />
        )}
      </g>
    );
  };

  const referenceBox = (box: Box): Box => (gesture.current?.kind === 'reference' ? movedBox(box, gesture.current) : box);
  return { down, move, up, key, overlay, referenceBox };
}
