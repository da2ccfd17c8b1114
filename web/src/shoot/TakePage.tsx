/** What was shot of a lane: played with its sound, holes shown, and held against what was asked for. */
import { frameNumber, markAllAgain, placedWords, sampleAtFrame, sceneSettings, writtenNumber, type ShotPictureView } from '@zest-jaw/core';
import { Pause, Play } from 'lucide-react';
import { useEffect, useMemo, useRef, type ReactElement } from 'react';
import { Link } from 'react-router';
import { useStore } from 'zustand';
import { useSceneSound } from '../scene/useSceneSound.js';
import type { Playhead } from '../sound/playhead.js';
import { giveKeysBack, useKeys } from '../ui/useKeys.js';
import { DoubtPanel } from './DoubtPanel.js';
import { Shown } from './stageParts.js';
import { WithLine, type ShotLine } from './ShotLine.js';
import { useDoubts } from './useDoubts.js';
import { useShooting } from './useShooting.js';
import { useShotPictures } from './useShotPictures.js';

/** Pictures that are fetched before they are shown. */
const AHEAD = 12;

export function TakePage(): ReactElement {
  return <WithLine Page={Take} />;
}

/** Which picture of the lane a frame shows. */
const pictureOf = ({ cameraOn, pictures }: ShotLine, frame: number): number => Math.min(pictures.length - 1, Math.floor(frame / cameraOn));

interface ShownProps {
  readonly line: ShotLine;
  readonly playhead: Playhead;
  readonly taken: ReadonlyMap<number, ShotPictureView>;
}

function TakenPicture({ line, playhead, taken }: ShownProps): ReactElement {
  const frame = useStore(playhead.store, (state) => state.frame);
  const picture = pictureOf(line, frame);
  const now = taken.get(picture);
  const ahead = useRef(new Map<string, HTMLImageElement>());
  useEffect(() => {
    const wanted = new Map<string, HTMLImageElement>();
    for (let next = picture; next < picture + AHEAD; next++) {
      const asset = taken.get(next)?.asset;
      if (asset === undefined) continue;
      const image = ahead.current.get(asset) ?? new Image();
      if (!image.src) image.src = `/api/assets/${asset}`;
      wanted.set(asset, image);
    }
    ahead.current = wanted;
  }, [picture, taken]);
  return (
    <div className="relative aspect-video w-full overflow-hidden rounded-2xl bg-black" data-testid="taken" data-picture={picture}>
      {now ? (
        <img
          src={`/api/assets/${now.asset}`}
          alt={`Picture ${picture + 1}`}
          decoding="sync"
          className="absolute inset-0 size-full object-contain"
        />
      ) : (
        <p className="absolute inset-0 grid place-items-center bg-[repeating-linear-gradient(45deg,#1d2438_0_14px,#141a2b_14px_28px)] text-[26px] text-[#b9bfce]">
          not shot
        </p>
      )}
      <p className="absolute right-3 bottom-3 rounded-md bg-[#141a2b]/85 px-2 py-1 text-[18px] tabular-nums">
        {`frame ${frameNumber(line.document, frame)}`}
      </p>
    </div>
  );
}

/** What was asked for in the frame at hand, and the word that is said in it. */
function Asked({ line, playhead }: Omit<ShownProps, 'taken'>): ReactElement {
  const frame = useStore(playhead.store, (state) => state.frame);
  const words = useMemo(() => placedWords(line.document), [line.document]);
  const { frameRate } = sceneSettings(line.document);
  const [from, to] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + 1)];
  const word = words.find((one) => one.to > from && one.from < to);
  const { shot } = line.pictures[pictureOf(line, frame)]!;
  const chart = shot.chartId === null ? undefined : line.charts.get(shot.chartId);
  return (
    <div className="flex items-center gap-5">
      <Shown chart={chart} drawing={shot.drawing} size="small" />
      <p className="text-[26px] leading-tight font-semibold">
        {shot.drawing ? `${writtenNumber(shot.drawing)} ${shot.drawing.label}` : 'no mouth'}
        <span className="block text-[17px] font-normal text-[#b9bfce]">was asked for</span>
      </p>
      <p className="flex-1 text-right text-[28px] text-[#f5a400]">{word?.text ?? ''}</p>
    </div>
  );
}

