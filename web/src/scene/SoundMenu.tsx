/** How it sounds here: frames heard at a step, the gap of a loop, and the delay of the headphones with its clap test. */
import { Headphones } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { changeSoundSettings, SOUND_LIMITS, soundSettings } from '../sound/soundSettings.js';
import { openClapTest, type ClapTest } from '../sound/clapTest.js';
import { Slider } from '../ui/Slider.js';

/** Two hands that meet when the clap is heard; the slider brings the two together. */
function Clap(): ReactElement {
  const [running, setRunning] = useState(false);
  const hands = useRef<HTMLSpanElement>(null);
  const test = useRef<ClapTest | undefined>(undefined);
  useEffect(() => () => test.current?.stop(), []);
  const toggle = (): void => {
    test.current?.stop();
    test.current = running ? undefined : openClapTest((shut) => hands.current?.style.setProperty('--apart', String(1 - shut)));
    setRunning(!running);
  };
  return (
    <div className="flex items-center gap-3">
      <button
        type="button"
        onClick={toggle}
        className="rounded-full border border-rule bg-lift px-3 py-0.5 font-semibold hover:border-graphite"
      >
        {running ? 'Stop the claps' : 'Clap test'}
      </button>
      <span ref={hands} className="flex h-6 flex-1 items-center justify-center" style={{ '--apart': 1 } as React.CSSProperties} aria-hidden>
        <span className="h-5 w-2 rounded-full bg-ink" style={{ transform: 'translateX(calc(var(--apart) * -22px))' }} />
        <span className="h-5 w-2 rounded-full bg-zest" style={{ transform: 'translateX(calc(var(--apart) * 22px))' }} />
      </span>
    </div>
  );
}

export function SoundMenu(): ReactElement {
  const { outputDelayMs, scrubFrames, loopGapSeconds, returnsAfterPlay } = useStore(soundSettings);
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label="How it sounds here"
        title="How it sounds here"
        className="grid size-9 place-items-center rounded-full border border-transparent text-ink hover:border-rule hover:bg-lift"
      >
        <Headphones size={17} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="How it sounds here"
          side="top"
          sideOffset={10}
          align="start"
          className="z-40 w-[330px] rounded-2xl border border-rule bg-sheet p-5 text-[14px]"
        >
          <p className="name text-[18px]">How it sounds here</p>
          <p className="mb-3 text-ink-soft">Kept in this browser, for every scene.</p>
          <Slider
            label="Frames a step"
            value={scrubFrames}
            least={1}
            most={SOUND_LIMITS.scrubFrames}
            step={1}
            onChange={(frames) => changeSoundSettings({ scrubFrames: frames })}
          />
          <Slider
            label="Loop gap, s"
            value={loopGapSeconds}
            least={0}
            most={SOUND_LIMITS.loopGapSeconds}
            step={0.1}
            onChange={(seconds) => changeSoundSettings({ loopGapSeconds: seconds })}
          />
          <label className="mb-2 flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-ink"
              checked={returnsAfterPlay}
              onChange={(event) => changeSoundSettings({ returnsAfterPlay: event.target.checked })}
            />
            Go back to the start when play has ended
          </label>
          <Slider
            label="Delay, ms"
            value={outputDelayMs}
            least={0}
            most={SOUND_LIMITS.outputDelayMs}
            step={5}
            onChange={(delay) => changeSoundSettings({ outputDelayMs: delay })}
          />
          <p className="mb-2 mt-1 leading-snug text-ink-soft">
            Wireless headphones are late. Start the claps and move the delay until the hands meet when you hear them.
          </p>
          <Clap />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
