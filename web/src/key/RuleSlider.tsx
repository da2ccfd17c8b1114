/** A rule that is a number: its name, what it does to the face, its picture, and a slider. */
import { RULE_LIMITS, type ChartDocument, type FullRules } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { RULE_EXAMPLES } from './ruleExamples.js';
import { RuleStrip } from './RuleStrip.js';

type NumberRule =
  | 'leadFrames'
  | 'holdFrames'
  | 'calm'
  | 'settleFrames'
  | 'anticipationFrames'
  | 'holdPause'
  | 'restPause'
  | 'mostChanges'
  | 'betweens'
  | 'breathAfter';

interface RuleText {
  readonly rule: NumberRule;
  readonly name: string;
  readonly does: string;
  readonly step: number;
  readonly most?: number;
  readonly say: (value: number) => string;
}

const frames = (count: number): string => (count === 1 ? '1 frame' : `${count} frames`);
const seconds = (value: number): string => `${value.toFixed(2)} s`;

export const RULE_TEXTS: readonly RuleText[] = [
  {
    rule: 'holdFrames',
    name: 'Hold',
    does: 'A mouth stays at least so long.',
    step: 1,
    most: 4,
    say: (value) => ['', 'on ones', 'on twos', 'on threes', 'on fours'][value] ?? frames(value),
  },
  { rule: 'leadFrames', name: 'Lead', does: 'The eye has caught up when the ear gets there.', step: 1, most: 4, say: frames },
  {
    rule: 'calm',
    name: 'Calm',
    does: 'From every sound to only those that must be seen.',
    step: 0.05,
    say: (value) => `${Math.round(value * 100)} %`,
  },
  { rule: 'settleFrames', name: 'Settle', does: 'The last mouth is held before it rests.', step: 1, say: frames },
  { rule: 'anticipationFrames', name: 'Anticipation', does: 'The mouth opens before a phrase, as for a breath.', step: 1, say: frames },
  { rule: 'holdPause', name: 'Held pause', does: 'A shorter pause does not move the mouth.', step: 0.05, most: 1, say: seconds },
  {
    rule: 'restPause',
    name: 'Resting pause',
    does: 'A longer one rests it; between the two it relaxes.',
    step: 0.05,
    most: 2,
    say: seconds,
  },
  {
    rule: 'mostChanges',
    name: 'Changes a second',
    does: 'No phrase has more.',
    step: 1,
    most: 12,
    say: (value) => (value === 0 ? 'any number' : `${value} at most`),
  },
  {
    rule: 'betweens',
    name: 'In-betweens',
    does: 'One where a mouth opens far at once and has a frame to spare.',
    step: 0.05,
    say: (value) => (value === 0 ? 'none' : `from ${Math.round((1 - value) * 100)} % of the widest`),
  },
  {
    rule: 'breathAfter',
    name: 'Breath',
    does: 'The mouth breathes in at the end of a longer rest.',
    step: 0.1,
    most: 4,
    say: (value) => (value === 0 ? 'never' : `after ${value.toFixed(1)} s`),
  },
];

interface RuleProps {
  readonly text: RuleText;
  readonly rules: FullRules;
  readonly chart: ChartDocument;
  readonly onChange: (rules: FullRules) => void;
}

export function RuleSlider({ text, rules, chart, onChange }: RuleProps): ReactElement {
  const { rule, name, does, step, say } = text;
  const limits = RULE_LIMITS[rule];
  const change = (value: number): void => {
    // A pause that rests is never shorter than one that holds: the other gives way.
    const next = { ...rules, [rule]: value };
    onChange({
      ...next,
      holdPause: rule === 'restPause' ? Math.min(next.holdPause, value) : next.holdPause,
      restPause: rule === 'holdPause' ? Math.max(next.restPause, value) : next.restPause,
    });
  };
  return (
    <label className="block">
      <span className="flex items-baseline justify-between">
        <span className="font-semibold">{name}</span>
        <output className="text-[14px]">{say(rules[rule])}</output>
      </span>
      <span className="block text-[13px] leading-tight text-ink-soft">{does}</span>
      <span className="mt-1 grid grid-cols-[112px_1fr] items-center gap-2.5">
        <RuleStrip rules={rules} chart={chart} example={RULE_EXAMPLES[rule]!} />
        <input
          type="range"
          aria-label={name}
          min={limits.least}
          max={text.most ?? limits.most}
          step={step}
          value={rules[rule]}
          onChange={(event) => change(Number(event.target.value))}
          className="w-full min-w-0"
        />
      </span>
    </label>
  );
}
