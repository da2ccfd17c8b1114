/** A one-off made from the mouth that is seen at the playhead, and put in its place, in one step of undo. */
import {
  addOneOff,
  chartWithOneOffs,
  isRefusal,
  maybeDrawing,
  putDrawing,
  putOver,
  type ChartDocument,
  type SceneDocument,
  type Span,
} from '@zest-jaw/core';
import { toast } from 'sonner';
import type { DocumentSession } from '../session/session.js';
import { newId } from '../session/newId.js';

interface Where {
  readonly track: string;
  readonly chartId: string;
  /** The chart itself, and the drawing that is seen there; its first without one. */
  readonly chart: ChartDocument;
  readonly drawing: string | undefined;
  readonly frame: number;
  readonly selection: Span | null;
}

/** Answers with the one-off's id; undefined where there can be no more. */
export function makeOneOff(session: DocumentSession<SceneDocument>, where: Where): string | undefined {
  const { track, chartId, chart, frame, selection } = where;
  const scene = session.store.getState().document;
  const seen = chartWithOneOffs(scene, chartId, chart);
  const look = (where.drawing !== undefined && maybeDrawing(seen, where.drawing)) || seen.drawings[0]!;
  const made = addOneOff(scene, { chartId, label: `One-off ${scene.oneOffs.length + 1}`, look }, seen, newId);
  if (isRefusal(made)) {
    toast.message(made.refusal);
    return undefined;
  }
  const mark = session.mark();
  session.change(made.patch);
  const now = session.store.getState().document;
  const grown = chartWithOneOffs(now, chartId, chart);
  const at = { track, drawing: made.made };
  session.change(selection ? putOver(now, { ...at, ...selection }, grown, newId) : putDrawing(now, { ...at, frame }, grown, newId));
  session.squash(mark);
  return made.made;
}
