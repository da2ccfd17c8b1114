/** How well and how fast recordings are read: the labelled lines clean, raised, in noise, without a script and with a wrong one. */
import { spawnSync } from 'node:child_process';
import { performance } from 'node:perf_hooks';

const percent = (value) => `${(100 * value).toFixed(1)} %`;
const SEMITONES_6 = Math.SQRT2;

function generator(seed) {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 4_294_967_296;
  };
}

/** Pink noise by Paul Kellet's filter of white noise (published on the music-dsp list, 1999; coefficients from memory). */
function pinkNoise(length, random) {
  const noise = new Float32Array(length);
  const state = [0, 0, 0, 0, 0, 0];
  const poles = [0.99886, 0.99332, 0.969, 0.8665, 0.55, -0.7616];
  const gains = [0.0555179, 0.0750759, 0.153852, 0.3104856, 0.5329522, -0.016898];
  for (let index = 0; index < length; index++) {
    const white = random() * 2 - 1;
    let sum = white * 0.5362;
    for (let filter = 0; filter < 6; filter++) sum += state[filter] = poles[filter] * state[filter] + white * gains[filter];
    noise[index] = sum;
  }
  return noise;
}

const scaled = (sounds, factor) => sounds.map((sound) => ({ ...sound, from: sound.from * factor, to: sound.to * factor }));

/** A room: four combs and two all-passes (M. Schroeder, "Natural sounding artificial reverberation", 1962), the voice louder than the room by 6 dB. */
function inARoom(voice, rate) {
  let room = new Float32Array(voice.length);
  for (const seconds of [0.0297, 0.0371, 0.0411, 0.0437]) {
    const delay = Math.round(seconds * rate);
    const comb = Float32Array.from(voice);
    for (let index = delay; index < comb.length; index++) comb[index] += 0.7 * comb[index - delay];
    comb.forEach((value, index) => (room[index] += value / 4));
  }
  for (const seconds of [0.005, 0.0017]) {
    const delay = Math.round(seconds * rate);
    const passed = new Float32Array(room.length);
    room.forEach((value, index) => {
      const late = index < delay ? 0 : room[index - delay] + 0.7 * passed[index - delay];
      passed[index] = late - 0.7 * value;
    });
    room = passed;
  }
  return voice.map((value, index) => value + 0.5 * room[index]);
}

/** 300 to 3 400 Hz: a telephone. */
function byTelephone(core, voice) {
  const narrow = core.resample(core.resample(voice, 48_000, 7_000), 7_000, 48_000);
  const pole = Math.exp((-2 * Math.PI * 300) / 48_000);
  let [low, lower] = [0, 0];
  return narrow.subarray(0, voice.length).map((value) => {
    low = pole * low + (1 - pole) * value;
    lower = pole * lower + (1 - pole) * (value - low);
    return value - low - lower;
  });
}

/** Six semitones up with the length kept, formants and all, by ffmpeg; nothing where there is none. */
function raised(wave) {
  const filter = `asetrate=48000*${SEMITONES_6},aresample=48000,atempo=${1 / SEMITONES_6}`;
  const made = spawnSync('ffmpeg', ['-loglevel', 'error', '-i', 'pipe:0', '-af', `aresample=48000,${filter}`, '-f', 'wav', 'pipe:1'], {
    input: wave,
  });
  return made.status === 0 ? made.stdout : undefined;
}

/** Three chords on a made-up organ, 12 dB below the voice. */
function overMusic(voice) {
  const chords = [
    [220, 277.2, 329.6],
    [196, 246.9, 293.7],
    [174.6, 220, 261.6],
  ];
  const music = voice.map((_, index) =>
    chords[Math.floor(index / 36_000) % 3].reduce((sum, hertz) => sum + Math.sin((2 * Math.PI * hertz * index) / 48_000), 0),
  );
  const power = (samples) => samples.reduce((sum, value) => sum + value * value, 0);
  const gain = Math.sqrt(power(voice) / power(music) / 10 ** 1.2);
  return voice.map((value, index) => value + gain * music[index]);
}

