/** A lane on the stage: the mouth that goes on now, large, to be read from two metres and pressed with gloves. */
import {
  chartsWithOneOffs,
  countShot,
  frameNumber,
  isShot,
  looksOfFrames,
  markAgain,
  picturesOfPull,
  placedWords,
  pullListOf,
  sampleAtFrame,
  sceneSettings,
  shootNow,
  stepShoot,
  type ChartDocument,
  type ChartView,
  type Drawing,
  type SceneView,
} from '@zest-jaw/core';
import { useQuery } from '@tanstack/react-query';
import { clsx } from 'clsx';
import { useMemo, useState, type ReactElement, type ReactNode } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { api, sentenceOf } from '../api/http.js';
import { Mouth } from '../mouth/Mouth.js';
import { AlonePage } from '../ui/AlonePage.js';
import { giveKeysBack, useKeys } from '../ui/useKeys.js';
import { useShooting } from './useShooting.js';

/** Words of the line that are shown around the one that is said. */
const WORDS_AROUND = 4;

export function ShootPage(): ReactElement {
  const { sceneId = '', trackId = '' } = useParams();
  const view = useQuery({ queryKey: ['shoot', sceneId], queryFn: () => api<SceneView>(`/scenes/${sceneId}`), staleTime: Infinity });
  const charts = useQuery({ queryKey: ['shoot-charts'], queryFn: () => api<ChartView[]>('/charts'), staleTime: Infinity });
  const failed = view.error ?? charts.error;
  if (failed) return <AlonePage title="This scene cannot be shot" text={sentenceOf(failed)} />;
  if (!view.data || !charts.data) return <AlonePage busy title="Opening the shoot…" />;
  if (!view.data.document.tracks.some(({ id }) => id === trackId))
    return <AlonePage title="This lane is not in the scene" text="Go back to Hand off and choose one." />;
  return <Stage view={view.data} charts={charts.data} trackId={trackId} />;
}

interface BigButtonProps {
  readonly label: string;
  readonly hint: string;
  readonly isMain?: boolean;
  readonly isOn?: boolean;
  readonly onPress: () => void;
}

function BigButton({ label, hint, isMain = false, isOn, onPress }: BigButtonProps): ReactElement {
  return (
    <button
      type="button"
      aria-pressed={isOn}
      onClick={onPress}
      className={clsx(
        'flex min-h-[96px] flex-col items-center justify-center rounded-2xl px-6 text-[26px] leading-tight font-semibold',
        isMain ? 'flex-[2] bg-[#f5a400] text-[#1b1508]' : 'flex-1 border-2 border-[#4b5672] text-[#f4efe2]',
        isOn && 'border-[#f5a400]! text-[#f5a400]!',
      )}
    >
      {label}
      <span className={clsx('text-[15px] font-normal', isMain ? 'text-[#3a2c07]' : 'text-[#b9bfce]')}>{hint}</span>
    </button>
  );
}

function Shown({
  chart,
  drawing,
  small = false,
}: {
  chart: ChartDocument | undefined;
  drawing: Drawing | null;
  small?: boolean;
}): ReactElement {
  const size = small ? 'h-[120px] w-[170px]' : 'h-[360px] w-[520px]';
  return (
    <div className={clsx('grid place-items-center rounded-3xl bg-[#f4efe2] text-[#1f2a44]', size)}>
      {drawing && chart ? <Mouth chart={chart} drawing={drawing} className="size-[88%]" /> : <span className="text-[22px]">no mouth</span>}
    </div>
  );
}

