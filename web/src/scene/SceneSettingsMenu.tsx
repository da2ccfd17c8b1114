/** The scene's title, the number of its first frame, and its length. */
import { sceneSettings, setLength, setSettings } from '@zest-jaw/core';
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { lazy, Suspense, useState, type FormEvent, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useChangeAndKey } from './useChangeAndKey.js';
import { useOpenScene, useSceneDocument } from './sceneContext.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';

const RateDialog = lazy(async () => ({ default: (await import('./RateDialog.js')).RateDialog }));

const MOST_FIRST_FRAME = 9_999_999;

function SettingsForm({ onDone, onRate }: { onDone: () => void; onRate: () => void }): ReactElement {
  const { session } = useOpenScene();
  const document = useSceneDocument();
  const changeAndKey = useChangeAndKey();
  const settings = sceneSettings(document);
  const [title, setTitle] = useState(settings.title);
  const [first, setFirst] = useState(String(settings.firstFrame));
  const [length, setLengthText] = useState(String(settings.lengthFrames));
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const firstFrame = Number(first);
    if (!Number.isInteger(firstFrame) || firstFrame < 0 || firstFrame > MOST_FIRST_FRAME || first.trim() === '') {
      toast.message(`The first frame is “${first}”. It may be a whole number from 0 to ${MOST_FIRST_FRAME}, such as 0, 1, 101 or 1001.`);
      return;
    }
    if (title.trim() === '') {
      toast.message('A scene needs a title.');
      return;
    }
    if (!/^\d+$/.test(length.trim())) {
      toast.message(`The length is “${length}”. It may be a whole number of frames, such as ${settings.lengthFrames}.`);
      return;
    }
    const lengthFrames = Number(length);
    const mark = session.mark();
    // A title or a number says nothing about mouths: only a new length keys the pencil again.
    const isLong = lengthFrames === settings.lengthFrames || changeAndKey((scene) => setLength(scene, lengthFrames, newId));
    const named = { title: title.trim(), firstFrame };
    const isNamed = named.title !== settings.title || firstFrame !== settings.firstFrame;
    if (isLong && isNamed) session.change(setSettings(session.store.getState().document, named, newId));
    session.squash(mark);
    if (isLong) onDone();
  };
  return (
    <form className="flex flex-col gap-3" onSubmit={submit}>
      <label className="flex flex-col gap-1 font-semibold">
        Title
        <input className="field font-normal" value={title} maxLength={200} onChange={(event) => setTitle(event.target.value)} />
      </label>
      <div className="grid grid-cols-2 gap-3">
        <label className="flex flex-col gap-1 font-semibold">
          First frame
          <input className="field font-normal" inputMode="numeric" value={first} onChange={(event) => setFirst(event.target.value)} />
        </label>
        <label className="flex flex-col gap-1 font-semibold">
          Length, frames
          <input className="field font-normal" inputMode="numeric" value={length} onChange={(event) => setLengthText(event.target.value)} />
        </label>
      </div>
      <p className="text-[14px] text-ink-soft">
        Frames are counted from the first one everywhere: on the sheet, in the readout, in what is handed on.
      </p>
      <div className="flex items-center justify-between">
        <Button onClick={onRate}>Another frame rate…</Button>
        <Button type="submit" weight="main">
          Set
        </Button>
      </div>
    </form>
  );
}

export function SceneSettingsMenu(): ReactElement {
  const document = useSceneDocument();
  const [open, setOpen] = useState(false);
  const [rating, setRating] = useState(false);
  const { lengthFrames, firstFrame } = sceneSettings(document);
  return (
    <>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          title="Title, first frame, length and frame rate"
          className="flex items-center gap-1 rounded-full px-2 py-0.5 hover:bg-rule-soft hover:text-ink"
        >
          {`frames ${firstFrame}–${firstFrame + lengthFrames - 1}`}
          <ChevronDown size={14} aria-hidden />
          <span className="sr-only">Scene settings</span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            aria-label="The scene"
            side="bottom"
            align="end"
            sideOffset={8}
            className="z-40 w-[330px] rounded-2xl border border-rule bg-sheet p-5"
          >
            <p className="name mb-2 text-[18px]">The scene</p>
            <SettingsForm
              onDone={() => setOpen(false)}
              onRate={() => {
                setOpen(false);
                setRating(true);
              }}
            />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {rating && (
        <Suspense>
          <RateDialog onClose={() => setRating(false)} />
        </Suspense>
      )}
    </>
  );
}
