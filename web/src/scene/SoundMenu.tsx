/** How it sounds here: frames heard at a step, the gap of a loop, and the delay of the headphones with its clap test. */
import { isRefusal, reactionTo, type Reaction, type Refusal } from '@zest-jaw/core';
import { clsx } from 'clsx';
import { Headphones } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { changeSoundSettings, SOUND_LIMITS, soundSettings } from '../sound/soundSettings.js';
import { openClapTest, type ClapTest } from '../sound/clapTest.js';
import { CLAPS, openTapTest, type TapTest } from '../sound/tapTest.js';
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

/** Twelve claps to tap to: how late this hand is. */
function Tap(): ReactElement {
  const [heard, setHeard] = useState<number>();
  const [result, setResult] = useState<Reaction | Refusal>();
  const test = useRef<TapTest | undefined>(undefined);
  useEffect(() => () => test.current?.stop(), []);
  const start = (): void => {
    setResult(undefined);
    setHeard(0);
    test.current = openTapTest(setHeard, (claps, taps) => {
      test.current = undefined;
      setHeard(undefined);
      const found = reactionTo(claps, taps);
      setResult(found);
      if (!isRefusal(found))
        changeSoundSettings({ reactionMs: Math.round(Math.min(SOUND_LIMITS.reactionMs, Math.max(0, found.medianMs))) });
    });
  };
  const isTesting = heard !== undefined;
  return (
    <div className="flex flex-col gap-1">
      <button
        type="button"
        onPointerDown={(event) => test.current?.tap(event.timeStamp)}
        onKeyDown={(event) => {
          if (!test.current || event.repeat) return;
          event.preventDefault();
          test.current.tap(event.timeStamp);
        }}
        onClick={() => !isTesting && start()}
        className={clsx(
          'rounded-full border px-3 py-0.5 font-semibold',
          isTesting ? 'border-zest bg-zest-soft' : 'border-rule bg-lift hover:border-graphite',
        )}
      >
        {isTesting ? `Tap here, or any key, at each clap: ${heard} of ${CLAPS}` : 'Tap test, twelve claps'}
      </button>
      {result && (
        <p role="status" className="leading-snug text-ink-soft">
          {isRefusal(result)
            ? result.refusal
            : `${Math.round(result.medianMs)} ms late in the middle, half of the taps within ${Math.round(result.spreadMs)} ms of that; ${result.answered} of ${CLAPS} claps answered.`}
        </p>
      )}
    </div>
  );
}

export function SoundMenu(): ReactElement {
  const { outputDelayMs, reactionMs, scrubFrames, loopGapSeconds, returnsAfterPlay } = useStore(soundSettings);
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
          <div className="mt-3 border-t border-rule pt-3">
            <Slider
              label="Hand, ms late"
              value={reactionMs}
              least={0}
              most={SOUND_LIMITS.reactionMs}
              step={5}
              onChange={(late) => changeSoundSettings({ reactionMs: late })}
            />
            <p className="mb-2 mt-1 leading-snug text-ink-soft">Taken off what is played in by keycaps while it plays.</p>
            <Tap />
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
