/** What the pencil of a part's lane does by itself: lids blink, brows go up on stressed words. */
import {
  BLINK_LIMITS,
  IDLE_LIMITS,
  LIFT_LIMITS,
  ruledDrawings,
  setBlinks,
  setIdle,
  setLifts,
  setLinks,
  stressedWords,
  USUAL_BLINKS,
  USUAL_LIFTS,
  type BlinkRules,
  OPENINGS,
  type LaneLink,
  type LiftRules,
  type RuledDrawings,
  type Track,
} from '@zest-jaw/core';
import { X } from 'lucide-react';
import { useState, type ReactElement, type ReactNode } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Slider } from '../ui/Slider.js';
import { SidePanel } from './SidePanel.js';

/** What a lane does by itself, in a few words. */
export function byItselfInWords({ blinks, lifts, links = [], idle }: Track): string {
  const does = [
    blinks && `blinks ${blinks.perMinute} a minute`,
    lifts && `up on ${Math.round(lifts.share * 100)} %`,
    links.length > 0 && count(links.length, 'link', 'links'),
    idle !== undefined && 'an idle loop',
  ].filter(Boolean);
  return does.join(', ') || 'nothing';
}

interface RuleProps {
  readonly title: string;
  readonly says: string;
  readonly pictures: readonly (RuledDrawings['up'] | undefined)[];
  readonly children: ReactNode;
}

function Rule({ title, says, pictures, children }: RuleProps): ReactElement {
  const { chart } = useSpeaker();
  return (
    <section aria-label={title} className="flex flex-col gap-2.5">
      <h4 className="font-semibold">{title}</h4>
      <p className="text-[14px] leading-snug text-ink-soft">{says}</p>
      <div className="flex items-end gap-1.5" aria-hidden>
        {pictures.map((drawing, index) => drawing && <Mouth key={index} chart={chart} drawing={drawing} className="h-[52px] w-[62px]" />)}
      </div>
      {children}
    </section>
  );
}

function Blinks({ shut, half }: RuledDrawings): ReactElement {
  const { track } = useSpeaker();
  const { data } = useSheet();
  const changeAndKey = useChangeAndKey();
  const { blinks } = track;
  const set = (rules: BlinkRules | null): void => void changeAndKey((scene) => setBlinks(scene, track.id, rules, newId));
  const made = data.exposures.filter(({ drawing, inked }) => !inked && drawing === shut?.id).length;
  return (
    <Rule
      title="Blinks"
      says="Where an eye expects them: as a phrase begins, as the head turns, after a long hold. Never on lips that meet, in the middle of a stressed word, or on ink."
      pictures={[half, shut, half]}
    >
      {blinks ? (
        <>
          <Slider
            label="A minute"
            value={blinks.perMinute}
            least={BLINK_LIMITS.least}
            most={BLINK_LIMITS.most}
            step={1}
            onChange={(perMinute) => set({ ...blinks, perMinute })}
          />
          <p className="text-[14px] text-ink-soft" data-testid="blinks">
            {`${count(made, 'blink', 'blinks')} in this scene.`}
          </p>
          <div className="flex flex-wrap gap-2">
            <Button onClick={() => set({ ...blinks, seed: (blinks.seed + 1) % BLINK_LIMITS.seeds })}>Otherwise</Button>
            <Button onClick={() => set(null)}>No blinks</Button>
          </div>
        </>
      ) : (
        <Button weight="main" className="self-start" onClick={() => set(USUAL_BLINKS)}>
          Blink
        </Button>
      )}
    </Rule>
  );
}

function Lifts({ up }: RuledDrawings): ReactElement {
  const { track } = useSpeaker();
  const stressed = useSceneDocument((document) => stressedWords(document, track.characterId).length);
  const changeAndKey = useChangeAndKey();
  const { lifts } = track;
  const set = (rules: LiftRules | null): void => void changeAndKey((scene) => setLifts(scene, track.id, rules, newId));
  return (
    <Rule
      title="Up on stressed words"
      says="On those whose vowel is held longest, a moment before it, until the word ends. Never on ink."
      pictures={[up]}
    >
      {lifts ? (
        <>
          <Slider
            label="Of them, %"
            value={Math.round(lifts.share * 100)}
            least={LIFT_LIMITS.least * 100}
            most={LIFT_LIMITS.most * 100}
            step={5}
            onChange={(percent) => set({ share: percent / 100 })}
          />
          <p className="text-[14px] text-ink-soft">{`${Math.round(lifts.share * stressed)} of ${count(stressed, 'stressed word', 'stressed words')}.`}</p>
          <Button className="self-start" onClick={() => set(null)}>
            Not up by itself
          </Button>
        </>
      ) : (
        <Button weight="main" className="self-start" onClick={() => set(USUAL_LIFTS)}>
          Go up
        </Button>
      )}
    </Rule>
  );
}

