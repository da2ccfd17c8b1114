/** A recording on its way into the scene: decoded while it is said who speaks, what, and from which frame; or put in another's place. */
import { addClip, clipOfRecording, frameNumber, replaceTake, sceneSettings, type Clip, type SceneDocument } from '@zest-jaw/core';
import { useState, type FormEvent, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { useGiven } from '../api/besideRecording.js';
import { useUpload } from '../api/recordings.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { useChangeAndKey, useChartOf } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { GivenNote } from '../ui/GivenNote.js';
import { Modal } from '../ui/Modal.js';
import { UploadState } from '../ui/UploadState.js';
import type { Take } from './RecordDialog.js';

interface PlaceDialogProps {
  readonly take: Take;
  /** The clip whose recording it takes the place of; without one it is placed beside the others. */
  readonly replaces?: Clip | undefined;
  readonly onDone: (clipId: string) => void;
  readonly onClose: () => void;
}

export function PlaceDialog({ take, replaces, onDone, onClose }: PlaceDialogProps): ReactElement {
  const { characters, session, readAgain } = useOpenScene();
  const document = useSceneDocument();
  const { character } = useSpeaker();
  const upload = useUpload(take.file);
  const given = useGiven(take.labels, upload.recording?.lengthSamples);
  const isGiven = given !== undefined && !given.isFault;
  const changeAndKey = useChangeAndKey();
  const speakerOf = useChartOf();
  const [speaker, setSpeaker] = useState(character.id);
  const [script, setScript] = useState(take.script);
  const { firstFrame } = sceneSettings(document);
  // As the recordings that are there, unless it is said otherwise in Listen.
  const language = document.clips.at(-1)?.language ?? 'en';
  const [at, setAt] = useState(String(frameNumber(document, take.atFrame)));
  const [fault, setFault] = useState<string>();

  const place = (event: FormEvent): void => {
    event.preventDefault();
    const { recording } = upload;
    if (!recording) return;
    const { audio, fileName, lengthSamples } = recording;
    if (replaces) {
      if (changeAndKey((scene: SceneDocument) => replaceTake(scene, replaces.id, { audio, fileName, lengthSamples }, newId)))
        onDone(replaces.id);
      return;
    }
    const atFrame = Number(at) - firstFrame;
    if (!Number.isInteger(atFrame) || atFrame < 0) {
      setFault(`It cannot begin at frame “${at}”. Type a whole frame from ${firstFrame} on.`);
      return;
    }
    const clip = clipOfRecording({
      id: newId(),
      characterId: speaker,
      audio,
      fileName,
      lengthSamples,
      atFrame,
      script: isGiven ? given.script : script,
      language,
    });
    if (!changeAndKey((scene: SceneDocument) => addClip(scene, clip, newId, speakerOf(speaker)))) return;
    onDone(clip.id);
    readAgain(clip.id, undefined, given?.request).catch((error: unknown) => toast.error(sentenceOf(error)));
  };

  const busy = !upload.recording && !upload.fault;
  return (
    <Modal
      open
      title={replaces ? `A better take of “${replaces.fileName}”` : 'One more recording'}
      description={take.file.name}
      onClose={onClose}
    >
      <form className="mt-4 flex flex-col gap-4" onSubmit={place}>
        {!replaces && (
          <>
            <label className="flex flex-col gap-1 font-semibold">
              What is said
              <textarea
                className="field resize-none font-normal leading-relaxed"
                rows={3}
                value={isGiven ? given.script : script}
                readOnly={isGiven}
                autoFocus
                onChange={(event) => setScript(event.target.value)}
                placeholder="The line as it is spoken. Left empty, only sounds are read."
              />
            </label>
            <div className="grid grid-cols-2 gap-4">
              <label className="flex flex-col gap-1 font-semibold">
                Who speaks
                <select className="field font-normal" value={speaker} onChange={(event) => setSpeaker(event.target.value)}>
                  {characters.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              </label>
              <label className="flex flex-col gap-1 font-semibold">
                Begins at frame
                <input className="field font-normal" inputMode="numeric" value={at} onChange={(event) => setAt(event.target.value)} />
              </label>
            </div>
          </>
        )}
        {replaces && (
          <p className="text-[14px] text-ink-soft">
            It begins where the old one did, whole. Words and sounds stay as they were read until you read it again; ink stays.
          </p>
        )}
        {!replaces && <GivenNote given={given} />}
        <UploadState upload={upload} fault={fault} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>{busy ? 'Cancel' : 'Not now'}</Button>
          <Button type="submit" weight="main" disabled={!upload.recording || session.store.getState().saveState === 'conflict'}>
            {replaces ? 'Put it in its place' : 'Place it'}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
