/** The Key step: easel and tray at the left, the bar sheet beside them, the transport below. */
import {
  exposuresOfTrack,
  hasEnded,
  inkedShare,
  isRefusal,
  type KeyingRules,
  maybeExposureAt,
  putDrawing,
  sceneSettings,
  setInk,
  setRules,
} from '@zest-jaw/core';
import { useCallback, useMemo, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { Easel } from '../mouth/Easel.js';
import { SpeakerSwitch } from '../scene/SpeakerSwitch.js';
import { SheetStep } from '../scene/SheetStep.js';
import { useDrawingAtPlayhead, useFrame, useOpenScene } from '../scene/sceneContext.js';
import { newId } from '../session/documentSession.js';
import { Button } from '../ui/Button.js';
import { keyInWorker } from '../workers/heavy.js';
import { Readout } from './Readout.js';
import { RulesMenu } from './RulesMenu.js';
import { Hint } from './Transport.js';
import { Tray } from './Tray.js';
import { ViewSwitch } from './ViewSwitch.js';

function EaselAtPlayhead(): ReactElement {
  const { character, chart, data } = useOpenScene();
  const frame = useFrame();
  const since = maybeExposureAt(data.exposures, frame)?.from ?? 0;
  return (
    <Easel
      name={character.name}
      chart={chart}
      drawing={useDrawingAtPlayhead()}
      frame={frame}
      since={since}
      className="h-[308px] shrink-0"
    />
  );
}

const count = (number: number, one: string, many: string): string => `${number} ${number === 1 ? one : many}`;

export function KeyStep(): ReactElement {
  const { session, document, track, chart, charts, character, data, playhead, reading } = useOpenScene();
  const [keying, setKeying] = useState(false);
  const isReading = reading !== undefined && !hasEnded(reading);

  const put = useCallback(
    (drawing: string) => {
      const { frame } = playhead.store.getState();
      session.change(putDrawing(session.store.getState().document, { track: track.id, frame, drawing }, chart, newId));
    },
    [session, track.id, chart, playhead],
  );
  const ink = (inked: boolean): void => {
    session.change(setInk(session.store.getState().document, { track: track.id, frame: playhead.store.getState().frame, inked }, newId));
  };
  const keyAgain = async (): Promise<void> => {
    setKeying(true);
    try {
      const before = session.store.getState().document;
      const keyed = await keyInWorker(before, track.id, charts);
      if (isRefusal(keyed)) {
        session.change(keyed);
        return;
      }
      // Something was put by hand while the worker planned: its plan no longer fits, so it plans again.
      if (session.store.getState().document !== before) return await keyAgain();
      session.change(keyed.patch);
      const changed = keyed.patch.ops.length;
      const missing = keyed.notShown.map((entry) => entry.reason).join(' ');
      if (missing) toast.warning(`${count(keyed.notShown.length, 'closure', 'closures')} could not be shown. ${missing}`);
      else toast.success(changed === 0 ? 'The pencil is already as the rules have it.' : 'The pencil is keyed again; the ink stayed.');
    } finally {
      setKeying(false);
    }
  };
  const changeRules = (rules: KeyingRules): void => {
    if (session.change(setRules(session.store.getState().document, track.id, rules, newId))) void keyAgain();
  };

  const keycaps = Object.fromEntries(chart.drawings.map((drawing) => [`Key${drawing.keycap}`, () => put(drawing.id)]));
  const inked = useMemo(() => inkedShare(exposuresOfTrack(document, track.id), sceneSettings(document).lengthFrames), [document, track.id]);
  return (
    <SheetStep
      view="key"
      label="Bar sheet"
      keys={{ ...keycaps, KeyI: () => ink(true), 'Shift+KeyI': () => ink(false), KeyK: () => void keyAgain() }}
      aside={
        <>
          <EaselAtPlayhead />
          <Readout />
          <ViewSwitch />
          <Tray onPut={put} />
        </>
      }
      heading={
        <>
          <h2 className="name text-[19px]">{character.name}</h2>
          <SpeakerSwitch />
          <span className="text-ink-soft">
            {data.words.length > 0 ? count(data.words.length, 'word', 'words') : isReading ? 'being read' : 'nothing read yet'}
          </span>
          <span className="flex-1" />
          <span className="rounded-full border border-rule bg-lift px-3 py-1 text-[14px] text-ink-soft" data-testid="inked">
            Inked <b className="font-semibold text-ink">{Math.round(inked * 100)} %</b>
          </span>
          <RulesMenu rules={track.rules} onChange={changeRules} />
          <Button
            weight="main"
            className="py-[5px]!"
            disabled={keying || isReading || data.sounds.length === 0}
            onClick={() => void keyAgain()}
          >
            Key the pencil again
          </Button>
        </>
      }
      hints={
        <>
          <Hint keys={['←', '→']}>a frame</Hint>
          <Hint keys={['↑', '↓']}>an exposure</Hint>
          <Hint keys={['L']}>loop the phrase</Hint>
          <Hint keys={['I']}>ink</Hint>
        </>
      }
    />
  );
}
