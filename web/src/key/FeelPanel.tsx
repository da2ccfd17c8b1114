/** The feel a mouth is keyed by: the named ones, every rule with what it does to the face, tried before it is taken. */
import { FEELS, fullRules, maybeFeel, RULE_LIMITS, type FullRules } from '@zest-jaw/core';
import { useState, type ReactElement, type ReactNode } from 'react';
import { useOpenScene } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { Pills } from '../ui/Pills.js';
import { RuleStrip } from './RuleStrip.js';
import { SidePanel } from './SidePanel.js';
import { TryBar } from './TryBar.js';
import type { Proposal } from './useProposal.js';
import type { OwnFeels } from './useOwnFeels.js';

type NumberRule = 'leadFrames' | 'holdFrames' | 'calm' | 'settleFrames' | 'anticipationFrames' | 'holdPause' | 'restPause' | 'mostChanges';

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

const RULES: readonly RuleText[] = [
  {
    rule: 'holdFrames',
    name: 'Hold',
    does: 'A mouth stays at least so long. Lips that must meet may break to ones.',
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
];

function Rule({ text, rules, onChange }: { text: RuleText; rules: FullRules; onChange: (rules: FullRules) => void }): ReactElement {
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
      <input
        type="range"
        aria-label={name}
        min={limits.least}
        max={text.most ?? limits.most}
        step={step}
        value={rules[rule]}
        onChange={(event) => change(Number(event.target.value))}
        className="mt-1 w-full"
      />
    </label>
  );
}

function Choice({ label, children }: { label: string; children: ReactNode }): ReactElement {
  return (
    <div>
      <p className="mb-1 font-semibold">{label}</p>
      {children}
    </div>
  );
}

export function FeelPanel({ proposal, own, onClose }: { proposal: Proposal; own: OwnFeels; onClose: () => void }): ReactElement {
  const { chart } = useOpenScene();
  const { propose } = proposal;
  const rules = fullRules(proposal.rules);
  const [name, setName] = useState('');
  const feel = maybeFeel(rules, [...FEELS, ...own.feels]);
  const byLoudness = rules.source === 'loudness';
  return (
    <SidePanel
      label="Feel"
      title={
        <>
          <h2 className="name text-[19px]">Feel</h2>
          <span className="text-ink-soft">{feel?.name ?? 'your own'}</span>
        </>
      }
      closeLabel="Close the feel"
      onClose={onClose}
    >
      <div className="min-h-0 flex-1 space-y-3 overflow-y-auto px-3 py-2">
        <div className="grid grid-cols-2 gap-1.5" role="group" aria-label="Feels">
          {[...FEELS, ...own.feels].map((one) => (
            <button
              key={one.name}
              type="button"
              title={one.look}
              aria-pressed={one === feel}
              onClick={() => propose({ ...one.rules, source: rules.source, floorDb: rules.floorDb, peakDb: rules.peakDb })}
              className="rounded-[10px] border border-rule bg-lift px-2 pb-1.5 pt-1 text-left hover:border-graphite aria-pressed:border-ink aria-pressed:bg-word"
            >
              <span className="block truncate pb-0.5 font-semibold">{one.name}</span>
              <RuleStrip rules={one.rules} chart={chart} />
            </button>
          ))}
        </div>
        {feel && <p className="text-[14px] leading-snug text-ink-soft">{feel.look}</p>}
        <div className="rounded-[10px] bg-lift p-2">
          <RuleStrip rules={rules} chart={chart} />
          <p className="mt-1 text-[13px] text-ink-soft">Sounds above, the mouths these rules give them below.</p>
        </div>
        <Choice label="Keyed from">
          <Pills
            label="Keyed from"
            value={rules.source}
            options={[
              ['sounds', 'the sounds'],
              ['loudness', 'how loud it is'],
            ]}
            onChange={(source) => propose({ ...rules, source })}
          />
        </Choice>
        {byLoudness && (
          <p className="text-[13px] leading-snug text-ink-soft">
            Drawings in the order of how open they are. Drag the two lines over the wave: below the lower one the mouth rests, above the
            upper one it is widest.
          </p>
        )}
        <Choice label="Changes">
          <Pills
            label="Changes"
            value={rules.strict ? 'strict' : 'free'}
            options={[
              ['free', 'on any frame'],
              ['strict', 'with the body'],
            ]}
            onChange={(value) => propose({ ...rules, strict: value === 'strict' })}
          />
        </Choice>
        {RULES.filter(({ rule }) => !byLoudness || rule === 'holdFrames' || rule === 'leadFrames').map((text) => (
          <Rule key={text.rule} text={text} rules={rules} onChange={propose} />
        ))}
        <label className="flex items-start gap-2">
          <input
            type="checkbox"
            className="mt-1"
            checked={rules.accents}
            onChange={(event) => propose({ ...rules, accents: event.target.checked })}
          />
          <span>
            <span className="font-semibold">Accents wider</span>
            <span className="block text-[13px] leading-tight text-ink-soft">
              Where a group has several drawings, loud and stressed sounds take the wider ones.
            </span>
          </span>
        </label>
        <form
          className="flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            own.keep(name, rules);
            setName('');
          }}
        >
          <input
            aria-label="Name of your own feel"
            placeholder="Keep as a feel of your own"
            maxLength={24}
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="min-w-0 flex-1 rounded-[9px] border border-rule bg-lift px-2 py-1 text-[14px]"
          />
          <Button type="submit" className="px-3! py-1! text-[14px]!" disabled={name.trim() === ''}>
            Keep
          </Button>
        </form>
        {own.feels.some((one) => one === feel) && (
          <Button weight="bare" className="text-[14px]!" onClick={() => own.forget(feel!.name)}>
            Forget “{feel!.name}”
          </Button>
        )}
      </div>
      <footer className="border-t border-rule px-3 py-2">
        <TryBar proposal={proposal} />
      </footer>
    </SidePanel>
  );
}
