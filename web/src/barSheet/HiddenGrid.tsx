/** The visible systems as a grid for screen readers: one row a lane, one cell a word, sound or exposure. */
import { maybeExposureAt } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Playhead } from '../sound/playhead.js';
import { isSpokenIn, type SystemPlan } from './plan.js';
import type { SheetData } from './sheetData.js';

interface Span {
  readonly from: number;
  readonly to: number;
}

interface HiddenGridProps {
  readonly systems: readonly SystemPlan[];
  readonly data: SheetData;
  readonly playhead: Playhead;
}

export function HiddenGrid({ systems, data, playhead }: HiddenGridProps): ReactElement {
  const current = useStore(playhead.store, ({ frame }) => maybeExposureAt(data.exposures, frame)?.id);
  const within = <T extends Span>(items: readonly T[], system: SystemPlan): T[] =>
    items.filter((item) => item.from < system.to && item.to > system.from);
  const spokenIn = <T extends Span>(items: readonly T[], system: SystemPlan): T[] => items.filter((item) => isSpokenIn(system, item));
  const frames = ({ from, to }: Span): string => {
    const [first, last] = [Math.floor(from) + data.firstFrame, Math.ceil(to) - 1 + data.firstFrame];
    return first === last ? `frame ${first}` : `frames ${first} to ${last}`;
  };
  const feelOf = ({ from, to }: Span): string => {
    const feel = data.feels.find((one) => one.from < to && one.to > from);
    return feel ? `, feel ${feel.name}` : '';
  };
  return (
    <div
      role="grid"
      aria-label="Bar sheet"
      aria-readonly
      tabIndex={-1}
      aria-activedescendant={current && `cell-${current}`}
      className="sr-only"
    >
      {systems.map((system) => (
        <div key={system.index} role="rowgroup">
          <div role="row" aria-label="words">
            {spokenIn(data.words, system).map((word) => (
              <span
                key={word.id}
                role="gridcell"
              >{`${word.text}, ${frames(word)}${word.guessed ? ', guessed from its spelling' : ''}`}</span>
            ))}
          </div>
          <div role="row" aria-label="sounds">
            {spokenIn(data.sounds, system).map((sound) => (
              <span key={sound.id} role="gridcell">{`${sound.ipa}, ${frames(sound)}`}</span>
            ))}
            {within(data.notSpeech, system).map((span) => (
              <span key={`not-${span.from}`} role="gridcell">{`not speech, ${frames(span)}`}</span>
            ))}
          </div>
          {data.crib && (
            <div role="row" aria-label="crib">
              {within(data.crib, system).map((exposure) => (
                <span key={exposure.id} role="gridcell">{`crib: ${exposure.label}, ${frames(exposure)}`}</span>
              ))}
            </div>
          )}
          <div role="row" aria-label="mouths">
            {within(data.exposures, system).map((exposure) => (
              <span
                key={exposure.id}
                id={`cell-${exposure.id}`}
                role="gridcell"
                aria-selected={exposure.id === current}
                data-from={exposure.from}
                data-to={exposure.to}
                data-drawing={exposure.drawing}
                data-inked={exposure.inked}
              >{`${exposure.label}, ${frames(exposure)}${feelOf(exposure)}, ${exposure.inked ? 'ink' : exposure.isProposed ? 'proposed' : 'pencil'}`}</span>
            ))}
          </div>
          {data.others.map((other) => (
            <div key={other.track} role="row" aria-label={`mouths of ${other.name}`}>
              {within(other.exposures, system).map((exposure) => (
                <span
                  key={exposure.id}
                  role="gridcell"
                >{`${exposure.label}, ${frames(exposure)}, ${exposure.inked ? 'ink' : 'pencil'}`}</span>
              ))}
            </div>
          ))}
        </div>
      ))}
    </div>
  );
}
