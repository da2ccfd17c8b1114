/** The visible systems as a grid for screen readers: one row a lane, one cell a word, sound or exposure. */
import { maybeExposureAt, overlaps, type Span } from '@zest-jaw/core';
import { memo, useMemo, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Playhead } from '../sound/playhead.js';
import type { SystemPlan } from './plan.js';
import type { SheetData } from './sheetData.js';
import { useSystemData } from './systemData.js';

interface HiddenGridProps {
  readonly label: string;
  readonly systems: readonly SystemPlan[];
  readonly data: SheetData;
  readonly playhead: Playhead;
}

export function HiddenGrid({ label, systems, data, playhead }: HiddenGridProps): ReactElement {
  const current = useStore(playhead.store, ({ frame }) => maybeExposureAt(data.exposures, frame)?.id);
  return (
    <div
      role="grid"
      aria-label={label}
      aria-readonly
      tabIndex={-1}
      aria-activedescendant={current && `cell-${current}`}
      className="sr-only [contain:strict]"
    >
      {systems.map((system) => (
        <SystemOfGrid key={system.index} system={system} data={data} playhead={playhead} />
      ))}
    </div>
  );
}

/** A row of more frames than this is told a part at a time: the one the playhead is in. */
const MOST_FRAMES_TOLD = 960;

function SystemOfGrid({ system, data, playhead }: { system: SystemPlan; data: SheetData; playhead: Playhead }): ReactElement {
  const part = useStore(playhead.store, ({ frame }) => Math.floor((frame - system.from) / MOST_FRAMES_TOLD));
  const told = useMemo(() => {
    if (system.to - system.from <= MOST_FRAMES_TOLD) return system;
    const from = Math.max(system.from, system.from + part * MOST_FRAMES_TOLD);
    const to = Math.min(system.to, from + MOST_FRAMES_TOLD);
    return { ...system, from, to, wordsFrom: from, wordsTo: to };
  }, [system, part]);
  return <PartOfGrid system={told} data={data} playhead={playhead} />;
}

function PartOfGrid({ system, data, playhead }: { system: SystemPlan; data: SheetData; playhead: Playhead }): ReactElement {
  const own = useSystemData(data, system);
  const current = useStore(playhead.store, ({ frame }) => maybeExposureAt(own.exposures, frame)?.id);
  return <RowsOfSystem data={own} current={current} />;
}

const RowsOfSystem = memo(function RowsOfSystem({ data, current }: { data: SheetData; current: string | undefined }): ReactElement {
  const frames = ({ from, to }: Span): string => {
    const [first, last] = [Math.floor(from) + data.firstFrame, Math.ceil(to) - 1 + data.firstFrame];
    return first === last ? `frame ${first}` : `frames ${first} to ${last}`;
  };
  const feelOf = (span: Span): string => {
    const feel = data.feels.find((one) => overlaps(one, span));
    return feel ? `, feel ${feel.name}` : '';
  };
  return (
    <div role="rowgroup">
      <div role="row" aria-label="words">
        {data.words.map((word) => (
          <span
            key={word.id}
            role="gridcell"
          >{`${word.text}, ${frames(word)}${word.guessed ? ', guessed from its spelling' : ''}${word.inked ? ', set by hand' : ''}`}</span>
        ))}
      </div>
      <div role="row" aria-label="sounds">
        {data.sounds.map((sound) => (
          <span key={sound.id} role="gridcell">{`${sound.ipa}, ${frames(sound)}`}</span>
        ))}
        {data.notSpeech.map((span) => (
          <span key={`not-${span.from}`} role="gridcell">{`${span.kind ? `a ${span.kind}, ` : ''}not speech, ${frames(span)}`}</span>
        ))}
      </div>
      {data.crib && (
        <div role="row" aria-label="crib">
          {data.crib.map((exposure) => (
            <span key={exposure.id} role="gridcell">{`crib: ${exposure.label}, ${frames(exposure)}`}</span>
          ))}
        </div>
      )}
      <div role="row" aria-label="mouths">
        {data.exposures.map((exposure) => (
          <span
            key={exposure.id}
            id={`cell-${exposure.id}`}
            role="gridcell"
            aria-selected={exposure.id === current}
            data-from={exposure.from}
            data-to={exposure.to}
            data-drawing={exposure.drawing}
            data-inked={exposure.inked}
          >{`${exposure.label}, ${frames(exposure)}${feelOf(exposure)}, ${exposure.inked ? 'ink' : exposure.isPlayed ? 'played in' : exposure.isProposed ? 'proposed' : 'pencil'}`}</span>
        ))}
      </div>
      {data.others.map((other) => (
        <div key={other.track} role="row" aria-label={`mouths of ${other.name}`}>
          {other.exposures.map((exposure) => (
            <span key={exposure.id} role="gridcell">{`${exposure.label}, ${frames(exposure)}, ${exposure.inked ? 'ink' : 'pencil'}`}</span>
          ))}
        </div>
      ))}
    </div>
  );
});
