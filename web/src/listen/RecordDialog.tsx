/** Recording a take against the picture: a microphone, its level, a count-in, and the take to listen to before it is used. */
import { ditherTo16Bit, frameNumber, sceneSettings, writeWave } from '@zest-jaw/core';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { sentenceOf } from '../api/http.js';
import { Easel } from '../mouth/Easel.js';
import { useDrawingAtPlayhead, useFrame, useOpenScene, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { microphoneChoices, openMicrophone, practiceLine, PRACTICE_MICROPHONE, type Microphone } from '../sound/microphone.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { Pills } from '../ui/Pills.js';

export interface Take {
  readonly file: File;
  /** The frame it was recorded from. */
  readonly atFrame: number;
  /** What it says, where that is known. */
  readonly script: string;
  /** Labels or captions that lie beside it. */
  readonly labels?: File | undefined;
}

/** The meter shows so many decibels below full scale, and warns from `HOT_DB` up. */
const METER_DB = 60;
const HOT_DB = -3;
/** Shorter takes hold nothing, in seconds. */
const SHORTEST_TAKE = 0.2;

type Stage = 'ready' | 'counting' | 'recording' | 'taken';

/** A short tick for the count-in. */
function tick(context: AudioContext): void {
  const [oscillator, gain] = [context.createOscillator(), context.createGain()];
  oscillator.frequency.value = 880;
  gain.gain.setValueAtTime(0.25, context.currentTime);
  gain.gain.exponentialRampToValueAtTime(0.001, context.currentTime + 0.08);
  oscillator.connect(gain).connect(context.destination);
  oscillator.start();
  oscillator.stop(context.currentTime + 0.09);
}

function Meter({ level }: { level: number }): ReactElement {
  const db = 20 * Math.log10(Math.max(level, 1e-6));
  const share = Math.max(0, Math.min(1, 1 + db / METER_DB));
  return (
    <div className="flex items-center gap-3">
      <div
        role="meter"
        aria-label="Level of the microphone"
        aria-valuenow={Math.round(Math.max(-METER_DB, db))}
        aria-valuemin={-METER_DB}
        aria-valuemax={0}
        className="h-3 flex-1 overflow-hidden rounded-full bg-rule-soft"
      >
        <div className={`h-full rounded-full ${db > HOT_DB ? 'bg-bad' : 'bg-ink'}`} style={{ width: `${share * 100}%` }} />
      </div>
      <span className="w-[150px] text-[14px] text-ink-soft">
        {db > HOT_DB ? 'too loud: step back' : db < -METER_DB ? 'nothing heard' : `${Math.round(db)} dB`}
      </span>
    </div>
  );
}

/** Opens a microphone for as long as the dialog is there, and tells its level. */
function useMicrophone(
  id: string,
  onFault: (sentence: string) => void,
): { microphone: { current: Microphone | undefined }; level: number } {
  const { player } = useOpenScene();
  const microphone = useRef<Microphone | undefined>(undefined);
  const [level, setLevel] = useState(0);
  useEffect(() => {
    let wanted = true;
    let shown = 0;
    void player
      .device()
      .resume()
      .then(() =>
        openMicrophone(player.device(), id, ({ peak }) => {
          // Falls slowly, so that the eye can read it.
          shown = Math.max(peak, shown * 0.86);
          setLevel(shown);
        }),
      )
      .then((opened) => {
        if (wanted) microphone.current = opened;
        else opened.close();
      })
      .catch((error: unknown) => wanted && onFault(sentenceOf(error)));
    return () => {
      wanted = false;
      microphone.current?.close();
      microphone.current = undefined;
    };
  }, [player, id, onFault]);
  return { microphone, level };
}

interface RecordDialogProps {
  /** What the take will be called. */
  readonly name: string;
  readonly onTake: (take: Take) => void;
  readonly onClose: () => void;
}

export function RecordDialog({ name, onTake, onClose }: RecordDialogProps): ReactElement {
  const { player, playhead } = useOpenScene();
  const document = useSceneDocument();
  const { chart, character } = useSpeaker();
  const { data } = useSheet();
  const frame = useFrame();
  const drawing = useDrawingAtPlayhead();
  const [choices, setChoices] = useState([PRACTICE_MICROPHONE]);
  const [chosen, setChosen] = useState(PRACTICE_MICROPHONE.id);
  const [fault, setFault] = useState<string>();
  const { microphone, level } = useMicrophone(chosen, setFault);
  const [stage, setStage] = useState<Stage>('ready');
  const [countIn, setCountIn] = useState(3);
  const [beat, setBeat] = useState(0);
  const [hearsOthers, setHearsOthers] = useState(true);
  const [from] = useState(() => playhead.store.getState().frame);
  const [take, setTake] = useState<{ file: File; samples: Float32Array<ArrayBuffer> }>();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const heard = useRef<AudioBufferSourceNode | undefined>(undefined);

  useEffect(() => {
    void microphoneChoices().then((found) => {
      setChoices(found);
      setChosen(found[0]!.id);
    });
    return () => {
      clearTimeout(timer.current);
      heard.current?.stop();
      playhead.stop();
      player.hush(false);
    };
  }, [playhead, player]);

  const begin = (): void => {
    setStage('recording');
    microphone.current?.begin();
    player.hush(!hearsOthers);
    playhead.playRange({ from, to: sceneSettings(document).lengthFrames });
  };
  const count = (left: number): void => {
    setBeat(left);
    if (left === 0) return begin();
    tick(player.device());
    timer.current = setTimeout(() => count(left - 1), 1000);
  };
  const record = (): void => {
    setFault(undefined);
    playhead.stop();
    if (!microphone.current) return setFault('The microphone is not open yet. Wait a moment, or choose another.');
    setStage('counting');
    count(countIn);
  };
  const stop = (): void => {
    clearTimeout(timer.current);
    if (stage !== 'recording') return setStage('ready');
    const heardSince = player.maybeHeardSince();
    playhead.stop();
    playhead.moveTo(from);
    player.hush(false);
    const { samples, since } = microphone.current!.end();
    // What was heard before the picture began does not belong to the take.
    const early = heardSince === undefined ? 0 : Math.max(0, Math.round((heardSince - since) * player.device().sampleRate));
    const own = samples.slice(Math.min(early, samples.length));
    if (own.length < SHORTEST_TAKE * player.device().sampleRate) {
      setFault('The take is too short to hold anything. Record it again, a little longer.');
      return setStage('ready');
    }
    const bytes = writeWave(ditherTo16Bit(own), player.device().sampleRate);
    setTake({ file: new File([Uint8Array.from(bytes)], `${name}.wav`, { type: 'audio/wav' }), samples: own });
    setStage('taken');
  };
  /** The take falls silent. */
  const silence = (): void => {
    const source = heard.current;
    heard.current = undefined;
    source?.stop();
  };
  const listen = (): void => {
    silence();
    const source = player.device().createBufferSource();
    source.buffer = player.bufferOf(take!.samples);
    source.connect(player.device().destination);
    source.start();
    heard.current = source;
    player.hush(true);
    playhead.playRange({ from, to: Math.min(sceneSettings(document).lengthFrames, from + data.framesPerSecond * 60) });
    source.onended = () => {
      // Stopped because another began, or the take is recorded anew: that one has the picture now.
      if (heard.current !== source) return;
      heard.current = undefined;
      playhead.stop();
      player.hush(false);
    };
  };
  const use = async (): Promise<void> => {
    const script = chosen === PRACTICE_MICROPHONE.id ? await practiceLine().catch(() => '') : '';
    onTake({ file: take!.file, atFrame: from, script });
  };

  const busy = stage === 'counting' || stage === 'recording';
  return (
    <Modal
      open
      wide
      title="Record a take"
      description={`It begins at frame ${frameNumber(document, from)}, with the picture.`}
      onClose={onClose}
    >
      <div className="mt-4 grid grid-cols-[300px_1fr] gap-6">
        <div className="relative">
          <Easel name={character.name} chart={chart} drawing={drawing} frame={frame} className="h-[270px]" />
          {stage === 'counting' && (
            <span className="name absolute inset-0 grid place-items-center text-[120px] text-zest" role="status" data-testid="count-in">
              {beat}
            </span>
          )}
          {stage === 'recording' && (
            <span className="absolute left-3 top-3 flex items-center gap-2 rounded-full bg-bad px-3 py-0.5 font-semibold text-sheet">
              <span className="size-2.5 rounded-full bg-sheet" /> recording
            </span>
          )}
        </div>
        <div className="flex flex-col gap-4">
          <label className="flex flex-col gap-1 font-semibold">
            Microphone
            <select className="field font-normal" value={chosen} disabled={busy} onChange={(event) => setChosen(event.target.value)}>
              {choices.map((choice) => (
                <option key={choice.id} value={choice.id}>
                  {choice.name}
                </option>
              ))}
            </select>
          </label>
          <Meter level={level} />
          <div className="flex items-center gap-3">
            <span className="font-semibold">Count in</span>
            <Pills
              label="Beats counted in"
              options={[
                [0, 'none'],
                [2, '2'],
                [3, '3'],
                [4, '4'],
              ]}
              value={countIn}
              onChange={setCountIn}
            />
          </div>
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={hearsOthers} disabled={busy} onChange={(event) => setHearsOthers(event.target.checked)} />
            Hear the scene meanwhile (wear headphones)
          </label>
          <p className="min-h-[22px] text-[14px] text-bad" role="alert">
            {fault}
          </p>
          <div className="mt-auto flex items-center gap-3">
            {stage === 'ready' && (
              <Button weight="main" autoFocus onClick={record}>
                Record
              </Button>
            )}
            {busy && (
              <Button weight="grave" autoFocus onClick={stop}>
                Stop
              </Button>
            )}
            {stage === 'taken' && (
              <>
                <Button weight="main" autoFocus onClick={() => void use()}>
                  Use this take
                </Button>
                <Button onClick={listen}>Listen to it</Button>
                <Button
                  onClick={() => {
                    silence();
                    setStage('ready');
                  }}
                >
                  Once more
                </Button>
                <span className="text-[14px] text-ink-soft">{`${(take!.samples.length / player.device().sampleRate).toFixed(1)} s`}</span>
              </>
            )}
            <span className="flex-1" />
            <Button weight="bare" onClick={onClose}>
              Not now
            </Button>
          </div>
        </div>
      </div>
    </Modal>
  );
}
