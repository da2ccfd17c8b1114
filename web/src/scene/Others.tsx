/** Who else has this scene open: a mark each in the header. A press goes where they are. */
import { sceneSettings, type CompanyView } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { nameOfOther, useOthers } from '../room/useOthers.js';
import { useOpenScene, useSceneDocument } from './sceneContext.js';

const initialsOf = (other: CompanyView): string =>
  nameOfOther(other)
    .split(/\s+/)
    .slice(0, 2)
    .map((word) => [...word][0]?.toUpperCase())
    .join('');

/** More than these are a number. */
const MOST_SHOWN = 4;

export function Others(): ReactElement | null {
  const others = useOthers();
  const { playhead } = useOpenScene();
  const firstFrame = useSceneDocument((document) => sceneSettings(document).firstFrame);
  if (others.length === 0) return null;
  const shown = others.length > MOST_SHOWN ? others.slice(0, MOST_SHOWN - 1) : others;
  return (
    <ul aria-label="Also here" className="flex -space-x-1.5">
      {shown.map((other) => {
        const { id, frame } = other;
        const said = `${nameOfOther(other)}${frame === null ? '' : `, at frame ${frame + firstFrame}`}`;
        return (
          <li key={id}>
            <button
              type="button"
              title={said}
              aria-label={said}
              disabled={frame === null}
              onClick={() => playhead.scrubTo(frame!)}
              className="grid size-7 place-items-center rounded-full border-2 border-paper bg-ink-soft text-[11px] font-bold text-sheet enabled:hover:bg-ink"
            >
              {initialsOf(other)}
            </button>
          </li>
        );
      })}
      {shown.length < others.length && (
        <li
          className="grid size-7 place-items-center rounded-full border-2 border-paper bg-rule text-[11px] font-bold"
          title={others.slice(shown.length).map(nameOfOther).join(', ')}
        >
          +{others.length - shown.length}
        </li>
      )}
    </ul>
  );
}