/** The harder cases, for the lines kept aside. */
function asideCasesOf(core) {
  const floats = (line) => core.floatsOf16Bit(core.truthOfWave(line.wave).samples);
  const made = (change) => (line) => ({
    truth: { samples: core.ditherTo16Bit(change(floats(line))) },
    sounds: line.sounds,
    script: line.script,
  });
  return {
    'kept aside, clean': made((voice) => voice),
    'kept aside, in a room': made((voice) => inARoom(voice, 48_000)),
    'kept aside, by telephone': made((voice) => byTelephone(core, voice)),
    'kept aside, 30 dB down': made((voice) => voice.map((value) => value / 31.6)),
    'kept aside, over music 12 dB below': made(overMusic),
    'kept aside, no script': (line) => ({ ...made((voice) => voice)(line), script: undefined }),
  };
}

/** Each case makes of a labelled line what is read: the recording, its labels, the script, and which of its words are wrong. */
function casesOf(core, lines) {
  const floats = (line) => core.floatsOf16Bit(core.truthOfWave(line.wave).samples);
  const truth = (samples) => ({ samples: core.ditherTo16Bit(samples) });
  const random = generator(5);
  const words = [...new Set(lines.flatMap((line) => core.scriptWords(line.script).map((word) => word.spoken)))];
  return {
    'scripted, clean': (line) => ({ truth: core.truthOfWave(line.wave), sounds: line.sounds, script: line.script }),
    'six semitones up': (line) => ({
      truth: truth(core.resample(floats(line), Math.round(48_000 * SEMITONES_6), 48_000)),
      sounds: scaled(line.sounds, 1 / SEMITONES_6),
      script: line.script,
    }),
    'six semitones up, length kept': (line) => {
      const wave = raised(line.wave);
      return wave && { truth: core.truthOfWave(wave), sounds: line.sounds, script: line.script };
    },
    'pink noise 10 dB below': (line) => {
      const voice = floats(line);
      const noise = pinkNoise(voice.length, random);
      const power = (samples) => samples.reduce((sum, value) => sum + value * value, 0);
      const gain = Math.sqrt(power(voice) / power(noise) / 10);
      return { truth: truth(voice.map((value, index) => value + gain * noise[index])), sounds: line.sounds, script: line.script };
    },
    'no script': (line) => ({ truth: core.truthOfWave(line.wave), sounds: line.sounds, script: undefined }),
    'one word in five wrong': (line) => {
      const spoken = core.scriptWords(line.script).map((word) => word.spoken);
      const wrong = spoken.map((word, index) => {
        if (index % 5 !== 3) return undefined;
        let other = word;
        while (other === word) other = words[Math.floor(random() * words.length)];
        return other;
      });
      return {
        truth: core.truthOfWave(line.wave),
        sounds: line.sounds,
        script: spoken.map((word, index) => wrong[index] ?? word).join(' '),
        wrong,
      };
    },
  };
}

/** Share of the frames of 10 ms whose sound group is right. */
function groupsRight(core, chart, phonemes, sounds, length) {
  const groupAt = (list, at) => {
    const sound = list.find((candidate) => candidate.from <= at && at < candidate.to);
    return sound ? (core.maybeGroupOfPhoneme(chart.groups, sound.symbol)?.id ?? 'rest') : 'rest';
  };
  let [right, all] = [0, 0];
  for (let at = 240; at < length; at += 480) {
    all += 1;
    if (groupAt(phonemes, at) === groupAt(sounds, at)) right += 1;
  }
  return { right, all };
}

/** Labelled lines one after another, over and over until it is so long, with a pause between; seconds. */
function takeOf(core, lines, seconds, pause) {
  const gap = Math.round(pause * 48_000);
  const parts = [];
  const script = [];
  let length = 0;
  for (let line = 0; length < seconds * 48_000; line++) {
    const { wave, script: spoken } = lines[line % lines.length];
    const { samples } = core.truthOfWave(wave);
    parts.push(samples);
    script.push(spoken);
    length += samples.length + gap;
  }
  const samples = new Int16Array(length);
  let at = 0;
  for (const part of parts) {
    samples.set(part, at);
    at += part.length + gap;
  }
  return { samples, script: script.join(' ') };
}

/** Two voices who answer each other line by line, hardly a pause between, and each of them alone. */
async function benchTwoVoices({ core, lines, recogniser, readTrack }) {
  const of = (voice) => lines.filter((line) => line.voice === voice);
  const [one, other] = [...new Set(lines.map((line) => line.voice))];
  const inTurn = of(one).flatMap((line, index) => [line, of(other)[index]]);
  const rows = [];
  for (const [name, spoken, pause] of [
    [`${one} alone`, of(one), 0.2],
    [`${other} alone`, of(other), 0.2],
    ['in turn, 0.2 s between', inTurn, 0.2],
    ['in turn, 0.05 s between', inTurn, 0.05],
  ]) {
    const { samples, script } = takeOf(core, spoken, 142, pause);
    const before = process.cpuUsage();
    const reading = await readTrack(recogniser, { samples }, script);
    const { user, system } = process.cpuUsage(before);
    const words = core.scriptWords(script).length;
    rows.push(
      `| ${name} | ${words} | ${words - reading.words.length} | ${(samples.length / 48_000 / ((user + system) / 1e6)).toFixed(1)} × |`,
    );
  }
  return rows;
}

