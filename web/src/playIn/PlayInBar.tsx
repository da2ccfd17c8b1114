/** Playing in: how, and what becomes of what was played. */
import { X } from 'lucide-react';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { useOpenScene } from '../scene/sceneContext.js';
import { soundSettings } from '../sound/soundSettings.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Toggle } from '../ui/Toggle.js';
import { playInWays, type PlayIn } from './usePlayIn.js';

export function PlayInBar({ playIn }: { playIn: PlayIn }): ReactElement {
  const { playhead } = useOpenScene();
  const { after, isOnGrid } = useStore(playInWays);
  const isPlaying = useStore(playhead.store, ({ playing }) => playing);
  const reactionMs = useStore(soundSettings, (state) => state.reactionMs);
  const { mouths, isArmed } = playIn;
  const said = !isArmed
    ? `${count(mouths.length, 'mouth', 'mouths')} played in.`
    : isPlaying
      ? 'Press keycaps as you hear them.'
      : mouths.length > 0
        ? `${count(mouths.length, 'mouth', 'mouths')} played in. Play again, and only where you press is replaced.`
        : 'Armed. Play, slowly if you like, and press keycaps as you hear them.';
  return (
    <section
      aria-label="Playing in"
      className="flex shrink-0 flex-col gap-1.5 rounded-[10px] border border-[var(--hiss)] bg-lift px-3 py-2 text-[14px]"
    >
      <div className="flex items-start gap-2">
        <p className="flex-1 leading-snug" role="status">
          {said}
        </p>
        <Button weight="bare" aria-label="No longer play in" onClick={() => playIn.arm(false)}>
          <X size={16} aria-hidden />
        </Button>
      </div>
      <div className="flex flex-wrap items-center gap-1.5">
        <Toggle
          on={after === 'rests'}
          onToggle={() => playInWays.setState({ after: after === 'rests' ? 'holds' : 'rests' })}
          title="When a keycap is let go the mouth goes to rest; else it holds on"
        >
          rests when let go
        </Toggle>
        <Toggle on={isOnGrid} onToggle={() => playInWays.setState({ isOnGrid: !isOnGrid })} title="Mouths start on the grid of the hold">
          on the hold
        </Toggle>
        <span className="text-ink-soft" title="How late your hand is: found by the tap test, in the menu of the sound">
          hand {reactionMs} ms
        </span>
      </div>
      {mouths.length > 0 && (
        <div className="flex gap-1.5">
          <Button weight="main" className="px-3! py-1!" onClick={playIn.take}>
            Take as ink
          </Button>
          <Button className="px-3! py-1!" onClick={playIn.leave}>
            Leave them
          </Button>
        </div>
      )}
    </section>
  );
}
