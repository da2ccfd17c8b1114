/** The character at the playhead, wearing the mouth that is there, or for a moment the one beside it. */
import {
  boilAt,
  chartStretchAt,
  exposuresOfTrack,
  faceAt,
  framesPerSecond,
  indexAtSorted,
  maybeDrawing,
  maybeExposureAt,
  mouthLaneOf,
  sceneSettings,
  type ChartDocument,
  type Drawing,
  type PartLook,
  type Track,
} from '@zest-jaw/core';
import { clsx } from 'clsx';
import { Maximize, Minimize2, ZoomIn, ZoomOut } from 'lucide-react';
import { useMemo, useState, type PointerEvent, type ReactElement, type WheelEvent } from 'react';
import { useStore } from 'zustand';
import { looking } from '../looking/looking.js';
import { Easel, type Closer } from '../mouth/Easel.js';
import { useFrame, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { Round } from '../ui/Round.js';
import { AS_A_WHOLE, closerBy, movedBy } from './closer.js';

interface EaselAtPlayheadProps {
  readonly size: 'small' | 'usual' | 'large';
  /** −1 for the mouth before the one at the playhead, 1 for the one after. */
  readonly flipped: -1 | 0 | 1;
}

const HEIGHTS = {
  small: 'shrink-0 h-[clamp(150px,calc(100vh-560px),214px)]',
  usual: 'shrink-0 h-[clamp(190px,calc(100vh-484px),308px)] min-[1900px]:h-[clamp(308px,calc(100vh-788px),560px)]',
  large: 'min-h-0 flex-1',
} as const;

interface MouthShown {
  readonly chart: ChartDocument;
  readonly drawing: Drawing | undefined;
  readonly since: number;
}

/** The mouth beside the part that is worked on. */
function useMouthBeside(mouth: Track, frame: number): MouthShown | undefined {
  const document = useSceneDocument();
  const { track, allCharts } = useSpeaker();
  if (mouth === track) return undefined;
  const chart = allCharts.get(chartStretchAt(document, mouth.id, frame)?.chartId ?? '');
  const held = maybeExposureAt(exposuresOfTrack(document, mouth.id), frame);
  return chart && { chart, drawing: held && maybeDrawing(chart, held.drawing), since: held?.from ?? 0 };
}

/** What the other parts of the face show; the one that is worked on as it is shown there. */
function useFace(mouth: Track, frame: number): readonly PartLook[] {
  const document = useSceneDocument();
  const { allCharts } = useSpeaker();
  return useMemo(() => faceAt(document, mouth.id, allCharts, frame), [document, mouth.id, allCharts, frame]);
}

export function EaselAtPlayhead({ size, flipped }: EaselAtPlayheadProps): ReactElement {
  const { character, chart, track } = useSpeaker();
  const { exposures } = useSheet().data;
  const frame = useFrame();
  const tracks = useSceneDocument((document) => document.tracks);
  const { frameRate } = useSceneDocument(sceneSettings);
  const mouth = mouthLaneOf({ tracks }, track);
  const onion = useStore(looking, (state) => state.onion);
  const [closer, setCloser] = useState<Closer>(AS_A_WHOLE);
  const here = maybeExposureAt(exposures, frame);
  const at = indexAtSorted(exposures, frame, ({ from }) => from);
  const shown = flipped === 0 ? here : (exposures[at + flipped] ?? here);
  const drawingOf = (index: number): Drawing | undefined => {
    const exposure = exposures[index];
    return exposure && maybeDrawing(chart, exposure.drawing);
  };
  const shownFrame = flipped === 0 ? frame : (shown?.from ?? frame);
  const beside = useMouthBeside(mouth, shownFrame);
  const face = useFace(mouth, shownFrame);
  const easel = (
    <Easel
      name={character.name}
      chart={beside?.chart ?? chart}
      drawing={beside ? beside.drawing : shown && maybeDrawing(chart, shown.drawing)}
      frame={shownFrame}
      boil={boilAt(mouth.boil, shownFrame, framesPerSecond(frameRate))}
      face={face}
      since={(beside ?? { since: shown?.from ?? 0 }).since}
      beside={onion && !beside ? [drawingOf(at - 1), drawingOf(at + 1)] : undefined}
      closer={size === 'large' ? closer : undefined}
      className={clsx(HEIGHTS[size], size === 'large' && 'touch-none select-none')}
    />
  );
  if (size !== 'large') return easel;
  const turn = (event: WheelEvent): void => setCloser((now) => closerBy(now, Math.exp(-event.deltaY * 0.0015)));
  const drag = (event: PointerEvent<HTMLDivElement>): void => {
    if (event.buttons !== 1) return;
    const { clientWidth, clientHeight } = event.currentTarget;
    setCloser((now) => movedBy(now, event.movementX / clientWidth, event.movementY / clientHeight));
  };
  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      <div
        className="flex min-h-0 flex-1 cursor-grab flex-col active:cursor-grabbing"
        onWheel={turn}
        onPointerDown={(event) => event.button === 0 && event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={drag}
        onDoubleClick={() => setCloser(AS_A_WHOLE)}
      >
        {easel}
      </div>
      <div className="absolute bottom-3 right-3 flex gap-1 rounded-full border border-rule bg-sheet/90 p-1">
        <Round label="Further away" onClick={() => setCloser((now) => closerBy(now, 1 / 1.4))}>
          <ZoomOut size={17} />
        </Round>
        <Round label="Closer" onClick={() => setCloser((now) => closerBy(now, 1.4))}>
          <ZoomIn size={17} />
        </Round>
        <Round label="All of it" onClick={() => setCloser(AS_A_WHOLE)}>
          <Maximize size={17} />
        </Round>
        <Round label="Beside the sheet again (`)" onClick={() => looking.setState({ isEaselLarge: false })}>
          <Minimize2 size={17} />
        </Round>
      </div>
    </div>
  );
}
