/** A film of the lane with the scene's sound, encoded in this browser. */
import { formatFrameRate, frameNumber, safeName, sceneSettings, type SceneDocument } from '@zest-jaw/core';
import { Download } from 'lucide-react';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { api, sentenceOf } from '../api/http.js';
import { usePasses } from '../passes/usePasses.js';
import { useDrawingAtPlayhead, useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { Easel } from '../mouth/Easel.js';
import { Pills } from '../ui/Pills.js';
import { saveUrl } from '../ui/saveText.js';
import { Card } from './Card.js';
import { makeFilm } from './makeFilm.js';
import { useKeptChoices } from './useKeptChoices.js';
import type { FilmKind } from '../workers/film.worker.js';

const SIZES = ['1920x1080', '1280x720', '1080x1080', '640x360'] as const;

const BURNT = [
  ['frameNumbers', 'frame number'],
  ['timecode', 'timecode'],
  ['words', 'the word that is said'],
  ['drawings', 'the drawing’s number'],
] as const;

const ARRANGED: readonly (readonly ['side' | 'after', string])[] = [
  ['side', 'side by side'],
  ['after', 'one after the other'],
];

interface FrameFieldProps {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
}

function FrameField({ label, value, onChange }: FrameFieldProps): ReactElement {
  return (
    <input
      type="number"
      aria-label={label}
      className="field w-[92px]"
      value={value}
      onChange={({ target }) => onChange(Math.round(Number(target.value)))}
    />
  );
}

export function FilmCard(): ReactElement {
  const document = useSceneDocument();
  const { track, chart, charts, character } = useSpeaker();
  const drawing = useDrawingAtPlayhead();
  const { title, lengthFrames, frameRate, firstFrame } = sceneSettings(document);
  const [choices, choose] = useKeptChoices('film', {
    kind: 'webm' as FilmKind,
    size: SIZES[1] as string,
    withHead: true,
    withLine: false,
    ground: chart.head[0]?.backdrop?.[0] ?? '#f3ead6',
    frameNumbers: false,
    timecode: false,
    words: false,
    drawings: false,
    arranged: 'side' as 'side' | 'after',
  });
  // What is selected in Key is offered; it is of this scene, and not kept.
  const { playhead, sceneId } = useOpenScene();
  const selection = useStore(playhead.store, (state) => state.selection);
  const [ends, setEnds] = useState({ from: selection?.from ?? 0, to: selection?.to ?? lengthFrames });
  const [from, to] = [Math.min(ends.from, lengthFrames - 1), Math.min(ends.to, lengthFrames)];
  const rangeFault = from < to ? undefined : 'The last frame comes before the first. Set them so that there is at least one frame.';
  const { passes = [] } = usePasses(sceneId);
  const [otherId, setOther] = useState('');
  const other = passes.find(({ id }) => id === otherId);
  const frames = (to - from) * (other && choices.arranged === 'after' ? 2 : 1);
  const isSilent = choices.kind === 'gif' || choices.kind === 'apng';
  const [done, setDone] = useState<number>();
  const [said, setSaid] = useState<{ readonly text: string; readonly isFault: boolean }>();
  const stopper = useRef<AbortController>(undefined);
  useEffect(() => () => stopper.current?.abort(new Error('Given up.')), []);
  const save = async (): Promise<void> => {
    const own = new AbortController();
    stopper.current = own;
    setSaid(undefined);
    setDone(0);
    try {
      const [width, height] = choices.size.split('x').map(Number) as [number, number];
      const beside = other && {
        ...{ title: other.name, ownTitle: 'As it is', arranged: choices.arranged },
        scene: await api<SceneDocument>(`/scenes/${sceneId}/passes/${other.id}`),
      };
      const film = await makeFilm(document, track.id, charts, { ...choices, width, height, from, to }, setDone, own.signal, beside);
      const url = URL.createObjectURL(film);
      const name = other ? `${title}, ${character.name}, beside ${safeName(other.name)}` : `${title}, ${character.name}`;
      saveUrl(url, `${name}.${choices.kind === 'apng' ? 'png' : choices.kind}`);
      setTimeout(() => URL.revokeObjectURL(url), 60_000);
      setSaid({ text: `${frames} frames saved, ${(film.size / 1e6).toFixed(1)} MB.`, isFault: false });
    } catch (error) {
      if (!own.signal.aborted) setSaid({ text: sentenceOf(error), isFault: true });
      else setSaid({ text: 'Given up; nothing was saved.', isFault: false });
    } finally {
      setDone(undefined);
    }
  };
  return (
    <Card
      title="Film"
      says="The lane with the sound of the scene, encoded here in the browser: exactly as many frames as are asked for, the sound to the sample."
      counts={
        rangeFault ??
        `${frames} frames at ${formatFrameRate(frameRate)} fps, ${frameNumber(document, from)} to ${frameNumber(document, to - 1)}${isSilent ? ', without sound' : ''}.`
      }
    >
      <div className="mb-4 grid grid-cols-[minmax(0,1fr)_320px] gap-5">
        <div className="grid content-start gap-x-4 gap-y-3 min-[1100px]:grid-cols-2">
          <label className="flex flex-col gap-1 font-semibold">
            Format
            <select
              className="field font-normal"
              value={choices.kind}
              onChange={({ target }) => choose({ kind: target.value as FilmKind })}
            >
              <option value="webm">WebM</option>
              <option value="mp4">MP4, where the browser has it</option>
              <option value="gif">GIF, 256 colours, no sound</option>
              <option value="apng">animated PNG, no sound</option>
            </select>
          </label>
          <label className="flex flex-col gap-1 font-semibold">
            Size
            <select className="field font-normal" value={choices.size} onChange={({ target }) => choose({ size: target.value })}>
              {SIZES.map((size) => (
                <option key={size} value={size}>
                  {size.replace('x', ' × ')}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={choices.withHead} onChange={({ target }) => choose({ withHead: target.checked })} />
            on the head
          </label>
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={choices.withLine} onChange={({ target }) => choose({ withLine: target.checked })} />
            the line below: wave, words and mouths
          </label>
          <label className="flex items-center gap-2">
            <input
              type="color"
              className="h-[28px] w-[44px] rounded border border-rule bg-transparent"
              value={choices.ground}
              onChange={({ target }) => choose({ ground: target.value })}
            />
            ground
          </label>
          <fieldset className="flex items-center gap-2">
            <legend className="mb-1 font-semibold">Frames</legend>
            <FrameField
              label="First frame"
              value={frameNumber(document, from)}
              onChange={(value) => setEnds({ from: Math.max(0, value - firstFrame), to })}
            />
            to
            <FrameField
              label="Last frame"
              value={frameNumber(document, to - 1)}
              onChange={(value) => setEnds({ from, to: Math.max(0, value - firstFrame + 1) })}
            />
            {(from > 0 || to < lengthFrames) && (
              <Button weight="bare" onClick={() => setEnds({ from: 0, to: lengthFrames })}>
                all
              </Button>
            )}
          </fieldset>
          {passes.length > 0 && (
            <div className="flex flex-wrap items-end gap-3 min-[1100px]:col-span-2">
              <label className="flex flex-col gap-1 font-semibold">
                Beside a pass, to choose from
                <select className="field font-normal" value={other?.id ?? ''} onChange={({ target }) => setOther(target.value)}>
                  <option value="">none: the scene alone</option>
                  {passes.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              </label>
              {other && (
                <Pills
                  label="How the two are shown"
                  options={ARRANGED}
                  value={choices.arranged}
                  onChange={(arranged) => choose({ arranged })}
                />
              )}
            </div>
          )}
          <fieldset className="flex flex-wrap gap-x-5 gap-y-1 min-[1100px]:col-span-2">
            <legend className="mb-1 font-semibold">Burnt in below</legend>
            {BURNT.map(([name, text]) => (
              <label key={name} className="flex items-center gap-2">
                <input type="checkbox" checked={choices[name]} onChange={({ target }) => choose({ [name]: target.checked })} />
                {text}
              </label>
            ))}
          </fieldset>
        </div>
        <Easel name={character.name} chart={chart} drawing={drawing} className="h-[200px] w-[320px]" />
      </div>
      <div className="flex min-h-[40px] items-center gap-3">
        <Button weight="main" disabled={done !== undefined || rangeFault !== undefined} onClick={() => void save()}>
          <Download size={17} aria-hidden /> Save film
        </Button>
        {done !== undefined && (
          <>
            <progress className="h-2 flex-1 accent-[var(--zest)]" value={done} aria-label="Encoding the film" />
            <Button weight="bare" onClick={() => stopper.current?.abort(new Error('Given up.'))}>
              Cancel
            </Button>
          </>
        )}
        <span className={`text-[14px] ${said?.isFault ? 'text-bad' : 'text-ink-soft'}`} role="status">
          {said?.text}
        </span>
      </div>
    </Card>
  );
}
