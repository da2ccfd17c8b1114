/** From which number, and in what, a file counts. */
import { countingInWords, hasDropFrame, sceneSettings, type Counting, type CountsFrom, type CountsIn } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { useSceneDocument } from '../scene/sceneContext.js';

/** Flat, to be kept with the other choices. */
export interface CountingChoice {
  readonly from: CountsFrom;
  readonly unit: CountsIn;
  readonly drop: boolean;
}

export const USUAL_COUNTING: CountingChoice = { from: 'scene', unit: 'frames', drop: true };

export const countingOf = ({ from, unit, drop }: CountingChoice): Counting => ({ from, unit, drop });

export function useCountingInWords(choice: CountingChoice): string {
  const document = useSceneDocument();
  return countingInWords(document, countingOf(choice));
}

interface CountingFieldsProps {
  readonly value: CountingChoice;
  readonly onChange: (changes: Partial<CountingChoice>) => void;
}

export function CountingFields({ value, onChange }: CountingFieldsProps): ReactElement {
  const document = useSceneDocument();
  const { frameRate, firstFrame } = sceneSettings(document);
  return (
    <>
      <label className="flex flex-col gap-1 font-semibold">
        Counted in
        <select className="field font-normal" value={value.unit} onChange={({ target }) => onChange({ unit: target.value as CountsIn })}>
          <option value="frames">frames</option>
          <option value="seconds">seconds</option>
          <option value="timecode">timecode</option>
        </select>
      </label>
      <label className="flex flex-col gap-1 font-semibold">
        The first frame is
        <select
          className="field font-normal"
          value={value.from}
          disabled={value.unit === 'seconds'}
          onChange={({ target }) => onChange({ from: target.value as CountsFrom })}
        >
          <option value="scene">{`as the scene says: ${firstFrame}`}</option>
          <option value="0">0</option>
          <option value="1">1</option>
        </select>
      </label>
      {value.unit === 'timecode' && hasDropFrame(frameRate) && (
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={value.drop} onChange={({ target }) => onChange({ drop: target.checked })} />
          drop-frame
        </label>
      )}
    </>
  );
}
