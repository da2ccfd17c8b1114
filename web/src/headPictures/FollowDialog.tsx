/**
 * Where the mouth is on each picture of a head: pressed picture by picture with the last one shining through, or found by following
 * a patch that moves with the head.
 */
import {
  exposuresOfTrack,
  followPictures,
  maybeFaultOfPatch,
  maybePlaceAt,
  NO_PLACE,
  partsOfHead,
  picturesOnHead,
  type Box,
  type ChartDocument,
  type ChartHead,
  type Drawing,
  type HeadPart,
  type PictureMark,
  type PlacedArt,
  type Track,
} from '@zest-jaw/core';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useState, type KeyboardEvent, type PointerEvent, type ReactElement } from 'react';
import { assetUrl } from '../mouth/pictures.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { useMouthOfFace } from '../scene/useMouthOfFace.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Modal } from '../ui/Modal.js';
import { Pills } from '../ui/Pills.js';
import { Progress } from '../ui/Progress.js';
import { useFollow, type Path } from './useFollow.js';

interface Spot {
  readonly x: number;
  readonly y: number;
}

type Picture = Drawing & { readonly art: PlacedArt };

interface Laid {
  readonly lane: Track;
  readonly part: HeadPart;
  readonly head: ChartHead;
  /** In the order of the chart, those that the lane shows. */
  readonly pictures: readonly Picture[];
}

/** The lane of pictures that is worked on, or the first of the face, with what it shows; null until its chart has come. */
function useLaid(): Laid | null | undefined {
  const document = useSceneDocument();
  const { track, allCharts } = useSpeaker();
  const { mouth, head } = useMouthOfFace();
  const lanes = document.tracks.flatMap((lane) => {
    const part = partsOfHead(head).find(({ name, role }) => role && name.toLowerCase() === lane.part?.toLowerCase());
    return part && lane.characterId === mouth.characterId ? [{ lane, part }] : [];
  });
  const found = lanes.find(({ lane }) => lane.id === track.id) ?? lanes[0];
  const chart: ChartDocument | undefined = found && allCharts.get(found.part.chartId);
  if (!found || !head) return undefined;
  if (!chart) return null;
  const shown = new Set(exposuresOfTrack(document, found.lane.id).map(({ drawing }) => drawing));
  const pictures = chart.drawings.filter((drawing): drawing is Picture => shown.has(drawing.id) && drawing.art.kind === 'placed');
  return pictures.length > 0 ? { ...found, head, pictures } : undefined;
}

type Way = 'patch' | 'hand';

/** An eighth of the picture's width, where the mouth is. */
function patchAbout({ x, y }: Spot, { width, height }: PlacedArt): Box {
  const side = Math.max(12, Math.round(Math.min(width, height) / 8));
  const within = (value: number, most: number): number => Math.max(0, Math.min(most - side, Math.round(value - side / 2)));
  return { x: within(x, width), y: within(y, height), width: side, height: side };
}

const boxOf = (one: Spot, other: Spot): Box => ({
  x: Math.round(Math.min(one.x, other.x)),
  y: Math.round(Math.min(one.y, other.y)),
  width: Math.round(Math.abs(one.x - other.x)),
  height: Math.round(Math.abs(one.y - other.y)),
});

const NUDGES: Readonly<Record<string, Spot>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

function sentenceOfPath({ points, lostAt }: Path, all: number): string {
  if (lostAt === undefined) return `Found on ${all === 1 ? 'the picture' : `all ${all} pictures`}.`;
  return `Lost at picture ${lostAt + 1}: nothing there looks like the patch. ${count(points.length, 'picture is', 'pictures are')} followed; press the mouth by hand on the rest, or mark another patch.`;
}

/** Shown where there is no picture to follow. */
function NoPictures({ onClose }: { readonly onClose: () => void }): ReactElement {
  return (
    <Modal
      open
      title="The mouth follows the pictures"
      description="No lane of this face shows pictures of a head. Bring some first."
      onClose={onClose}
    >
      <div className="mt-4 flex justify-end">
        <Button onClick={onClose}>Close</Button>
      </div>
    </Modal>
  );
}

