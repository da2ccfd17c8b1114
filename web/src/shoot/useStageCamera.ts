/** The camera of a shoot: chosen, opened, told what the puppet wears, closed. */
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { sentenceOf } from '../api/http.js';
import {
  cameraChoices,
  NO_CAMERA,
  openPracticeCamera,
  openRealCamera,
  PRACTICE_CAMERA,
  type Camera,
  type CameraChoice,
} from '../stage/camera.js';
import { keep, maybeKept } from '../ui/browserStore.js';
import { facesOf } from './faces.js';
import type { ShotLine } from './ShotLine.js';

const KEPT = 'zest-jaw camera';

/** A number from a name, so that the practice camera is the same for the same lane. */
const seedOf = (name: string): number => [...name].reduce((sum, letter) => (Math.imul(sum, 31) + letter.codePointAt(0)!) | 0, 7);

export interface StageCamera {
  readonly choices: readonly CameraChoice[];
  readonly chosen: string;
  choose(id: string): void;
  readonly camera: Camera | undefined;
  /** Why there is none. */
  readonly fault: string | undefined;
}

export function useStageCamera(line: ShotLine): StageCamera {
  const [chosen, setChosen] = useState(() => maybeKept(KEPT) ?? NO_CAMERA.id);
  const [opened, setOpened] = useState<{ readonly id: string; readonly camera?: Camera; readonly fault?: string }>();
  const { data: choices = [NO_CAMERA, PRACTICE_CAMERA] } = useQuery({ queryKey: ['cameras', opened?.id], queryFn: cameraChoices });
  useEffect(() => {
    if (chosen === NO_CAMERA.id) return;
    let isGone = false;
    let mine: Camera | undefined;
    const open = async (): Promise<Camera> =>
      chosen === PRACTICE_CAMERA.id
        ? openPracticeCamera(await facesOf(line), seedOf(`${line.sceneId} ${line.trackId}`))
        : openRealCamera(chosen);
    open().then(
      (camera) => {
        mine = camera;
        if (isGone) camera.close();
        else setOpened({ id: chosen, camera });
      },
      (error: unknown) => !isGone && setOpened({ id: chosen, fault: sentenceOf(error) }),
    );
    return () => {
      isGone = true;
      mine?.close();
      setOpened(undefined);
    };
  }, [chosen, line]);
  const now = opened?.id === chosen ? opened : undefined;
  return {
    choices,
    chosen,
    choose: (id) => {
      setChosen(id);
      keep(KEPT, id);
    },
    camera: now?.camera,
    fault: now?.fault,
  };
}
