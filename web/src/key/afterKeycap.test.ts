/** Where the hand goes on after a keycap. */
import type { SheetData } from '../barSheet/sheetData.js';
import { frameAfter } from './afterKeycap.js';

const data = {
  sounds: [{ from: 5.6 }, { from: 7.4 }, { from: 7.45 }, { from: 10 }],
  words: [{ from: 5.6 }, { from: 10 }],
} as unknown as SheetData;

it.each([
  ['stay', 6, 6],
  ['hold', 6, 8],
  ['sound', 0, 6],
  // Two sounds that start in one frame are one place.
  ['sound', 6, 7],
  ['sound', 7, 10],
  ['sound', 10, 10],
  ['word', 6, 10],
  ['word', 11, 11],
] as const)('%s: from %i to %i', (advance, from, to) => {
  expect(frameAfter(advance, from, data, 2)).toBe(to);
});
