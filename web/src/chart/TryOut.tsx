/** The try-out: a spoken line played on the chart as it is, beside the desk. */
import { maybeDrawing, type KeyedExposure } from '@zest-jaw/core';
import { Mic, Pause, Play, Repeat, Square } from 'lucide-react';
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import { useCharts, useProductions } from '../api/queries.js';
import { Easel } from '../mouth/Easel.js';
import { wholeSound } from '../sound/mix.js';
import { openPlayer } from '../sound/player.js';
import { openPlayhead } from '../sound/playhead.js';
import { Button } from '../ui/Button.js';
import { Round } from '../ui/Round.js';
import { useKeys } from '../ui/useKeys.js';
import { keyer } from '../workers/keyer.js';
import { openSlowSound } from '../workers/slowSound.js';
import { useOpenChart } from './openChart.js';
import { useOwnLine, useShippedLine, type TryOutLine } from './tryOutLine.js';
import { Toggle } from '../ui/Toggle.js';
import { useLiveVoice, type LiveTake, type LiveVoice } from './useLiveVoice.js';

const NewSceneDialog = lazy(async () => ({ default: (await import('../home/NewSceneDialog.js')).NewSceneDialog }));

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
  const live = useLiveVoice(chart, player.device, `${characterName}, spoken`, (sentence) => toast.error(sentence));
  const isLive = live.state === 'live';
  const toggle = async (): Promise<void> => {
    if (live.state !== 'off') return live.stop();
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
    live.stop();
    setWantsOwn(useOwn);
  };
  const exposure = exposures.find(({ from, to }) => from <= frame && frame < to);
  const spoken = isLive && live.drawing !== undefined ? maybeDrawing(chart, live.drawing) : undefined;
  const drawing = spoken ?? (exposure && maybeDrawing(chart, exposure.drawing));
  return (
    <section
      className="flex items-center gap-3 rounded-[14px] border border-rule bg-sheet p-2 pr-3"
      aria-label="Try-out"
      data-playing={playing}
      data-drawing={drawing?.id}
      data-live={live.state}
      data-late={live.late}
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
            label={isLive ? 'Stop listening (Space)' : playing ? 'Stop the try-out (Space)' : 'Play the try-out (Space)'}
            disabled={!isLive && (!line || exposures.length === 0)}
            onClick={() => void toggle()}
          >
            {isLive ? <Square size={15} /> : playing ? <Pause size={18} /> : <Play size={18} />}
          </Round>
          <Round label="Play it over and over" pressed={loops} onClick={() => setLoops(!loops)}>
            <Repeat size={16} />
          </Round>
          <span className="name truncate text-[17px]">{drawing?.label ?? 'Try-out'}</span>
        </div>
        <div className="flex flex-wrap gap-1">
          <Toggle on={!isLive && (!wantsOwn || !own)} onToggle={() => choose(false)}>
            Our line
          </Toggle>
          <Toggle
            on={!isLive && wantsOwn && own !== undefined}
            disabled={!own}
            className="max-w-[180px] truncate"
            onToggle={() => choose(true)}
          >
            {own ? `Yours: ${own.title}` : 'Yours: none read yet'}
          </Toggle>
          <Toggle
            on={live.state !== 'off'}
            title="The chart moves with your voice"
            onToggle={() => {
              playhead.stop();
              if (live.state === 'off') live.start();
              else live.stop();
            }}
          >
            <Mic size={13} className="mr-1 inline" aria-hidden />
            Speak to it
          </Toggle>
        </div>
        {isLive ? (
          <Listening live={live} />
        ) : live.take ? (
          <Kept take={live.take} onForget={live.forget} />
        ) : (
          line && (
            <div className="h-1 overflow-hidden rounded-full bg-rule-soft" aria-hidden>
              <div className="h-full bg-zest" style={{ width: `${(frame / line.lengthFrames) * 100}%` }} />
            </div>
          )
        )}
      </div>
    </section>
  );
}

/** While it listens: how loud it is, and which microphone. */
function Listening({ live }: { live: LiveVoice }): ReactElement {
  return (
    <div className="flex items-center gap-2">
      <div
        role="meter"
        aria-label="How loud it is to the mouth"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(live.level * 100)}
        className="h-2 min-w-[60px] flex-1 overflow-hidden rounded-full bg-rule-soft"
      >
        <div className="h-full rounded-full bg-ink" style={{ width: `${live.level * 100}%` }} />
      </div>
      <span
        className="w-[46px] text-right text-[13px] text-ink-soft tabular-nums"
        data-testid="listened"
      >{`${live.seconds.toFixed(1)} s`}</span>
      <select
        aria-label="Microphone"
        className="field max-w-[150px] py-0! text-[13px]"
        value={live.chosen}
        onChange={({ target }) => live.start(target.value)}
      >
        {live.choices.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </div>
  );
}

/** What was said, to be made a scene of. */
function Kept({ take, onForget }: { take: LiveTake; onForget: () => void }): ReactElement {
  const { characterId } = useOpenChart();
  const [makes, setMakes] = useState(false);
  const productions = useProductions();
  const charts = useCharts();
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-[14px]">
      <span className="text-ink-soft">{`${take.seconds.toFixed(1)} s kept`}</span>
      <Button className="px-3! py-0.5! text-[14px]!" onClick={() => setMakes(true)}>
        Make a scene of it
      </Button>
      <Button className="px-3! py-0.5! text-[14px]!" onClick={onForget}>
        Forget it
      </Button>
      {makes && productions.data && charts.data && (
        <Suspense>
          <NewSceneDialog
            recording={take.file}
            productions={productions.data}
            charts={charts.data}
            speaker={characterId}
            said={take.said}
            onClose={() => setMakes(false)}
          />
        </Suspense>
      )}
    </div>
  );
}
