/** What could not be shown when the pencil was keyed, one by one. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, type ReactElement } from 'react';
import { Modal } from '../ui/Modal.js';

const ROW = 44;

export function NotShownDialog({ reasons, onClose }: { reasons: readonly string[]; onClose: () => void }): ReactElement {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({ count: reasons.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 6 });
  return (
    <Modal
      open
      wide
      title={`${reasons.length} closures that could not be shown`}
      description="There is no frame left for them beside their neighbours. A shorter hold, ones for closures or a higher frame rate makes room."
      onClose={onClose}
    >
      <div ref={scroller} tabIndex={0} role="list" aria-label="Closures that could not be shown" className="mt-4 h-[340px] overflow-y-auto">
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => (
            <p
              key={index}
              role="listitem"
              ref={rows.measureElement}
              data-index={index}
              className="absolute inset-x-0 border-b border-rule-soft py-2 text-[15px]"
              style={{ transform: `translateY(${start}px)` }}
            >
              {reasons[index]}
            </p>
          ))}
        </div>
      </div>
    </Modal>
  );
}
