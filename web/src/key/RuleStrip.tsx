/** A small picture of what rules do to a face: made-up sounds above, and the mouths keyed for them below. */
import {
  maybeDrawing,
  maybeGroupOfPhoneme,
  restDrawing,
  SAMPLE_RATE,
  type ChartDocument,
  type KeyedExposure,
  type KeyingRules,
} from '@zest-jaw/core';
import { useEffect, useState, type ReactElement } from 'react';
import { colourOfDrawing, NO_GROUP_COLOUR } from '../barSheet/sheetData.js';
import { latestOnly } from '../workers/asking.js';
import { keyer } from '../workers/keyer.js';
import { WHOLE_EXAMPLE, type RuleExample } from './ruleExamples.js';

const PER_FRAME = 10;
const PER_SAMPLE = (PER_FRAME * 24) / SAMPLE_RATE;

interface RuleStripProps {
  readonly rules: KeyingRules;
  readonly chart: ChartDocument;
  readonly example?: RuleExample;
}

export function RuleStrip({ rules, chart, example = WHOLE_EXAMPLE }: RuleStripProps): ReactElement {
  const { sounds, frames } = example;
  const [exposures, setExposures] = useState<readonly KeyedExposure[]>([]);
  const [slot] = useState(latestOnly);
  useEffect(() => {
    let wanted = true;
    const job = { sounds, frameRate: { num: 24, den: 1 }, lengthFrames: frames, chart, rules: { ...rules, source: 'sounds' as const } };
    // A picture that cannot be made is left as it was: it is only an example.
    slot(() => keyer.sounds(job)).then(
      (keyed) => wanted && keyed && setExposures(keyed.exposures),
      () => undefined,
    );
    return () => void (wanted = false);
  }, [slot, rules, chart, sounds, frames]);
  const rest = restDrawing(chart).id;
  const colour = (group: string): string => chart.groups.find(({ id }) => id === group)?.colour ?? NO_GROUP_COLOUR;
  const colourOf = ({ drawing: id, group }: KeyedExposure): string => {
    const drawing = maybeDrawing(chart, id);
    return drawing ? colourOfDrawing(chart, drawing) : colour(group);
  };
  // At rest, relaxed in a short pause, or speaking.
  const strength = ({ drawing, group }: KeyedExposure): number => (drawing === rest ? 0.25 : group === 'rest' ? 0.5 : 1);
  return (
    <svg viewBox={`0 0 ${frames * PER_FRAME} 34`} className="block h-[30px] w-full" aria-hidden preserveAspectRatio="none">
      {sounds.map(({ symbol, from, to }) => (
        <rect
          key={from}
          x={from * PER_SAMPLE}
          y={0}
          width={(to - from) * PER_SAMPLE - 1}
          height={6}
          fill={colour(maybeGroupOfPhoneme(chart.groups, symbol)?.id ?? '')}
          opacity={0.55}
        />
      ))}
      {exposures.map((exposure) => (
        <rect
          key={exposure.from}
          x={exposure.from * PER_FRAME + 0.5}
          y={10}
          width={(exposure.to - exposure.from) * PER_FRAME - 1}
          height={24}
          rx={3}
          fill={colourOf(exposure)}
          opacity={strength(exposure)}
        />
      ))}
    </svg>
  );
}
