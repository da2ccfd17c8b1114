/** The transport: play and stop, loop, steps, undo; with the keys that do the same. */
import { History, Pause, Play, Repeat, SkipBack, StepBack, StepForward } from 'lucide-react';
import type { ReactElement, ReactNode } from 'react';
import { useStore } from 'zustand';
import { useOpenScene } from './sceneContext.js';
import { SLOWNESSES } from '../sound/playhead.js';
import { Round } from '../ui/Round.js';
import { moveByArrows, tabStop } from '../ui/radioKeys.js';
import { UndoRedo } from '../ui/UndoRedo.js';
import { SoundMenu } from './SoundMenu.js';

const SPEED_NAMES = ['Full speed', 'Half speed', 'Quarter speed', 'Eighth speed'] as const;

interface TransportProps {
  readonly onLoop: () => void;
  readonly onHelp: () => void;
  readonly onHistory: () => void;
  /** Beside the buttons of playing. */
  readonly playing?: ReactNode;
  /** How the step is looked at. */
  readonly look: ReactNode;
  readonly hints?: ReactNode;
}

export function Transport({ onLoop, onHelp, onHistory, playing: beside, look, hints }: TransportProps): ReactElement {
  const { playhead, session } = useOpenScene();
  const { playing, loop, slowness } = useStore(playhead.store);
  const step = (by: number): void => playhead.scrubTo(playhead.store.getState().frame + by);
  return (
    <footer
      onWheel={(event) => step(event.deltaY > 0 ? 1 : -1)}
      className="flex h-[58px] shrink-0 items-center gap-2 border-t border-rule px-[18px] text-[14px] text-ink-soft"
    >
      <button
        type="button"
        aria-label={playing ? 'Stop' : 'Play'}
        title={playing ? 'Stop (Space)' : 'Play (Space)'}
        onClick={playhead.toggle}
        className="mr-1 grid size-11 shrink-0 place-items-center rounded-full bg-ink text-on-ink"
      >
        {playing ? <Pause size={18} fill="currentColor" /> : <Play size={18} fill="currentColor" className="ml-0.5" />}
      </button>
      <Round label="To the start (Home)" onClick={() => playhead.moveTo(0)}>
        <SkipBack size={17} />
      </Round>
      <Round label="One frame back (←)" onClick={() => step(-1)}>
        <StepBack size={17} />
      </Round>
      <Round label="One frame on (→)" onClick={() => step(1)}>
        <StepForward size={17} />
      </Round>
      <Round label="Loop the phrase, or what is selected (L)" pressed={loop !== null} onClick={onLoop}>
        <Repeat size={17} />
      </Round>
      {beside}
      <span className="mx-2 h-6 border-l border-rule" />
      <div className="flex rounded-full border border-rule bg-lift p-[2px]" role="radiogroup" aria-label="Speed" onKeyDown={moveByArrows}>
        {SLOWNESSES.map((option, index) => (
          <button
            key={option}
            type="button"
            role="radio"
            aria-checked={slowness === option}
            tabIndex={tabStop(slowness === option)}
            aria-label={SPEED_NAMES[index]}
            title={`${SPEED_NAMES[index]} (${index + 1})`}
            onClick={() => playhead.setSlowness(option)}
            className="min-w-[30px] rounded-full px-1.5 py-px text-[14px] text-ink-soft hover:text-ink aria-checked:bg-ink aria-checked:text-on-ink"
          >
            {option === 1 ? '1' : `1∕${option}`}
          </button>
        ))}
      </div>
      <SoundMenu />
      {look}
      <span className="mx-2 h-6 border-l border-rule" />
      <UndoRedo session={session} />
      <Round label="History (Ctrl+H)" onClick={onHistory}>
        <History size={17} />
      </Round>
      <div className="ml-auto flex items-center gap-5 whitespace-nowrap">
        <div className="flex items-center gap-5 max-[1180px]:hidden">{hints}</div>
        <button type="button" onClick={onHelp} className="flex items-center gap-1.5 hover:text-ink">
          <kbd className="keycap">?</kbd> all keys
        </button>
      </div>
    </footer>
  );
}
