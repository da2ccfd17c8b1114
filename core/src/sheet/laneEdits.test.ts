/** What a hand does to the mouths of a lane, and the laws it keeps on any lane. */
import fc from 'fast-check';
import {
  accentMouths,
  copyFrames,
  deleteChosen,
  deleteMouths,
  exchangeDrawing,
  exposuresOfTrack,
  holdMouth,
  insertFrames,
  isRefusal,
  joinMouth,
  layPlayed,
  pasteFrames,
  removeFrames,
  retimeFrames,
  reverseFrames,
  setHolds,
  slideFrames,
  slideMouth,
  splitMouth,
  stepDrawing,
  type Exposure,
  type Patch,
  type Refusal,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, TEST_CHART, testPatch } from '../testing/testPatch.js';

const track = 'mouth1';
const LENGTH = 48;
const on = { chartId: 'chart', chart: TEST_CHART };
const tray = [...TEST_CHART.drawings].sort((a, b) => a.place - b.place).map(({ id }) => id);
const labelOf = (id: string): string => tray[Number(id)]!;

/** A lane as `drawing from-to`, held to the end: `0 0, 3 12, 5 20` is three mouths. Those with a dot are pencil. */
function sceneOf(text: string, length = LENGTH): SceneDocument {
  const parts = text.split(', ').map((part) => part.split(' ') as [string, string]);
  const exposures = parts.map(([drawing, from], index): Exposure => ({
    id: `e${String(index).padStart(3, '0')}`,
    track,
    from: Number(from),
    to: Number(parts[index + 1]?.[1] ?? length),
    drawing: labelOf(drawing.replace('.', '')),
    inked: !drawing.endsWith('.'),
    plays: [],
  }));
  return { ...emptyScene(length), exposures };
}
function laneOf(scene: SceneDocument): string {
  return exposuresOfTrack(scene, track)
    .map(({ from, drawing, inked }) => `${tray.indexOf(drawing)}${inked ? '' : '.'} ${from}`)
    .join(', ');
}
const after = (text: string, edit: (scene: SceneDocument) => Patch | Refusal): string => {
  const scene = sceneOf(text);
  return laneOf(testPatch(scene, edit(scene)));
};
const refusalOf = (patch: Patch | Refusal): string => (isRefusal(patch) ? patch.refusal : 'not refused');
const ids = (): (() => string) => countedIds('n');

describe('holding', () => {
  it('holds a mouth longer, and the next gives way', () => {
    expect(after('0 0, 3 12, 5 20', (scene) => holdMouth(scene, { track, frame: 14, by: 2, pushing: false }, ids()))).toBe(
      '0 0, 3 12, 5 22',
    );
    expect(after('0 0, 3 12, 5 20', (scene) => holdMouth(scene, { track, frame: 14, by: -3, pushing: false }, ids()))).toBe(
      '0 0, 3 12, 5 17',
    );
  });
  it('pushes everything after it along; what passes the end is cut off, and shorter the last is held to the end', () => {
    expect(after('0 0, 3 12, 5 20, 7 46', (scene) => holdMouth(scene, { track, frame: 12, by: 2, pushing: true }, ids()))).toBe(
      '0 0, 3 12, 5 22',
    );
    expect(after('0 0, 3 12, 5 20, 7 46', (scene) => holdMouth(scene, { track, frame: 12, by: -4, pushing: true }, ids()))).toBe(
      '0 0, 3 12, 5 16, 7 42',
    );
  });
  it('leaves every mouth a frame, and says so', () => {
    const scene = sceneOf('0 0, 3 12, 5 13');
    expect(refusalOf(holdMouth(scene, { track, frame: 12, by: -1, pushing: false }, ids()))).toContain('one frame already');
    expect(refusalOf(holdMouth(sceneOf('0 0, 3 12, 5 13, 4 14'), { track, frame: 12, by: 1, pushing: false }, ids()))).toContain(
      'no frame to give',
    );
  });
  it('sets a hold over a selection; what must be seen stays', () => {
    const must = TEST_CHART.groups.find((group) => group.must)!.id;
    const closed = tray.findIndex((id) => TEST_CHART.drawings.find((one) => one.id === id)!.groups.includes(must));
    const lane = `0 0, 3 10, ${closed} 11, 5 12, 6 13, 7 15`;
    const scene = sceneOf(lane);
    const set = laneOf(testPatch(scene, setHolds(scene, { track, from: 10, to: 16, hold: 2 }, TEST_CHART, ids())));
    expect(set).toBe(`0 0, ${closed} 10, 5 12, 6 14, 7 16`);
  });
});

