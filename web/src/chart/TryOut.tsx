/** The try-out: a spoken line played on the chart as it is, beside the desk. */
import { maybeDrawing, type KeyedExposure } from '@zest-jaw/core';
import { Pause, Play, Repeat } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import { Easel } from '../mouth/Easel.js';
import { wholeSound } from '../sound/mix.js';
import { openPlayer } from '../sound/player.js';
import { openPlayhead } from '../sound/playhead.js';
import { Round } from '../ui/Round.js';
import { useKeys } from '../ui/useKeys.js';
import { keyer } from '../workers/keyer.js';
import { openSlowSound } from '../workers/slowSound.js';
import { useOpenChart } from './openChart.js';
import { useOwnLine, useShippedLine, type TryOutLine } from './tryOutLine.js';
import { Toggle } from '../ui/Toggle.js';

/** Keys a line on the chart as it is now. */
function useKeyed(line: TryOutLine | undefined): readonly KeyedExposure[] {
  const { chart } = useOpenChart();
  const [exposures, setExposures] = useState<readonly KeyedExposure[]>([]);
  // Only what decides which mouth is shown: a change of shape alone is worn at once without keying.
  const planned = useMemo(() => line && { line, chart }, [line, chart]);
  useEffect(() => {
    if (!planned) return undefined;
    let wanted = true;
    const { sounds, frameRate, lengthFrames, rules } = planned.line;
    keyer
      .sounds({ sounds, frameRate, lengthFrames, rules, chart: planned.chart })
      .then((keyed) => wanted && setExposures(keyed.exposures))
      .catch((error: unknown) => toast.error(sentenceOf(error)));
    return () => void (wanted = false);
  }, [planned]);
  return exposures;
}

export function TryOut(): ReactElement {
  const { chart, characterId, characterName } = useOpenChart();
  const shipped = useShippedLine();
  const own = useOwnLine(characterId);
  const [wantsOwn, setWantsOwn] = useState(false);
  const [loops, setLoops] = useState(false);
  const line = wantsOwn && own ? own : shipped.data;
  const exposures = useKeyed(line);
  const player = useMemo(() => openPlayer(openSlowSound), []);
  const playhead = useMemo(() => openPlayhead(player), [player]);
  const { frame, playing } = useStore(playhead.store);
  useEffect(
    () => () => {
      playhead.close();
      player.close();
    },
    [player, playhead],
  );
  const loaded = useRef<TryOutLine | undefined>(undefined);
  // Fetched when it is first played: a page that is only drawn on opens no sound device.
  const load = async (wanted: TryOutLine): Promise<void> => {
    if (loaded.current === wanted) return;
    player.setScene([], wanted.frameRate, false);
    const sounds = await Promise.all(
      wanted.recordings.map(async ({ url, atSample, part }) => {
        const response = await fetch(url);
        if (!response.ok) throw new Error('The recording could not be loaded. Reload the page to try again.');
        const buffer = await player.decode(await response.arrayBuffer());
        return { ...wholeSound(buffer, atSample), ...part };
      }),
    );
    player.setScene(sounds, wanted.frameRate, true);
    playhead.setLength(wanted.lengthFrames);
    loaded.current = wanted;
  };
  const toggle = async (): Promise<void> => {
    if (playing) return playhead.stop();
    if (!line) return;
    try {
      await load(line);
      if (loops) playhead.toggleLoop({ from: 0, to: line.lengthFrames });
      else {
        playhead.moveTo(0);
        playhead.toggle();
      }
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  useKeys({ Space: () => void toggle() });
  const choose = (useOwn: boolean): void => {
    playhead.stop();
    setWantsOwn(useOwn);
  };
  const exposure = exposures.find(({ from, to }) => from <= frame && frame < to);
  const drawing = exposure && maybeDrawing(chart, exposure.drawing);
  return (
    <section
      className="flex items-center gap-3 rounded-[14px] border border-rule bg-sheet p-2 pr-3"
      aria-label="Try-out"
      data-playing={playing}
      data-drawing={drawing?.id}
    >
      <Easel
        name={characterName}
        chart={chart}
        drawing={drawing}
        frame={frame}
        since={exposure?.from ?? 0}
        className="h-[112px] w-[126px] shrink-0 rounded-[10px]!"
      />
      <div className="flex min-w-0 flex-1 flex-col gap-1.5">
        <div className="flex items-center gap-1">
          <Round
            label={playing ? 'Stop the try-out (Space)' : 'Play the try-out (Space)'}
            disabled={!line || exposures.length === 0}
            onClick={() => void toggle()}
          >
            {playing ? <Pause size={18} /> : <Play size={18} />}
          </Round>
          <Round label="Play it over and over" pressed={loops} onClick={() => setLoops(!loops)}>
            <Repeat size={16} />
          </Round>
          <span className="name truncate text-[17px]">{drawing?.label ?? 'Try-out'}</span>
        </div>
        <div className="flex flex-wrap gap-1">
          <Toggle on={!wantsOwn || !own} onToggle={() => choose(false)}>
            Our line
          </Toggle>
          <Toggle on={wantsOwn && own !== undefined} disabled={!own} className="max-w-[220px] truncate" onToggle={() => choose(true)}>
            {own ? `Yours: ${own.title}` : 'Yours: none read yet'}
          </Toggle>
        </div>
        {line && (
          <div className="h-1 overflow-hidden rounded-full bg-rule-soft" aria-hidden>
            <div className="h-full bg-zest" style={{ width: `${(frame / line.lengthFrames) * 100}%` }} />
          </div>
        )}
      </div>
    </section>
  );
}
