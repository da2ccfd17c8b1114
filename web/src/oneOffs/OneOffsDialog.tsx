/** Mouths of this scene alone: drawn over their neighbours with the desk's own tools, named, put again, moved into the chart. */
import {
  chartSettings,
  exposuresOfTrack,
  frameNumber,
  indexAtSorted,
  moveIntoChart,
  isRefusal,
  removeOneOff,
  setDrawing,
} from '@zest-jaw/core';
import { useState, type KeyboardEvent, type ReactElement } from 'react';
import { toast } from 'sonner';
import { Desk } from '../chart/Desk.js';
import { DeskTools, PenBar } from '../chart/DeskTools.js';
import { LooksPanel } from '../chart/LooksPanel.js';
import { ChartProvider, useChartState } from '../chart/openChart.js';
import { Mouth } from '../mouth/Mouth.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Modal } from '../ui/Modal.js';
import { UndoRedo } from '../ui/UndoRedo.js';
import { useOneOffSession } from './useOneOffSession.js';

interface OneOffsDialogProps {
  /** The one on the desk first. */
  readonly first: string;
  /** Puts one at the playhead, or over the selection. */
  readonly onPut: (drawing: string) => void;
  readonly onClose: () => void;
}

export function OneOffsDialog({ first, onPut, onClose }: OneOffsDialogProps): ReactElement {
  const { session: scene, playhead } = useOpenScene();
  const document = useSceneDocument();
  const { chartId, chartSession, character, track, chart } = useSpeaker();
  const session = useOneOffSession();
  const [under] = useState(() => {
    const own = exposuresOfTrack(document, track.id);
    const before = own[indexAtSorted(own, playhead.store.getState().frame, ({ from }) => from) - 1]?.drawing;
    return before === first ? undefined : before;
  });
  const open = useChartState({ chartId, characterId: character.id, characterName: character.name, session, first, under });
  const [pen, setPen] = useState({ colour: chartSettings(chart).style.line, size: 3.4 });
  const [flipped, setFlipped] = useState(false);
  const own = document.oneOffs.filter((one) => one.chartId === chartId);
  const chosen = own.find(({ id }) => id === open.drawing.id);
  const shownAt = chosen && document.exposures.filter(({ drawing }) => drawing === chosen.id);
  const remove = (): void => {
    if (!chosen || !scene.change(removeOneOff(scene.store.getState().document, chosen.id, newId))) return;
    const [next] = own.filter(({ id }) => id !== chosen.id);
    if (next) open.choose(next.id);
    else onClose();
  };
  const move = (): void => {
    if (!chosen) return;
    const moved = moveIntoChart(scene.store.getState().document, chosen.id, chartSession.store.getState().document, newId);
    if (isRefusal(moved)) {
      toast.message(moved.refusal);
      return;
    }
    // The chart first: what shows it must always find it.
    if (!chartSession.change(moved.chart)) return;
    void chartSession.flush().then(
      () => {
        scene.change(moved.scene);
        toast.message(`“${chosen.drawing.label}” is in the chart now, for every scene.`);
        onClose();
      },
      () => toast.message('The chart is not saved yet. Try again when it is.'),
    );
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (!(event.ctrlKey || event.metaKey) || event.code !== 'KeyZ') return;
    event.preventDefault();
    if (event.shiftKey) scene.redo();
    else scene.undo();
  };
  return (
    <Modal
      open
      wide="page"
      title="Mouths of this scene alone"
      description="Kept in the scene and not in the chart; on the sheet and at hand off they are like any other."
      onClose={onClose}
    >
      <div className="mt-3 grid grid-cols-[220px_minmax(0,1fr)] gap-4" onKeyDown={onKeyDown}>
        <div className="flex min-h-0 flex-col gap-2">
          <ul className="flex max-h-[46vh] flex-col gap-1.5 overflow-y-auto p-0.5" aria-label="One-offs">
            {own.map(({ id, drawing }) => (
              <li key={id}>
                <button
                  type="button"
                  aria-pressed={id === chosen?.id}
                  onClick={() => open.choose(id)}
                  className="flex w-full items-center gap-2 rounded-[10px] border border-rule bg-ground px-2 py-1 text-left text-on-ground aria-pressed:border-zest aria-pressed:ring-2 aria-pressed:ring-zest-soft"
                >
                  <Mouth chart={session.store.getState().document} drawing={drawing} className="h-[42px] w-[54px] shrink-0" />
                  <span className="min-w-0 flex-1 truncate font-semibold">{drawing.label}</span>
                  <span className="text-[13px]">{open.chart.drawings.find((one) => one.id === id)?.number}</span>
                </button>
              </li>
            ))}
          </ul>
          {chosen && (
            <>
              <label className="flex flex-col gap-1 text-[14px] font-semibold">
                Label
                <input
                  key={chosen.id}
                  className="field font-normal"
                  defaultValue={chosen.drawing.label}
                  maxLength={40}
                  onBlur={(event) => {
                    const label = event.target.value.trim();
                    if (label !== '' && label !== chosen.drawing.label) open.change((now) => setDrawing(now, chosen.id, { label }, newId));
                  }}
                  onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
                />
              </label>
              <p className="text-[14px] text-ink-soft">
                {shownAt && shownAt.length > 0
                  ? `Shown ${count(shownAt.length, 'time', 'times')}, first at frame ${frameNumber(document, shownAt[0]!.from)}.`
                  : 'Not shown in any frame.'}
              </p>
              <Button
                onClick={() => {
                  onPut(chosen.id);
                  onClose();
                }}
              >
                Put it at the playhead
              </Button>
              <Button onClick={move}>Move it into the chart</Button>
              <Button onClick={remove}>Remove it</Button>
            </>
          )}
        </div>
        {chosen && (
          <ChartProvider value={open}>
            <div className="flex min-w-0 flex-col gap-2">
              <div className="flex items-center gap-2">
                <div className="min-w-0 flex-1">
                  <DeskTools onFlip={setFlipped} />
                </div>
                <UndoRedo session={scene} />
              </div>
              <Desk pen={pen} flipped={flipped} className="h-[min(52vh,460px)]" />
              <PenBar pen={pen} onPen={setPen} />
              <LooksPanel />
            </div>
          </ChartProvider>
        )}
      </div>
    </Modal>
  );
}
