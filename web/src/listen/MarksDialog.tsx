/** Marks that would take the place of words that are there: says how many, and offers less than all. */
import { framesPerSecond, sceneSettings, type Clip, type ClipPart } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { phraseAt } from '../barSheet/phraseAt.js';
import { useOpenScene, useSceneDocument, useSheet } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Modal } from '../ui/Modal.js';
import { partOfClip } from './partOfClip.js';

interface MarksDialogProps {
  readonly clip: Clip;
  /** How many words lie in a part. */
  readonly replaced: (part: ClipPart) => number;
  readonly onRead: (part?: ClipPart) => void;
  readonly onClose: () => void;
}

export function MarksDialog({ clip, replaced, onRead, onClose }: MarksDialogProps): ReactElement {
  const { playhead } = useOpenScene();
  const document = useSceneDocument();
  const { data } = useSheet();
  const { frameRate, lengthFrames } = sceneSettings(document);
  const { selection, frame } = playhead.store.getState();
  const own = data.words.filter((word) => word.clip === clip.id);
  const [first, last] = [data.marks[0], data.marks.at(-1)];
  const parts = [
    ...(selection ? [['Only the selected frames', partOfClip(document, clip, selection)] as const] : []),
    [
      'Only the phrase at the playhead',
      partOfClip(document, clip, phraseAt(own, frame, framesPerSecond(frameRate), lengthFrames)),
    ] as const,
    ...(first && last
      ? [
          [
            'From the first mark to the last',
            partOfClip(document, clip, { from: first.frame, to: Math.min(lengthFrames, last.frame + 1) }),
          ] as const,
        ]
      : []),
  ];
  return (
    <Modal
      open
      title={`${count(replaced(clip), 'word', 'words')} would be replaced`}
      description={`The marks would take the place of everything that was read in ${clip.fileName}. Undo brings it back.`}
      onClose={onClose}
    >
      <div className="mt-5 flex flex-col items-stretch gap-2">
        {parts.map(([name, part]) => (
          <Button key={name} onClick={() => onRead(part)}>
            {name} ({count(replaced(part), 'word', 'words')})
          </Button>
        ))}
        <Button weight="main" onClick={() => onRead()}>
          All of it ({count(replaced(clip), 'word', 'words')})
        </Button>
        <Button onClick={onClose}>Keep what was read</Button>
      </div>
    </Modal>
  );
}
