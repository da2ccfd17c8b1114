/** A small picture of what rules do to a face: a made-up word, its sounds above and the mouths keyed for it below. */
import { keySounds, maybeGroupOfPhoneme, type ChartDocument, type KeyingRules, type SceneSound } from '@zest-jaw/core';
import { useMemo, type ReactElement } from 'react';
import { NO_GROUP_COLOUR } from '../barSheet/sheetData.js';

const FRAMES = 30;
const PER_FRAME = 10;
/** “Blameless”, a breath, “tide”: closures, a diphthong, a cluster and a pause. Seconds. */
const EXAMPLE: readonly SceneSound[] = (
  [
    ['B', 0.18, 0.25],
    ['L', 0.25, 0.31],
    ['EY', 0.31, 0.45, 1],
    ['M', 0.45, 0.51],
    ['L', 0.51, 0.56],
    ['AH', 0.56, 0.61, 0],
    ['S', 0.61, 0.7],
    ['T', 0.92, 0.98],
    ['AY', 0.98, 1.12, 1],
    ['D', 1.12, 1.17],
  ] as const
).map(([symbol, from, to, stress]) => ({
  symbol,
  from: from * 48_000,
  to: to * 48_000,
  ...(stress === undefined ? {} : { stress }),
}));

export function RuleStrip({ rules, chart }: { rules: KeyingRules; chart: ChartDocument }): ReactElement {
  const exposures = useMemo(
    () =>
      keySounds({
        sounds: EXAMPLE,
        frameRate: { num: 24, den: 1 },
        lengthFrames: FRAMES,
        chart,
        rules: { ...rules, source: 'sounds' },
      }).exposures,
    [rules, chart],
  );
  const colour = (group: string): string => chart.groups.find(({ id }) => id === group)?.colour ?? NO_GROUP_COLOUR;
  return (
    <svg viewBox={`0 0 ${FRAMES * PER_FRAME} 34`} className="block h-[30px] w-full" aria-hidden preserveAspectRatio="none">
      {EXAMPLE.map(({ symbol, from, to }) => (
        <rect
          key={from}
          x={(from / 2000) * PER_FRAME}
          y={0}
          width={((to - from) / 2000) * PER_FRAME - 1}
          height={6}
          fill={colour(maybeGroupOfPhoneme(chart.groups, symbol)?.id ?? '')}
          opacity={0.55}
        />
      ))}
      {exposures.map(({ from, to, group }) => (
        <rect
          key={from}
          x={from * PER_FRAME + 0.5}
          y={10}
          width={(to - from) * PER_FRAME - 1}
          height={24}
          rx={3}
          fill={colour(group)}
          opacity={group === 'rest' ? 0.25 : 1}
        />
      ))}
    </svg>
  );
}
