/** The character at the playhead, wearing the mouth that is there, or for a moment the one beside it. */
import {
  applyPatch,
  isRefusal,
  maybePlaceAt,
  SCENE_KIND,
  setPlace,
  type PlaceValue,
  type SceneDocument,
  blendedDrawing,
  boilAt,
  faceAt,
  framesPerSecond,
  indexAtSorted,
  maybeDrawing,
  maybeExposureAt,
  maybeHead,
  mouthLaneOf,
  partsOfHead,
  placeOfFace,
  pushId,
  pushMouths,
  sceneSettings,
  seenAt,
  type Drawing,
  type PartLook,
  type Push,
  type SeenAt,
  type Span,
  type Track,
} from '@zest-jaw/core';
import { clsx } from 'clsx';
import { Maximize, Minimize2, ZoomIn, ZoomOut } from 'lucide-react';
import { useMemo, useState, type PointerEvent, type ReactElement, type WheelEvent } from 'react';
import { useStore } from 'zustand';
import { looking } from '../looking/looking.js';
import { Easel, type Closer } from '../mouth/Easel.js';
import { useFrame, useOpenScene, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { Round } from '../ui/Round.js';
import { newId } from '../session/newId.js';
import { AS_A_WHOLE, closerBy, movedBy } from './closer.js';
import { PlaceOver, PushOver } from './EaselHandles.js';
import { usePlace } from './usePlace.js';

interface EaselAtPlayheadProps {
  readonly size: 'small' | 'usual' | 'large';
  /** −1 for the mouth before the one at the playhead, 1 for the one after. */
  readonly flipped: -1 | 0 | 1;
  /** What is worked on has handles by which it is pushed, or moved. */
  readonly handles?: 'push' | 'place' | undefined;
}

const HEIGHTS = {
  small: 'shrink-0 h-[clamp(150px,calc(100vh-560px),214px)]',
  usual: 'shrink-0 h-[clamp(190px,calc(100vh-484px),308px)] min-[1900px]:h-[clamp(308px,calc(100vh-788px),560px)]',
  large: 'min-h-0 flex-1',
} as const;

const spanOf = ({ from, to }: Span): Span => ({ from, to });

/** The mouth beside the part that is worked on. */
function useMouthBeside(mouth: Track, frame: number): SeenAt | undefined {
  const document = useSceneDocument();
  const { track, allCharts } = useSpeaker();
  return mouth === track ? undefined : seenAt(document, mouth, allCharts, frame);
}

/** What the other parts of the face show; the one that is worked on as it is shown there. */
function useFace(scene: SceneDocument, mouth: Track, frame: number): readonly PartLook[] {
  const { allCharts } = useSpeaker();
  return useMemo(() => faceAt(scene, mouth.id, allCharts, frame), [scene, mouth.id, allCharts, frame]);
}

/** A scene as it would be with something moved at a frame; as it is without. */
function usePlaceDraft(frame: number): {
  readonly scene: SceneDocument;
  readonly draft: PlaceValue | undefined;
  readonly setDraft: (place: PlaceValue | undefined) => void;
} {
  const document = useSceneDocument();
  const { track } = useSpeaker();
  const { of } = usePlace();
  const [draft, setDraft] = useState<PlaceValue>();
  const scene = useMemo(() => {
    const patch = draft && setPlace(document, { track: track.id, of, frame }, draft, newId);
    return patch && !isRefusal(patch) ? applyPatch(SCENE_KIND, document, patch) : document;
  }, [document, track.id, of, frame, draft]);
  return { scene, draft, setDraft };
}

export function EaselAtPlayhead({ size, flipped, handles }: EaselAtPlayheadProps): ReactElement {
  const { session } = useOpenScene();
  const { character, chart, track, allCharts } = useSpeaker();
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
  const places = usePlace();
  const { scene, draft: placeDraft, setDraft: setPlaceDraft } = usePlaceDraft(shownFrame);
  const seen = useFace(scene, mouth, shownFrame);
  const [draft, setDraft] = useState<Push>();
  // A lane that blends shows between its keys what lies between.
  const inLane =
    mouth === track && flipped === 0 && shown === here && here ? blendedDrawing(exposures, at, frame, chart, track.blend) : undefined;
  const held = shown && (draft && handles === 'push' ? pushId(shown.drawing, draft) : (inLane ?? shown.drawing));
  const head = maybeHead(beside?.chart ?? chart);
  const own = partsOfHead(head).find((one) => track.kind === 'part' && one.name.toLowerCase() === track.part?.toLowerCase());
  const face = held === shown?.drawing || !own ? seen : seen.map((one) => (one.part === own.id ? { ...one, drawing: held! } : one));
  const push = (by: Push): void => {
    if (shown) session.change(pushMouths(session.store.getState().document, { track: track.id, ...spanOf(shown), push: by }, newId));
  };
  const moved = useMemo(() => placeOfFace(scene, mouth.id, allCharts, shownFrame), [scene, mouth.id, allCharts, shownFrame]);
  const easel = (
    <Easel
      name={character.name}
      chart={beside?.chart ?? chart}
      drawing={beside ? beside.drawing : held === undefined ? undefined : maybeDrawing(chart, held)}
      frame={shownFrame}
      boil={boilAt(mouth.boil, shownFrame, framesPerSecond(frameRate))}
      face={face}
      place={moved}
      since={(beside ?? { since: shown?.from ?? 0 }).since}
      beside={onion && !beside ? [drawingOf(at - 1), drawingOf(at + 1)] : undefined}
      closer={size === 'large' ? closer : undefined}
      className={clsx(HEIGHTS[size], size === 'large' && 'touch-none select-none')}
    />
  );
  if (size !== 'large') {
    if (handles === undefined || !shown || held === undefined || !head || flipped !== 0) return easel;
    const handled = { head, chart, exposure: shown, drawing: held, part: own, moved, face };
    return (
      <div className="relative flex shrink-0 flex-col">
        {easel}
        {handles === 'push' ? (
          <PushOver handled={handled} onDraft={setDraft} onPush={push} />
        ) : (
          <PlaceOver
            handled={handled}
            isHead={places.of === 'head'}
            place={placeDraft ?? maybePlaceAt(scene, { track: track.id, of: places.of }, shownFrame)}
            onDraft={setPlaceDraft}
            onPlace={places.set}
          />
        )}
      </div>
    );
  }
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