describe('sliding', () => {
  it('slides a mouth between its neighbours, as far as leaves each a frame', () => {
    expect(after('0 0, 3 12, 5 16, 2 20', (scene) => slideMouth(scene, { track, frame: 13, by: 2 }, ids()))).toBe('0 0, 3 14, 5 18, 2 20');
    expect(after('0 0, 3 12, 5 16, 2 20', (scene) => slideMouth(scene, { track, frame: 13, by: 20 }, ids()))).toBe('0 0, 3 15, 5 19, 2 20');
  });
  it('slides a whole lane, pencil as pencil and ink as ink', () => {
    expect(after('0 0, 3. 12, 5 16', (scene) => slideFrames(scene, { track, from: 0, to: LENGTH, by: -1 }, ids()))).toBe(
      '0 0, 3. 11, 5 15',
    );
  });
  it('is nothing when it is slid back, while nothing was pushed out', () => {
    fc.assert(
      fc.property(
        anyLane,
        fc.integer({ min: 0, max: 40 }),
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: -3, max: 3 }),
        (lane, from, long, by) => {
          const scene = sceneOf(lane);
          const span = { track, from, to: Math.min(LENGTH, from + long) };
          const slid = slideFrames(scene, { ...span, by }, ids());
          if (isRefusal(slid)) return;
          const there = testPatch(scene, slid);
          if (exposuresOfTrack(there, track).length < exposuresOfTrack(scene, track).length) return;
          if (span.from + by < 0 || span.to + by > LENGTH) return;
          const back = slideFrames(there, { track, from: span.from + by, to: span.to + by, by: -by }, countedIds('b'));
          if (isRefusal(back)) return;
          const seen = seenOf(testPatch(there, back));
          // Beyond a mouth that the other lost a frame of nothing is changed.
          const was = seenOf(scene);
          for (let frame = span.from; frame < span.to; frame++) expect(seen[frame]).toBe(was[frame]);
        },
      ),
    );
  });
});

it('splits, and joins with the one before or after', () => {
  expect(after('0 0, 3 12', (scene) => splitMouth(scene, { track, frame: 20 }, ids()))).toBe('0 0, 3 12, 3 20');
  expect(after('0 0, 3 12, 5 20', (scene) => joinMouth(scene, { track, frame: 14, side: 'before' }, ids()))).toBe('3 0, 5 20');
  expect(after('0 0, 3 12, 5 20', (scene) => joinMouth(scene, { track, frame: 14, side: 'after' }, ids()))).toBe('0 0, 3 12');
  expect(refusalOf(splitMouth(sceneOf('0 0, 3 12'), { track, frame: 12 }, ids()))).toContain('starts here already');
});

it('deletes to the one before, or to rest', () => {
  expect(after('0 0, 3 12, 5 20', (scene) => deleteMouths(scene, { track, from: 12, to: 20, toRest: false }, TEST_CHART, ids()))).toBe(
    '0 0, 5 20',
  );
  const rest = tray.findIndex((id) => TEST_CHART.drawings.find((one) => one.id === id)!.groups.includes('rest'));
  expect(after('2 0, 3 12, 5 20', (scene) => deleteMouths(scene, { track, from: 12, to: 20, toRest: true }, TEST_CHART, ids()))).toBe(
    `2 0, ${rest} 12, 5 20`,
  );
});

