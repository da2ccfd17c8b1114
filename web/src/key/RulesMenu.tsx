/** The rules the pencil is keyed by, each said by what it does to the face. */
import { RULE_LIMITS, type KeyingRules } from '@zest-jaw/core';
import { ChevronDown } from 'lucide-react';
import { Popover, ToggleGroup } from 'radix-ui';
import type { ReactElement, ReactNode } from 'react';

const HOLDS = ['', 'ones', 'twos', 'threes', 'fours'];

function Choice({
  label,
  help,
  value,
  options,
  onChange,
}: {
  label: string;
  help: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}): ReactNode {
  return (
    <div>
      <p className="font-semibold">{label}</p>
      <p className="mb-1.5 text-[14px] text-ink-soft">{help}</p>
      <ToggleGroup.Root
        type="single"
        value={value}
        onValueChange={(next) => next && onChange(next)}
        aria-label={label}
        className="flex overflow-hidden rounded-[9px] border border-rule"
      >
        {options.map(([option, text]) => (
          <ToggleGroup.Item
            key={option}
            value={option}
            className="flex-1 border-r border-rule bg-lift px-2 py-1.5 text-[14px] last:border-r-0 data-[state=on]:bg-zest-soft data-[state=on]:font-semibold"
          >
            {text}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}

export function RulesMenu({ rules, onChange }: { rules: KeyingRules; onChange: (rules: KeyingRules) => void }): ReactElement {
  const { leadFrames, holdFrames } = RULE_LIMITS;
  const leads = Array.from(
    { length: Math.min(4, leadFrames.most + 1) },
    (_, frames) => [String(frames), frames === 1 ? '1 frame' : `${frames}`] as const,
  );
  const holds = Array.from({ length: Math.min(4, holdFrames.most) }, (_, index) => [String(index + 1), HOLDS[index + 1]!] as const);
  return (
    <Popover.Root>
      <Popover.Trigger className="flex items-center gap-1.5 rounded-full border border-rule bg-lift px-3 py-1 text-[14px] text-ink-soft hover:border-graphite">
        <span>
          On <b className="font-semibold text-ink">{HOLDS[rules.holdFrames] ?? rules.holdFrames}</b>
          {rules.strict && ' strictly'}, lead <b className="font-semibold text-ink">{rules.leadFrames}</b>
        </span>
        <ChevronDown size={15} aria-hidden />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          role="dialog"
          aria-label="Keying rules"
          className="z-30 w-[330px] space-y-4 rounded-xl border border-rule bg-sheet p-4"
        >
          <Choice
            label="Hold"
            help="How long a mouth stays at least. Lips that must meet may break to ones."
            value={String(rules.holdFrames)}
            options={holds}
            onChange={(value) => onChange({ ...rules, holdFrames: Number(value) })}
          />
          <Choice
            label="Lead"
            help="How many frames a mouth comes before its sound."
            value={String(rules.leadFrames)}
            options={leads}
            onChange={(value) => onChange({ ...rules, leadFrames: Number(value) })}
          />
          <Choice
            label="Change"
            help="Free: on any frame. Strict: only with the body."
            value={rules.strict ? 'strict' : 'free'}
            options={[
              ['free', 'free'],
              ['strict', 'strict'],
            ]}
            onChange={(value) => onChange({ ...rules, strict: value === 'strict' })}
          />
          <p className="text-[14px] text-ink-soft">Changing a rule keys the pencil again. Ink stays.</p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
