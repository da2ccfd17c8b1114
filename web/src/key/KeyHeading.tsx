/** Above the bar sheet of the Key step: who speaks, how much is inked, and what can be opened beside it. */
import { fullRules, hasEnded, maybeFeel, FEELS, mouthLanes } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { useOpenScene, useReadingJob, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { LaneMenu } from '../scene/LaneMenu.js';
import { SpeakerSwitch } from '../scene/SpeakerSwitch.js';
import { useOwnFeels } from '../scene/useOwnFeels.js';
import type { Proposal } from '../trying/useProposal.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Toggle } from '../ui/Toggle.js';
import { byItselfInWords } from './ByItselfPanel.js';
import { CribFigures } from './CribFigures.js';
import { PencilMenu } from './PencilMenu.js';
import { PoseMenu, type Poses } from './PoseMenu.js';
import type { Below } from './KeyStep.js';
import type { MouthEdits } from './useMouthEdits.js';
import type { KeyAgain } from './useKeyAgain.js';

const HOLDS = ['', 'ones', 'twos', 'threes', 'fours'];

interface KeyHeadingProps {
  readonly proposal: Proposal;
  /** Share of the scene's frames, 0 to 1. */
  readonly inked: number;
  readonly below: Below;
  readonly onShow: (below: Below) => void;
  readonly cribbing: boolean;
  readonly onCrib: () => void;
  readonly edits: MouthEdits;
  readonly keying: KeyAgain;
  readonly poses: Poses;
}

export function KeyHeading({ proposal, inked, below, onShow, cribbing, onCrib, edits, keying, poses }: KeyHeadingProps): ReactElement {
  const { playhead, productionId } = useOpenScene();
  const { character, track } = useSpeaker();
  const { data } = useSheet();
  const all = useSceneDocument((document) => document.tracks);
  const tracks = mouthLanes({ tracks: all });
  const reading = useReadingJob();
  const own = useOwnFeels(productionId);
  const hasSelection = useStore(playhead.store, (state) => state.selection !== null);
  const isReading = reading !== undefined && !hasEnded(reading);
  const rules = fullRules(track.rules);
  const feel = maybeFeel(rules, [...FEELS, ...own.feels])?.name ?? 'own';
  return (
    <>
      {/* Where several speak the switch says who it is. */}
      <h2 className={tracks.length > 1 ? 'sr-only' : 'name text-[19px]'}>{character.name}</h2>
      <SpeakerSwitch />
      <LaneMenu />
      <PoseMenu poses={poses} />
      {cribbing ? (
        <span className="min-w-[64px] flex-1 truncate text-ink-soft">
          <CribFigures proposal={proposal} />
        </span>
      ) : (
        // Told whole where there is room beside the rest, or not at all: what doesn't fit goes to a second line that is cut off.
        <span className="flex h-[1lh] min-w-0 flex-1 flex-wrap overflow-hidden text-ink-soft">
          <span className="h-[1lh] w-px" />
          <span className="whitespace-nowrap">
            {data.words.length > 0 ? count(data.words.length, 'word', 'words') : isReading ? 'being read' : 'nothing read yet'}
          </span>
        </span>
      )}
      {/* Beside the figures of the crib there is no room for both. */}
      {!(cribbing && tracks.length > 1) && (
        <span className="whitespace-nowrap text-[14px] text-ink-soft" data-testid="inked">
          Inked <b className="font-semibold text-ink">{Math.round(inked * 100)} %</b>
        </span>
      )}
      {track.kind === 'part' ? (
        <>
          <Toggle look="soft" on={below === 'why'} onToggle={() => onShow('why')} className="py-1" title="Why this mouth is here (Y)">
            Why?
          </Toggle>
          <Toggle
            look="soft"
            on={below === 'feel'}
            onToggle={() => onShow('feel')}
            className="py-1"
            title="What the lane does by itself, in pencil (J)"
          >
            By itself <b className="font-semibold text-ink">{byItselfInWords(track)}</b>
          </Toggle>
        </>
      ) : (
        <>
          <Toggle look="soft" on={cribbing} onToggle={onCrib} className="py-1" title="The plan in a lane above, to key by hand against (U)">
            Crib
          </Toggle>
          <Toggle look="soft" on={below === 'why'} onToggle={() => onShow('why')} className="py-1" title="Why this mouth is here (Y)">
            Why?
          </Toggle>
          <Toggle
            look="soft"
            on={below === 'feel'}
            onToggle={() => onShow('feel')}
            className="py-1"
            title={`On ${HOLDS[rules.holdFrames] ?? rules.holdFrames}, lead ${rules.leadFrames} (J)`}
          >
            Feel <b className="font-semibold text-ink">{feel}</b>
          </Toggle>
        </>
      )}
      <PencilMenu hasSelection={hasSelection} onAct={edits.act} />
      <Button
        weight="main"
        className="whitespace-nowrap py-[5px]!"
        disabled={keying.isKeying || isReading || (track.kind === 'mouth' && data.sounds.length === 0 && rules.source === 'sounds')}
        onClick={() => void keying.keyAgain()}
      >
        Key again
      </Button>
    </>
  );
}
