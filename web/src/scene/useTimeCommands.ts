/** Time put into the scene and taken out of it, mouths, recordings and marks together. */
import { insertTime, removeTime, type Patch, type Refusal, type SceneDocument, type Span } from '@zest-jaw/core';
import { useStore } from 'zustand';
import type { Command } from '../commands/command.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { count } from '../ui/count.js';
import { useOpenScene } from './sceneContext.js';
import { useChangeAndKey } from './useChangeAndKey.js';

export function useTimeCommands(): readonly Command[] {
  const { playhead } = useOpenScene();
  const changeAndKey = useChangeAndKey();
  const hasSelection = useStore(playhead.store, ({ selection }) => selection !== null);
  const change = (make: (scene: SceneDocument, chosen: Span) => Patch | Refusal, said: string): void => {
    playhead.stay();
    const { frame, selection } = playhead.store.getState();
    const chosen = selection ?? { from: frame, to: frame + 1 };
    if (!changeAndKey((scene) => make(scene, chosen))) return;
    playhead.select(null);
    playhead.moveTo(chosen.from);
    announce(`${count(chosen.to - chosen.from, 'frame', 'frames')} ${said} the whole scene.`);
  };
  return [
    {
      id: 'insert-time',
      title: hasSelection
        ? 'Insert as many frames everywhere as are selected, recordings too'
        : 'Insert a frame everywhere, recordings too',
      group: 'Time',
      keys: ['Ctrl+Shift+Enter', 'Shift+Insert'],
      also: 'add pause silence all lanes',
      run: () => change((scene, { from, to }) => insertTime(scene, { frame: from, count: to - from }, newId), 'put into'),
    },
    {
      id: 'remove-time',
      title: hasSelection ? 'Remove the selected frames everywhere, recordings too' : 'Remove this frame everywhere, recordings too',
      group: 'Time',
      keys: ['Ctrl+Shift+Backspace', 'Ctrl+Shift+Delete'],
      also: 'delete cut shorten all lanes ripple',
      run: () => change((scene, chosen) => removeTime(scene, chosen, newId), 'taken out of'),
    },
  ];
}