it('steps through the tray and round again, and exchanges one drawing for another', () => {
  const last = tray.length - 1;
  expect(after(`${last} 0, 3 12`, (scene) => stepDrawing(scene, { track, from: 0, to: LENGTH, by: 1 }, TEST_CHART, ids()))).toBe(
    '0 0, 4 12',
  );
  expect(
    after('2 0, 3 12, 2 20', (scene) =>
      exchangeDrawing(scene, { track, from: 0, to: LENGTH, drawing: labelOf('2'), by: labelOf('6') }, TEST_CHART, ids()),
    ),
  ).toBe('6 0, 3 12, 6 20');
});

it('takes the larger drawing of the same group, where there is one', () => {
  const chart = {
    ...TEST_CHART,
    drawings: TEST_CHART.drawings.map((drawing) =>
      drawing.id === labelOf('3') || drawing.id === labelOf('4') ? { ...drawing, groups: ['drop'] } : { ...drawing, groups: ['rest'] },
    ),
  };
  const scene = sceneOf('3 0');
  const [larger, smaller] = ([1, -1] as const).map((by) => accentMouths(scene, { track, from: 0, to: LENGTH, by }, chart, ids()));
  expect([larger, smaller].filter((patch) => isRefusal(patch!))).toHaveLength(1);
});

describe('copies', () => {
  const copied = (scene: SceneDocument, from: number, to: number) => {
    const copy = copyFrames(scene, { track, from, to }, on);
    if (isRefusal(copy)) throw new Error(copy.refusal);
    return copy;
  };
  it('are laid over what is there, pushed in, or repeated over a selection', () => {
    const scene = sceneOf('0 0, 3 10, 5 12, 2 14');
    const copy = copied(scene, 10, 14);
    const paste = (to: number | undefined, pushing: boolean): string =>
      laneOf(testPatch(scene, pasteFrames(scene, { track, from: 20, to, pushing }, copy, on, ids()).patch as Patch));
    expect(paste(undefined, false)).toBe('0 0, 3 10, 5 12, 2 14, 3 20, 5 22, 2 24');
    expect(paste(undefined, true)).toBe('0 0, 3 10, 5 12, 2 14, 3 20, 5 22, 2 24');
    expect(paste(29, false)).toBe('0 0, 3 10, 5 12, 2 14, 3 20, 5 22, 3 24, 5 26, 3 28, 2 29');
  });
  it('go to another chart by what they play, and say what had no match', () => {
    const scene = sceneOf('0 0, 3 10, 5 12, 2 14');
    const other = {
      ...TEST_CHART,
      drawings: TEST_CHART.drawings.map((drawing, index) => ({ ...drawing, id: `o${index}`, groups: index === 0 ? drawing.groups : [] })),
    };
    const { patch, missing } = pasteFrames(
      { ...emptyScene(LENGTH), exposures: [] },
      { track, from: 0, pushing: false },
      copied(scene, 8, 12),
      { chartId: 'other', chart: other },
      ids(),
    );
    expect(isRefusal(patch)).toBe(false);
    expect(missing.length).toBeGreaterThan(0);
  });
});

