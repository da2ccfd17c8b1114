/** Lining the whole chart up: three ways, the difference shown before it is accepted. */
import {
  chartSettings,
  lineUp,
  lookToSvg,
  restDrawing,
  setPlacements,
  type ChartDocument,
  type LineUpWay,
  type Placement,
} from '@zest-jaw/core';
import { useId, useMemo, useState, type ReactElement } from 'react';
import { assetUrl } from '../mouth/pictures.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { Pills } from '../ui/Pills.js';
import { useOpenChart } from './openChart.js';

const WAYS: readonly (readonly [LineUpWay, string, string])[] = [
  ['top', 'By the upper lip', 'The top edge and middle of every drawing come where the anchor has them.'],
  ['cross', 'By their crosses', 'The cross you marked on each drawing comes to the middle. Mouths made here have theirs already.'],
  ['page', 'As on the page', 'Imported mouths lie to one another as they did in their file.'],
];

/** Every drawing over every other, faintly: what does not line up shows as a blur. */
function Overlay({
  chart,
  placements,
  label,
}: {
  chart: ChartDocument;
  placements: ReadonlyMap<string, Placement>;
  label: string;
}): ReactElement {
  const idPrefix = useId();
  const markup = useMemo(
    () =>
      chart.drawings
        .map((drawing, index) => {
          const look = { ...drawing, placement: placements.get(drawing.id) ?? drawing.placement };
          return `<g opacity="0.22">${lookToSvg(chartSettings(chart).style, look, { idPrefix: `${idPrefix}${index}`, hrefOf: ({ preview }) => assetUrl(preview) })}</g>`;
        })
        .join(''),
    [chart, placements, idPrefix],
  );
  return (
    <figure className="overflow-hidden rounded-xl border border-rule bg-ground">
      <svg viewBox="-64 -40 128 124" className="block h-[230px] w-full" role="img" aria-label={`${label}: every drawing over every other`}>
        <g dangerouslySetInnerHTML={{ __html: markup }} />
        <path d="M-60 0H60M0 -38V82" stroke="#1e2a44" strokeWidth={0.3} opacity={0.5} />
      </svg>
      <figcaption className="border-t border-rule bg-lift px-3 py-1 text-[14px] font-semibold text-ink">{label}</figcaption>
    </figure>
  );
}

const NONE: ReadonlyMap<string, Placement> = new Map();

export function LineUpDialog({ onClose }: { onClose: () => void }): ReactElement {
  const { chart, change } = useOpenChart();
  const [way, setWay] = useState<LineUpWay>('top');
  const [anchor, setAnchor] = useState(restDrawing(chart).id);
  const { changes, left } = useMemo(() => lineUp(chart, way, anchor), [chart, way, anchor]);
  const after = useMemo(() => new Map(changes.map((entry) => [entry.drawing.id, entry.after])), [changes]);
  const hint = WAYS.find(([candidate]) => candidate === way)![2];
  return (
    <Modal open wide title="Line up" description="The upper lip hardly moves; the jaw does." onClose={onClose}>
      <div className="mt-3" />
      <Pills label="How" options={WAYS.map(([value, text]) => [value, text] as const)} value={way} onChange={setWay}>
        <span className="flex-1" />
        {way !== 'cross' && (
          <label className="flex items-center gap-2 text-ink-soft">
            Anchor
            <select className="field w-auto! py-[4px]!" value={anchor} onChange={(event) => setAnchor(event.target.value)}>
              {chart.drawings.map((drawing) => (
                <option key={drawing.id} value={drawing.id}>
                  {drawing.label}
                </option>
              ))}
            </select>
          </label>
        )}
      </Pills>
      <p className="mt-2 text-ink-soft">{hint}</p>
      <div className="mt-3 grid grid-cols-2 gap-3">
        <Overlay chart={chart} placements={NONE} label="Now" />
        <Overlay chart={chart} placements={after} label="Lined up" />
      </div>
      <div className="mt-3 max-h-[130px] overflow-y-auto text-[14px]">
        {changes.length === 0 && <p className="text-ink-soft">Nothing would move: they are lined up this way already.</p>}
        <ul className="grid grid-cols-3 gap-x-4">
          {changes.map(({ drawing, moved }) => (
            <li key={drawing.id} className="flex justify-between gap-2">
              <span className="truncate">{drawing.label}</span>
              <span className="text-ink-soft">{`${moved.x.toFixed(1)}, ${moved.y.toFixed(1)}`}</span>
            </li>
          ))}
        </ul>
        {left.length > 0 && (
          <p className="mt-1 text-ink-soft">
            {`Left where ${left.length === 1 ? 'it is' : 'they are'}: ${left.map((drawing) => drawing.label).join(', ')} ${way === 'cross' ? '(no cross is marked yet: choose the tool Cross and click the middle of the upper lip)' : '(not from one page with the anchor)'}.`}
          </p>
        )}
      </div>
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          weight="main"
          disabled={changes.length === 0}
          onClick={() => change((now) => setPlacements(now, changes, newId)) && onClose()}
        >
          {changes.length === 0 ? 'Line up' : `Move ${changes.length} ${changes.length === 1 ? 'drawing' : 'drawings'}`}
        </Button>
      </div>
    </Modal>
  );
}
