/** Every key of the page. */
import type { ReactElement } from 'react';
import { Modal } from '../ui/Modal.js';

const KEYS: readonly (readonly [string, readonly (readonly [string, string])[]])[] = [
  [
    'Hear',
    [
      ['Space', 'play, stop'],
      ['L', 'loop the phrase at the playhead'],
      ['← →', 'one frame, and hear it'],
      ['Ctrl ← →', 'one second'],
      ['↑ ↓', 'the exposure before, the next one'],
      ['Home End', 'first frame, last frame'],
    ],
  ],
  [
    'Put mouths',
    [
      ['Q W E R T', 'the first row of the tray, in ink'],
      ['A S D F G', 'the second row'],
      ['Z X C V B', 'the third row'],
      ['I', 'ink the mouth at the playhead'],
      ['Shift I', 'back to pencil'],
    ],
  ],
  [
    'Change',
    [
      ['K', 'key the pencil again'],
      ['Ctrl Z', 'undo'],
      ['Ctrl Shift Z', 'redo'],
      ['?', 'this page'],
    ],
  ],
];

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }): ReactElement {
  return (
    <Modal
      open={open}
      onClose={onClose}
      title="All keys"
      description="The left hand puts mouths, the right hand does the rest. Keys go by their place on the keyboard."
      wide
    >
      <div className="mt-5 grid grid-cols-3 gap-8">
        {KEYS.map(([title, entries]) => (
          <section key={title}>
            <h3 className="mb-2 font-semibold">{title}</h3>
            <dl className="space-y-2 text-[14px]">
              {entries.map(([keys, text]) => (
                <div key={keys}>
                  <dt className="flex flex-wrap gap-1">
                    {keys.split(' ').map((key) => (
                      <kbd key={key} className="keycap">
                        {key}
                      </kbd>
                    ))}
                  </dt>
                  <dd className="mt-0.5 text-ink-soft">{text}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Modal>
  );
}