/** Drawings tagged “idle”, in turn, wherever nothing else is keyed. */
function Idle({ idle }: RuledDrawings): ReactElement {
  const { track } = useSpeaker();
  const changeAndKey = useChangeAndKey();
  const set = (every: number | null): void => void changeAndKey((scene) => setIdle(scene, track.id, every, newId));
  return (
    <Rule title="An idle loop" says="Drawings tagged “idle”, in turn, wherever nothing else is keyed." pictures={idle.slice(0, 4)}>
      {track.idle === undefined ? (
        <Button className="self-start" onClick={() => set(6)}>
          Loop
        </Button>
      ) : (
        <>
          <Slider label="Frames each" value={track.idle} least={IDLE_LIMITS.least} most={IDLE_LIMITS.most} step={1} onChange={set} />
          <Button className="self-start" onClick={() => set(null)}>
            No loop
          </Button>
        </>
      )}
    </Rule>
  );
}

const MOUTH = 'the mouth';

/** When another lane of the face shows one drawing this one shows another: a table. */
function Links(): ReactElement {
  const { track, chart, allCharts } = useSpeaker();
  const changeAndKey = useChangeAndKey();
  const tracks = useSceneDocument((document) => document.tracks);
  const others = tracks.filter((one) => one.characterId === track.characterId && one.id !== track.id);
  const [leader, setLeader] = useState(MOUTH);
  const lead = others.find((one) => (one.part ?? MOUTH) === leader) ?? others[0];
  const labelsOf = (id: string | undefined): string[] => allCharts.get(id ?? '')?.drawings.map(({ label }) => label) ?? [];
  const [shows, setShows] = useState('');
  const [put, setPut] = useState('');
  const links = track.links ?? [];
  const set = (next: readonly LaneLink[]): void => void changeAndKey((scene) => setLinks(scene, track.id, next, newId));
  // A mouth may be asked how far it opens, whatever it shows.
  const openings = lead?.kind === 'mouth' ? OPENINGS : [];
  const choices = [...openings.map(([, said]) => said), ...labelsOf(lead?.chartId)];
  const wanted = { shows: choices.includes(shows) ? shows : (choices[0] ?? ''), put: put || (chart.drawings[0]?.label ?? '') };
  const select = (label: string, value: string, options: readonly string[], onChange: (value: string) => void): ReactElement => (
    <select aria-label={label} className="field min-w-0 py-0.5!" value={value} onChange={({ target }) => onChange(target.value)}>
      {options.map((one) => (
        <option key={one}>{one}</option>
      ))}
    </select>
  );
  return (
    <section aria-label="Goes with" className="flex flex-col gap-2">
      <h4 className="font-semibold">Goes with another</h4>
      <p className="text-[14px] leading-snug text-ink-soft">When that lane shows one drawing this one shows another. Never over ink.</p>
      <ul className="flex flex-col gap-1 text-[14px]" aria-label="Links">
        {links.map((link) => (
          <li key={`${link.of} ${link.shows}`} className="flex items-center gap-2 rounded-lg bg-lift px-2 py-1">
            <span className="min-w-0 flex-1 truncate">{`${link.of ?? MOUTH} ${link.opens === undefined ? `“${link.shows}”` : link.shows}: “${link.put}”`}</span>
            <Button
              weight="bare"
              aria-label={`Take the link for ${link.shows} away`}
              onClick={() => set(links.filter((one) => one !== link))}
            >
              <X size={15} aria-hidden />
            </Button>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-[auto_1fr] items-center gap-x-2 gap-y-1.5 text-[14px]">
        <span className="text-ink-soft">When</span>
        {select(
          'Which lane leads',
          lead?.part ?? MOUTH,
          others.map((one) => one.part ?? MOUTH),
          setLeader,
        )}
        <span className="text-ink-soft">shows</span>
        {select('What it shows', wanted.shows, choices, setShows)}
        <span className="text-ink-soft">this is</span>
        {select(
          'What this lane shows then',
          wanted.put,
          chart.drawings.map(({ label }) => label),
          setPut,
        )}
      </div>
      <Button
        className="self-start"
        disabled={!lead}
        onClick={() => {
          const opens = openings.find(([, said]) => said === wanted.shows)?.[0];
          set([...links, { of: lead?.part ?? null, ...wanted, ...(opens !== undefined && { opens }) }]);
        }}
      >
        Link them
      </Button>
    </section>
  );
}

export function ByItselfPanel({ onClose }: { readonly onClose: () => void }): ReactElement {
  const { track, chart } = useSpeaker();
  const drawings = ruledDrawings(chart);
  const { shut, up } = drawings;
  return (
    <SidePanel label="By itself" title={<h3 className="name text-[18px]">By itself</h3>} closeLabel="Close by itself" onClose={onClose}>
      <div className="flex min-h-0 flex-1 flex-col gap-5 overflow-y-auto px-3 pb-3">
        {(shut ?? track.blinks) && <Blinks {...drawings} />}
        {(up ?? track.lifts) && <Lifts {...drawings} />}
        {(drawings.idle.length > 0 || track.idle !== undefined) && <Idle {...drawings} />}
        <Links />
        {!shut && !up && (
          <p className="text-[14px] leading-snug text-ink-soft">
            A drawing called “Shut”, and one between called “Half”, let this lane blink; one called “Up” lets it go up on stressed words.
            Give them those labels or tags on the Chart step.
          </p>
        )}
      </div>
    </SidePanel>
  );
}
