/** Takes a whole face that was found in a layered file: its mouths and its head into the chart, every other part on a chart of its own. */
import {
  headOfFace,
  maybeHead,
  maybeMatchOfName,
  placedFace,
  setHead,
  takeImported,
  type FoundFace,
  type ImportRow,
  type NewPartOfFace,
  type PlacedArt,
} from '@zest-jaw/core';
import { useQueryClient } from '@tanstack/react-query';
import { acceptImport } from '../api/imports.js';
import { sendJson } from '../api/http.js';
import { newId } from '../session/newId.js';
import { useOpenChart } from './openChart.js';

/** Answers with how many parts there are beside the mouth; throws an error whose message is a sentence. */
export function useTakeFace(): (importId: string, face: FoundFace) => Promise<number> {
  const { chart, chartId, session, change } = useOpenChart();
  const client = useQueryClient();
  return async (importId, face) => {
    const behind = maybeHead(chart);
    const parts = placedFace(face, behind);
    const indexes = [...(face.head ? [face.head.index] : []), ...parts.flatMap(({ drawings }) => drawings.map(({ index }) => index))];
    const arts = await acceptImport(importId, indexes);
    const artOf = (index: number): PlacedArt => arts[indexes.indexOf(index)]!;
    const mouth = parts.find(({ isMouth }) => isMouth)!;
    const claimed = new Set<string>();
    const rows = mouth.drawings.map(({ index, label, placement }): ImportRow => {
      const match = maybeMatchOfName(label, chart.groups);
      const groups = match && !match.isWeak ? match.groups.filter((group) => !claimed.has(group)) : [];
      groups.forEach((group) => claimed.add(group));
      const held = groups.length > 0 ? chart.drawings.find((drawing) => drawing.groups.includes(groups[0]!)) : undefined;
      const isFree = held && !claimed.has(`#${held.id}`);
      if (isFree) claimed.add(`#${held.id}`);
      return { art: artOf(index), placement, label, groups, ...(isFree && { inPlaceOf: held.id }) };
    });
    const others = parts
      .filter(({ isMouth }) => !isMouth)
      .map(({ name, order, at, drawings }): NewPartOfFace => ({
        name,
        order,
        at,
        drawings: drawings.map(({ index, label, placement }) => ({ label, placement, art: artOf(index) })),
      }));
    // The mouths and the head are one step of undo; the parts are put on the head by the server.
    const mark = session.mark();
    const isTaken = change((now) => takeImported(now, rows, newId));
    if (isTaken && face.head) {
      const head = headOfFace(artOf(face.head.index), mouth.at, behind);
      change((now) => setHead(now, head, newId));
    }
    session.squash(mark);
    if (!isTaken) throw new Error('The mouths of this file could not be taken. Take them as mouths, one by one.');
    await session.flush();
    await sendJson('POST', `/charts/${chartId}/parts`, { parts: others });
    await client.invalidateQueries({ queryKey: ['charts'] });
    await session.refresh();
    return others.length;
  };
}
