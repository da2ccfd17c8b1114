/** What is done to the clip at hand: heard or not, trimmed and slid to the playhead, taken out. */
import { changeClip, removeClip, slideClip, trimClip, type Clip, type Patch, type Refusal, type SceneDocument } from '@zest-jaw/core';
import type { Command } from '../commands/command.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { useChangeAndKey } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';

export function useClipCommands(clip: Clip | undefined): readonly Command[] {
  const { session, playhead, readAgain } = useOpenScene();
  const changeAndKey = useChangeAndKey();
  if (!clip) return [];
  const { id, fileName, muted, soloed } = clip;
  const frame = (): number => playhead.store.getState().frame;
  const keyed = (make: (scene: SceneDocument) => Patch | Refusal) => (): void => void changeAndKey(make);
  const heard = (changes: { readonly muted: boolean } | { readonly soloed: boolean }) => (): void => {
    session.change(changeClip(session.store.getState().document, id, changes, newId));
  };
  const command = (name: string, title: string, also: string, run: () => void): Command => ({
    id: `clip-${name}`,
    title,
    group: 'Whole scene',
    keys: [],
    also: `recording ${fileName} ${also}`,
    run,
  });
  return [
    command(
      'slide',
      'The recording starts at the playhead',
      'move slide',
      keyed((scene) => slideClip(scene, id, frame(), newId)),
    ),
    command(
      'trim-from',
      'Trim the recording up to the playhead',
      'cut head',
      keyed((scene) => trimClip(scene, id, 'from', frame(), newId)),
    ),
    command(
      'trim-to',
      'Trim the recording after the playhead',
      'cut tail',
      keyed((scene) => trimClip(scene, id, 'to', frame() + 1, newId)),
    ),
    command('mute', muted ? 'Hear the recording again' : 'Mute the recording', 'silent', heard({ muted: !muted })),
    command('solo', soloed ? 'Hear the other recordings too' : 'Hear the recording alone', 'solo', heard({ soloed: !soloed })),
    command('read', 'Read the recording again', 'recognise words', () => void readAgain(id)),
    command(
      'remove',
      'Take the recording out',
      'delete',
      keyed((scene) => removeClip(scene, id, newId)),
    ),
  ];
}
