/** A new scene: what is said in the recording, at which frame rate, by whom. */
import {
  type ChartView,
  formatFrameRate,
  FRAME_RATE_LIMITS,
  maybeDrawingOfGroup,
  maybeFrameRate,
  type ProductionView,
  USUAL_FRAME_RATES,
} from '@zest-jaw/core';
import { RadioGroup } from 'radix-ui';
import { useState, type FormEvent, type ReactElement } from 'react';
import { useNavigate } from 'react-router';
import { sendJson, sentenceOf } from '../api/http.js';
import { useGiven } from '../api/besideRecording.js';
import { useUpload } from '../api/recordings.js';
import { Easel } from '../mouth/Easel.js';
import { Button } from '../ui/Button.js';
import { GivenNote } from '../ui/GivenNote.js';
import { Modal } from '../ui/Modal.js';
import { UploadState } from '../ui/UploadState.js';

interface NewSceneDialogProps {
  readonly recording: File;
  /** Labels or captions that lie beside it. */
  readonly labels?: File | undefined;
  readonly productions: readonly ProductionView[];
  readonly charts: readonly ChartView[];
  /** Who is chosen at first; the first one without it. */
  readonly speaker?: string | undefined;
  /** What it says, where that is known. */
  readonly said?: string | undefined;
  readonly onClose: () => void;
}

const OTHER = 'other';

function size(bytes: number): string {
  return bytes < 1_000_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
}

export function NewSceneDialog({ recording, labels, productions, charts, speaker, said = '', onClose }: NewSceneDialogProps): ReactElement {
  const characters = productions.flatMap((production) => production.characters);
  const [title, setTitle] = useState(recording.name.replace(/\.[^.]*$/, ''));
  const [script, setScript] = useState(said);
  const [rate, setRate] = useState('24');
  const [otherRate, setOtherRate] = useState('');
  const [hold, setHold] = useState('2');
  const [characterId, setCharacterId] = useState(speaker ?? characters[0]?.id ?? '');
  const [fault, setFault] = useState<string>();
  const [sending, setSending] = useState(false);
  const [firstFrame, setFirstFrame] = useState('1');
  const upload = useUpload(recording);
  const given = useGiven(labels, upload.recording?.lengthSamples);
  const isGiven = given !== undefined && !given.isFault;
  const busy = !upload.recording && !upload.fault;
  const navigate = useNavigate();
  const frameRate = rate === OTHER ? otherRate : rate;

  const maybeFault = (): string | undefined => {
    if (!maybeFrameRate(frameRate))
      return `The frame rate is “${frameRate}”. It may be ${FRAME_RATE_LIMITS.slowest} to ${FRAME_RATE_LIMITS.fastest}, such as 24 or 29.97.`;
    const first = Number(firstFrame);
    if (firstFrame.trim() === '' || !Number.isInteger(first) || first < 0 || first > 9_999_999)
      return `The first frame is “${firstFrame}”. It may be a whole number from 0 to 9999999, such as 0, 1, 101 or 1001.`;
    return undefined;
  };

  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const wrong = maybeFault();
    setFault(wrong);
    if (wrong) return;
    setSending(true);
    try {
      const { sceneId } = await sendJson<{ sceneId: string }>('POST', '/scenes', {
        recordingId: upload.recording!.id,
        title: title.trim() || recording.name,
        script: isGiven ? given.script : script,
        ...given?.request,
        frameRate,
        characterId,
        holdFrames: Number(hold),
        firstFrame: Number(firstFrame),
      });
      await navigate(`/scenes/${sceneId}/key`);
    } catch (error) {
      setFault(sentenceOf(error));
      setSending(false);
    }
  };

  return (
    <Modal open title="New scene" description={`${recording.name}, ${size(recording.size)}`} onClose={onClose} wide>
      <form className="mt-4 grid grid-cols-[1fr_250px] gap-6" onSubmit={(event) => void submit(event)}>
        <div className="flex flex-col gap-4">
          <label className="flex flex-col gap-1 font-semibold">
            Title
            <input className="field font-normal" value={title} maxLength={200} onChange={(event) => setTitle(event.target.value)} />
          </label>
          <label className="flex flex-col gap-1 font-semibold">
            What is said
            <textarea
              className="field resize-none font-normal leading-relaxed"
              rows={5}
              value={isGiven ? given.script : script}
              readOnly={isGiven}
              autoFocus
              onChange={(event) => setScript(event.target.value)}
              placeholder="The line as it is spoken. (Directions in brackets are not read.) Left empty, only sounds are read."
            />
          </label>
          <GivenNote given={given} />
          <div className="grid grid-cols-[1fr_1fr_100px] gap-4">
            <label className="flex flex-col gap-1 font-semibold">
              Frame rate
              <select className="field font-normal" value={rate} onChange={(event) => setRate(event.target.value)}>
                {USUAL_FRAME_RATES.map(formatFrameRate).map((text) => (
                  <option key={text} value={text}>
                    {text} fps
                  </option>
                ))}
                <option value={OTHER}>another…</option>
              </select>
            </label>
            {rate === OTHER ? (
              <label className="flex flex-col gap-1 font-semibold">
                Frames a second
                <input
                  className="field font-normal"
                  inputMode="decimal"
                  value={otherRate}
                  onChange={(event) => setOtherRate(event.target.value)}
                />
              </label>
            ) : (
              <label className="flex flex-col gap-1 font-semibold">
                Mouths on
                <select className="field font-normal" value={hold} onChange={(event) => setHold(event.target.value)}>
                  <option value="1">ones</option>
                  <option value="2">twos</option>
                  <option value="3">threes</option>
                </select>
              </label>
            )}
            <label className="flex flex-col gap-1 font-semibold">
              First frame
              <input
                className="field font-normal"
                inputMode="numeric"
                value={firstFrame}
                onChange={(event) => setFirstFrame(event.target.value)}
              />
            </label>
          </div>
        </div>
        <div>
          <p className="mb-1 font-semibold" id="speaker">
            Who speaks
          </p>
          <RadioGroup.Root value={characterId} onValueChange={setCharacterId} aria-labelledby="speaker" className="flex flex-col gap-3">
            {characters.map((character) => {
              const chart = charts.find((candidate) => candidate.id === character.chartId)?.document;
              return (
                <RadioGroup.Item
                  key={character.id}
                  value={character.id}
                  aria-label={character.name}
                  className="overflow-hidden rounded-xl border border-rule text-left data-[state=checked]:border-zest data-[state=checked]:ring-2 data-[state=checked]:ring-zest-soft"
                >
                  {chart && (
                    <Easel
                      name={character.name}
                      chart={chart}
                      drawing={maybeDrawingOfGroup(chart, 'spread')}
                      className="h-[118px] rounded-none! border-0!"
                    />
                  )}
                  <span className="block px-3 py-1.5 font-semibold">{character.name}</span>
                </RadioGroup.Item>
              );
            })}
          </RadioGroup.Root>
        </div>
        <div className="col-span-2 flex items-center gap-3">
          <div className="flex-1">
            <UploadState upload={upload} fault={fault} />
          </div>
          <Button onClick={onClose}>{busy ? 'Cancel' : 'Not now'}</Button>
          <Button type="submit" weight="main" disabled={sending || !upload.recording}>
            {sending ? 'Sending…' : 'Read the track'}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
