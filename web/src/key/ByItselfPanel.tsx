/** What the pencil of a part's lane does by itself: lids blink, brows go up on stressed words. */
import {
  BLINK_LIMITS,
  LIFT_LIMITS,
  ruledDrawings,
  setBlinks,
  setLifts,
  stressedWords,
  USUAL_BLINKS,
  USUAL_LIFTS,
  type BlinkRules,
  type LiftRules,
  type RuledDrawings,
  type Track,
} from '@zest-jaw/core';
import type { ReactElement, ReactNode } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/documentSession.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Slider } from '../ui/Slider.js';
import { SidePanel } from './SidePanel.js';

/** What a lane does by itself, in a few words; undefined where its chart has no drawing for it. */
export function byItselfInWords({ blinks, lifts }: Track, { shut, up }: RuledDrawings): string | undefined {
  if (!blinks && !lifts && !shut && !up) return undefined;
  const does = [blinks && `blinks ${blinks.perMinute} a minute`, lifts && `up on ${Math.round(lifts.share * 100)} %`].filter(Boolean);
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

export function ByItselfPanel({ onClose }: { readonly onClose: () => void }): ReactElement {
  const { track, chart } = useSpeaker();
  const drawings = ruledDrawings(chart);
  const { shut, up } = drawings;
  return (
    <SidePanel label="By itself" title={<h3 className="name text-[18px]">By itself</h3>} closeLabel="Close by itself" onClose={onClose}>
      <div className="flex min-h-0 flex-1 flex-col gap-5 overflow-y-auto px-3 pb-3">
        {(shut ?? track.blinks) && <Blinks {...drawings} />}
        {(up ?? track.lifts) && <Lifts {...drawings} />}
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
