/** A sheet or key list from a file as a state of the scene, to be held against it. Throws a sentence where it cannot be read. */
import {
  applyPatch,
  guessNumbers,
  isRefusal,
  mouthsOfNumbers,
  pasteFrames,
  readNumbers,
  SCENE_KIND,
  sceneSettings,
  type ChartDocument,
  type SceneDocument,
} from '@zest-jaw/core';
import { newId } from '../session/newId.js';

export function sheetOfText(
  text: string,
  scene: SceneDocument,
  { track, chart, chartId }: { readonly track: string; readonly chart: ChartDocument; readonly chartId: string },
): SceneDocument {
  const table = readNumbers(text, chart);
  if (isRefusal(table)) throw new Error(table.refusal);
  const { frameRate, lengthFrames } = sceneSettings(scene);
  const found = mouthsOfNumbers(table, guessNumbers(table, chart), { chart, chartId, frameRate, lengthFrames });
  if (isRefusal(found)) throw new Error(found.refusal);
  const { patch } = pasteFrames(scene, { track, from: found.from, pushing: false }, found.copied, { chartId, chart }, newId);
  if (isRefusal(patch)) throw new Error(patch.refusal);
  return applyPatch(SCENE_KIND, scene, patch);
}
