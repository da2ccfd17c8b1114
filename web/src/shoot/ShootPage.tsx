/** A lane on the stage: the mouth that goes on now, large, to be read from two metres and pressed with gloves; and what the camera sees. */
import {
  countShot,
  frameNumber,
  isShot,
  markAgain,
  placedWords,
  sampleAtFrame,
  sceneSettings,
  shootNow,
  stepShoot,
  writtenNumber,
  type ChartDocument,
} from '@zest-jaw/core';
import { clsx } from 'clsx';
import { useEffect, useMemo, useState, type ReactElement } from 'react';
import { Link, useSearchParams } from 'react-router';
import { sentenceOf } from '../api/http.js';
import { LinkForDevice } from '../room/LinkForDevice.js';
import { PRACTICE_CAMERA } from '../stage/camera.js';
import { AlonePage } from '../ui/AlonePage.js';
import { giveKeysBack, useKeys } from '../ui/useKeys.js';
import { LivePicture } from './LivePicture.js';
import { mouthKey, WithLine, type ShotLine } from './ShotLine.js';
import { BigButton, Facts, Shown } from './stageParts.js';
import { useShooting } from './useShooting.js';
import { useShotPictures } from './useShotPictures.js';
import { useStageCamera } from './useStageCamera.js';

/** Words of the line that are shown around the one that is said. */
const WORDS_AROUND = 4;

export function ShootPage(): ReactElement {
  return <WithLine Page={Stage} />;
}

