/** Where the lane's drawings, or the whole head, are: keys of place, angle, size, skew and side over time. */
import { frameNumber, maybePlaceAt, NO_PLACE, PLACE_EASES, PLACE_LIMITS, placesOf, type PlaceEase, type PlaceValue } from '@zest-jaw/core';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import type { ReactElement } from 'react';
import { useFrame, useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Pills } from '../ui/Pills.js';
import { Slider } from '../ui/Slider.js';
import { SidePanel } from './SidePanel.js';
import { usePlace } from './usePlace.js';

const EASE_NAMES: Readonly<Record<PlaceEase, string>> = { hold: 'stays', even: 'even', in: 'slow in', out: 'slow out', both: 'both' };

interface Amount {
  readonly key: 'x' | 'y' | 'scale' | 'angle' | 'skew';
  readonly label: string;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  /** Shown and set by so many times. */
  readonly times: number;
}

const amountsFor = (reach: number): readonly Amount[] => [
  { key: 'x', label: 'Across', least: -reach, most: reach, step: 1, times: 1 },
  { key: 'y', label: 'Down', least: -reach, most: reach, step: 1, times: 1 },
  { key: 'scale', label: 'Size, %', least: 20, most: 300, step: 2, times: 100 },
  { key: 'angle', label: 'Turned, °', least: -180, most: 180, step: 1, times: 1 },
  { key: 'skew', label: 'Skew, °', least: -PLACE_LIMITS.skew, most: PLACE_LIMITS.skew, step: 1, times: 1 },
];

export function PlacePanel({ reach, onClose }: { readonly reach: number; readonly onClose: () => void }): ReactElement {
  const scene = useSceneDocument();
  const { playhead } = useOpenScene();
  const { track } = useSpeaker();
  const frame = useFrame();
  const { of, choose, set, remove, move, setEase } = usePlace();
  const what = { track: track.id, of };
  const keys = placesOf(scene, what);
  const here = keys.find((key) => key.frame === frame);
  const [before, after] = [keys.findLast((key) => key.frame < frame), keys.find((key) => key.frame > frame)];
  const value: PlaceValue = here ?? maybePlaceAt(scene, what, frame) ?? NO_PLACE;
  const ease = here?.ease ?? before?.ease ?? 'both';
  return (
    <SidePanel label="Place" title={<h3 className="name text-[18px]">Place</h3>} closeLabel="Close the place" onClose={onClose}>
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-3 pb-3" tabIndex={0} role="group" aria-label="Where it is">
        {track.kind === 'mouth' && (
          <Pills
            label="What is moved"
            value={of}
            options={[
              ['own', 'The mouth'],
              ['head', 'The whole head'],
            ]}
            onChange={choose}
          />
        )}
        <div className="flex items-center gap-1 text-[14px] text-ink-soft">
          <Button weight="bare" disabled={!before} aria-label="The key before" onClick={() => before && playhead.moveTo(before.frame)}>
            <ChevronLeft size={17} aria-hidden />
          </Button>
          <span className="flex-1 text-center" data-testid="place-keys">
            {here
              ? `A key here, frame ${frameNumber(scene, frame)}`
              : keys.length === 0
                ? 'Not moved yet'
                : count(keys.length, 'key', 'keys')}
          </span>
          <Button weight="bare" disabled={!after} aria-label="The next key" onClick={() => after && playhead.moveTo(after.frame)}>
            <ChevronRight size={17} aria-hidden />
          </Button>
        </div>
        <div className="flex flex-col gap-0.5">
          {amountsFor(reach).map(({ key, label, least, most, step, times }) => (
            <Slider
              key={key}
              label={label}
              value={Math.round(value[key] * times)}
              least={least}
              most={most}
              step={step}
              onChange={(amount) => set({ [key]: amount / times })}
            />
          ))}
          <label className="flex items-center gap-2 text-[14px]">
            <input type="checkbox" checked={value.flip} onChange={({ target }) => set({ flip: target.checked })} />
            Mirrored
          </label>
        </div>
        <div>
          <p className="mb-1 font-semibold">On its way to the next key</p>
          <Pills label="Ease" value={ease} options={PLACE_EASES.map((one) => [one, EASE_NAMES[one]] as const)} onChange={setEase} />
        </div>
        <div className="flex flex-wrap gap-2">
          <Button disabled={here !== undefined} onClick={() => set({})}>
            Key here
          </Button>
          <Button disabled={!here} onClick={remove}>
            Take the key away
          </Button>
          <Button disabled={!here} onClick={() => move(-1)}>
            A frame earlier
          </Button>
          <Button disabled={!here} onClick={() => move(1)}>
            A frame later
          </Button>
        </div>
        <p className="text-[14px] leading-snug text-ink-soft">Drag it on the easel, or turn, size and skew it by its handles.</p>
      </div>
    </SidePanel>
  );
}
