/** The recordings of the scene: where each lies, who speaks, how loud; silenced, replaced, taken out, added, recorded. */
import {
  changeClip,
  clipEnd,
  clipsPastEnd,
  frameNumber,
  GAIN_LIMITS,
  removeClip,
  sceneSettings,
  setLength,
  slideClip,
  trimClip,
  type Clip,
  type ClipChanges,
  type SceneDocument,
} from '@zest-jaw/core';
import { Mic, Plus, Trash2 } from 'lucide-react';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { useHearing, useOpenScene, useSceneDocument } from '../scene/sceneContext.js';
import { useChangeAndKey, useChartOf } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { RECORDING_FILES } from '../ui/UploadState.js';
import { Slider } from '../ui/Slider.js';
import { ClipFactsPanel } from './ClipFactsPanel.js';
import { droppedRecording } from '../scene/droppedRecording.js';
import { PlaceDialog } from './PlaceDialog.js';
import { RecordDialog, type Take } from './RecordDialog.js';
import { Toggle } from '../ui/Toggle.js';

/** A whole frame typed by number; put back when it is none. */
function FrameField({ label, frame, onFrame }: { label: string; frame: number; onFrame: (frame: number) => void }): ReactElement {
  const document = useSceneDocument();
  const { firstFrame } = sceneSettings(document);
  const [draft, setDraft] = useState<string>();
  const take = (): void => {
    const typed = Number(draft);
    if (draft !== undefined && draft.trim() !== '' && Number.isInteger(typed)) onFrame(typed - firstFrame);
    setDraft(undefined);
  };
  return (
    <label className="flex min-w-0 flex-1 flex-col text-[13px] text-ink-soft">
      {label}
      <input
        className="field px-2! py-0.5! text-ink"
        inputMode="numeric"
        value={draft ?? String(frame + firstFrame)}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
        }}
      />
    </label>
  );
}

