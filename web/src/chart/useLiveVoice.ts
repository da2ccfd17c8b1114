/** A chart that moves with a voice as it is spoken: a microphone, the mouth it makes, and the take it was. */
import { openLiveMouth, type ChartDocument } from '@zest-jaw/core';
import { useEffect, useRef, useState } from 'react';
import { sentenceOf } from '../api/http.js';
import {
  microphoneChoices,
  openMicrophone,
  practiceLine,
  PRACTICE_MICROPHONE,
  type Microphone,
  type MicrophoneChoice,
} from '../sound/microphone.js';
import { waveFileInWorker } from '../workers/recordings.js';

/** A longer take is kept up to here, in seconds: one speaks to a chart to try it. */
const LONGEST_SECONDS = 180;
const SHORTEST_SECONDS = 0.2;

export interface LiveTake {
  readonly file: File;
  readonly seconds: number;
  /** What it says, where that is known. */
  readonly said: string;
}

export interface LiveVoice {
  readonly state: 'off' | 'opening' | 'live';
  /** The drawing that the voice makes now, by id. */
  readonly drawing: string | undefined;
  /** How loud it is to the mouth, 0 to 1. */
  readonly level: number;
  /** How long it has listened. */
  readonly seconds: number;
  /** How long after its sound the last change of mouth was painted, in milliseconds. */
  readonly late: number | undefined;
  readonly choices: readonly MicrophoneChoice[];
  readonly chosen: string;
  /** What was said until it was last stopped. */
  readonly take: LiveTake | undefined;
  start(microphone?: string): void;
  stop(): void;
  forget(): void;
}

/**
 * @param device the page's sound device, opened by a press
 * @param name what a take will be called
 */
export function useLiveVoice(
  chart: ChartDocument,
  device: () => AudioContext,
  name: string,
  onFault: (sentence: string) => void,
): LiveVoice {
  const [state, setState] = useState<LiveVoice['state']>('off');
  const [heard, setHeard] = useState<{ drawing: string; level: number; seconds: number }>();
  const [late, setLate] = useState<number>();
  const [choices, setChoices] = useState<readonly MicrophoneChoice[]>([PRACTICE_MICROPHONE]);
  const [chosen, setChosen] = useState<string>();
  const [take, setTake] = useState<LiveTake>();
  const open = useRef<{ readonly microphone: Microphone; readonly id: string }>(undefined);
  // A microphone that is asked for last is the one that is opened.
  const asked = useRef(0);
  const worn = useRef(chart);
  useEffect(() => void (worn.current = chart), [chart]);
  useEffect(
    () => () => {
      asked.current += 1;
      open.current?.microphone.close();
    },
    [],
  );

  /** Lets go of the microphone; what it heard is still in it. */
  const letGo = (): typeof open.current => {
    asked.current += 1;
    const own = open.current;
    open.current = undefined;
    setState('off');
    setHeard(undefined);
    return own;
  };
  const stop = (): void => {
    const own = letGo();
    if (!own) return;
    const { samples } = own.microphone.end();
    own.microphone.close();
    const seconds = samples.length / device().sampleRate;
    if (seconds < SHORTEST_SECONDS) return onFault('What was said is too short to keep. Speak to it a little longer.');
    void Promise.all([waveFileInWorker([samples]), own.id === PRACTICE_MICROPHONE.id ? practiceLine().catch(() => '') : ''])
      .then(([{ wave }, said]) => setTake({ file: new File([wave], `${name}.wav`, { type: 'audio/wav' }), seconds, said }))
      .catch((error: unknown) => onFault(sentenceOf(error)));
  };
  const openOne = async (mine: number, wanted: string | undefined): Promise<void> => {
    const found = await microphoneChoices();
    const id = wanted ?? found[0]!.id;
    const context = device();
    await context.resume();
    const mouth = { of: worn.current, live: openLiveMouth(worn.current, context.sampleRate) };
    let before = mouth.live.hear(new Float32Array(0));
    const first = context.currentTime;
    const microphone = await openMicrophone(context, id, ({ samples, since }) => {
      if (mine !== asked.current) return;
      if (mouth.of !== worn.current) Object.assign(mouth, { of: worn.current, live: openLiveMouth(worn.current, context.sampleRate) });
      const drawing = mouth.live.hear(samples);
      if (drawing !== before) {
        before = drawing;
        requestAnimationFrame(() => mine === asked.current && setLate(Math.round((context.currentTime - since) * 1000)));
      }
      setHeard({ drawing, level: mouth.live.level(), seconds: since - first });
      if (since - first > LONGEST_SECONDS) stop();
    });
    if (mine !== asked.current) return microphone.close();
    open.current = { microphone, id };
    microphone.begin();
    setChoices(found);
    setChosen(id);
    setState('live');
  };
  return {
    state,
    drawing: heard?.drawing,
    level: heard?.level ?? 0,
    seconds: heard?.seconds ?? 0,
    late,
    choices,
    chosen: chosen ?? PRACTICE_MICROPHONE.id,
    take,
    start: (microphone) => {
      letGo()?.microphone.close();
      setTake(undefined);
      setState('opening');
      const mine = asked.current;
      openOne(mine, microphone ?? chosen).catch((error: unknown) => {
        if (mine !== asked.current) return;
        setState('off');
        onFault(sentenceOf(error));
      });
    },
    stop,
    forget: () => setTake(undefined),
  };
}