/** A take of twenty minutes: the labelled lines over and over, with half a second between. */
async function benchLongTake({ core, lines, recogniser, readTrack }) {
  const { samples, script } = takeOf(core, lines, 20 * 60, 0.5);
  const { length } = samples;
  const before = process.memoryUsage().rss;
  let most = before;
  let firstWords;
  const started = performance.now();
  const reading = await readTrack(recogniser, { samples }, script, (_, doing) => {
    most = Math.max(most, process.memoryUsage().rss);
    if (/^[1-9]\d* of \d+ words found/.test(doing)) firstWords ??= (performance.now() - started) / 1000;
  });
  const time = (performance.now() - started) / 1000;
  const words = core.scriptWords(script).length;
  return {
    minutes: length / 48_000 / 60,
    found: reading.words.length / words,
    megabytes: (most - before) / 1e6,
    firstWords,
    speed: length / 48_000 / time,
  };
}

export async function benchReading({ core, chart, lines, aside, openRecogniser, readTrack }) {
  const opening = performance.now();
  const recogniser = await openRecogniser('en');
  const opened = performance.now() - opening;
  const rows = [];
  const cases = [
    ...Object.entries(casesOf(core, lines)).map(([name, make]) => [name, make, lines]),
    ...Object.entries(asideCasesOf(core)).map(([name, make]) => [name, make, aside]),
  ];
  for (const [name, make, spoken] of cases) {
    for (const voice of new Set(spoken.map((line) => line.voice))) {
      const errors = [];
      const total = { audio: 0, failed: 0, time: 0, right: 0, all: 0, said: 0, found: 0, near: 0 };
      for (const line of spoken.filter((candidate) => candidate.voice === voice)) {
        const made = make(line);
        if (!made) continue;
        const { truth, sounds, script, wrong } = made;
        total.audio += truth.samples.length / 48_000;
        const started = performance.now();
        const reading = await readTrack(recogniser, truth, script);
        total.time += (performance.now() - started) / 1000;
        if ('refusal' in reading) {
          total.failed += 1;
          continue;
        }
        const seconds = (list) => list.map(({ symbol, from }) => ({ symbol, fromSeconds: from / 48_000 }));
        errors.push(...core.boundaryErrors(seconds(reading.phonemes), seconds(sounds)));
        if (script === undefined) {
          const { right, all } = groupsRight(core, chart, reading.phonemes, sounds, truth.samples.length);
          total.right += right;
          total.all += all;
        }
        if (wrong) {
          // Where each word is, by the reading with the right script.
          const reference = await readTrack(recogniser, truth, line.script);
          const text = (list) => list.map((word) => word.text.toLowerCase());
          const pairs = new Map(core.matchSymbols(text(reading.words), text(reference.words)).map(([read, meant]) => [meant, read]));
          reference.words.forEach((word, index) => {
            if (wrong[index]) return;
            total.said += 1;
            const read = pairs.get(index);
            if (read === undefined) return;
            total.found += 1;
            if (Math.abs(reading.words[read].from - word.from) <= 2000) total.near += 1;
          });
        }
      }
      const also =
        total.all > 0
          ? `${percent(total.right / total.all)} of frames in the right group`
          : total.said > 0
            ? `${percent(total.found / total.said)} of the words said found, ${percent(total.near / total.said)} within a frame`
            : '';
      rows.push(
        `| ${name}, ${voice} | ${percent(core.shareWithin(errors, 0.02))} | ${percent(core.shareWithin(errors, 1 / 24))} | ${total.failed} | ${(total.audio / total.time).toFixed(1)} × | ${also} |`,
      );
    }
  }
  const inTurn = await benchTwoVoices({ core, lines: [...lines, ...aside], recogniser, readTrack });
  const long = await benchLongTake({ core, lines, recogniser, readTrack });
  return { opened, rows, inTurn, long };
}