function Stage({ line }: { line: ShotLine }): ReactElement {
  const { sceneId, trackId, document, charts, cameraOn, pictures, shots } = line;
  const { title, frameRate, lengthFrames } = sceneSettings(document);
  const [, setParams] = useSearchParams();
  const [inOneGo, setInOneGo] = useState(false);
  const [isOnion, setIsOnion] = useState(true);
  const [cameraFault, setCameraFault] = useState<string>();
  const { state, isKnown, isBehind, change } = useShooting(sceneId, trackId, cameraOn, pictures.length);
  const { choices, chosen, choose, camera, fault } = useStageCamera(line);
  const { taken, waiting, keep, fault: refused } = useShotPictures(line);
  const words = useMemo(() => placedWords(document), [document]);
  const now = pictures[state.at];
  // A mouth is put on when it is its turn, and anew when one goes back to it.
  const mouth = isKnown && now ? mouthKey(now) : undefined;
  const turn = now && now.nth > 1 && isShot(state, state.at - 1) && !isShot(state, state.at) ? now.shot.frame : `${state.at}`;
  useEffect(() => {
    if (mouth !== undefined) camera?.wear?.(mouth);
  }, [camera, mouth, turn]);

  const takeAll = async (from: number, to: number): Promise<void> => {
    // All are asked for before the next mouth is put on.
    const taking = pictures.slice(from, to).map(({ shot: { chartId, drawing } }, index) => ({
      jpeg: camera!.take(),
      kept: { picture: from + index, chartId, drawing: drawing?.id ?? null, practice: chosen === PRACTICE_CAMERA.id },
    }));
    const taken = await Promise.allSettled(taking.map(async ({ jpeg, kept }) => keep({ ...kept, jpeg: await jpeg })));
    const failed = taken.find((one) => one.status === 'rejected');
    setCameraFault(failed && sentenceOf(failed.reason));
  };
  const shoot = (): void => {
    if (!isKnown || !now) return;
    let to = state.at + 1;
    while (inOneGo && pictures[to]?.shot === now.shot) to += 1;
    if (camera) void takeAll(state.at, to);
    change((before) => shootNow(before, pictures, inOneGo));
  };
  const back = (): void => change((before) => stepShoot(before, -1, pictures.length));
  const on = (): void => change((before) => stepShoot(before, 1, pictures.length));
  const again = (): void => change(markAgain);
  useKeys({
    ...{ Space: shoot, Enter: shoot, Backspace: back, ArrowLeft: back, ArrowRight: on, KeyR: again },
    KeyH: () => setInOneGo(!inOneGo),
    KeyO: () => setIsOnion(!isOnion),
  });
  if (!isKnown) return <AlonePage busy title="Opening the shoot…" />;

  const left = pictures.length - countShot(state);
  const frame = now?.frame ?? lengthFrames - 1;
  const [from, to] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + cameraOn)];
  const said = words.findIndex((word) => word.to > from);
  const isSaid = said >= 0 && words[said]!.from < to;
  const near = words.slice(Math.max(0, said - WORDS_AROUND), (said < 0 ? words.length : said) + WORDS_AROUND + 1);
  const chartOf = (id: string | null): ChartDocument | undefined => (id === null ? undefined : charts.get(id));
  const nextShot = now && pictures.find((one, index) => index > state.at && one.shot !== now.shot)?.shot;
  const before = [...(taken?.values() ?? [])].filter(({ picture }) => picture < state.at).at(-1);
  const hasCamera = chosen !== '';
  const trouble = fault ?? cameraFault ?? refused;
  return (
    <div
      className="flex h-full flex-col gap-4 bg-[#141a2b] p-6 text-[#f4efe2]"
      data-testid="stage"
      data-at={state.at}
      data-left={left}
      onClick={giveKeysBack}
    >
      <header className="flex items-baseline gap-5 text-[18px] text-[#b9bfce]">
        <Link to={`/scenes/${sceneId}/hand-off?as=shots`} className="underline underline-offset-4 hover:text-[#f4efe2]">
          {title}
        </Link>
        <span className="flex-1">{`${shots} mouths in turn, camera on ${cameraOn === 1 ? 'ones' : 'twos'}`}</span>
        {isBehind && <span className="text-[#ffb3a0]">not kept yet, it is tried again</span>}
        {waiting > 3 && <span className="text-[#ffb3a0]">{`${waiting} pictures are on their way`}</span>}
        <LinkForDevice name={`Stage: ${title}`} className="underline underline-offset-4" />
        <Link to={`take?on=${cameraOn}`} className="underline underline-offset-4 hover:text-[#f4efe2]">
          What was shot
        </Link>
        <button
          type="button"
          className="underline underline-offset-4"
          onClick={() => setParams({ on: cameraOn === 1 ? '2' : '1' }, { replace: true })}
        >
          {cameraOn === 1 ? 'Camera on twos' : 'Camera on ones'}
        </button>
        <select
          aria-label="Camera"
          className="rounded-md border border-[#4b5672] bg-[#141a2b] px-2 py-1 text-[#f4efe2]"
          value={chosen}
          onChange={({ target }) => choose(target.value)}
        >
          {choices.map(({ id, name }) => (
            <option key={id} value={id}>
              {id === '' ? 'no camera' : name}
            </option>
          ))}
        </select>
      </header>
      <main className="flex min-h-0 flex-1 items-center gap-8">
        {hasCamera && (
          <LivePicture
            camera={camera}
            trouble={trouble}
            last={before && { asset: before.asset, said: `frame ${frameNumber(document, pictures[before.picture]?.frame ?? 0)}` }}
            isOnion={isOnion}
            onOnion={setIsOnion}
          />
        )}
        {now ? (
          <div className={clsx('flex items-center', hasCamera ? 'flex-1 flex-col gap-3' : 'contents')}>
            <Shown chart={chartOf(now.shot.chartId)} drawing={now.shot.drawing} size={hasCamera ? 'middle' : 'large'} />
            <Facts isBeside={!hasCamera}>
              <p className={clsx('leading-none font-bold tabular-nums', hasCamera ? 'text-[92px]' : 'text-[150px]')} data-testid="number">
                {now.shot.drawing ? writtenNumber(now.shot.drawing) : '–'}
              </p>
              <p className={clsx('font-semibold', hasCamera ? 'text-[26px]' : 'text-[34px]')}>{now.shot.drawing?.label ?? 'no mouth'}</p>
              <p className={clsx('leading-tight', hasCamera ? 'text-[30px]' : 'text-[40px]')} data-testid="nth">
                {`${now.nth} of ${now.shot.pictures}`}
              </p>
              {isShot(state, state.at) && (
                <p className="text-[22px] text-[#f5a400]">{state.again.includes(state.at) ? 'to be shot again' : 'shot already'}</p>
              )}
            </Facts>
          </div>
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
                <Shown chart={chartOf(nextShot.chartId)} drawing={nextShot.drawing} size="small" />
                <p className="text-[30px] font-semibold">
                  {nextShot.drawing ? `${writtenNumber(nextShot.drawing)} ${nextShot.drawing.label}` : 'no mouth'}
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
