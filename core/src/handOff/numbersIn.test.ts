/** Numbers of drawings read from sheets, key lists and columns, ours and as others write them. */
import fc from 'fast-check';
import {
  exposureSheetCsv,
  guessNumbers,
  isRefusal,
  keyListCsv,
  keysOf,
  looksOfFrames,
  mouthsOfNumbers,
  PLAIN_COUNTING,
  readNumbers,
  sceneOfKeyed,
  starterChart,
  type NumbersChoice,
  type NumbersIn,
} from '../index.js';

const chart = starterChart('Test', 'brush');
const RATE = { num: 24, den: 1 };
const on = (lengthFrames = 40) => ({ chart, chartId: 'chart', frameRate: RATE, lengthFrames });

function read(text: string, changes: Partial<NumbersChoice> = {}, lengthFrames = 40): NumbersIn {
  const table = readNumbers(text, chart);
  if (isRefusal(table)) throw new Error(table.refusal);
  const found = mouthsOfNumbers(table, { ...guessNumbers(table, chart), ...changes }, on(lengthFrames));
  if (isRefusal(found)) throw new Error(found.refusal);
  return found;
}
const said = ({ copied, from }: NumbersIn): string[] =>
  copied.mouths.map((mouth) => `${mouth.from + from}–${mouth.to + from} ${mouth.drawing}`);

it('our own sheets and key lists come in as they went out, at any first frame', () => {
  const anyLane = fc.array(
    fc.record({ drawing: fc.constantFrom(...chart.drawings.map(({ id }) => id)), frames: fc.integer({ min: 1, max: 6 }) }),
    { minLength: 2, maxLength: 8 },
  );
  fc.assert(
    fc.property(anyLane, fc.constantFrom(0, 1, 101, 1001), fc.boolean(), (lane, firstFrame, everyFrame) => {
      let at = 0;
      const exposures = lane.map(({ drawing, frames }) => ({ from: at, to: (at += frames), drawing }));
      const scene = sceneOfKeyed({ frameRate: RATE, length: at, exposures }, firstFrame);
      const trackId = scene.tracks[0]!.id;
      const charts = new Map([['chart', chart]]);
      const held = (spans: readonly { from: number; to: number; drawing: string }[]): string[] => {
        const frames = new Array<string>(at).fill('');
        for (const { from, to, drawing } of spans) frames.fill(drawing, from, to);
        return frames;
      };
      const shown = (found: NumbersIn): string[] =>
        held(found.copied.mouths.map((mouth) => ({ ...mouth, from: mouth.from + found.from, to: mouth.to + found.from })));
      const options = { counting: PLAIN_COUNTING, numbers: 'own' as const, everyFrame, guards: true };
      const keys = keyListCsv(keysOf(scene, looksOfFrames(scene, trackId, charts), charts, options), options);
      expect(shown(read(keys, {}, at))).toEqual(held(exposures));
      const sheet = exposureSheetCsv(scene, [{ trackId, name: 'Bramble', charts }]);
      expect(shown(read(sheet, {}, at))).toEqual(held(exposures));
    }),
  );
});

it('a pasted column is a frame a row; empty cells, bars and ditto marks hold', () => {
  expect(said(read('1\n1\n2\n\n\n11\n|\n"\n12\n'))).toEqual(['0–2 rest', '2–5 press', '5–8 drop', '8–9 ring']);
  expect(said(read('Rest\nPRESS\n-\ndrop'))).toEqual(['0–1 rest', '1–3 press', '3–4 drop']);
});

it('tables of others: tabs and semicolons, their own headings, seconds, timecode, numbers from 0', () => {
  expect(said(read('Frame\tAction\tMouth\n1\tlooks up\t1\n2\t\t2\n5\tblinks\t11'))).toEqual(['0–1 rest', '1–4 press', '4–40 drop']);
  expect(said(read('seconds;cel\n0,0;1\n0,5;2\n1,0;11', {}, 30))).toEqual(['0–12 rest', '12–24 press', '24–30 drop']);
  expect(said(read('tc,level\n00:00:00:00,0\n00:00:00:06,1\n00:00:01:00,10', {}, 30))).toEqual(['0–6 rest', '6–24 press', '24–30 drop']);
});

it('what names no drawing is told and leaves a gap; what can be no table of drawings is refused in a sentence', () => {
  const found = read('1\n99\n11');
  expect(found.unknown).toEqual(['99']);
  expect(said(found)).toEqual(['0–1 rest', '2–3 drop']);
  expect(readNumbers('  \n \n', chart)).toHaveProperty('refusal', expect.stringContaining('nothing in it'));
  const words = readNumbers('hello\nthere', chart);
  if (isRefusal(words)) throw new Error(words.refusal);
  expect(mouthsOfNumbers(words, guessNumbers(words, chart), on())).toHaveProperty('refusal', expect.stringContaining('No cell'));
});

it('whatever text comes in, it is read or refused', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 300 }), (text) => {
      const table = readNumbers(text, chart);
      if (isRefusal(table)) return;
      const found = mouthsOfNumbers(table, guessNumbers(table, chart), on());
      if (isRefusal(found)) return;
      let end = 0;
      for (const { from, to } of found.copied.mouths) {
        expect(from).toBeGreaterThanOrEqual(end);
        expect(to).toBeGreaterThan(from);
        end = to;
      }
      expect(found.from + end).toBeLessThanOrEqual(40);
    }),
  );
});
