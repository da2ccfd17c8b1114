/** The feel a mouth is keyed by: the named ones, every rule with what it does to the face, tried before it is taken. */
import {
  FEELS,
  frameNumber,
  fullRules,
  hasSizes,
  maybeDrawingOfGroup,
  maybeFeel,
  type ChartDocument,
  type FullRules,
  type OnesFor,
} from '@zest-jaw/core';
import { useState, type ReactElement, type ReactNode } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { useOpenScene, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { Pills } from '../ui/Pills.js';
import { RangeSliders } from './RangeSliders.js';
import { RULE_TEXTS, RuleSlider } from './RuleSlider.js';
import { RULE_EXAMPLES } from './ruleExamples.js';
import { RuleStrip } from './RuleStrip.js';
import { SidePanel } from './SidePanel.js';
import { TryBar } from '../trying/TryBar.js';
import type { Proposal } from '../trying/useProposal.js';
import { useOwnFeels } from '../scene/useOwnFeels.js';

const ONES_DO: Readonly<Record<OnesFor, string>> = {
  nothing: 'No mouth flickers; lips that must meet may be missed.',
  closures: 'A frame is enough for lips to be seen to meet.',
  quick: 'A quick movement gets ones, as a hand would draw it.',
};

const ONES: readonly (readonly [OnesFor, string])[] = [
  ['nothing', 'nothing'],
  ['closures', 'lips that meet'],
  ['quick', 'quick sounds too'],
];

function Choice({ label, children }: { label: string; children: ReactNode }): ReactElement {
  return (
    <div>
      <p className="mb-1 font-semibold">{label}</p>
      {children}
    </div>
  );
}

/** What a choice does to a quick phrase, with a word on it. */
function Picture({ rules, children }: { rules: FullRules; children: ReactNode }): ReactElement {
  const { chart } = useSpeaker();
  return (
    <div className="mt-1.5 grid grid-cols-[112px_1fr] items-center gap-2.5">
      <RuleStrip rules={rules} chart={chart} example={RULE_EXAMPLES.holdFrames!} />
      <p className="text-[13px] leading-tight text-ink-soft">{children}</p>
    </div>
  );
}

/** Whom the rules are for: everything the character says, or a phrase of it. */
function ReachChoice({ proposal }: { proposal: Proposal }): ReactElement {
  const document = useSceneDocument();
  const { character } = useSpeaker();
  const { data } = useSheet();
  const { reach, setReach, span, hasOwn, proposeTrack } = proposal;
  const words = span ? data.words.filter(({ from, to }) => to > span.from && from < span.to).map(({ text }) => text) : [];
  return (
    <Choice label="For">
      <Pills
        label="For"
        value={reach}
        options={[
          ['track', `all of ${character.name}`],
          ['phrase', 'a phrase'],
        ]}
        onChange={setReach}
      />
      {span && (
        <div className="mt-1.5 flex items-center gap-2 text-[14px] leading-snug text-ink-soft">
          <p className="min-w-0 flex-1" data-testid="feel-span">
            <span className="block truncate">{words.length > 0 ? `“${words.join(' ')}”` : 'Nothing is read here.'}</span>
            {`Frames ${frameNumber(document, span.from)} to ${frameNumber(document, span.to - 1)}`}
          </p>
          {hasOwn && (
            <Button className="shrink-0 px-3! py-1! text-[14px]!" onClick={proposeTrack}>
              As the rest
            </Button>
          )}
        </div>
      )}
    </Choice>
  );
}

/** The same vowel said softly and loud. */
function AccentPicture({ accents }: { accents: boolean }): ReactElement | null {
  const { chart } = useSpeaker();
  const open = maybeDrawingOfGroup(chart, 'drop') ?? chart.drawings.at(-1);
  if (!open) return null;
  return (
    <span className="mt-1 flex items-end gap-2" aria-hidden>
      {['soft', 'loud'].map((said) => (
        <span key={said} className="flex h-[44px] w-[56px] items-center justify-center rounded-[9px] bg-lift">
          <Mouth chart={chart} drawing={open} lineWeight={1.25} className={said === 'loud' && accents ? 'w-[92%]' : 'w-[55%]'} />
        </span>
      ))}
    </span>
  );
}

interface TagChoiceProps {
  readonly chart: ChartDocument;
  readonly tag: string | null;
  readonly onChoose: (tag: string | null) => void;
}

/** Which of the tagged mouths are worn: an angry set, a smiling one. */
function TagChoice({ chart, tag, onChoose }: TagChoiceProps): ReactElement | null {
  const tags = [...new Set([...chart.drawings.flatMap((drawing) => drawing.tags), ...(tag === null ? [] : [tag])])].sort();
  if (tags.length === 0) return null;
  return (
    <Choice label="Mouths with the tag">
      <select
        aria-label="Mouths with the tag"
        className="field mt-1"
        value={tag ?? ''}
        onChange={({ target }) => onChoose(target.value === '' ? null : target.value)}
      >
        <option value="">none: the plain ones</option>
        {tags.map((one) => (
          <option key={one} value={one}>
            {one}
          </option>
        ))}
      </select>
      <p className="mt-1 text-[13px] leading-tight text-ink-soft">A group that has no mouth with it shows its plain ones.</p>
    </Choice>
  );
}

export function FeelPanel({ proposal, onClose }: { proposal: Proposal; onClose: () => void }): ReactElement {
  const own = useOwnFeels(useOpenScene().productionId);
  const { chart } = useSpeaker();
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
        <ReachChoice proposal={proposal} />
        <div className="grid grid-cols-2 gap-1.5" role="group" aria-label="Feels">
          {[...FEELS, ...own.feels].map((one) => (
            <button
              key={one.name}
              type="button"
              title={one.look}
              aria-pressed={one === feel}
              onClick={() => propose({ ...one.rules, source: rules.source, floorDb: rules.floorDb, peakDb: rules.peakDb, tag: rules.tag })}
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
        {proposal.data.range && <RangeSliders range={proposal.data.range} onChange={(range) => propose({ ...rules, ...range })} />}
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
          <Picture rules={rules}>
            {rules.strict ? 'Only on the frames the body changes on, closures too.' : 'Wherever its sound is, held long enough.'}
          </Picture>
        </Choice>
        {rules.holdFrames > 1 && !rules.strict && (
          <Choice label="Shorter than the hold">
            <Pills
              label="Shorter than the hold"
              value={rules.onesFor}
              options={byLoudness ? ONES.slice(0, 2) : ONES}
              onChange={(onesFor) => propose({ ...rules, onesFor })}
            />
            <Picture rules={rules}>{ONES_DO[rules.onesFor]}</Picture>
          </Choice>
        )}
        {RULE_TEXTS.filter(({ rule }) => !byLoudness || rule === 'holdFrames' || rule === 'leadFrames').map((text) => (
          <RuleSlider key={text.rule} text={text} rules={rules} chart={chart} onChange={propose} />
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
              {hasSizes(chart)
                ? 'Where a group has several drawings, loud and stressed sounds take the wider ones.'
                : 'Loud and stressed sounds take the wider of several drawings of a group. In this chart each group has one.'}
            </span>
            <AccentPicture accents={rules.accents} />
          </span>
        </label>
        {!byLoudness && (
          <label className="flex items-start gap-2">
            <input
              type="checkbox"
              className="mt-1"
              checked={rules.settlesHolds}
              onChange={(event) => propose({ ...rules, settlesHolds: event.target.checked })}
            />
            <span>
              <span className="font-semibold">Holds settle</span>
              <span className="block text-[13px] leading-tight text-ink-soft">
                A long hold of an open mouth begins a little larger, for one hold, and settles.
              </span>
            </span>
          </label>
        )}
        <TagChoice chart={chart} tag={rules.tag} onChoose={(tag) => propose({ ...rules, tag })} />
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