describe('laws on any lane', () => {
  const anySpan = fc.tuple(fc.integer({ min: 0, max: LENGTH - 1 }), fc.integer({ min: 1, max: LENGTH })).map(([from, long]) => ({
    track,
    from,
    to: Math.min(LENGTH, from + long),
  }));
  it('copy, then paste over the same place, is nothing', () => {
    fc.assert(
      fc.property(anyLane, anySpan, (lane, span) => {
        const scene = sceneOf(lane);
        const copy = copyFrames(scene, span, on);
        if (isRefusal(copy)) return;
        const { patch } = pasteFrames(scene, { track, from: span.from, pushing: false }, copy, on, ids());
        if (!isRefusal(patch)) expect(seenOf(testPatch(scene, patch))).toEqual(seenOf(scene));
      }),
    );
  });
  it('reversed twice it is as it was', () => {
    fc.assert(
      fc.property(anyLane, anySpan, (lane, span) => {
        const scene = sceneOf(lane);
        const once = reverseFrames(scene, span, ids());
        if (isRefusal(once)) return;
        const there = testPatch(scene, once);
        const twice = reverseFrames(there, span, countedIds('b'));
        if (isRefusal(twice)) throw new Error(twice.refusal);
        expect(seenOf(testPatch(there, twice))).toEqual(seenOf(scene));
      }),
    );
  });
  it('frames put in and taken out again are nothing, while the last mouth is long enough', () => {
    fc.assert(
      fc.property(anyLane, fc.integer({ min: 0, max: LENGTH - 1 }), fc.integer({ min: 1, max: 6 }), (lane, frame, count) => {
        const scene = sceneOf(lane);
        const put = insertFrames(scene, { track, frame, count }, ids());
        if (isRefusal(put)) return;
        const last = exposuresOfTrack(scene, track).at(-1)!;
        if (last.to - last.from <= count) return;
        const there = testPatch(scene, put);
        const taken = removeFrames(there, { track, from: frame, to: frame + count }, countedIds('b'));
        if (isRefusal(taken)) throw new Error(taken.refusal);
        expect(seenOf(testPatch(there, taken))).toEqual(seenOf(scene));
      }),
    );
  });
  it('retimed to its own length is refused; to any other it has that length, and each mouth a frame', () => {
    fc.assert(
      fc.property(anyLane, anySpan, fc.integer({ min: 1, max: LENGTH }), (lane, span, frames) => {
        const scene = sceneOf(lane);
        const patch = retimeFrames(scene, { ...span, frames }, TEST_CHART, ids());
        if (frames === span.to - span.from) {
          expect(refusalOf(patch)).toContain('already');
          return;
        }
        if (!isRefusal(patch)) testPatch(scene, patch);
      }),
    );
  });
  it('whatever is done keeps the scene whole, and leaves no gap', () => {
    const edits = (scene: SceneDocument, span: { track: string; from: number; to: number }, by: number): (Patch | Refusal)[] => [
      holdMouth(scene, { track, frame: span.from, by, pushing: false }, ids()),
      holdMouth(scene, { track, frame: span.from, by, pushing: true }, ids()),
      slideMouth(scene, { track, frame: span.from, by }, ids()),
      slideFrames(scene, { ...span, by }, ids()),
      slideFrames(scene, { track, from: 0, to: LENGTH, by }, ids()),
      splitMouth(scene, { track, frame: span.from }, ids()),
      joinMouth(scene, { track, frame: span.from, side: by > 0 ? 'after' : 'before' }, ids()),
      deleteMouths(scene, { ...span, toRest: by > 0 }, TEST_CHART, ids()),
      removeFrames(scene, span, ids()),
      setHolds(scene, { ...span, hold: 1 + Math.abs(by) }, TEST_CHART, ids()),
    ];
    fc.assert(
      fc.property(anyLane, anySpan, fc.integer({ min: -5, max: 5 }), (lane, span, by) => {
        const scene = sceneOf(lane);
        for (const patch of edits(scene, span, by)) if (!isRefusal(patch)) expect(seenOf(testPatch(scene, patch))).not.toContain(undefined);
      }),
    );
  });
});

