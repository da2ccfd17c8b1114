/** The commands of looking: zoom, the height of the lane, which sheet, onion skin, the large easel. */
import { sceneSettings } from '@zest-jaw/core';
import { useStore } from 'zustand';
import type { Command, CommandGroup } from '../commands/command.js';
import { LANE_HEIGHTS, looking, zoomed, type LaneHeight, type Looking } from '../looking/looking.js';
import { useSceneDocument } from './sceneContext.js';

/** A step of zoom by a key shows this many times fewer frames. */
const STEP = 1.4;

export interface LookOptions {
  /** Frames the rows show where no zoom is chosen. */
  readonly shown: () => number;
  /** The step has mouths: an exposure sheet, an easel. */
  readonly hasMouths: boolean;
}

export function useLookCommands({ shown, hasMouths }: LookOptions): readonly Command[] {
  const { lengthFrames } = useSceneDocument(sceneSettings);
  const { sheet, lane, snap, isEaselLarge } = useStore(looking);
  const group: CommandGroup = 'Look';
  const change = (next: Partial<Looking>) => (): void => {
    looking.setState(next);
  };
  const zoomBy = (factor: number) => (): void => {
    looking.setState(({ zoom }) => ({ zoom: zoomed(zoom ?? shown(), factor, lengthFrames) }));
  };
  const isUpright = hasMouths && sheet === 'upright';
  const closed = isUpright ? 'on the bar sheet' : undefined;
  const heights = Object.keys(LANE_HEIGHTS) as LaneHeight[];
  return [
    { id: 'zoom-in', title: 'Fewer frames a row', group, keys: ['Digit7'], also: 'zoom in larger wider', closed, run: zoomBy(STEP) },
    { id: 'zoom-out', title: 'More frames a row', group, keys: ['Digit6'], also: 'zoom out smaller', closed, run: zoomBy(1 / STEP) },
    {
      id: 'zoom-fits',
      title: 'As many frames a row as suit the page',
      group,
      keys: ['Digit8'],
      also: 'zoom fit reset',
      closed,
      run: change({ zoom: null }),
    },
    {
      id: 'zoom-whole',
      title: 'The whole scene in a row',
      group,
      keys: ['Shift+Digit8'],
      also: 'zoom overview all',
      closed,
      run: change({ zoom: lengthFrames }),
    },
    ...(hasMouths
      ? [
          {
            id: 'upright',
            title: isUpright ? 'Back to the bar sheet' : 'The exposure sheet, upright, a row a frame',
            group,
            keys: ['KeyH'],
            also: 'x-sheet dope vertical columns view',
            run: change({ sheet: isUpright ? 'bars' : 'upright' }),
          },
          {
            id: 'lane-height',
            title: `The lane of mouths ${heights[(heights.indexOf(lane) + 1) % heights.length]}`,
            group,
            keys: ['Shift+KeyH'],
            also: 'height size taller row',
            closed,
            run: change({ lane: heights[(heights.indexOf(lane) + 1) % heights.length]! }),
          },
          {
            id: 'thick',
            title: 'Thicker rules each second, or each foot of sixteen',
            group,
            keys: [],
            also: 'feet 16 seconds',
            closed: isUpright ? undefined : 'on the exposure sheet',
            run: () => looking.setState(({ thick }) => ({ thick: thick === 'feet' ? 'seconds' : 'feet' })),
          },
          {
            id: 'snap',
            title: snap ? 'Mouths start on any frame' : 'Mouths start on the grid of the hold',
            group: 'Put mouths',
            keys: ['Alt+KeyG'],
            also: 'snap grid free twos',
            run: change({ snap: !snap }),
          } satisfies Command,
          {
            id: 'onion',
            title: 'Mouths before and after seen through, on the easel',
            group,
            keys: ['KeyO'],
            also: 'onion skin ghost',
            run: () => looking.setState(({ onion }) => ({ onion: !onion })),
          },
          {
            id: 'large-easel',
            title: isEaselLarge ? 'The easel beside the sheet again' : 'The easel large, the sheet a strip',
            group,
            keys: ['Backquote'],
            also: 'full screen big preview',
            run: change({ isEaselLarge: !isEaselLarge }),
          },
        ]
      : []),
  ];
}