function Stage({ view, charts: all, trackId }: { view: SceneView; charts: readonly ChartView[]; trackId: string }): ReactElement {
  const { document } = view;
  const { title, frameRate, lengthFrames } = sceneSettings(document);
  const [params, setParams] = useSearchParams();
  const cameraOn = params.get('on') === '2' ? 2 : 1;
  const [inOneGo, setInOneGo] = useState(false);
  const charts = useMemo(() => chartsWithOneOffs(document, new Map(all.map((chart) => [chart.id, chart.document]))), [document, all]);
  const { pictures, shots } = useMemo(() => {
    const pull = pullListOf(looksOfFrames(document, trackId, charts), charts, cameraOn);
    return { pictures: picturesOfPull(pull), shots: pull.shots.length };
  }, [document, trackId, charts, cameraOn]);
  const { state, isKnown, isBehind, change } = useShooting(view.id, trackId, cameraOn, pictures.length);
  const words = useMemo(() => placedWords(document), [document]);
  const shoot = (): void => change((now) => shootNow(now, pictures, inOneGo));
  const back = (): void => change((now) => stepShoot(now, -1, pictures.length));
  const on = (): void => change((now) => stepShoot(now, 1, pictures.length));
  const again = (): void => change(markAgain);
  useKeys({ Space: shoot, Enter: shoot, Backspace: back, ArrowLeft: back, ArrowRight: on, KeyR: again, KeyH: () => setInOneGo(!inOneGo) });

  if (!isKnown) return <AlonePage busy title="Opening the shoot…" />;
  const now = pictures[state.at];
  const left = pictures.length - countShot(state);
  const frame = now?.frame ?? lengthFrames - 1;
  const [from, to] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + cameraOn)];
  const said = words.findIndex((word) => word.to > from);
  const isSaid = said >= 0 && words[said]!.from < to;
  const near = words.slice(Math.max(0, said - WORDS_AROUND), (said < 0 ? words.length : said) + WORDS_AROUND + 1);
  const chartOf = (id: string | null): ChartDocument | undefined => (id === null ? undefined : charts.get(id));
  const nextShot = now && pictures.find((one, index) => index > state.at && one.shot !== now.shot)?.shot;
  return (
    <div
      className="flex h-full flex-col gap-4 bg-[#141a2b] p-6 text-[#f4efe2]"
      data-testid="stage"
      data-at={state.at}
      data-left={left}
      onClick={giveKeysBack}
    >
      <header className="flex items-baseline gap-5 text-[18px] text-[#b9bfce]">
        <Link to={`/scenes/${view.id}/hand-off?as=shots`} className="underline underline-offset-4 hover:text-[#f4efe2]">
          {title}
        </Link>
        <span className="flex-1">{`${shots} mouths in turn, camera on ${cameraOn === 1 ? 'ones' : 'twos'}`}</span>
        <button
          type="button"
          className="underline underline-offset-4"
          onClick={() => setParams({ on: cameraOn === 1 ? '2' : '1' }, { replace: true })}
        >
          {cameraOn === 1 ? 'Camera on twos' : 'Camera on ones'}
        </button>
        {isBehind && <span className="text-[#ffb3a0]">not kept yet, it is tried again</span>}
      </header>
      <main className="flex min-h-0 flex-1 items-center gap-8">
        {now ? (
          <>
            <Shown chart={chartOf(now.shot.chartId)} drawing={now.shot.drawing} />
            <Facts>
              <p className="text-[150px] leading-none font-bold tabular-nums" data-testid="number">
                {now.shot.drawing?.number ?? '–'}
              </p>
              <p className="text-[34px] font-semibold">{now.shot.drawing?.label ?? 'no mouth'}</p>
              <p className="text-[40px] leading-tight" data-testid="nth">{`${now.nth} of ${now.shot.pictures}`}</p>
              {isShot(state, state.at) && (
                <p className="text-[22px] text-[#f5a400]">{state.again.includes(state.at) ? 'to be shot again' : 'shot already'}</p>
              )}
            </Facts>
          </>
        ) : (
          <Facts>
            <p className="text-[80px] leading-none font-bold">{left === 0 ? 'All shot' : 'At the end'}</p>
            <p className="text-[28px]">{left === 0 ? `${pictures.length} pictures.` : `${left} are left: go back to them.`}</p>
          </Facts>
        )}
        {now && (
          <div className="flex flex-col items-center gap-2 text-center">
            <p className="text-[20px] text-[#b9bfce]">then</p>
            {nextShot ? (
              <>
                <Shown chart={chartOf(nextShot.chartId)} drawing={nextShot.drawing} small />
                <p className="text-[30px] font-semibold">
                  {nextShot.drawing ? `${nextShot.drawing.number} ${nextShot.drawing.label}` : 'no mouth'}
                </p>
              </>
            ) : (
              <p className="text-[26px]">the end</p>
            )}
          </div>
        )}
      </main>
      <p className="min-h-[46px] text-center text-[32px] text-[#97a0b8]" aria-label="What is said">
        {near.map((word) => (
          <span key={word.id} className={clsx('mx-2', isSaid && word === words[said] && 'font-bold text-[#f5a400]')}>
            {word.text}
          </span>
        ))}
      </p>
      <p
        className="text-center text-[22px]"
        role="status"
      >{`Frame ${frameNumber(document, frame)} · ${left} of ${pictures.length} pictures left${state.again.length > 0 ? ` · ${state.again.length} to shoot again` : ''}`}</p>
      <footer className="flex gap-4">
        <BigButton label="Back" hint="Backspace" onPress={back} />
        <BigButton label="Again" hint="R, shoot this one anew" onPress={again} />
        <BigButton label="Shot" hint="Space" isMain onPress={shoot} />
        <BigButton label="Holds in one go" hint="H" isOn={inOneGo} onPress={() => setInOneGo(!inOneGo)} />
      </footer>
    </div>
  );
}

function Facts({ children }: { children: ReactNode }): ReactElement {
  return <div className="flex flex-1 flex-col gap-2">{children}</div>;
}
