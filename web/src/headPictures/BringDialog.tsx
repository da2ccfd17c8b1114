/** A run of numbered pictures, or a moving one, as the head of a scene or as the plate behind it. */
import { frameNumber, PICTURES_LIMITS, sceneSettings, type PartRole, type PicturesLaid } from '@zest-jaw/core';
import { useRef, useState, type ReactElement } from 'react';
import { sentenceOf } from '../api/http.js';
import { filesOfDrop, type ChosenFile } from '../api/imports.js';
import { useOpenScene, useSceneDocument } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Modal } from '../ui/Modal.js';
import { Pills } from '../ui/Pills.js';
import { Progress } from '../ui/Progress.js';
import { useBringPictures } from './useBringPictures.js';

const ACCEPTED = 'image/png,image/apng,image/gif,image/jpeg,image/webp,image/svg+xml,application/zip,video/webm,video/mp4,.zip';

/** A number of frames, with its name above it. */
function Frames({
  label,
  value,
  least,
  most,
  onChange,
}: {
  readonly label: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  readonly onChange: (value: number) => void;
}): ReactElement {
  // What is being typed may be out of range until it is whole.
  const [typed, setTyped] = useState<string>();
  return (
    <label className="flex flex-col gap-1 text-[14px] font-semibold">
      {label}
      <input
        type="number"
        className="field w-[110px] font-normal"
        min={least}
        max={most}
        value={typed ?? value}
        onChange={({ target }) => {
          setTyped(target.value);
          const number = Math.round(Number(target.value));
          if (target.value !== '' && number >= least && number <= most) onChange(number);
        }}
        onBlur={() => setTyped(undefined)}
      />
    </label>
  );
}

export function BringDialog({ onClose }: { readonly onClose: () => void }): ReactElement {
  const document = useSceneDocument();
  const { playhead } = useOpenScene();
  const { firstFrame, lengthFrames } = sceneSettings(document);
  const [files, setFiles] = useState<readonly ChosenFile[]>([]);
  const [role, setRole] = useState<PartRole>('head');
  const [from, setFrom] = useState(playhead.store.getState().frame);
  const [every, setEvery] = useState(2);
  const [then, setThen] = useState<PicturesLaid['then']>('loop');
  const input = useRef<HTMLInputElement>(null);
  const running = useRef<AbortController>(undefined);
  const bring = useBringPictures();
  const take = (): void => {
    const { signal } = (running.current = new AbortController());
    bring.mutate({ files, role, laid: { from, every, then }, signal });
  };
  const leave = (): void => {
    running.current?.abort();
    onClose();
  };
  return (
    <Modal
      open
      wide
      title="Pictures of the head"
      description="Numbered pictures, a GIF, an animated PNG or a film of a head that moves. They run in a lane of their own, and the mouth is put where each has it."
      onClose={leave}
    >
      <form
        className="mt-4 flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (files.length > 0 && !bring.isPending) take();
        }}
      >
        <div
          className="flex items-center gap-3 rounded-xl border border-dashed border-rule bg-lift px-4 py-4"
          onDragOver={(event) => event.preventDefault()}
          onDrop={(event) => {
            event.preventDefault();
            event.stopPropagation();
            void filesOfDrop(event.dataTransfer).then(setFiles);
          }}
        >
          <input
            ref={input}
            type="file"
            multiple
            className="sr-only"
            tabIndex={-1}
            aria-label="Pictures of the head"
            accept={ACCEPTED}
            onChange={({ target }) => setFiles([...(target.files ?? [])].map((file) => ({ file, path: file.name })))}
          />
          <p className="min-w-0 flex-1 truncate" data-testid="chosen-pictures">
            {files.length === 0
              ? 'Drop them here, or choose them.'
              : `${count(files.length, 'file', 'files')}: ${files.map(({ file }) => file.name).join(', ')}`}
          </p>
          <Button autoFocus onClick={() => input.current?.click()}>
            Choose pictures…
          </Button>
        </div>
        <Pills
          label="What they are"
          value={role}
          options={[
            ['head', 'The head itself'],
            ['plate', 'The plate behind it'],
          ]}
          onChange={setRole}
        />
        <div className="flex flex-wrap items-end gap-5">
          <Frames
            label="From frame"
            value={frameNumber(document, from)}
            least={firstFrame}
            most={firstFrame + lengthFrames - 1}
            onChange={(frame) => setFrom(frame - firstFrame)}
          />
          <Frames label="Frames for each" value={every} least={1} most={PICTURES_LIMITS.mostFrames} onChange={setEvery} />
          <div className="flex flex-col gap-1 text-[14px] font-semibold">
            After the last
            <Pills
              label="After the last"
              value={then}
              options={[
                ['loop', 'From the first again'],
                ['hold', 'It stays'],
                ['stop', 'None'],
              ]}
              onChange={setThen}
            />
          </div>
        </div>
        {bring.isPending && <Progress label="Pictures" done={bring.doing?.done ?? 0} message={bring.doing?.message ?? 'Sending…'} />}
        {bring.error && (
          <p role="alert" className="text-bad">
            {sentenceOf(bring.error)}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={leave}>Leave it</Button>
          <Button type="submit" weight="main" disabled={files.length === 0 || bring.isPending}>
            Lay them
          </Button>
        </div>
      </form>
    </Modal>
  );
}
