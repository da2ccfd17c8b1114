/** The scene around the Chart step, when it was opened from one. */
import { useContext } from 'react';
import { SceneContext, type OpenScene } from '../scene/sceneContext.js';

export function useSceneOfChart(): OpenScene | null {
  return useContext(SceneContext);
}
