/** Every key of the page. */
import type { ReactElement } from 'react';
import type { KeyList } from '../commands/command.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';

export const CHART_KEYS: KeyList = [
  [
    'Choose and hear',
    [
      [['[', ']'], 'the drawing before, the next one'],
      [['Q', 'W', 'E', '…'], 'the drawing with that keycap'],
      [['Space'], 'play the try-out, stop'],
      [['/'], 'hold to flip to the drawing under this one'],
      [['O'], 'onion skin on, off'],
    ],
  ],
  [
    'On the desk',
    [
      [['←', '→', '↑', '↓'], 'nudge the drawing, or the handle or line that is chosen'],
      [['Shift', '←', '→'], 'ten times as far'],
      [['-', '='], 'scale it about the cross'],
      [['0'], 'show all of it'],
      [['Delete'], 'remove the line that is chosen'],
    ],
  ],
  [
    'On the sound map',
    [
      [['s', 'h', '…'], 'the sound that is written so'],
      [['←', '→', '↑', '↓'], 'the next sound that way'],
      [['Space'], 'choose it too'],
      [['Enter'], 'where the chosen ones go'],
    ],
  ],
  [
    'In the tray',
    [
      [['F2'], 'pick a card up, then arrows, then Enter'],
      [['Ctrl', 'Z'], 'undo'],
      [['Ctrl', 'Shift', 'Z'], 'redo'],
      [['?'], 'this page'],
    ],
  ],
];

interface KeysDialogProps {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly keys: KeyList;
  /** Opens what changes them, where they can be changed. */
  readonly onChange?: () => void;
}

export function KeysDialog({ open, onClose, keys, onChange }: KeysDialogProps): ReactElement {
  return (
    <Modal
      open={open}
      onClose={onClose}
      title="All keys"
      description="The left hand puts mouths, the right hand does the rest. Keys go by their place on the keyboard."
      wide="page"
    >
      {onChange && (
        <Button className="mt-3" onClick={onChange}>
          Keys of your own…
        </Button>
      )}
      <div className="mt-5 columns-3 gap-8">
        {keys.map(([title, entries]) => (
          <section key={title} className="mb-5">
            <h3 className="mb-2 font-semibold">{title}</h3>
            <dl className="space-y-1.5 text-[14px]">
              {entries.map(([names, text]) => (
                <div key={text} className="flex break-inside-avoid items-baseline gap-2">
                  <dt className="flex min-w-[84px] max-w-[124px] shrink-0 flex-wrap gap-1">
                    {names.map((name) => (
                      <kbd key={name} className="keycap">
                        {name}
                      </kbd>
                    ))}
                  </dt>
                  <dd className="leading-snug text-ink-soft">{text}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Modal>
  );
}
