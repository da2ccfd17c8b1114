/** What is handed off, read back: numbers, holds and times are the scene's at every rate and first frame. */
import fc from 'fast-check';
import Papa from 'papaparse';
import {
  counted,
  countingInWords,
  curvesCsv,
  curvesOf,
  exposureSheetCsv,
  framesPerSecond,
  keyListCsv,
  keyListJson,
  keysOf,
  looksOfFrames,
  maybeDrawing,
  maybeFrameOfTimecode,
  maybeFrameRate,
  measureLook,
  pullListOf,
  sceneOfKeyed,
  shootingListCsv,
  starterChart,
  timelineOfScene,
  weightsCsv,
  weightsJson,
  weightsOf,
  type Counting,
  type KeyListOptions,
  type SceneDocument,
} from '../index.js';

const chart = starterChart('Test', 'brush');
const RATES = ['24', '25', '30', '23.976', '29.97', '12'] as const;
const FIRST = [0, 1, 101, 1001] as const;
const exposures = [
  { from: 0, to: 5, drawing: 'rest' },
  { from: 5, to: 6, drawing: 'press' },
  { from: 6, to: 14, drawing: 'drop' },
  { from: 16, to: 30, drawing: 'ring' },
];
function sceneAt(
  rate: string,
  firstFrame: number,
): { scene: SceneDocument; charts: ReadonlyMap<string, typeof chart>; looks: ReturnType<typeof looksOfFrames> } {
  const scene = sceneOfKeyed({ frameRate: maybeFrameRate(rate)!, length: 30, exposures }, firstFrame);
  const charts = new Map([[scene.tracks[0]!.chartId, chart]]);
  return { scene, charts, looks: looksOfFrames(scene, scene.tracks[0]!.id, charts) };
}
const frames: Counting = { from: 'scene', unit: 'frames', drop: true };
const table = (csv: string): Record<string, string>[] =>
  Papa.parse<Record<string, string>>(csv, { header: true, skipEmptyLines: true }).data;

describe('a key list', () => {
  const plain: KeyListOptions = { counting: frames, numbers: 'own', everyFrame: false, guards: false };

  it.each(RATES.flatMap((rate) => FIRST.map((first) => [rate, first] as const)))(
    'at %s from %i counts as the scene does',
    (rate, first) => {
      const { scene, charts, looks } = sceneAt(rate, first);
      const rows = table(keyListCsv(keysOf(scene, looks, charts, plain), plain));
      expect(rows.map(({ frame, number }) => [Number(frame) - first, number])).toEqual([
        [0, '1'],
        [5, '2'],
        [6, '11'],
        [14, ''],
        [16, '12'],
      ]);
      const zero = keysOf(scene, looks, charts, { ...plain, counting: { ...frames, from: '0' } });
      expect(zero.map(({ at }) => at)).toEqual(['0', '5', '6', '14', '16']);
      // Seconds are those of the sound, whatever the first frame is called.
      const inSeconds = { ...plain, counting: { ...frames, unit: 'seconds' as const } };
      for (const row of table(keyListCsv(keysOf(scene, looks, charts, inSeconds), inSeconds)))
        expect(
          Math.abs(
            Number(row['seconds']) * framesPerSecond(maybeFrameRate(rate)!) -
              Math.round(Number(row['seconds']) * framesPerSecond(maybeFrameRate(rate)!)),
          ),
        ).toBeLessThan(1e-4);
      // Timecode goes back to the frame it came from.
      const inTime = { ...plain, counting: { ...frames, unit: 'timecode' as const } };
      expect(keysOf(scene, looks, charts, inTime).map(({ at }) => maybeFrameOfTimecode(maybeFrameRate(rate)!, at)! - first)).toEqual([
        0, 5, 6, 14, 16,
      ]);
    },
  );

  it('repeats a number on the last frame of its hold as a guard, and lists every frame where asked', () => {
    const { scene, charts, looks } = sceneAt('24', 1);
    const guarded = keysOf(scene, looks, charts, { ...plain, guards: true });
    expect(guarded.map(({ frame, kind, number }) => `${frame} ${kind} ${number}`)).toEqual([
      ...['0 key 1', '4 guard 1', '5 key 2', '6 key 11', '13 guard 11', '14 key null', '15 guard null', '16 key 12', '29 guard 12'],
    ]);
    expect(keysOf(scene, looks, charts, { ...plain, everyFrame: true })).toHaveLength(30);
    const places = keysOf(scene, looks, charts, { ...plain, numbers: 'from 0' }).map(({ number }) => number);
    expect(places).toEqual([0, 1, 10, null, 11]);
    const json = JSON.parse(keyListJson(scene, guarded, plain)) as { keys: { at: number; number: number }[]; counting: string };
    expect(json.keys[1]).toMatchObject({ at: 5, number: 1 });
    expect(json.counting).toBe('Frames 1 to 30 at 24 fps.');
  });

  it('tells drop-frame from non-drop', () => {
    const { scene } = sceneAt('29.97', 0);
    const time = (frame: number, drop: boolean): string => counted(scene, { from: '0', unit: 'timecode', drop }, frame);
    // SMPTE ST 12-1: the first frame of the second minute is 00:01:00;02.
    expect([time(1800, true), time(1800, false)]).toEqual(['00:01:00;02', '00:01:00:00']);
    expect(countingInWords(scene, { from: '0', unit: 'timecode', drop: false })).toContain('non-drop');
    expect(countingInWords(sceneAt('24', 0).scene, { from: '0', unit: 'timecode', drop: true })).not.toContain('drop');
  });
});

