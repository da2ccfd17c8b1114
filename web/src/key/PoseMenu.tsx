/** Poses of a face: put with one press over what is selected, or to the end of the phrase; and what is seen kept as another. */
import { faceAt, framesPerSecond, poseOfFace, PART_LIMITS, putPose, sceneSettings, setHead, type HeadPose } from '@zest-jaw/core';
import { Plus } from 'lucide-react';
import { useState, type FormEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { phraseAt } from '../barSheet/phraseAt.js';
import type { Command } from '../commands/command.js';
import { useOpenScene, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { useMouthOfFace } from '../scene/useMouthOfFace.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { Button } from '../ui/Button.js';
import { Menu, MenuCheck, MenuItem, MenuRule } from '../ui/Menu.js';
import { Modal } from '../ui/Modal.js';

/** How much of a pose is put, until another strength is chosen. */
const poseStrength = createStore(() => ({ strength: 1 }));

const STRENGTHS = [
  [1, 'Whole'],
  [0.6, 'More than half'],
  [0.3, 'A little'],
] as const;

/** So many of them have keys of their own. */
const WITH_KEYS = 7;

export interface Poses {
  readonly poses: readonly HeadPose[];
  /** Whether what is seen can be kept: a part of the face has a lane. */
  readonly canKeep: boolean;
  put(pose: HeadPose): void;
  /** Answers whether it is kept. */
  keep(name: string): boolean;
  readonly commands: readonly Command[];
}

export function usePoses(): Poses {
  const { session, playhead } = useOpenScene();
  const { track, allCharts } = useSpeaker();
  const { data } = useSheet();
  const { mouth, head, chartSession } = useMouthOfFace();
  const poses = head?.poses ?? [];
  const put = (pose: HeadPose): void => {
    if (!head) return;
    playhead.stay();
    const { frame, selection } = playhead.store.getState();
    const now = session.store.getState().document;
    const { frameRate, lengthFrames } = sceneSettings(now);
    // In a pause that of the next.
    const ahead = data.words.filter((word) => word.to > frame);
    const { to } = phraseAt(ahead, frame, framesPerSecond(frameRate), lengthFrames);
    const span = selection ?? { from: frame, to: Math.max(frame + 1, to) };
    if (
      !session.change(putPose(now, { mouth: mouth.id, head, pose, ...span, strength: poseStrength.getState().strength }, allCharts, newId))
    )
      return;
    announce(`${pose.name}, frames ${span.from} to ${span.to - 1}.`);
    if (selection) playhead.select(null);
  };
  const keep = (name: string): boolean => {
    if (!head || !chartSession) return false;
    const now = session.store.getState().document;
    const face = faceAt(now, mouth.id, allCharts, playhead.store.getState().frame);
    const pose = poseOfFace(now, track.characterId, head, face, name, newId);
    return chartSession.change(setHead(chartSession.store.getState().document, { ...head, poses: [...poses, pose] }, newId));
  };
  const hasLanes = session.store.getState().document.tracks.some((one) => one.kind === 'part' && one.characterId === track.characterId);
  return {
    poses,
    canKeep: hasLanes,
    put,
    keep,
    commands: poses.map((pose, index) => ({
      id: `pose:${pose.id}`,
      title: `Pose: ${pose.name}`,
      group: 'Put mouths',
      keys: index < WITH_KEYS ? [`Shift+Digit${index + 1}`] : [],
      also: 'face expression brows lids eyes',
      run: () => put(pose),
    })),
  };
}

function KeepPose({ onKeep, onClose }: { readonly onKeep: (name: string) => boolean; readonly onClose: () => void }): ReactElement {
  const [name, setName] = useState('');
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (onKeep(name)) onClose();
  };
  return (
    <Modal open title="Keep what is seen as a pose" onClose={onClose}>
      <form className="flex flex-col gap-4" onSubmit={submit}>
        <p className="text-ink-soft">
          What each part of the face with a lane shows at the playhead. It is put again with one press, on any scene.
        </p>
        <label className="flex flex-col gap-1 font-semibold">
          Name
          <input
            className="field font-normal"
            value={name}
            maxLength={PART_LIMITS.nameLetters}
            placeholder="Worried"
            onChange={({ target }) => setName(target.value)}
            autoFocus
          />
        </label>
        <Button weight="main" type="submit" className="self-end" disabled={name.trim() === ''}>
          Keep it
        </Button>
      </form>
    </Modal>
  );
}

export function PoseMenu({ poses: { poses, canKeep, put, keep } }: { readonly poses: Poses }): ReactElement | null {
  const [naming, setNaming] = useState(false);
  const { strength } = useStore(poseStrength);
  if (poses.length === 0 && !canKeep) return null;
  return (
    <>
      <Menu className="min-w-[220px]" trigger={<Button className="shrink-0 px-3! py-[3px]! text-[14px]!">Poses</Button>}>
        {poses.map((pose, index) => (
          <MenuItem key={pose.id} onSelect={() => put(pose)}>
            <span className="flex-1">{pose.name}</span>
            {index < WITH_KEYS && <span className="keycap text-[12px]!">{`⇧${index + 1}`}</span>}
          </MenuItem>
        ))}
        {poses.length > 0 && (
          <>
            <MenuRule />
            {STRENGTHS.map(([value, name]) => (
              <MenuCheck
                key={name}
                checked={strength === value}
                className="data-[state=checked]:font-semibold"
                onSelect={(event) => {
                  // The pose is chosen next.
                  event.preventDefault();
                  poseStrength.setState({ strength: value });
                }}
              >
                {name}
              </MenuCheck>
            ))}
            <MenuRule />
          </>
        )}
        <MenuItem disabled={!canKeep} onSelect={() => setNaming(true)}>
          <Plus size={16} aria-hidden />
          Keep what is seen as a pose…
        </MenuItem>
      </Menu>
      {naming && <KeepPose onKeep={keep} onClose={() => setNaming(false)} />}
    </>
  );
}
