/** Every key of the page. */
import type { ReactElement } from 'react';
import { Modal } from '../ui/Modal.js';

/** Keys by what they are for: the keys, a word on each. */
export type KeyList = readonly (readonly [string, readonly (readonly [string, string])[]])[];

const KEYS: KeyList = [
  [
    'Hear',
    [
      ['Space', 'play, stop'],
      ['Shift Space', 'play again from where it was started'],
      ['P', 'play the selection, or the phrase at the playhead'],
      ['L', 'loop it'],
      ['[ ]', 'the loop begins earlier, ends later; with Shift the other way'],
      ['1 2 3 4', 'full, half, quarter, eighth speed'],
      ['← →', 'one frame, and hear it; held, on at its own pace'],
      ['Shift ← →', 'select frames; Ctrl A all of them, Escape none'],
      ['Ctrl ← →', 'one second'],
      ['↑ ↓', 'the exposure before, the next one'],
      ['Home End', 'first frame, last frame'],
    ],
  ],
  [
    'Put mouths',
    [
      ['Q W E R T', 'the first row of the tray, in ink; over all that is selected where something is'],
      ['A S D F G', 'the second row'],
      ['Z X C V B', 'the third row'],
      ["; '", 'the mouth at the playhead starts here; ends here, and the next one starts after it'],
      ['I', 'ink the mouth at the playhead, or all that is selected'],
      ['Shift I', 'back to pencil'],
    ],
  ],
  [
    'Change',
    [
      ['K', 'key the pencil again'],
      ['J', 'the feel: rules, tried before they are taken'],
      ['Y', 'why this mouth is here'],
      ['U', 'the crib: the plan above, to key by hand against'],
      ['M', 'in Listen: write down what you hear'],
      ['Ctrl Z', 'undo'],
      ['Ctrl Shift Z', 'redo'],
      ['?', 'this page'],
    ],
  ],
];

export const CHART_KEYS: KeyList = [
  [
    'Choose and hear',
    [
      ['[ ]', 'the drawing before, the next one'],
      ['Q W E …', 'the drawing with that keycap'],
      ['Space', 'play the try-out, stop'],
      ['/', 'hold to flip to the drawing under this one'],
      ['O', 'onion skin on, off'],
    ],
  ],
  [
    'On the desk',
    [
      ['← → ↑ ↓', 'nudge the drawing, or the handle or line that is chosen'],
      ['Shift ← →', 'ten times as far'],
      ['- =', 'scale it about the cross'],
      ['0', 'show all of it'],
      ['Delete', 'remove the line that is chosen'],
    ],
  ],
  [
    'In the tray',
    [
      ['F2', 'pick a card up, then arrows, then Enter'],
      ['Ctrl Z', 'undo'],
      ['Ctrl Shift Z', 'redo'],
      ['?', 'this page'],
    ],
  ],
];

interface KeysDialogProps {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly keys?: KeyList;
}

export function KeysDialog({ open, onClose, keys = KEYS }: KeysDialogProps): ReactElement {
  return (
    <Modal
      open={open}
      onClose={onClose}
      title="All keys"
      description="The left hand puts mouths, the right hand does the rest. Keys go by their place on the keyboard."
      wide
    >
      <div className="mt-5 grid grid-cols-3 gap-8">
        {keys.map(([title, entries]) => (
          <section key={title}>
            <h3 className="mb-2 font-semibold">{title}</h3>
            <dl className="space-y-2 text-[14px]">
              {entries.map(([names, text]) => (
                <div key={names}>
                  <dt className="flex flex-wrap gap-1">
                    {names.split(' ').map((name) => (
                      <kbd key={name} className="keycap">
                        {name}
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