export function FollowDialog({ onClose }: { readonly onClose: () => void }): ReactElement {
  const laid = useLaid();
  if (laid === null)
    return (
      <Modal open title="The mouth follows the pictures" description="Opening the pictures…" onClose={onClose}>
        {null}
      </Modal>
    );
  return laid ? <Following laid={laid} onClose={onClose} /> : <NoPictures onClose={onClose} />;
}

function Following({ laid: { lane, part, head, pictures }, onClose }: { readonly laid: Laid; readonly onClose: () => void }): ReactElement {
  const { session } = useOpenScene();
  const document = useSceneDocument();
  const { mouth } = useMouthOfFace();
  const [way, setWay] = useState<Way>('patch');
  const [at, setAt] = useState(0);
  const { art, ...drawing } = pictures[at]!;
  const first = pictures[0]!;
  const onHead = picturesOnHead(part, first);
  const shownFrom = exposuresOfTrack(document, lane.id).find((exposure) => exposure.drawing === first.id)!.from;
  const began = maybePlaceAt(document, { track: mouth.id, of: 'own' }, shownFrom) ?? NO_PLACE;
  /** Of the first picture, in its pixels. */
  const start: Spot = {
    x: (head.mouth.x + began.x - onHead.x) / onHead.scale,
    y: (head.mouth.y + began.y - onHead.y) / onHead.scale,
  };
  const [patch, setPatch] = useState<Box>(() => patchAbout(start, first.art));
  const [drawn, setDrawn] = useState<Spot>();
  /** Pressed by hand, by picture. */
  const [pressed, setPressed] = useState<ReadonlyMap<string, Spot>>(new Map());
  const follow = useFollow();
  const path = way === 'patch' || pressed.size > 0 ? follow.path : undefined;
  const origin = pressed.get(first.id) ?? start;
  /** Where the mouth is on a picture, as far as it is known. */
  const spotOn = (index: number): Spot | undefined => {
    const hand = pressed.get(pictures[index]!.id);
    const point = follow.path?.points[index];
    return hand ?? (point && { x: origin.x + point.x, y: origin.y + point.y });
  };
  const marks = pictures.flatMap(({ id }, index): PictureMark[] => {
    const spot = spotOn(index);
    if (!spot) return [];
    const place = { x: onHead.x + spot.x * onHead.scale - head.mouth.x, y: onHead.y + spot.y * onHead.scale - head.mouth.y };
    return [{ drawing: id, ...place, ...(!pressed.has(id) && { pencil: true as const }) }];
  });
  const step = (by: number): void => setAt((now) => Math.max(0, Math.min(pictures.length - 1, now + by)));
  const press = (spot: Spot): void => {
    setPressed(new Map([...pressed, [drawing.id, spot]]));
    step(1);
  };
  const pointOf = (event: PointerEvent<SVGSVGElement>): Spot => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: ((event.clientX - box.left) / box.width) * art.width, y: ((event.clientY - box.top) / box.height) * art.height };
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const nudge = NUDGES[event.key];
    if (event.key === 'PageDown') step(1);
    else if (event.key === 'PageUp') step(-1);
    else if (event.key === 'Enter' && way === 'hand') press(spotOn(at) ?? spotOn(at - 1) ?? start);
    else if (!nudge) return;
    else {
      const by = event.shiftKey ? 10 : 1;
      if (way === 'patch') setPatch({ ...patch, x: patch.x + nudge.x * by, y: patch.y + nudge.y * by });
      else {
        const now = spotOn(at) ?? (at > 0 ? spotOn(at - 1) : undefined) ?? start;
        setPressed(new Map([...pressed, [drawing.id, { x: now.x + nudge.x * by, y: now.y + nudge.y * by }]]));
      }
    }
    event.preventDefault();
  };
  const fault = maybeFaultOfPatch(first.art, patch);
  const take = (): void => {
    if (session.change(followPictures(session.store.getState().document, { mouth, lane }, marks, newId))) onClose();
  };
  const spot = spotOn(at);
  const dot = Math.max(art.width, art.height) / 90;
  return (
    <Modal
      open
      wide
      title="The mouth follows the pictures"
      description="Mark something that moves with the head, such as the tip of a nose: it is followed from picture to picture. Or press where the mouth is, one picture after another."
      onClose={onClose}
    >
      <div className="mt-3 flex flex-col gap-3">
        <div className="flex flex-wrap items-center gap-3">
          <Pills<Way>
            label="How the mouth is found"
            value={way}
            options={[
              ['patch', 'Follow a patch'],
              ['hand', 'Press it by hand'],
            ]}
            onChange={(next) => {
              setWay(next);
              // A patch is marked on the first picture; what was lost is pressed from there on.
              setAt(next === 'patch' ? 0 : (follow.path?.lostAt ?? 0));
            }}
          />
          <span className="flex-1" />
          <Button weight="bare" aria-label="The picture before" disabled={at === 0} onClick={() => step(-1)}>
            <ChevronLeft size={17} aria-hidden />
          </Button>
          <span className="text-[14px] text-ink-soft" data-testid="picture-number">{`Picture ${at + 1} of ${pictures.length}`}</span>
          <Button weight="bare" aria-label="The next picture" disabled={at === pictures.length - 1} onClick={() => step(1)}>
            <ChevronRight size={17} aria-hidden />
          </Button>
        </div>
        <svg
          viewBox={`0 0 ${art.width} ${art.height}`}
          className="mx-auto block max-h-[46vh] w-auto max-w-full cursor-crosshair touch-none rounded-xl border border-rule bg-lift"
          style={{ aspectRatio: `${art.width} / ${art.height}`, height: '46vh' }}
          tabIndex={0}
          role="application"
          aria-label={
            way === 'patch'
              ? `Picture ${at + 1}. Drag a patch to follow, or move it with the arrow keys.`
              : `Picture ${at + 1}. Press where the mouth is, or move it with the arrow keys; Enter goes on to the next.`
          }
          data-testid="picture-to-follow"
          onKeyDown={onKeyDown}
          onPointerDown={(event) => {
            if (way === 'hand') press(pointOf(event));
            else {
              event.currentTarget.setPointerCapture(event.pointerId);
              setAt(0);
              setDrawn(pointOf(event));
            }
          }}
          onPointerMove={(event) => drawn && setPatch(boxOf(drawn, pointOf(event)))}
          onPointerUp={() => setDrawn(undefined)}
        >
          <image href={assetUrl(art.picture)} width={art.width} height={art.height} />
          {way === 'hand' && at > 0 && (
            <image href={assetUrl(pictures[at - 1]!.art.picture)} width={art.width} height={art.height} opacity={0.3} />
          )}
          {way === 'patch' && at === 0 && (
            <rect {...patch} fill="none" stroke="var(--zest)" strokeWidth={dot / 3} strokeDasharray={`${dot} ${dot / 2}`} />
          )}
          {path?.points.map((point, index) => (
            <circle key={index} cx={origin.x + point.x} cy={origin.y + point.y} r={dot / 3} fill="var(--hiss)" opacity={0.7} />
          ))}
          {way === 'hand' && at > 0 && spotOn(at - 1) && (
            <circle cx={spotOn(at - 1)!.x} cy={spotOn(at - 1)!.y} r={dot} fill="none" stroke="var(--graphite)" strokeWidth={dot / 4} />
          )}
          {spot && (
            <circle data-testid="mouth-spot" cx={spot.x} cy={spot.y} r={dot} fill="none" stroke="var(--zest)" strokeWidth={dot / 3} />
          )}
        </svg>
        <div className="flex min-h-[40px] items-center gap-3">
          {way === 'patch' &&
            (follow.done === undefined ? (
              <Button
                disabled={fault !== undefined}
                onClick={() =>
                  follow.start(
                    pictures.map((one) => one.art),
                    patch,
                  )
                }
              >
                Follow it
              </Button>
            ) : (
              <>
                <Progress className="flex-1" label="Following" done={follow.done} message="Following the patch" />
                <Button onClick={follow.cancel}>Stop</Button>
              </>
            ))}
          {follow.done === undefined && (
            <p className="text-[14px] text-ink-soft" role="status" data-testid="followed">
              {way === 'patch'
                ? (fault ?? follow.fault ?? (follow.path ? sentenceOfPath(follow.path, pictures.length) : ''))
                : `${pressed.size} of ${pictures.length} pressed.`}
            </p>
          )}
        </div>
        <div className="flex items-center justify-end gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button weight="main" disabled={marks.length === 0 || follow.done !== undefined} onClick={take}>
            Put the mouth there
          </Button>
        </div>
      </div>
    </Modal>
  );
}