describe('beside a turn of the head and another speaker', () => {
  const TURN = 24;
  /** A lane whose head turns in the middle, and the lane of somebody else. */
  function between(lane: string): SceneDocument {
    const scene = sceneOf(lane);
    const split = scene.exposures.flatMap((exposure) =>
      exposure.from < TURN && exposure.to > TURN
        ? [
            { ...exposure, to: TURN },
            { ...exposure, id: `${exposure.id}b`, from: TURN, plays: [] },
          ]
        : [exposure],
    );
    const other = sceneOf('1 0, 4 9, 2. 30').exposures.map((exposure) => ({ ...exposure, id: `o${exposure.id}`, track: 'mouth2' }));
    return {
      ...scene,
      tracks: [...scene.tracks, { ...scene.tracks[0]!, id: 'mouth2', order: 1 }],
      views: [{ id: 'turn', track, from: TURN, chartId: 'chart' }],
      exposures: [...split, ...other],
    };
  }
  it('an edit of one side leaves the other as it is, and the other speaker too', () => {
    fc.assert(
      fc.property(
        anyLane,
        fc.integer({ min: 0, max: TURN - 1 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: -4, max: 4 }),
        (lane, from, long, by) => {
          const scene = between(lane);
          const span = { track, from, to: Math.min(TURN, from + long) };
          const chosen = new Set(
            exposuresOfTrack(scene, track)
              .filter((one) => one.from < TURN)
              .slice(0, 2)
              .map(({ id }) => id),
          );
          const edits: (Patch | Refusal)[] = [
            holdMouth(scene, { track, frame: from, by, pushing: true }, ids()),
            slideFrames(scene, { ...span, by }, ids()),
            slideFrames(scene, { track, from: 0, to: TURN, by }, ids()),
            insertFrames(scene, { track, frame: from, count: 3 }, ids()),
            removeFrames(scene, span, ids()),
            retimeFrames(scene, { ...span, frames: long + 2 }, TEST_CHART, ids()),
            setHolds(scene, { ...span, hold: 2 }, TEST_CHART, ids()),
            deleteMouths(scene, { ...span, toRest: false }, TEST_CHART, ids()),
            deleteChosen(scene, { track, ids: chosen, toRest: false }, new Map([['chart', TEST_CHART]]), ids()),
            layPlayed(scene, track, [{ drawing: tray[3]!, from: span.from, to: span.to }], ids()),
          ];
          const beyond = (document: SceneDocument): unknown => [seenOf(document).slice(TURN), exposuresOfTrack(document, 'mouth2')];
          for (const patch of edits) if (!isRefusal(patch)) expect(beyond(testPatch(scene, patch))).toEqual(beyond(scene));
        },
      ),
    );
  });
  it('a selection over the turn is refused, and says where it is', () => {
    const scene = between('0 0, 3 12, 5 30');
    expect(refusalOf(reverseFrames(scene, { track, from: 20, to: 28 }, ids()))).toContain('where the head turns to another chart');
  });
});

it('moves a long lane by shifts, not mouth by mouth', () => {
  const mouths = Array.from({ length: 400 }, (_, index) => `${index % 9} ${index * 3}`).join(', ');
  const scene = sceneOf(mouths, 1300);
  const patch = slideFrames(scene, { track, from: 0, to: 1300, by: -1 }, ids());
  testPatch(scene, patch);
  expect((patch as Patch).ops.length).toBeLessThan(10);
  const pushed = holdMouth(scene, { track, frame: 30, by: 2, pushing: true }, ids());
  testPatch(scene, pushed);
  expect((pushed as Patch).ops.length).toBeLessThan(10);
});

/** The drawing of each frame. */
function seenOf(scene: SceneDocument): (string | undefined)[] {
  const exposures = exposuresOfTrack(scene, track);
  return Array.from({ length: LENGTH }, (_, frame) => exposures.find(({ from, to }) => from <= frame && frame < to)?.drawing);
}
/** A lane from frame 0 on, of up to ten mouths, in ink and pencil. */
const anyLane = fc
  .uniqueArray(fc.integer({ min: 1, max: LENGTH - 1 }), { maxLength: 9 })
  .chain((starts) =>
    fc.tuple(
      ...[0, ...starts]
        .sort((a, b) => a - b)
        .map((from) =>
          fc.tuple(fc.integer({ min: 0, max: 9 }), fc.boolean()).map(([drawing, inked]) => `${drawing}${inked ? '' : '.'} ${from}`),
        ),
    ),
  )
  .map((parts) => parts.join(', '));
