/** How the pencil of a lane of lids blinks: how often, and which of the many ways it may fall. */
import { BLINK_LIMITS, blinkDrawings, setBlinks, USUAL_BLINKS, type BlinkRules } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { useSheet, useSpeaker } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/documentSession.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Slider } from '../ui/Slider.js';
import { SidePanel } from './SidePanel.js';

export function BlinkPanel({ onClose }: { readonly onClose: () => void }): ReactElement {
  const { track, chart } = useSpeaker();
  const { data } = useSheet();
  const changeAndKey = useChangeAndKey();
  const { shut, half } = blinkDrawings(chart);
  const { blinks } = track;
  const set = (rules: BlinkRules | null): void => void changeAndKey((scene) => setBlinks(scene, track.id, rules, newId));
  const made = data.exposures.filter(({ drawing, inked }) => !inked && drawing === shut?.id).length;
  return (
    <SidePanel label="Blinks" title={<h3 className="name text-[18px]">Blinks</h3>} closeLabel="Close blinks" onClose={onClose}>
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-3 pb-3">
        {shut ? (
          <>
            <p className="text-[14px] leading-snug text-ink-soft">
              In pencil, where an eye expects them: as a phrase begins, as the head turns, after a long hold. Never on lips that meet, in
              the middle of a stressed word, or on ink.
            </p>
            <div className="flex items-end gap-1.5" aria-hidden>
              {[half, shut, half].map(
                (drawing, index) => drawing && <Mouth key={index} chart={chart} drawing={drawing} className="h-[52px] w-[62px]" />,
              )}
            </div>
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
          </>
        ) : (
          <p className="text-[14px] leading-snug text-ink-soft">
            No drawing of this lane is called “Shut”. Give the one with the eyes shut that label or tag on the Chart step, and one between
            “Half”, and the lane can blink by itself.
          </p>
        )}
      </div>
    </SidePanel>
  );
}
