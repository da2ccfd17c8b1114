/** What every part of the Chart step shares: the chart, what is chosen on it, what is laid under it. */
import { lookOf, maybeDrawing, restDrawing, type ChartDocument, type Drawing, type Look, type Patch, type Refusal } from '@zest-jaw/core';
import { createContext, useContext, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import type { DocumentSession } from '../session/session.js';

/** What a drag on the desk does. */
export type Tool = 'shape' | 'pen' | 'fill' | 'erase' | 'move' | 'place' | 'cross' | 'reference';

export interface OpenChart {
  readonly chartId: string;
  readonly characterId: string;
  readonly characterName: string;
  readonly session: DocumentSession<ChartDocument>;
  readonly chart: ChartDocument;
  /** Makes a patch from the chart as it is now, and applies it. */
  change(make: (chart: ChartDocument) => Patch | Refusal): boolean;
  /** The drawing on the desk, and which of its looks. */
  readonly drawing: Drawing;
  readonly lookIndex: number;
  readonly look: Look;
  choose(id: string | undefined, lookIndex?: number): void;
  /** The drawing laid under the one on the desk; undefined when the onion skin is off. */
  readonly onion: Drawing | undefined;
  readonly onionId: string;
  layUnder(id: string): void;
  showOnion(shown: boolean): void;
  readonly tool: Tool;
  setTool(tool: Tool): void;
}

const ChartContext = createContext<OpenChart | null>(null);
export const ChartProvider = ChartContext.Provider;

export function useOpenChart(): OpenChart {
  const open = useContext(ChartContext);
  if (!open) throw new Error('There is no open chart around this component.');
  return open;
}

/** The tools that make sense for a kind of drawing, the one it begins with first. */
export function toolsFor(look: Look): readonly Tool[] {
  if (look.art.kind === 'built') return ['shape', 'place', 'cross'];
  if (look.art.kind === 'placed') return ['place', 'cross'];
  return ['pen', 'fill', 'erase', 'move', 'place', 'cross', ...(look.art.reference ? (['reference'] as const) : [])];
}

/** The state of the Chart step. */
export function useChartState(of: {
  readonly chartId: string;
  readonly characterId: string;
  readonly characterName: string;
  readonly session: DocumentSession<ChartDocument>;
  /** The drawing that is on the desk first; the first of the tray without it. */
  readonly first?: string;
  /** The drawing laid under it from the start; without it there is none. */
  readonly under?: string | undefined;
}): OpenChart {
  const { chartId, characterId, characterName, session, first, under: laid } = of;
  const chart = useStore(session.store, (state) => state.document);
  const [chosen, setChosen] = useState<{ id: string | undefined; lookIndex: number }>({ id: first, lookIndex: 0 });
  const [onionSkin, setOnionSkin] = useState<{ id: string | undefined; shown: boolean }>({ id: laid, shown: laid !== undefined });
  const [wantedTool, setTool] = useState<Tool>('shape');
  return useMemo(() => {
    const drawing = (chosen.id && maybeDrawing(chart, chosen.id)) || chart.drawings[0]!;
    const lookIndex = Math.min(chosen.lookIndex, drawing.variants.length);
    const look = lookOf(drawing, lookIndex);
    const tools = toolsFor(look);
    const under = (onionSkin.id && maybeDrawing(chart, onionSkin.id)) || restDrawing(chart);
    return {
      chartId,
      characterId,
      characterName,
      session,
      chart,
      change: (make) => session.change(make(session.store.getState().document)),
      drawing,
      lookIndex,
      look,
      choose: (id, index = 0) => setChosen({ id, lookIndex: index }),
      onion: onionSkin.shown ? under : undefined,
      onionId: under.id,
      layUnder: (id) => setOnionSkin({ id, shown: true }),
      showOnion: (shown) => setOnionSkin((before) => ({ ...before, shown })),
      tool: tools.includes(wantedTool) ? wantedTool : tools[0]!,
      setTool,
    };
  }, [chartId, characterId, characterName, session, chart, chosen, onionSkin, wantedTool]);
}