/** What can be set of the chosen clip. */
function ClipDetails({ clip, onReplace, onRecord }: { clip: Clip; onReplace: () => void; onRecord: () => void }): ReactElement {
  const { characters, session, readAgain } = useOpenScene();
  const document = useSceneDocument();
  const { facts } = useHearing();
  const changeAndKey = useChangeAndKey();
  const speakerOf = useChartOf();
  const set = (changes: ClipChanges): boolean => session.change(changeClip(session.store.getState().document, clip.id, changes, newId));
  const found = facts.get(clip.audio);
  return (
    <div className="flex flex-col gap-2 border-t border-rule-soft pt-2">
      {clip.readOf !== null && clip.readOf !== clip.audio && (
        <div className="rounded-xl border border-zest bg-zest-soft px-3 py-2 text-[14px]" role="status">
          The words and sounds here are those of the take before.{' '}
          <button
            type="button"
            className="font-semibold underline underline-offset-2"
            onClick={() => readAgain(clip.id).catch((error: unknown) => toast.error(sentenceOf(error)))}
          >
            Read this one
          </button>
        </div>
      )}
      <div className="flex gap-2">
        <FrameField
          label="Slide to"
          frame={clip.atFrame}
          onFrame={(frame) => changeAndKey((scene) => slideClip(scene, clip.id, frame, newId))}
        />
        <FrameField
          label="Trim its start"
          frame={clip.atFrame}
          onFrame={(frame) => changeAndKey((scene) => trimClip(scene, clip.id, 'from', frame, newId))}
        />
        <FrameField
          label="Trim its end"
          frame={clipEnd(document, clip) - 1}
          onFrame={(frame) => changeAndKey((scene) => trimClip(scene, clip.id, 'to', frame + 1, newId))}
        />
      </div>
      <Slider
        label="Gain, dB"
        value={clip.gainDb}
        least={GAIN_LIMITS.least}
        most={GAIN_LIMITS.most}
        step={0.5}
        onChange={(gainDb) => set({ gainDb })}
      />
      <label className="flex items-center gap-3 text-[14px]">
        <span className="w-[94px] text-ink-soft">Who speaks</span>
        <select
          className="field min-w-0 flex-1 py-0.5!"
          value={clip.characterId}
          onChange={({ target }) =>
            changeAndKey((scene) => changeClip(scene, clip.id, { characterId: target.value }, newId, speakerOf(target.value)))
          }
        >
          {characters.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <div className="flex flex-wrap gap-2">
        <Button className="py-[3px]! text-[14px]!" onClick={onReplace}>
          A better take…
        </Button>
        <Button className="py-[3px]! text-[14px]!" onClick={onRecord}>
          <Mic size={14} aria-hidden /> Record it again…
        </Button>
        <Button
          weight="bare"
          className="py-[3px]! text-[14px]!"
          onClick={() => changeAndKey((scene: SceneDocument) => removeClip(scene, clip.id, newId))}
        >
          <Trash2 size={14} aria-hidden /> Take out
        </Button>
      </div>
      {found && <ClipFactsPanel facts={found} />}
    </div>
  );
}

interface ClipsPanelProps {
  readonly chosen: Clip | undefined;
  readonly onChoose: (clip: string) => void;
}

export function ClipsPanel({ chosen, onChoose }: ClipsPanelProps): ReactElement {
  const { characters, session, playhead } = useOpenScene();
  const document = useSceneDocument();
  const changeAndKey = useChangeAndKey();
  const input = useRef<HTMLInputElement>(null);
  /** What the file or the take that comes next is for: a clip's place, or a place of its own. */
  const [replaces, setReplaces] = useState<Clip>();
  const [recording, setRecording] = useState(false);
  // One that was dropped on the scene, on whichever step, comes first.
  const [take, setTake] = useState<Take | undefined>(() => {
    const { file, labels } = droppedRecording.getState();
    return file && { file, labels, atFrame: playhead.store.getState().frame, script: '' };
  });
  useEffect(() => {
    droppedRecording.setState({ file: undefined, labels: undefined });
    return droppedRecording.subscribe(({ file, labels }) => {
      if (!file) return;
      droppedRecording.setState({ file: undefined, labels: undefined });
      setReplaces(undefined);
      setTake({ file, labels, atFrame: playhead.store.getState().frame, script: '' });
    });
  }, [playhead]);
  const nameOf = (id: string): string => characters.find((character) => character.id === id)?.name ?? 'Somebody';
  const set = (clip: Clip, changes: ClipChanges): boolean =>
    session.change(changeClip(session.store.getState().document, clip.id, changes, newId));
  const choose = (clip: Clip | undefined): void => {
    setReplaces(clip);
    input.current?.click();
  };
  const record = (clip: Clip | undefined): void => {
    setReplaces(clip);
    if (clip) playhead.moveTo(clip.atFrame);
    setRecording(true);
  };
  const past = clipsPastEnd(document);
  return (
    <section className="flex flex-col gap-2" aria-label="Recordings">
      <ul className="flex flex-col" aria-label="Recordings in the scene">
        {document.clips.map((clip) => (
          <li key={clip.id} className="flex items-center gap-1.5 py-0.5">
            <button
              type="button"
              aria-pressed={clip === chosen}
              onClick={() => onChoose(clip.id)}
              className="min-w-0 flex-1 rounded-lg border border-transparent px-2 py-0.5 text-left hover:border-rule aria-pressed:border-ink"
            >
              <span className="block truncate font-semibold">{nameOf(clip.characterId)}</span>
              <span className="block truncate text-[13px] text-ink-soft">
                {`${frameNumber(document, clip.atFrame)}–${frameNumber(document, clipEnd(document, clip) - 1)} · ${clip.fileName}`}
              </span>
            </button>
            <Toggle
              className="px-2! py-0! text-[13px]!"
              label={`Mute ${clip.fileName}`}
              on={clip.muted}
              onToggle={() => set(clip, { muted: !clip.muted })}
            >
              mute
            </Toggle>
            <Toggle
              className="px-2! py-0! text-[13px]!"
              label={`Solo ${clip.fileName}`}
              on={clip.soloed}
              onToggle={() => set(clip, { soloed: !clip.soloed })}
            >
              solo
            </Toggle>
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Button className="py-[3px]! text-[14px]!" onClick={() => choose(undefined)}>
          <Plus size={15} aria-hidden /> Add a recording…
        </Button>
        <Button className="py-[3px]! text-[14px]!" onClick={() => record(undefined)}>
          <Mic size={14} aria-hidden /> Record…
        </Button>
      </div>
      {past.map(({ clip, frames }) => (
        <div key={clip.id} className="rounded-xl border border-zest bg-zest-soft px-3 py-2 text-[14px]" role="status">
          {`“${clip.fileName}” runs ${frames} ${frames === 1 ? 'frame' : 'frames'} past the end of the scene. `}
          <button
            type="button"
            className="font-semibold underline underline-offset-2"
            onClick={() => changeAndKey((scene) => setLength(scene, Math.max(...past.map((one) => clipEnd(scene, one.clip))), newId))}
          >
            Let the scene grow
          </button>
        </div>
      ))}
      {chosen && <ClipDetails key={chosen.id} clip={chosen} onReplace={() => choose(chosen)} onRecord={() => record(chosen)} />}
      <input
        ref={input}
        type="file"
        accept={RECORDING_FILES}
        hidden
        aria-label="A recording for the scene"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) setTake({ file, atFrame: playhead.store.getState().frame, script: '' });
        }}
      />
      {recording && (
        <RecordDialog
          name={`Take ${document.clips.length + 1}`}
          onClose={() => setRecording(false)}
          onTake={(made) => {
            setRecording(false);
            setTake(made);
          }}
        />
      )}
      {take && (
        <PlaceDialog
          take={take}
          replaces={replaces}
          onClose={() => setTake(undefined)}
          onDone={(clip) => {
            setTake(undefined);
            onChoose(clip);
          }}
        />
      )}
    </section>
  );
}
