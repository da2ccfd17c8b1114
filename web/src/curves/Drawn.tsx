/** The charts, drawn by Recharts: fetched when they are first looked at. Read by dashes and hatching as well as by colour. */
import type { LaneMeasures, Span } from '@zest-jaw/core';
import { useMemo, type ReactElement } from 'react';
import {
  Area,
  Bar,
  BarChart,
  CartesianGrid,
  Cell,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { useStore } from 'zustand';
import { useOpenScene } from '../scene/sceneContext.js';
import type { ChartId } from './charts.js';

interface DrawnProps {
  readonly id: ChartId;
  readonly measures: LaneMeasures;
  readonly firstFrame: number;
  readonly numberOf: (frame: number) => number;
  readonly onLight: (exposures: readonly string[], what: string) => void;
  readonly onGo: (frame: number) => void;
  readonly onSelect: (span: Span) => void;
}

const AXIS = { stroke: 'var(--ink-soft)', fontSize: 12, tickLine: false } as const;
const TIP = {
  contentStyle: {
    background: 'var(--sheet)',
    border: '1px solid var(--rule)',
    borderRadius: 10,
    fontSize: 13,
    padding: '4px 8px',
    color: 'var(--ink)',
  },
  itemStyle: { color: 'var(--ink)' },
  isAnimationActive: false,
} as const;
/** More points than this are drawn as the widest of each few. */
const MOST_POINTS = 900;

/** Curves of a long scene thinned: of each few frames the most open. */
function thinned(jaw: LaneMeasures['jaw']): LaneMeasures['jaw'] {
  const each = Math.ceil(jaw.length / MOST_POINTS);
  if (each <= 1) return jaw;
  return Array.from({ length: Math.ceil(jaw.length / each) }, (_, index) => {
    const few = jaw.slice(index * each, (index + 1) * each);
    const most = (of: (one: LaneMeasures['jaw'][number]) => number): number => Math.max(...few.map(of));
    return {
      frame: few[0]!.frame,
      keyed: most(({ keyed }) => keyed),
      asked: most(({ asked }) => asked),
      loud: few[0]!.loud === null ? null : most(({ loud }) => loud ?? 0),
      parts: few.some(({ parts }) => parts),
    };
  });
}

export function Drawn(props: DrawnProps): ReactElement {
  const { id } = props;
  if (id === 'jaw') return <Jaw {...props} />;
  return <Bars {...props} />;
}

function Jaw({ measures, numberOf, onGo }: DrawnProps): ReactElement {
  const { playhead } = useOpenScene();
  const frame = useStore(playhead.store, (state) => state.frame);
  const points = useMemo(
    () =>
      thinned(measures.jaw).map((point) => ({
        ...point,
        parted: point.parts ? [Math.min(point.keyed, point.asked), Math.max(point.keyed, point.asked)] : [point.asked, point.asked],
      })),
    [measures.jaw],
  );
  const isKnown = points.some(({ loud }) => loud !== null);
  return (
    <ResponsiveContainer width="100%" height="100%">
      <ComposedChart
        data={points}
        margin={{ top: 6, right: 8, bottom: 0, left: -18 }}
        accessibilityLayer
        onClick={({ activeLabel }) => activeLabel !== undefined && onGo(Number(activeLabel))}
      >
        <defs>
          <pattern id="parted" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" y2="5" stroke="var(--bad)" strokeWidth="2" />
          </pattern>
        </defs>
        <CartesianGrid stroke="var(--rule-soft)" vertical={false} />
        <XAxis
          dataKey="frame"
          type="number"
          domain={['dataMin', 'dataMax']}
          tickFormatter={(frame: number) => String(numberOf(frame))}
          {...AXIS}
        />
        <YAxis domain={[0, 1]} ticks={[0, 0.5, 1]} {...AXIS} />
        <Tooltip
          {...TIP}
          labelFormatter={(label) => `frame ${numberOf(Number(label))}`}
          formatter={(value, name) => [Array.isArray(value) ? '' : Number(value).toFixed(2), name]}
        />
        {isKnown && <Area name="loudness" dataKey="loud" stroke="none" fill="var(--voice)" fillOpacity={0.25} isAnimationActive={false} />}
        <Area
          name="part"
          dataKey="parted"
          stroke="none"
          fill="url(#parted)"
          isAnimationActive={false}
          legendType="none"
          tooltipType="none"
          type="stepAfter"
        />
        <Line
          name="asked for"
          dataKey="asked"
          stroke="var(--ink-soft)"
          strokeDasharray="4 3"
          dot={false}
          strokeWidth={1.5}
          isAnimationActive={false}
        />
        <Line name="keyed" dataKey="keyed" stroke="var(--ink)" dot={false} strokeWidth={2} type="stepAfter" isAnimationActive={false} />
        <ReferenceLine x={frame} stroke="var(--zest)" strokeWidth={2} />
      </ComposedChart>
    </ResponsiveContainer>
  );
}

/** Height of a bar that lies, with its words, in pixels: more of them than fit are scrolled. */
const ACROSS = 34;

interface BarRow {
  readonly name: string;
  readonly value: number;
  readonly isFilled: boolean;
  readonly press: () => void;
}

function rowsOf({ id, measures, onLight, onSelect }: DrawnProps): BarRow[] {
  const { holds, uses, offsets, phrases } = measures;
  switch (id) {
    case 'holds':
      return holds.map(({ frames, exposures, onGrid }) => ({
        ...{ name: String(frames), value: exposures.length, isFilled: onGrid },
        press: () => onLight(exposures, frames === 1 ? 'held for 1 frame' : `held for ${frames} frames`),
      }));
    case 'uses':
      return uses.map(({ label, exposures }) => ({
        name: label,
        value: exposures.length,
        isFilled: true,
        press: () => onLight(exposures, `of “${label}”`),
      }));
    case 'offsets':
      return offsets.map(({ offset, exposures }) => ({
        ...{ name: offset > 0 ? `+${offset}` : String(offset), value: exposures.length, isFilled: Math.abs(offset) <= 1 },
        press: () => onLight(exposures, offset === 0 ? 'on their sound' : `${Math.abs(offset)} ${offset > 0 ? 'late' : 'early'}`),
      }));
    default:
      return [...phrases]
        .sort((a, b) => a.seen - b.seen)
        .map((phrase) => ({
          ...{
            name: phrase.text.length > 26 ? `${phrase.text.slice(0, 25)}…` : phrase.text,
            value: Math.round(phrase.seen * 1000) / 1000,
            isFilled: phrase.seen >= 0.75,
          },
          press: () => onSelect(phrase),
        }));
  }
}

function Bars(props: DrawnProps): ReactElement {
  const { id } = props;
  const rows = rowsOf(props);
  const isAcross = id === 'phrases';
  const value = id === 'phrases' ? 'seen' : 'mouths';
  return (
    <div className="h-full overflow-y-auto" tabIndex={0} role="region" aria-label="The bars">
      <div style={{ height: isAcross ? `max(100%, ${rows.length * ACROSS}px)` : '100%' }}>
        <ResponsiveContainer width="100%" height="100%">
          <BarChart
            data={rows}
            layout={isAcross ? 'vertical' : 'horizontal'}
            margin={{ top: 6, right: 8, bottom: 0, left: isAcross ? 90 : -18 }}
            accessibilityLayer
            barCategoryGap={2}
            maxBarSize={isAcross ? 30 : 110}
          >
            <defs>
              <pattern id="hollow" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <rect width="5" height="5" fill="var(--sheet)" />
                <line x1="0" y1="0" x2="0" y2="5" stroke="var(--ink)" strokeWidth="2" />
              </pattern>
            </defs>
            <CartesianGrid stroke="var(--rule-soft)" vertical={isAcross} horizontal={!isAcross} />
            {isAcross ? (
              <>
                <XAxis type="number" domain={[0, 1]} {...AXIS} />
                <YAxis type="category" dataKey="name" width={90} interval={0} {...AXIS} />
              </>
            ) : (
              <>
                <XAxis dataKey="name" interval={rows.length > 18 ? 'preserveStartEnd' : 0} {...AXIS} />
                <YAxis allowDecimals={false} {...AXIS} />
              </>
            )}
            <Tooltip {...TIP} cursor={{ fill: 'var(--rule-soft)' }} />
            <Bar
              name={value}
              dataKey="value"
              isAnimationActive={false}
              onClick={(_, index) => rows[index]?.press()}
              className="cursor-pointer"
              radius={3}
            >
              {rows.map(({ name, isFilled }) => (
                <Cell key={name} fill={isFilled ? 'var(--ink)' : 'url(#hollow)'} stroke="var(--ink)" />
              ))}
            </Bar>
          </BarChart>
        </ResponsiveContainer>
      </div>
    </div>
  );
}
