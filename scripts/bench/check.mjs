/**
 * How well the checker finds what is wrong: lines keyed by the plan and left as they are (what is found there is invented),
 * and the same lines with faults planted at places chosen by a fixed seed, ten of a kind in each case.
 */

/** Mulberry32 (T. Ettinger, 2017; public domain): the same numbers for the same seed. */
function random(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const CASES = [
  { fps: 24, feel: 'Natural' },
  { fps: 24, feel: 'Crisp' },
  { fps: 25, feel: 'Limited' },
  { fps: 12, feel: 'Replacement' },
];

/** Lines one after another with pauses of 0.3 to 1.2 s, as one recording of one speaker. */
function sceneOfLines({ core, chart }, lines, { fps, feel }, seed) {
  const chance = random(seed);
  const frameRate = { num: fps, den: 1 };
  const sounds = [];
  const words = [];
  const parts = [];
  let at = 12_000;
  for (const { sounds: own, wave, script } of lines) {
    const { samples } = core.truthOfWave(wave);
    parts.push({ at, samples });
    const said = script.split(/\s+/);
    // Words are not labelled: the sounds are shared out among them evenly.
    own.forEach((sound, index) => {
      const word = Math.min(said.length - 1, Math.floor((index * said.length) / own.length));
      sounds.push({ ...sound, from: sound.from + at, to: sound.to + at, word: `${parts.length}-${word}`, text: said[word] });
    });
    at += samples.length + Math.round((0.3 + 0.9 * chance()) * 48_000);
  }
  const heard = new Float32Array(at);
  for (const { at: from, samples } of parts) samples.forEach((value, index) => (heard[from + index] = value / 32_768));
  for (const sound of sounds) {
    const last = words.at(-1);
    if (last?.id === sound.word) last.toSample = sound.to;
    else
      words.push({
        id: sound.word,
        clip: 'clip',
        text: sound.text,
        fromSample: sound.from,
        toSample: sound.to,
        confidence: 0.9 + 0.1 * chance(),
      });
  }
  const lengthFrames = core.framesToHold(frameRate, at);
  const clip = {
    ...{ id: 'clip', characterId: 'speaker', audio: 'a'.repeat(64), fileName: 'line.wav', atFrame: 0, lengthSamples: at },
    ...{ fromSample: 0, toSample: at, gainDb: 0, muted: false, soloed: false, readOf: null, script: '', language: 'en' },
  };
  const scene = {
    settings: [{ id: 'scene', title: 'Lines', frameRate, firstFrame: 1, lengthFrames }],
    clips: [clip],
    words,
    phonemes: sounds.map(({ symbol, from, to, word, stress }, index) => ({
      ...{ id: `s${String(index).padStart(5, '0')}`, clip: 'clip', word, symbol, fromSample: from, toSample: to, confidence: 0.95 },
      ...(stress !== undefined && { stress }),
    })),
    tracks: [
      {
        id: 'mouth1',
        kind: 'mouth',
        characterId: 'speaker',
        chartId: 'chart',
        order: 0,
        rules: core.FEELS.find(({ name }) => name === feel).rules,
      },
    ],
    ...{ views: [], marks: [], oneOffs: [], asides: [], remarks: [], places: [], exposures: [] },
  };
  const charts = new Map([['chart', chart]]);
  const frames = core.heardFrames(heard, frameRate, lengthFrames);
  let count = 0;
  const newId = () => `e${++count}`;
  const keyed = core.keyPencil(scene, 'mouth1', charts, newId, { heard: frames });
  const job = { scene: core.applyPatch(core.SCENE_KIND, scene, keyed.patch), charts, heardOf: () => frames };
  return { job, newId, fps };
}

/** Mouths of a lane as frames, and back as exposures; ids are new, what plays is kept where a mouth stays. */
const frameList = ({ exposures, settings }) => {
  const shown = new Array(settings[0].lengthFrames);
  exposures.forEach((one) => shown.fill(one, one.from, one.to));
  return shown;
};

function sceneOfFrames(scene, shown) {
  const exposures = [];
  let start = 0;
  for (let frame = 1; frame <= shown.length; frame++) {
    if (frame < shown.length && shown[frame] === shown[start]) continue;
    const one = shown[start];
    exposures.push({ ...one, id: `x${String(exposures.length).padStart(5, '0')}`, from: start, to: frame });
    start = frame;
  }
  return { ...scene, exposures };
}

const mouth = (drawing, plays = []) => ({ track: 'mouth1', drawing, inked: true, plays });

/** Each answers the changed scene and the frames it changed, or undefined where the place does not serve. */
export const PLANTS = {
  'closure-missing': ({ job, chance, fps }) => {
    const must = new Set(['press', 'bite']);
    const all = job.scene.exposures;
    const index = 1 + Math.floor(chance() * (all.length - 2));
    const held = all[index];
    if (!must.has(held.drawing)) return undefined;
    const shown = frameList(job.scene);
    shown.fill(all[index - 1], held.from, held.to);
    return { scene: sceneOfFrames(job.scene, shown), from: held.from, to: held.to, fps };
  },
  'closure-off': ({ job, chance, fps }) => {
    const all = job.scene.exposures;
    const index = 2 + Math.floor(chance() * (all.length - 4));
    const held = all[index];
    if (held.drawing !== 'press' && held.drawing !== 'bite') return undefined;
    const by = (chance() < 0.5 ? -1 : 1) * Math.max(2, Math.round((0.13 + 0.06 * chance()) * fps));
    const shown = frameList(job.scene);
    const [from, to] = [held.from + by, held.to + by];
    if (from <= all[index - 2].from || to >= all[index + 2].to) return undefined;
    shown.fill(by < 0 ? all[index + 1] : all[index - 1], held.from, held.to);
    shown.fill(held, from, to);
    return { scene: sceneOfFrames(job.scene, shown), from: Math.min(from, held.from), to: Math.max(to, held.to) };
  },
  'mouth-off': ({ job, chance, fps }) => {
    const all = job.scene.exposures;
    const index = 1 + Math.floor(chance() * (all.length - 2));
    const held = all[index];
    if (['press', 'bite', 'rest'].includes(held.drawing) || held.plays.length === 0) return undefined;
    const isLate = chance() < 0.5;
    const shown = frameList(job.scene);
    const by = Math.round((isLate ? 0.17 : 0.29) * fps);
    if (isLate) {
      if (held.to - held.from <= by) return undefined;
      shown.fill(all[index - 1], held.from, held.from + by);
      return { scene: sceneOfFrames(job.scene, shown), from: held.from, to: held.to };
    }
    const from = held.from - by;
    if (from < 1 || shown.slice(from, held.from).some(({ drawing }) => drawing === 'press' || drawing === 'bite')) return undefined;
    shown.fill(held, from, held.from);
    return { scene: sceneOfFrames(job.scene, shown), from, to: held.to };
  },
  'lane-off': ({ job, chance }) => {
    const by = (chance() < 0.5 ? -1 : 1) * (2 + Math.floor(chance() * 3));
    const shown = frameList(job.scene);
    const slid = shown.map((_, frame) => shown[Math.max(0, Math.min(shown.length - 1, frame - by))]);
    return { scene: sceneOfFrames(job.scene, slid), from: 0, to: shown.length };
  },
  'vowel-shut': ({ job, core, chance, fps, loud }) => {
    const { phonemes } = job.scene;
    const sound = phonemes[Math.floor(chance() * phonemes.length)];
    if (!core.isVowel(sound.symbol) || (sound.toSample - sound.fromSample) / 48_000 < 0.12) return undefined;
    const from = Math.round((sound.fromSample / 48_000) * fps) - 2;
    const to = Math.round((sound.toSample / 48_000) * fps) + 1;
    if (from < 1 || Math.max(...loud.slice(from, to)) < 0.6) return undefined;
    const shown = frameList(job.scene);
    // A vowel that the chart plays with a narrow mouth is not heard as open.
    if (!shown.slice(from, to).some(({ drawing }) => ['mid', 'drop', 'spread', 'back', 'ring'].includes(drawing))) return undefined;
    shown.fill(mouth('rest'), from, to);
    return { scene: sceneOfFrames(job.scene, shown), from, to };
  },
  'open-in-pause': ({ job, chance, fps }) => {
    const rests = job.scene.exposures.filter(({ drawing, from, to }) => drawing === 'rest' && from > 0 && to - from > 0.6 * fps);
    const rest = rests[Math.floor(chance() * rests.length)];
    if (!rest) return undefined;
    const long = Math.round((0.4 + 0.2 * chance()) * fps);
    const from = rest.from + Math.floor(chance() * (rest.to - rest.from - long));
    const shown = frameList(job.scene);
    shown.fill(mouth(['drop', 'mid', 'spread', 'lift'][Math.floor(chance() * 4)]), from, from + long);
    return { scene: sceneOfFrames(job.scene, shown), from, to: from + long };
  },
  'rest-short': ({ job, chance, fps }) => {
    const all = job.scene.exposures;
    const rests = all.filter(
      ({ drawing, from, to }, index) => drawing === 'rest' && from > 0 && index < all.length - 1 && to - from >= 0.3 * fps,
    );
    const rest = rests[Math.floor(chance() * rests.length)];
    if (!rest) return undefined;
    const shown = frameList(job.scene);
    const index = all.indexOf(rest);
    const middle = rest.from + Math.floor((rest.to - rest.from) / 2);
    // The mouth before holds on and the next comes early: a blink of rest is left.
    const wide = rest.to - rest.from;
    if (wide > 0.55 * fps) return undefined;
    shown.fill(all[index - 1], rest.from, middle);
    shown.fill(all[index + 1], middle + 1, rest.to);
    return { scene: sceneOfFrames(job.scene, shown), from: rest.from, to: rest.to };
  },
  'settle-missing': ({ job, chance, fps }) => {
    const all = job.scene.exposures;
    const index = 2 + Math.floor(chance() * (all.length - 3));
    const rest = all[index];
    const by = Math.max(3, Math.round(0.2 * fps));
    if (rest.drawing !== 'rest' || rest.to - rest.from < 0.3 * fps || ['press', 'bite'].includes(all[index - 1].drawing)) return undefined;
    if (all[index - 1].to - all[index - 1].from <= by) return undefined;
    const shown = frameList(job.scene);
    shown.fill(rest, rest.from - by, rest.from);
    return { scene: sceneOfFrames(job.scene, shown), from: rest.from - by, to: rest.from };
  },
  flapping: ({ job, chance, fps }) => {
    const shown = frameList(job.scene);
    const from = Math.floor(chance() * (shown.length - 3 * fps)) + fps;
    const to = from + Math.round(1.1 * fps);
    const mouths = ['mid', 'spread', 'ring', 'teeth', 'drop'].map((drawing) => mouth(drawing));
    for (let frame = from; frame < to; frame++) shown[frame] = { ...mouths[(frame - from) % mouths.length] };
    return { scene: sceneOfFrames(job.scene, shown), from, to };
  },
  'one-frame': ({ job, chance }) => {
    const all = job.scene.exposures;
    const held = all[1 + Math.floor(chance() * (all.length - 2))];
    if (held.to - held.from < 4) return undefined;
    const shown = frameList(job.scene);
    const at = held.from + 1 + Math.floor(chance() * (held.to - held.from - 2));
    shown[at] = mouth(held.drawing === 'mid' ? 'ring' : 'mid');
    return { scene: sceneOfFrames(job.scene, shown), from: at, to: at + 1 };
  },
  'long-hold': ({ job, chance, fps }) => {
    const { words } = job.scene;
    const word = words[Math.floor(chance() * (words.length - 8))];
    const from = Math.round((word.fromSample / 48_000) * fps);
    const to = from + Math.round((1.9 + 0.4 * chance()) * fps);
    if (!words.some(({ fromSample, toSample }) => (fromSample / 48_000) * fps <= to && (toSample / 48_000) * fps >= to)) return undefined;
    const shown = frameList(job.scene);
    if (shown.slice(from, to).some(({ drawing }) => drawing === 'rest')) return undefined;
    shown.fill(mouth(['mid', 'spread', 'ring', 'teeth'][Math.floor(chance() * 4)]), from, to);
    return { scene: sceneOfFrames(job.scene, shown), from, to };
  },
  alike: ({ job, chance, twin }) => {
    const all = job.scene.exposures;
    const held = all[1 + Math.floor(chance() * (all.length - 2))];
    if (held.drawing !== 'mid' || held.to - held.from < 4) return undefined;
    const shown = frameList(job.scene);
    const at = held.from + 2;
    shown.fill(mouth(twin), at, held.to);
    return { scene: sceneOfFrames(job.scene, shown), from: at, to: held.to };
  },
  unlike: ({ job, chance, fps }) => {
    const all = job.scene.exposures;
    const index = 1 + Math.floor(chance() * (all.length - 2));
    const [before, held] = [all[index - 1], all[index]];
    if (before.to - before.from < 0.3 * fps || before.drawing !== 'rest' || ['press', 'bite'].includes(held.drawing)) return undefined;
    const shown = frameList(job.scene);
    shown.fill(mouth('drop'), held.from, held.to);
    return { scene: sceneOfFrames(job.scene, shown), from: held.from, to: held.to };
  },
  'same-turn': ({ job, chance, fps }) => {
    const shown = frameList(job.scene);
    const from = Math.floor(chance() * (shown.length - 4 * fps)) + fps;
    const each = Math.max(1, Math.round(fps / 8));
    const mouths = chance() < 0.5 ? ['mid', 'ring', 'teeth'] : ['spread', 'mid'];
    const rounds = mouths.length === 3 ? 3 : 4;
    const to = from + each * mouths.length * rounds;
    for (let frame = from; frame < to; frame++) {
      const place = Math.floor((frame - from) / each);
      shown[frame] = (sameTurnOf[place] ??= {})[mouths[place % mouths.length]] ??= mouth(mouths[place % mouths.length]);
    }
    return { scene: sceneOfFrames(job.scene, shown), from, to };
  },
  'ink-adrift': ({ job, chance, fps }) => {
    const all = job.scene.exposures;
    const held = all[1 + Math.floor(chance() * (all.length - 2))];
    if (held.plays.length === 0) return undefined;
    const inked = all.map((one) => (one === held ? { ...one, inked: true } : one));
    // The reading is changed: the sounds from there on are heard later.
    const first = held.plays[0];
    const by = Math.round((0.35 + 0.2 * chance()) * 48_000);
    const moved = job.scene.phonemes.map((one) =>
      one.id >= first ? { ...one, fromSample: one.fromSample + by, toSample: one.toSample + by } : one,
    );
    return { scene: { ...job.scene, exposures: inked, phonemes: moved }, from: held.from, to: held.to, fps };
  },
  'drawing-gone': ({ job, chance }) => {
    const all = job.scene.exposures;
    const held = all[Math.floor(chance() * all.length)];
    return {
      scene: { ...job.scene, exposures: all.map((one) => (one === held ? { ...one, drawing: 'lost' } : one)) },
      from: held.from,
      to: held.to,
    };
  },
  'doubtful-word': ({ job, chance, fps }) => {
    const { words } = job.scene;
    const word = words[Math.floor(chance() * words.length)];
    const doubted = words.map((one) => (one === word ? { ...one, confidence: 0.1 + 0.3 * chance() } : one));
    return { scene: { ...job.scene, words: doubted }, from: (word.fromSample / 48_000) * fps, to: (word.toSample / 48_000) * fps };
  },
  'word-silent': ({ job, chance, fps }) => {
    const { words, phonemes } = job.scene;
    const word = words[Math.floor(chance() * words.length)];
    return {
      scene: { ...job.scene, phonemes: phonemes.filter((one) => one.word !== word.id) },
      ...{ from: (word.fromSample / 48_000) * fps, to: (word.toSample / 48_000) * fps },
    };
  },
  'vowel-small': ({ job, core, chart, chance, fps, loud }) => {
    const { phonemes } = job.scene;
    const sound = phonemes[Math.floor(chance() * phonemes.length)];
    const [from, to] = [sound.fromSample, sound.toSample].map((sample) => Math.round((sample / 48_000) * fps));
    if (core.maybeGroupOfPhoneme(chart.groups, sound.symbol)?.id !== 'mid' || Math.max(...loud.slice(from, to + 1)) < 0.9) return undefined;
    // The chart has a wider one for the group, and the smaller is there.
    const mid = chart.drawings.find(({ id }) => id === 'mid');
    const wide = {
      ...chart.drawings.find(({ id }) => id === 'drop'),
      id: 'wide',
      label: 'Wide',
      number: 98,
      place: 98,
      keycap: '',
      groups: ['mid'],
    };
    const charts = new Map([['chart', { ...chart, drawings: [...chart.drawings, wide] }]]);
    const shown = frameList(job.scene);
    shown.fill(mouth(mid.id), Math.max(0, from - 2), to + 1);
    return { scene: sceneOfFrames(job.scene, shown), from, to, charts };
  },
  'drawing-unused': ({ job, chance }) => {
    const used = [...new Set(job.scene.exposures.map(({ drawing }) => drawing))].filter((id) => id !== 'rest');
    const gone = used[Math.floor(chance() * used.length)];
    const other = used.find((id) => id !== gone);
    const exposures = job.scene.exposures.map((one) => (one.drawing === gone ? { ...one, drawing: other } : one));
    return { scene: { ...job.scene, exposures }, from: 0, to: 1e9, says: gone };
  },
  'drawing-once': ({ job, chance }) => {
    const used = [...new Set(job.scene.exposures.map(({ drawing }) => drawing))].filter((id) => id !== 'rest');
    const rare = used[Math.floor(chance() * used.length)];
    const other = used.find((id) => id !== rare);
    const all = job.scene.exposures.filter(({ drawing }) => drawing === rare);
    const left = all[Math.floor(chance() * all.length)];
    const exposures = job.scene.exposures.map((one) => (one.drawing === rare && one !== left ? { ...one, drawing: other } : one));
    return { scene: { ...job.scene, exposures }, from: left.from, to: left.to };
  },
  'group-empty': ({ job, chart, core, chance, fps }) => {
    const heard = job.scene.phonemes
      .map(({ symbol }) => core.maybeGroupOfPhoneme(chart.groups, symbol)?.id)
      .filter((id) => id && id !== 'rest');
    const group = heard[Math.floor(chance() * heard.length)];
    const without = { ...chart, drawings: chart.drawings.map((one) => ({ ...one, groups: one.groups.filter((id) => id !== group) })) };
    const first = job.scene.phonemes.find(({ symbol }) => core.maybeGroupOfPhoneme(chart.groups, symbol)?.id === group);
    const at = (first.fromSample / 48_000) * fps;
    return { scene: job.scene, from: at, to: at, charts: new Map([['chart', without]]) };
  },
  'groups-alike': ({ job, chart, chance }) => {
    const pairs = [
      ['press', 'drop'],
      ['bite', 'spread'],
      ['tip', 'drop'],
      ['ring', 'teeth'],
      ['pucker', 'mid'],
    ];
    const [keep, lose] = pairs[Math.floor(chance() * pairs.length)];
    const shared = chart.drawings
      .filter(({ id }) => id !== lose)
      .map((one) => (one.groups.includes(keep) ? { ...one, groups: [...one.groups, lose] } : one));
    const exposures = job.scene.exposures.map((one) => (one.drawing === lose ? { ...one, drawing: keep } : one));
    return { scene: { ...job.scene, exposures }, from: 0, to: 1e9, charts: new Map([['chart', { ...chart, drawings: shared }]]) };
  },
  'past-end': ({ job, chance }) => withLength(job.scene, (frames) => Math.round(frames * (0.3 + 0.6 * chance()))),
  'long-tail': ({ job, chance, fps }) => withLength(job.scene, (frames) => frames + Math.round((1.5 + 3 * chance()) * fps)),
  clipping: ({ job, chance }) => withFacts(job, { clipped: 0.001 + 0.05 * chance() }),
  'too-quiet': ({ job, chance }) => withFacts(job, { speechDb: -40 - 15 * chance(), peakDb: -28 }),
  'under-voice': ({ job, chance }) => withFacts(job, { ground: chance() < 0.5 ? 'tones' : 'noise', floorDb: -42 }),
  'two-speak': ({ job, chance, fps }) => {
    const { scene } = job;
    const word = scene.words[Math.floor(chance() * scene.words.length)];
    const clip = { ...scene.clips[0], id: 'other', characterId: 'other' };
    const said = { ...word, id: 'said', clip: 'other', text: 'over' };
    if (word.toSample - word.fromSample < 0.2 * 48_000) return undefined;
    const track = { ...scene.tracks[0], id: 'mouth2', characterId: 'other', order: 1 };
    const words = [...scene.words, said];
    return {
      scene: { ...scene, clips: [...scene.clips, clip], words, tracks: [...scene.tracks, track] },
      ...{ from: (word.fromSample / 48_000) * fps, to: (word.toSample / 48_000) * fps },
    };
  },
  'chart-missing': ({ job, chance }) => {
    const { lengthFrames } = job.scene.settings[0];
    const from = 1 + Math.floor(chance() * (lengthFrames - 2));
    return { scene: { ...job.scene, views: [{ id: 'turned', track: 'mouth1', from, chartId: 'gone' }] }, from, to: lengthFrames };
  },
};
const sameTurnOf = [];

function withLength(scene, lengthOf) {
  const [settings] = scene.settings;
  const lengthFrames = lengthOf(settings.lengthFrames);
  const exposures = scene.exposures.filter(({ from }) => from < lengthFrames);
  exposures.push({ ...exposures.pop(), to: lengthFrames });
  return { scene: { ...scene, settings: [{ ...settings, lengthFrames }], exposures }, from: 0, to: 1e9 };
}

/** A good recording, but for something. */
const withFacts = ({ scene }, fault) => ({
  ...{ scene, from: 0, to: 1e9 },
  facts: new Map([[scene.clips[0].audio, { ...GOOD, ...fault }]]),
});
const GOOD = { peakDb: -4, speechDb: -22, floorDb: -70, clipped: 0, speech: 0.6, ground: 'quiet', advice: [] };

/** What a fault may be told as beside its own name. */
const TOLD_AS = {
  'closure-off': ['closure-missing'],
  'closure-missing': ['closure-off'],
  'rest-short': ['open-in-pause'],
  'settle-missing': ['mouth-off'],
};

const OF_EACH = 10;
const MOST_TRIES = 4000;

/** A near twin of a drawing, in the chart for another group. */
function withTwin({ core, chart }) {
  const mid = chart.drawings.find(({ id }) => id === 'mid');
  const art = { ...mid.art, shape: { ...mid.art.shape, open: mid.art.shape.open * 1.02 } };
  const twin = { ...mid, id: 'twin', label: 'Twin', number: 99, place: 99, keycap: '', groups: [], art };
  void core;
  return { ...chart, drawings: [...chart.drawings, twin] };
}

/**
 * @returns by kind: planted and found in each case, and of a clean scene the notes and its minutes
 */
export function benchCheck(project, lines, seed = 18) {
  const { core } = project;
  const own = { ...project, chart: withTwin(project) };
  const kinds = new Map();
  const of = (kind) => {
    if (!kinds.has(kind)) kinds.set(kind, { planted: 0, found: 0, mended: 0, mendable: 0, invented: 0 });
    return kinds.get(kind);
  };
  let minutes = 0;
  const invented = [];
  for (const [index, one] of CASES.entries()) {
    const { job, fps, newId } = sceneOfLines(own, lines, one, seed + index);
    const clean = core.checkNotes(job);
    minutes += job.scene.settings[0].lengthFrames / fps / 60;
    for (const note of clean) {
      of(note.kind).invented += 1;
      invented.push({ ...note, ...one });
    }
    const { levels } = job.heardOf();
    const loud = core.betweenFloorAndPeak(levels, core.rangeOfLoudness(levels));
    const [slow, feelName] = [fps < 15, one.feel];
    for (const [kind, plant] of Object.entries(PLANTS)) {
      // What cannot be a fault at this rate, or in this feel, is not planted.
      if (slow && ['one-frame', 'unlike', 'flapping'].includes(kind)) continue;
      if (kind === 'one-frame' && feelName === 'Crisp') continue;
      if (kind === 'unlike' && feelName === 'Limited') continue;
      const chance = random(seed * 1000 + index);
      let planted = 0;
      for (let tries = 0; planted < OF_EACH && tries < MOST_TRIES; tries++) {
        const made = plant({ job, core, chart: own.chart, chance, fps, loud, twin: 'twin' });
        if (!made) continue;
        planted += 1;
        const now = { ...job, scene: made.scene, ...(made.charts && { charts: made.charts }), ...(made.facts && { facts: made.facts }) };
        const notes = core.checkNotes(now);
        const note = notes.find(
          (found) =>
            (found.kind === kind || TOLD_AS[kind]?.includes(found.kind)) &&
            found.from <= made.to + 1 &&
            found.to >= made.from - 1 &&
            !clean.some(({ id, why }) => id === found.id && why === found.why),
        );
        of(kind).planted += 1;
        if (!note) continue;
        of(kind).found += 1;
        if (note.mends.length === 0) continue;
        of(kind).mendable += 1;
        if (!core.isRefusal(core.mendOfNote(now, note, newId))) of(kind).mended += 1;
      }
    }
  }
  return { kinds, minutes, invented };
}

/** Several sets of lines, summed. */
function summed(project, sets, seed) {
  const kinds = new Map();
  let minutes = 0;
  for (const lines of sets) {
    const one = benchCheck(project, lines, seed);
    minutes += one.minutes;
    for (const [kind, counts] of one.kinds) {
      const sum = kinds.get(kind) ?? { planted: 0, found: 0, mended: 0, mendable: 0, invented: 0 };
      for (const key of Object.keys(sum)) sum[key] += counts[key];
      kinds.set(kind, sum);
    }
  }
  return { kinds, minutes };
}

/**
 * A row a kind: on the voice that the limits were set on, on the others, and on a chart of sixteen mouths.
 *
 * @param sets the lines of each voice and folder: the first is what was learned from, those aside are last
 */
export function benchCheckRows(project, sets) {
  const [learned, ...others] = sets;
  const sixteen = { ...project, chart: project.core.starterChart('Sixteen', 'brush', 16) };
  const columns = [summed(project, [learned], 18), summed(project, others, 77), summed(sixteen, others.slice(1), 5)];
  const share = (counts) => (counts?.planted ? `${counts.found} / ${counts.planted}` : '–');
  const rows = project.core.NOTE_KINDS.flatMap((kind) => {
    const [first, judged, more] = columns.map(({ kinds }) => kinds.get(kind));
    if (!first && !judged && !more) return [];
    const mended = judged?.mendable ? `${judged.mended} / ${judged.mendable}` : '–';
    return [
      `| ${project.core.kindInWords(kind).name} | ${share(first)} | ${share(judged)} | ${mended} | ${judged?.invented ?? 0} | ${share(more)} | ${more?.invented ?? 0} |`,
    ];
  });
  return { rows, minutes: columns.map(({ minutes }) => minutes) };
}