/** The lane from end to end: what is there, what is not, what is doubted; pressed to go there. */
function Reel({ line, playhead, taken, doubted }: ShownProps & { readonly doubted: ReadonlySet<number> }): ReactElement {
  const frame = useStore(playhead.store, (state) => state.frame);
  const { pictures, cameraOn } = line;
  const runs = useMemo(() => {
    const found: { from: number; to: number; kind: 'hole' | 'there' | 'doubted' }[] = [];
    for (let picture = 0; picture < pictures.length; picture++) {
      const kind = !taken.has(picture) ? 'hole' : doubted.has(picture) ? 'doubted' : 'there';
      const last = found.at(-1);
      if (last?.kind === kind) last.to = picture + 1;
      else found.push({ from: picture, to: picture + 1, kind });
    }
    return found;
  }, [pictures, taken, doubted]);
  const fills = { hole: 'transparent', there: '#5d6b8f', doubted: '#ff8f70' };
  return (
    <div className="relative h-[34px]">
      <svg
        viewBox={`0 0 ${pictures.length} 1`}
        preserveAspectRatio="none"
        className="absolute inset-x-0 top-2 h-[18px] w-full rounded bg-[#0d1220]"
        aria-hidden
      >
        {runs.map(({ from, to, kind }) => (
          <rect key={from} x={from} width={to - from} height={1} fill={fills[kind]} />
        ))}
      </svg>
      <input
        type="range"
        aria-label="Frame"
        min={0}
        max={Math.max(0, pictures.length * cameraOn - 1)}
        value={frame}
        onChange={({ target }) => playhead.scrubTo(Number(target.value))}
        className="absolute inset-0 h-[34px]! w-full cursor-pointer appearance-none bg-transparent! [&::-webkit-slider-runnable-track]:h-[34px] [&::-webkit-slider-runnable-track]:bg-transparent! [&::-webkit-slider-thumb]:mt-0! [&::-webkit-slider-thumb]:h-[34px] [&::-webkit-slider-thumb]:w-[5px] [&::-webkit-slider-thumb]:appearance-none [&::-webkit-slider-thumb]:rounded [&::-webkit-slider-thumb]:bg-[#f5a400]"
      />
    </div>
  );
}

function Take({ line }: { line: ShotLine }): ReactElement {
  const { sceneId, trackId, document, cameraOn, pictures } = line;
  const { title } = sceneSettings(document);
  const { player, playhead } = useSceneSound(document);
  const playing = useStore(playhead.store, (state) => state.playing);
  const { taken = new Map<number, ShotPictureView>() } = useShotPictures(line);
  const { state, change } = useShooting(sceneId, trackId, cameraOn, pictures.length);
  const doubts = useDoubts(line, taken);
  const goTo = (picture: number): void => playhead.scrubTo(picture * cameraOn);
  const step = (by: number): void => playhead.scrubTo(playhead.store.getState().frame + by * cameraOn);
  useKeys({ Space: () => playhead.toggle(), ArrowLeft: () => step(-1), ArrowRight: () => step(1), Home: () => playhead.scrubTo(0) });
  useEffect(() => () => player.stop(), [player]);
  const holes = pictures.length - [...taken.keys()].filter((picture) => picture < pictures.length).length;
  return (
    <div className="flex h-full flex-col gap-4 overflow-y-auto bg-[#141a2b] p-6 text-[#f4efe2]" onClick={giveKeysBack} data-testid="take">
      <header className="flex items-baseline gap-5 text-[18px] text-[#b9bfce]">
        <Link to={`/scenes/${sceneId}/shoot/${trackId}?on=${cameraOn}`} className="underline underline-offset-4 hover:text-[#f4efe2]">
          To the stage
        </Link>
        <h1 className="flex-1 text-[22px] font-semibold text-[#f4efe2]">{`${title}, what was shot`}</h1>
        <p role="status">
          {`${pictures.length - holes} of ${pictures.length} pictures${holes > 0 ? `, ${holes} not shot` : ''}${state.again.length > 0 ? `, ${state.again.length} to shoot again` : ''}`}
        </p>
      </header>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_400px] gap-6">
        <section aria-label="The take" className="flex flex-col gap-3">
          <TakenPicture line={line} playhead={playhead} taken={taken} />
          <Reel line={line} playhead={playhead} taken={taken} doubted={doubts.pictures} />
          <Asked line={line} playhead={playhead} />
          <button
            type="button"
            onClick={() => playhead.toggle()}
            className="flex h-[56px] items-center justify-center gap-3 rounded-2xl bg-[#f5a400] text-[20px] font-semibold text-[#1b1508]"
          >
            {playing ? <Pause aria-hidden /> : <Play aria-hidden />}
            {playing ? 'Stop' : 'Play'} <span className="text-[14px] font-normal text-[#3a2c07]">Space</span>
          </button>
        </section>
        <DoubtPanel
          line={line}
          taken={taken}
          doubts={doubts}
          again={state.again}
          onGo={goTo}
          onAgain={(some) => change((before) => markAllAgain(before, some))}
        />
      </main>
    </div>
  );
}
