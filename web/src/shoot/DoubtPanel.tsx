/** Was it the right mouth? What is doubted, with what was shot and what was asked for side by side. */
import { frameNumber, type DoubtedShot, type ShotPictureView } from '@zest-jaw/core';
import { useState, type ReactElement } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { drawingOfKey, type ShotLine } from './ShotLine.js';
import type { Doubts } from './useDoubts.js';
import type { Against } from './useMouthCheck.js';

interface DoubtPanelProps {
  readonly line: ShotLine;
  readonly taken: ReadonlyMap<number, ShotPictureView>;
  readonly doubts: Doubts;
  readonly again: readonly number[];
  readonly onGo: (picture: number) => void;
  readonly onAgain: (pictures: readonly number[]) => void;
}

const PLAIN = 'rounded-lg border border-[#4b5672] px-3 py-1.5 text-[16px] text-[#f4efe2] hover:border-[#f4efe2] disabled:opacity-50';

export function DoubtPanel({ line, taken, doubts, again, onGo, onAgain }: DoubtPanelProps): ReactElement {
  const isPractice = [...taken.values()].some(({ practice }) => practice);
  const [chosen, setChosen] = useState<Against>();
  // A camera of this computer sees the puppet from where it stands: only the practice one sees it as it is drawn.
  const against = chosen ?? (isPractice ? 'chart' : 'shots');
  const nameOf = (key: string): string => {
    const found = drawingOfKey(line.charts, key);
    return found ? `${found.drawing.number} ${found.drawing.label}` : 'no mouth';
  };
  const { check, shots, done, fault, looked } = doubts;
  const names = (keys: readonly string[]): string => keys.map(nameOf).join(', ');
  return (
    <aside aria-label="Was it the right mouth?" className="flex min-h-0 flex-col gap-3">
      <h2 className="text-[20px] font-semibold">Was it the right mouth?</h2>
      <label className="flex items-center gap-3 text-[16px] text-[#b9bfce]">
        Held against
        <select
          className="flex-1 rounded-md border border-[#4b5672] bg-[#141a2b] px-2 py-1 text-[#f4efe2]"
          value={against}
          onChange={({ target }) => setChosen(target.value as Against)}
        >
          <option value="shots">what was shot of each mouth</option>
          {isPractice && <option value="chart">the mouths of the chart</option>}
        </select>
      </label>
      <div className="flex min-h-[40px] items-center gap-3">
        {done === undefined ? (
          <button type="button" className={PLAIN} disabled={taken.size === 0} onClick={() => doubts.start(against)}>
            {check ? 'Look again' : 'Look for wrong mouths'}
          </button>
        ) : (
          <>
            <progress className="h-2 flex-1 accent-[#f5a400]" value={done} aria-label="Looking for wrong mouths" />
            <button type="button" className={PLAIN} onClick={doubts.cancel}>
              Cancel
            </button>
          </>
        )}
      </div>
      <p role="status" className="text-[16px] text-[#b9bfce]">
        {fault ??
          (taken.size === 0
            ? 'Nothing is shot yet: choose a camera on the stage.'
            : check && done === undefined
              ? shots.length === 0
                ? 'No picture is doubted.'
                : `${shots.length} ${shots.length === 1 ? 'mouth is' : 'mouths are'} doubted.`
              : '')}
      </p>
      {check && looked < taken.size && (
        <p className="text-[15px] text-[#b9bfce]">{`${looked} of the ${taken.size} pictures were looked at: those that show what is asked for now, and of a very long take the first of each mouth.`}</p>
      )}
      {check && check.alike.length > 0 && (
        <p className="text-[15px] text-[#b9bfce]">
          {`The camera cannot tell apart: ${check.alike.map((pair) => pair.map(nameOf).join(' and ')).join('; ')}.`}
        </p>
      )}
      {check && check.alone.length > 0 && (
        <p className="text-[15px] text-[#b9bfce]">{`Put on once, so with nothing to be held against: ${names(check.alone)}.`}</p>
      )}
      <ul className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1" tabIndex={shots.length > 0 ? 0 : -1} aria-label="Doubts">
        {shots.map((shot) => (
          <Doubt
            key={shot.pictures[0]}
            line={line}
            shot={shot}
            asset={taken.get(shot.pictures[0]!)?.asset}
            nameOf={nameOf}
            isAgain={shot.pictures.every((picture) => again.includes(picture))}
            onGo={() => onGo(shot.pictures[0]!)}
            onAgain={() => onAgain(shot.pictures)}
            onRight={() => doubts.findRight(shot)}
          />
        ))}
      </ul>
    </aside>
  );
}

interface DoubtProps {
  readonly line: ShotLine;
  readonly shot: DoubtedShot;
  readonly asset: string | undefined;
  readonly nameOf: (key: string) => string;
  readonly isAgain: boolean;
  readonly onGo: () => void;
  readonly onAgain: () => void;
  readonly onRight: () => void;
}

function Doubt({ line, shot: { asked, seems, pictures }, asset, nameOf, isAgain, onGo, onAgain, onRight }: DoubtProps): ReactElement {
  const frameOf = (picture: number): number => frameNumber(line.document, line.pictures[picture]?.frame ?? 0);
  const [first, last] = [frameOf(pictures[0]!), frameOf(pictures.at(-1)!)];
  const mouth = drawingOfKey(line.charts, asked);
  return (
    <li className="flex flex-col gap-2 rounded-2xl border border-[#4b5672] p-3">
      <p className="text-[16px]">
        <span className="font-semibold">{first === last ? `Frame ${first}` : `Frames ${first} to ${last}`}</span>
        {seems === null
          ? `: something stands before ${nameOf(asked)}.`
          : `: ${nameOf(asked)} was asked for, it looks like ${nameOf(seems)}.`}
      </p>
      <div className="grid grid-cols-2 gap-2">
        <button type="button" onClick={onGo} aria-label={`Go to frame ${first}`} className="overflow-hidden rounded-lg bg-black">
          {asset !== undefined && <img src={`/api/assets/${asset}`} alt="What was shot" className="h-[96px] w-full object-cover" />}
        </button>
        <div className="grid h-[96px] place-items-center rounded-lg bg-[#f4efe2] text-[#1f2a44]">
          {mouth ? <Mouth chart={mouth.chart} drawing={mouth.drawing} className="h-[88px]" /> : 'no mouth'}
        </div>
      </div>
      <div className="flex gap-2">
        <button type="button" className={PLAIN} disabled={isAgain} onClick={onAgain}>
          {isAgain ? 'To be shot again' : 'Shoot again'}
        </button>
        <button type="button" className={PLAIN} onClick={onRight}>
          It is right
        </button>
      </div>
    </li>
  );
}
