/** What a hand does to a lane of twenty thousand exposures: how long each command takes to be made and applied. */

const EXPOSURES = 20_000;
const track = 'mouth1';

/** A lane of mouths held for two frames each, every third of them inked. */
function longLane({ core, chart }) {
  const lengthFrames = EXPOSURES * 2;
  const made = core.newScene({
    title: 'Long lane',
    frameRate: { num: 24, den: 1 },
    firstFrame: 1,
    chartId: 'chart',
    chart,
    rules: core.DEFAULT_RULES,
    clip: { characterId: 'c', audio: 'a', fileName: 'f.wav', lengthSamples: lengthFrames * 2000, script: '', language: 'en' },
  });
  const exposures = Array.from({ length: EXPOSURES }, (_, index) => ({
    id: `e${String(index).padStart(6, '0')}`,
    track,
    from: index * 2,
    to: index * 2 + 2,
    drawing: chart.drawings[(index * 5) % chart.drawings.length].id,
    inked: index % 3 === 0,
    plays: [],
  }));
  return { ...made, tracks: made.tracks.map((one) => ({ ...one, id: track })), exposures };
}

/** @returns for each command, the median of five runs in milliseconds, and how many operations its patch has */
export async function benchHand(project, timed) {
  const { core, chart } = project;
  const scene = longLane(project);
  let count = 0;
  const newId = () => `n${(count += 1)}`;
  const middle = EXPOSURES;
  const span = { track, from: middle, to: middle + 48 };
  const charts = new Map([['chart', chart]]);
  const every = new Set(scene.exposures.filter(({ drawing }) => drawing === chart.drawings[4].id).map(({ id }) => id));
  const commands = [
    ['a mouth is put', () => core.putDrawing(scene, { track, frame: middle + 1, drawing: chart.drawings[7].id }, chart, newId)],
    ['held a frame longer, the next gives way', () => core.holdMouth(scene, { track, frame: middle, by: -1, pushing: false }, newId)],
    ['held a frame longer, half the lane pushed along', () => core.holdMouth(scene, { track, frame: middle, by: 1, pushing: true }, newId)],
    ['two seconds are slid', () => core.slideFrames(scene, { ...span, by: 3 }, newId)],
    ['the whole lane a frame earlier', () => core.slideFrames(scene, { track, from: 0, to: EXPOSURES * 2, by: -1 }, newId)],
    ['two seconds on threes', () => core.setHolds(scene, { ...span, hold: 3 }, chart, newId)],
    ['two seconds a fifth shorter', () => core.retimeFrames(scene, { ...span, frames: 38 }, chart, newId)],
    ['six frames in, in the lane', () => core.insertFrames(scene, { track, frame: middle, count: 6 }, newId)],
    ['six frames in, everywhere', () => core.insertTime(scene, { frame: middle, count: 6 }, newId)],
    ['six frames out, everywhere', () => core.removeTime(scene, { from: middle, to: middle + 6 }, newId)],
    [
      `${every.size} chosen mouths exchanged`,
      () => core.exchangeChosen(scene, { track, ids: every, drawing: chart.drawings[2].id }, charts, newId),
    ],
    [
      'every mouth of a drawing exchanged',
      () =>
        core.exchangeDrawing(
          scene,
          { track, from: 0, to: EXPOSURES * 2, drawing: chart.drawings[4].id, by: chart.drawings[2].id },
          chart,
          newId,
        ),
    ],
  ];
  const rows = [];
  for (const [what, make] of commands) {
    let patch;
    const time = await timed(5, () => {
      patch = make();
      if (core.isRefusal(patch)) throw new Error(`${what}: ${patch.refusal}`);
      core.applyPatch(core.SCENE_KIND, scene, patch);
    });
    rows.push({ what, time, ops: patch.ops.length });
  }
  return rows;
}
