/** The Chart step of a scene: the chart that is in force at the playhead. */
import type { ReactElement } from 'react';
import { useNavigate } from 'react-router';
import { useSpeaker } from '../scene/sceneContext.js';
import { ChartWorkspace } from './ChartWorkspace.js';
import { PencilPreview } from './PencilPreview.js';

export function ChartStep(): ReactElement {
  const { chartId, chartSession, character } = useSpeaker();
  const navigate = useNavigate();
  return (
    <ChartWorkspace
      key={chartId}
      chartId={chartId}
      characterId={character.id}
      characterName={character.name}
      session={chartSession}
      onSwitch={(id) => void navigate(`/charts/${id}`)}
    >
      <PencilPreview />
    </ChartWorkspace>
  );
}
