/** How well and how fast lines are keyed: the plan beside plain sampling and beside the obvious rule. */
import { performance } from 'node:perf_hooks';

const percent = (value) => `${(100 * value).toFixed(1)} %`;
const COLUMNS = [
  [24, 1],
  [24, 2],
  [12, 1],
  [25, 2],
  [30, 2],
];
const RULES = { leadFrames: 1, strict: false };

/** Whatever sounds in the middle of each frame, or of each hold. Shape: a drawing a frame. */
function plainSampling({ core, chart }, { sounds, fps, hold, frames }) {
  return Array.from({ length: frames }, (_, frame) => {
    const at = ((Math.floor(frame / hold) * hold + hold / 2 + 1) / fps) * 48_000;
    const sound = sounds.find((candidate) => candidate.from <= at && at < candidate.to);
    return sound ? core.maybeGroupOfPhoneme(chart.groups, sound.symbol).id : 'rest';
  });
}

const keyingJob = ({ chart }, { sounds, fps, hold, frames }) => ({
  sounds,
  frameRate: { num: fps, den: 1 },
  lengthFrames: frames,
  chart,
  rules: { ...RULES, holdFrames: hold },
});

function shownBy(exposures, frames) {
  const shown = new Array(frames).fill('rest');
  for (const { from, to, drawing } of exposures) shown.fill(drawing, from, Math.min(to, frames));
  return shown;
}

function byThePlan(project, line) {
  return shownBy(project.core.keySounds(keyingJob(project, line)).exposures, line.frames);
}

function byTheObviousRule(project, line) {
  const { stretches } = project.core.planTrack(keyingJob(project, line));
  return shownBy(
    stretches.flatMap(({ job }) => {
      const { shown, starts } = project.core.greedyPlan(job);
      return shown.map((index, at) => ({ from: starts[at], to: starts[at + 1] ?? job.to, drawing: job.shapes[index].drawing }));
    }),
    line.frames,
  );
}

/** Closures, those that are lost, changes, exposures of one frame that are no closure, and how far what is shown is from what is said. */
function measure({ core, chart }, { sounds, fps, frames }, shown) {
  const look = core.lookOfChart(chart);
  const must = new Set(chart.groups.filter((group) => group.must).map((group) => group.id));
  const total = { closures: 0, lost: 0, changes: 0, ones: 0, away: 0, spoken: 0, seconds: frames / fps };
  for (const sound of sounds) {
    const group = core.maybeGroupOfPhoneme(chart.groups, sound.symbol);
    if (group.must) {
      total.closures += 1;
      const [from, to] = [Math.max(0, Math.ceil((sound.from / 48_000) * fps - 2)), Math.ceil((sound.to / 48_000) * fps)];
      if (!shown.slice(from, to).includes(group.id)) total.lost += 1;
    }
    // What is seen while it is heard, a frame ahead, a hundredth of a second at a time.
    for (let at = sound.from + 240; at < sound.to; at += 480) {
      const frame = Math.max(0, Math.min(frames - 1, Math.floor((at / 48_000) * fps - RULES.leadFrames)));
      total.spoken += 1;
      total.away += look.lost(group.id, shown[frame]);
    }
  }
  let start = 0;
  for (let frame = 1; frame <= frames; frame++) {
    if (frame < frames && shown[frame] === shown[frame - 1]) continue;
    if (frame < frames) total.changes += 1;
    if (frame - start === 1 && start > 0 && frame < frames && !must.has(shown[start])) total.ones += 1;
    start = frame;
  }
  return total;
}

const WAYS = { sampling: plainSampling, 'the obvious rule': byTheObviousRule, 'the plan': byThePlan };

/** A row a case and way. */
export function benchKeyingQuality(project, labelled) {
  const { core } = project;
  return COLUMNS.flatMap(([fps, hold]) =>
    Object.entries(WAYS).map(([way, show]) => {
      const sum = { closures: 0, lost: 0, changes: 0, ones: 0, away: 0, spoken: 0, seconds: 0 };
      for (const { sounds, wave } of labelled) {
        const line = { sounds, fps, hold, frames: core.framesToHold({ num: fps, den: 1 }, core.truthOfWave(wave).samples.length) };
        const total = measure(project, line, show(project, line));
        for (const key of Object.keys(sum)) sum[key] += total[key];
      }
      return `| ${fps} fps on ${['', 'ones', 'twos'][hold]} | ${way} | ${percent(sum.lost / sum.closures)} | ${(sum.changes / sum.seconds).toFixed(1)} | ${percent(sum.ones / Math.max(1, sum.changes))} | ${(sum.away / sum.spoken).toFixed(3)} |`;
    }),
  );
}

/** A row a feel, at 24 fps. */
export function benchFeels(project, labelled) {
  const { core, chart } = project;
  return core.FEELS.map(({ name, rules }) => {
    const sum = { closures: 0, lost: 0, changes: 0, away: 0, spoken: 0, seconds: 0 };
    for (const { sounds, wave } of labelled) {
      const frames = core.framesToHold({ num: 24, den: 1 }, core.truthOfWave(wave).samples.length);
      const { exposures } = core.keySounds({ sounds, frameRate: { num: 24, den: 1 }, lengthFrames: frames, chart, rules });
      const total = measure(project, { sounds, fps: 24, frames }, shownBy(exposures, frames));
      for (const key of Object.keys(sum)) sum[key] += total[key];
    }
    return `| ${name} | ${percent(sum.lost / sum.closures)} | ${(sum.changes / sum.seconds).toFixed(1)} | ${(sum.away / sum.spoken).toFixed(3)} |`;
  });
}

function medianTime(runs, work) {
  const times = Array.from({ length: runs }, () => {
    const started = performance.now();
    work();
    return performance.now() - started;
  });
  return times.sort((a, b) => a - b)[runs >> 1];
}

/** Ten minutes, and one phrase of three seconds; milliseconds. */
export function benchKeyingSpeed(project, labelled) {
  const sounds = [];
  let at = 0;
  for (let index = 0; at < 600 * 48_000; index++) {
    const line = labelled[index % labelled.length];
    for (const sound of line.sounds) sounds.push({ ...sound, from: sound.from + at, to: sound.to + at });
    at = sounds.at(-1).to;
  }
  const inside = sounds.filter((sound) => sound.to <= 600 * 48_000);
  const ten = keyingJob(project, { sounds: inside, fps: 24, hold: 2, frames: 14_400 });
  const phrase = keyingJob(project, { sounds: inside.filter((sound) => sound.to <= 3 * 48_000), fps: 24, hold: 2, frames: 72 });
  const { keySounds, FEELS } = project.core;
  keySounds(ten);
  const feels = FEELS.map(({ name, rules }) => ({ name, time: medianTime(5, () => keySounds({ ...ten, rules })) }));
  return { count: inside.length, feels, time: medianTime(9, () => keySounds(ten)), phrase: medianTime(31, () => keySounds(phrase)) };
}