describe('weights', () => {
  it('are one for the mouth that is shown, and add up to one while one comes in', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), (ease) => {
        const { looks, charts } = sceneAt('24', 1);
        const { drawings, values } = weightsOf(looks, charts, ease);
        expect(values).toHaveLength(30 * 13);
        looks.forEach((look, frame) => {
          const row = values.subarray(frame * 13, frame * 13 + 13);
          expect(row.reduce((sum, value) => sum + value, 0)).toBeCloseTo(look ? 1 : 0, 5);
          const isFirst = look && (frame === 0 || looks[frame - 1]?.drawing !== look.drawing);
          if (isFirst) expect(row[drawings.findIndex(({ id }) => id === look.drawing)]).toBe(1);
        });
      }),
    );
    const { looks, charts, scene } = sceneAt('24', 1);
    const eased = weightsOf(looks, charts, 3);
    const rows = table(weightsCsv(scene, eased, 30, frames));
    expect(rows.slice(2, 6).map((row) => [row['Rest'], row['Press']])).toEqual([
      ['1', '0'],
      ['0.6667', '0.3333'],
      ['0.3333', '0.6667'],
      ['0', '1'],
    ]);
    expect((JSON.parse(weightsJson(scene, eased, 30, frames)) as { frames: number[][] }).frames).toHaveLength(30);
  });
});

it('curves are what the drawings of the frames measure', () => {
  const { looks, charts, scene } = sceneAt('25', 1);
  const curves = curvesOf(
    looks,
    charts,
    Float32Array.from({ length: 30 }, (_, frame) => -frame),
  );
  expect(curves[7]!.opening).toBe(measureLook(maybeDrawing(chart, 'drop')!).opening);
  expect(curves[14]).toMatchObject({ opening: 0, rounding: 0, loudness: -14 });
  expect(curves[20]!.rounding).toBeGreaterThan(curves[7]!.rounding);
  const rows = table(curvesCsv(scene, curves, frames));
  expect(rows).toHaveLength(30);
  expect(Number(rows[7]!['opening'])).toBeCloseTo(curves[7]!.opening, 3);
});

it('a timeline has the pictures as an image sequence of the scene’s length and its first number', () => {
  const { scene } = sceneAt('23.976', 1001);
  const timeline = JSON.parse(
    timelineOfScene(scene, { baseName: 'bramble', firstNumber: 1001, digits: 4, pictures: 'pictures/', sounds: '' }),
  ) as {
    OTIO_SCHEMA: string;
    tracks: {
      children: { kind: string; children: { media_references: Record<string, Record<string, unknown>>; source_range: unknown }[] }[];
    };
  };
  expect(timeline.OTIO_SCHEMA).toBe('Timeline.1');
  const [clip] = timeline.tracks.children.find(({ kind }) => kind === 'Video')!.children;
  expect(clip!.media_references['DEFAULT_MEDIA']).toMatchObject({ start_frame: 1001, frame_zero_padding: 4, name_prefix: 'bramble' });
  expect(clip!.source_range).toMatchObject({ start_time: { value: 1001 }, duration: { value: 30 } });
});

describe('a pull list', () => {
  it('counts swaps, mouths and pictures, on ones and on twos', () => {
    const { looks, charts, scene } = sceneAt('24', 1);
    const ones = pullListOf(looks, charts, 1);
    expect(ones.swaps).toBe(4);
    expect(ones.shots.reduce((sum, { frames: length }) => sum + length, 0)).toBe(30);
    expect(ones.shots.map(({ drawing, next }) => [drawing?.id, next?.id])).toEqual([
      ['rest', 'press'],
      ['press', 'drop'],
      ['drop', undefined],
      [undefined, 'ring'],
      ['ring', undefined],
    ]);
    // On twos the mouth of frame 5 falls between two pictures.
    const twos = pullListOf(looks, charts, 2);
    expect(twos.shots.map(({ drawing }) => drawing?.id)).toEqual(['rest', 'drop', undefined, 'ring']);
    expect(twos.shots.reduce((sum, { pictures }) => sum + pictures, 0)).toBe(15);
    const rows = table(shootingListCsv(scene, ones, frames));
    expect(rows.map(({ frame, number, next }) => [frame, number, next])).toEqual([
      ['1', '1', '2'],
      ['6', '2', '11'],
      ['7', '11', ''],
      ['15', '', '12'],
      ['17', '12', ''],
    ]);
  });
});

it('counts the sheet’s CSV as it is asked to: first number, drop-frame and not (SMPTE ST 12-1: two numbers left out a minute, but every tenth)', () => {
  const rate = maybeFrameRate('29.97')!;
  const scene = sceneOfKeyed({ frameRate: rate, length: 18_001, exposures: [{ from: 0, to: 18_001, drawing: 'rest' }] }, 101);
  const rows = (counting: object): Record<string, string>[] => table(exposureSheetCsv(scene, [], counting));
  const at = (list: Record<string, string>[], frame: number): string[] => [list[frame]!['frame']!, list[frame]!['timecode']!];
  const dropped = rows({});
  expect(at(dropped, 0)).toEqual(['101', '00:00:00;00']);
  expect(at(dropped, 1799)).toEqual(['1900', '00:00:59;29']);
  expect(at(dropped, 1800)).toEqual(['1901', '00:01:00;02']);
  expect(at(dropped, 17_982)).toEqual(['18083', '00:10:00;00']);
  const counted = rows({ firstNumber: 0, drop: false });
  expect(at(counted, 0)).toEqual(['0', '00:00:00:00']);
  expect(at(counted, 1800)).toEqual(['1800', '00:01:00:00']);
  expect(at(counted, 18_000)).toEqual(['18000', '00:10:00:00']);
});
