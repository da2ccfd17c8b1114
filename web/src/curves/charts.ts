/** What each chart shows as a table: the same rows that are drawn, copied and read. */
import { frameNumber, type LaneMeasures, type SceneDocument } from '@zest-jaw/core';
import Papa from 'papaparse';

export type ChartId = 'jaw' | 'holds' | 'uses' | 'offsets' | 'phrases';

export const CHARTS: readonly (readonly [ChartId, string, string])[] = [
  [
    'jaw',
    'Jaw',
    'How open the mouth is that is keyed, what the sounds ask for, and how loud the voice is. Where the two part, it is shaded.',
  ],
  ['holds', 'Holds', 'How long mouths are held. What is on the grid of the hold is filled.'],
  ['uses', 'Drawings', 'How often each drawing is used, and after which.'],
  ['offsets', 'Timing', 'How far mouths begin from where their sounds ask for them. To the right is late.'],
  ['phrases', 'Phrases', 'How much of the speech of each phrase is seen, weighed as the plan weighs it. The least first: look there.'],
];

export interface Table {
  readonly head: readonly string[];
  readonly rows: readonly (readonly (string | number)[])[];
}

const share = (value: number): number => Math.round(value * 1000) / 1000;

export function tableOf(id: ChartId, { jaw, holds, uses, offsets, phrases }: LaneMeasures, scene: SceneDocument): Table {
  switch (id) {
    case 'jaw':
      return {
        head: ['frame', 'keyed', 'asked for', 'loudness', 'part'],
        rows: jaw.map(({ frame, keyed, asked, loud, parts }) => [
          frameNumber(scene, frame),
          share(keyed),
          share(asked),
          loud === null ? '' : share(loud),
          parts ? 'yes' : '',
        ]),
      };
    case 'holds':
      return {
        head: ['frames held', 'mouths', 'on the grid'],
        rows: holds.map(({ frames, exposures, onGrid }) => [frames, exposures.length, onGrid ? 'yes' : '']),
      };
    case 'uses':
      return {
        head: ['drawing', 'times', 'frames', 'most often after', 'times after'],
        rows: uses.map(({ label, exposures, frames, after }) => [label, exposures.length, frames, after?.label ?? '', after?.times ?? '']),
      };
    case 'offsets':
      return { head: ['frames late', 'mouths'], rows: offsets.map(({ offset, exposures }) => [offset, exposures.length]) };
    case 'phrases':
      return {
        head: ['phrase', 'from frame', 'seen'],
        rows: [...phrases].sort((a, b) => a.seen - b.seen).map(({ text, from, seen }) => [text, frameNumber(scene, from), share(seen)]),
      };
  }
}

export const csvOf = ({ head, rows }: Table): string =>
  `${Papa.unparse([[...head], ...rows.map((row) => [...row])], { newline: '\r\n' })}\r\n`;
