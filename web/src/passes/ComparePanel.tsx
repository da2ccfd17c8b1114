/** Two states of a scene side by side on one sound: what differs, the way from one difference to the next, and what is taken. */
import { frameNumber, indexAtSorted, maybeDrawing, sceneSettings, takeFromPass, framesPerSecond, type Span } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { phraseAt } from '../barSheet/phraseAt.js';
import type { SheetExposure } from '../barSheet/sheetData.js';
import { Easel } from '../mouth/Easel.js';
import { useFrame, useOpenScene, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import type { Held } from './useCompared.js';

/** Half a frame and less is nothing to speak of. */
function offsetInWords(offset: number): string {
  const frames = Math.abs(offset);
  if (frames < 0.05) return 'together';
  return `${frames.toFixed(1)} frames ${offset > 0 ? 'later' : 'earlier'} here`;
}

function OneEasel({ exposures, title }: { exposures: readonly SheetExposure[]; title: string }): ReactElement {
  const { character, chart } = useSpeaker();
  const frame = useFrame();
  const at = exposures[indexAtSorted(exposures, frame, ({ from }) => from)];
  const here = at && frame < at.to ? at : undefined;
  return (
    <figure className="flex min-h-0 min-w-0 flex-1 flex-col gap-1">
      <Easel
        name={character.name}
        chart={chart}
        drawing={here && maybeDrawing(chart, here.drawing)}
        frame={frame}
        since={here?.from ?? 0}
        className="min-h-0 flex-1"
      />
      <figcaption className="flex gap-2 text-[14px]">
        <span className="min-w-0 truncate font-semibold">{title}</span>
        <span className="min-w-0 truncate text-ink-soft">{here ? `${here.label}, ${here.inked ? 'ink' : 'pencil'}` : 'no mouth'}</span>
      </figcaption>
    </figure>
  );
}

interface ComparePanelProps {
  readonly held: Held;
  /** The other alone is on the easel, for as long as a key is held. */
  readonly isFlipped: boolean;
  readonly onStep: (by: 1 | -1) => void;
}

export function ComparePanel({ held, isFlipped, onStep }: ComparePanelProps): ReactElement {
  const { session, playhead } = useOpenScene();
  const { track, charts } = useSpeaker();
  const document = useSceneDocument();
  const { data } = useSheet();
  const { frameRate, lengthFrames } = sceneSettings(document);
  const selection = useStore(playhead.store, (state) => state.selection);
  const frame = useFrame();
  const { comparison, title } = held;
  const { differs, frames, inkOnly, closures, changes, meanOffset, matched } = comparison;
  const here = differs.find(({ from, to }) => from <= frame && frame < to);
  const take = (span: Span, whole = false): void => {
    const scene = session.store.getState().document;
    if (session.change(takeFromPass(scene, held.document, { track: track.id, ...span, whole }, charts, newId)))
      announce(`Taken from “${title}”. Undo brings back what was here.`);
  };
  const phrase = (): Span => phraseAt(data.words, frame, framesPerSecond(frameRate), lengthFrames);
  const length = Math.max(lengthFrames, sceneSettings(held.document).lengthFrames);
  return (
    <section aria-label="Two passes" className="flex min-h-0 min-w-0 flex-1 flex-col gap-2" data-testid="compare" data-differs={frames}>
      <div className="flex min-h-0 flex-1 gap-3">
        {isFlipped ? (
          <OneEasel exposures={held.exposures} title={title} />
        ) : (
          <>
            <OneEasel exposures={data.exposures} title="As it is" />
            <OneEasel exposures={held.exposures} title={title} />
          </>
        )}
        <dl className="w-[200px] shrink-0 self-start overflow-hidden text-[14px]">
          {(
            [
              ['Differ', frames === 0 ? 'no frame' : `${count(frames, 'frame', 'frames')} of ${length}`],
              ['Only ink', inkOnly === 0 ? 'nowhere' : count(inkOnly, 'frame', 'frames')],
              ['Closures', `${closures[0]} here, ${closures[1]} there`],
              ['Changes', `${changes[0]} here, ${changes[1]} there`],
              ['Time', matched === 0 ? 'no mouth in common' : offsetInWords(meanOffset)],
            ] as const
          ).map(([name, value]) => (
            <div key={name} className="flex gap-2 border-b border-rule-soft py-0.5">
              <dt className="w-[64px] shrink-0 text-ink-soft">{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      </div>
      <div className="flex shrink-0 flex-wrap items-center gap-1.5 text-[14px]">
        <Button
          className="px-3! py-[3px]! text-[14px]!"
          disabled={differs.length === 0}
          onClick={() => onStep(-1)}
          aria-label="The difference before"
        >
          ←
        </Button>
        <Button
          className="px-3! py-[3px]! text-[14px]!"
          disabled={differs.length === 0}
          onClick={() => onStep(1)}
          aria-label="The next difference"
        >
          →
        </Button>
        <span className="mr-2 text-ink-soft">
          {differs.length === 0
            ? 'Nothing differs.'
            : here
              ? `Difference ${differs.indexOf(here) + 1} of ${differs.length}, from frame ${frameNumber(document, here.from)}`
              : count(differs.length, 'difference', 'differences')}
        </span>
        <span className="text-ink-soft">Take</span>
        <Button className="px-3! py-[3px]! text-[14px]!" disabled={!here} onClick={() => here && take(here)}>
          this difference
        </Button>
        <Button className="px-3! py-[3px]! text-[14px]!" disabled={frames + inkOnly === 0} onClick={() => take(phrase())}>
          the phrase
        </Button>
        <Button className="px-3! py-[3px]! text-[14px]!" disabled={!selection} onClick={() => selection && take(selection)}>
          the selection
        </Button>
        <Button
          className="px-3! py-[3px]! text-[14px]!"
          disabled={frames + inkOnly === 0}
          onClick={() => take({ from: 0, to: lengthFrames }, true)}
        >
          all of it
        </Button>
      </div>
    </section>
  );
}
