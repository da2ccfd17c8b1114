/** Whose lane is worked on, where several speak in a scene. */
import { mouthLaneOf, mouthLanes } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { Pills } from '../ui/Pills.js';
import { useOpenScene, useSceneDocument, useSpeaker } from './sceneContext.js';

export function SpeakerSwitch(): ReactElement | null {
  const { characters, showTrack } = useOpenScene();
  const document = useSceneDocument();
  const { track } = useSpeaker();
  const speaking = mouthLanes(document);
  if (speaking.length < 2) return null;
  const nameOf = (id: string): string => characters.find((character) => character.id === id)?.name ?? 'Somebody';
  return (
    <div className="shrink-0">
      <Pills
        label="Whose mouth"
        options={speaking.map(({ id, characterId }) => [id, nameOf(characterId)] as const)}
        value={mouthLaneOf(document, track).id}
        onChange={showTrack}
      />
    </div>
  );
}
