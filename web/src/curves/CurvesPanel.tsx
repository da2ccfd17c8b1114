/** Curves and counts of the lane, one at a time, each with the table behind it; a press lights its frames on the sheet. */
import { sceneSettings, frameNumber } from '@zest-jaw/core';
import { lazy, Suspense, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useOpenScene, useSceneDocument } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { keep, maybeKept } from '../ui/browserStore.js';
import { count } from '../ui/count.js';
import { Pills } from '../ui/Pills.js';
import { CHARTS, csvOf, tableOf, type ChartId, type Table } from './charts.js';
import { useMeasures } from './useMeasures.js';

const Drawn = lazy(async () => ({ default: (await import('./Drawn.js')).Drawn }));
const KEPT = 'zest-jaw curve';
const OPTIONS = CHARTS.map(([id, name]) => [id, name] as const);
/** A table of ten minutes has fifteen thousand rows: so many are shown, all are copied. */
const MOST_ROWS = 400;

export function CurvesPanel(): ReactElement {
  const { chosen, playhead } = useOpenScene();
  const document = useSceneDocument();
  const measures = useMeasures();
  const [id, setId] = useState<ChartId>(() => CHARTS.find(([one]) => one === maybeKept(KEPT))?.[0] ?? 'jaw');
  const [isTable, setTable] = useState(false);
  const [lit, setLit] = useState('');
  const about = CHARTS.find(([one]) => one === id)![2];
  const table = measures && tableOf(id, measures, document);
  const light = (exposures: readonly string[], what: string): void => {
    chosen.setState({ ids: new Set(exposures), said: undefined });
    setLit(`${count(exposures.length, 'mouth', 'mouths')} ${what}`);
    const first = document.exposures.find((one) => one.id === exposures[0]);
    if (first) playhead.moveTo(first.from);
  };
  const copy = async (): Promise<void> => {
    try {
      await navigator.clipboard.writeText(csvOf(table!));
      toast.success('The table is copied as CSV.');
    } catch {
      toast.error('The browser does not let this page copy. Show the table and mark it by hand.');
    }
  };
  const { median = 0, spread = 0 } = measures ?? {};
  return (
    <section aria-label="Curves and counts" className="flex min-h-0 min-w-0 flex-1 flex-col gap-1.5" data-testid="curves">
      <div className="flex flex-wrap items-center gap-2 text-[14px]">
        <Pills
          label="Which curve or count"
          options={OPTIONS}
          value={id}
          onChange={(next) => {
            keep(KEPT, next);
            setId(next);
            setLit('');
          }}
        />
        <span className="flex-1" />
        <Button className="px-3! py-[3px]! text-[14px]!" aria-pressed={isTable} onClick={() => setTable(!isTable)}>
          {isTable ? 'As a picture' : 'As a table'}
        </Button>
        <Button className="px-3! py-[3px]! text-[14px]!" disabled={!table} onClick={() => void copy()}>
          Copy as CSV
        </Button>
      </div>
      <p className="text-[14px] text-ink-soft">
        {about}
        {lit !== '' && (
          <b className="font-semibold text-ink" role="status">
            {` Lit on the sheet: ${lit}.`}
          </b>
        )}
        {id === 'offsets' && measures && ` The middle is ${median.toFixed(1)} frames, half of them within ${spread.toFixed(1)} of it.`}
      </p>
      <div className="min-h-0 flex-1">
        {!measures || !table ? (
          <p className="text-ink-soft">Measuring…</p>
        ) : isTable ? (
          <TableOf table={table} />
        ) : (
          <Suspense fallback={<p className="text-ink-soft">Drawing…</p>}>
            <Drawn
              id={id}
              measures={measures}
              firstFrame={sceneSettings(document).firstFrame}
              numberOf={(frame) => frameNumber(document, frame)}
              onLight={light}
              onGo={(frame) => playhead.scrubTo(frame)}
              onSelect={(span) => {
                playhead.select(span);
                playhead.moveTo(span.from);
              }}
            />
          </Suspense>
        )}
      </div>
    </section>
  );
}

function TableOf({ table: { head, rows } }: { table: Table }): ReactElement {
  return (
    <div
      className="h-full overflow-y-auto rounded-[10px] border border-rule bg-sheet"
      tabIndex={0}
      role="region"
      aria-label="The table behind it"
    >
      <table className="w-full text-left text-[14px] tabular-nums">
        <thead className="sticky top-0 bg-sheet">
          <tr>
            {head.map((name) => (
              <th key={name} scope="col" className="border-b border-rule px-3 py-1 font-semibold">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, MOST_ROWS).map((row, index) => (
            <tr key={index} className="border-b border-rule-soft">
              {row.map((value, column) => (
                <td key={head[column]} className="px-3 py-0.5">
                  {value}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > MOST_ROWS && (
        <p className="px-3 py-1 text-[14px] text-ink-soft">{`${rows.length - MOST_ROWS} rows more: copy it to have all of them.`}</p>
      )}
    </div>
  );
}
