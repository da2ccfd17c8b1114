/** `zest key`: a reading to exposures. */
import {
  checkChart,
  checkReading,
  betweenFloorAndPeak,
  checkFeels,
  explainExposure,
  FEELS,
  floatsOf16Bit,
  heardFrames,
  FRAME_RATE_LIMITS,
  framesToHold,
  isKeyedByLoudness,
  fullRules,
  keySounds,
  maybeFrameRate,
  planTrack,
  rangeOfLoudness,
  RULE_LIMITS,
  ruledParts,
  sampleAtFrame,
  starterChart,
  upgradeChart,
  type ChartDocument,
  type FullRules,
  type HeardFrames,
  type KeyingJob,
  type KeyingRules,
  type PlannedTrack,
  type Reading,
} from '@zest-jaw/core';
import { faultsOfShape } from '@zest-jaw/engine/documents';
import { CannotDo, parseCommandLine, readBytes, readJson, wholeNumber, WrongUse } from './outcome.js';

/** The chart of a file, or the starter chart. */
export function chartOf(file: string | undefined): ChartDocument {
  if (file === undefined) return starterChart('Thirteen mouths', 'brush');
  const read = readJson(file);
  // Charts exported before mouths could be drawn or placed, or had places of their own, are still good.
  const hasDrawings = Array.isArray((read as Partial<ChartDocument> | null)?.drawings);
  const chart = hasDrawings ? upgradeChart(read as ChartDocument) : read;
  const [fault] = [...faultsOfShape('chart', chart), ...checkChart(chart)];
  if (fault) throw new CannotDo(`${file}: ${fault}`);
  return chart as ChartDocument;
}

/** The rules of a feel by its name, or of a file. */
function feelOf(nameOrFile: string): KeyingRules {
  const feel = FEELS.find(({ name }) => name.toLowerCase() === nameOrFile.toLowerCase());
  if (feel) return feel.rules;
  if (!/[./\\]/.test(nameOrFile))
    throw new WrongUse(
      `--feel is “${nameOrFile}”. It may be ${FEELS.map(({ name }) => name).join(', ')}, or a file of rules, for some frames with them before it: 24-60=Crisp.`,
    );
  const read = readJson(nameOrFile) as { rules?: unknown } | null;
  const rules = (read && typeof read === 'object' && 'rules' in read ? read.rules : read) as KeyingRules | null;
  if (!rules || typeof rules !== 'object' || Array.isArray(rules))
    throw new CannotDo(`${nameOrFile}: This is not a feel: it must be an object of rules. See docs/formats.md.`);
  const full = fullRules(rules);
  const [fault] = checkFeels([{ name: 'this one', look: '', rules: rules as FullRules }]);
  if (fault) throw new CannotDo(`${nameOrFile}: ${fault}`);
  return full;
}

interface AskedFeels {
  readonly whole: string;
  readonly phrases: readonly { readonly from: number; readonly to: number; readonly feel: string }[];
}

/** The feel of the whole and those of phrases: `Natural`, `24-60=Crisp`, frames counted from 0, the last one in it. */
function askedFeels(asked: readonly string[], length: number): AskedFeels {
  const phrases = asked.flatMap((text) => {
    const [, from, to, feel] = /^(\d+)-(\d+)=(.+)$/.exec(text) ?? [];
    if (feel === undefined) return [];
    const span = { from: Number(from), to: Number(to) + 1, feel };
    if (span.from >= span.to || span.to > length)
      throw new WrongUse(`--feel is “${text}”. Its frames may be 0-0 to 0-${length - 1}, the first before the last.`);
    return [span];
  });
  phrases.sort((a, b) => a.from - b.from);
  const clash = phrases.find((phrase, index) => phrase.from < (phrases[index - 1]?.to ?? 0));
  if (clash) throw new WrongUse(`--feel has two feels for frame ${clash.from}. Give each frame one.`);
  const whole = asked.filter((text) => !/^\d+-\d+=/.test(text));
  if (whole.length > 1) throw new WrongUse(`--feel is ${whole.join(' and ')}. Name one, and others for frames, such as 24-60=Crisp.`);
  return { whole: whole[0] ?? 'Natural', phrases };
}

async function heardIn(audio: string, frameRate: KeyingJob['frameRate'], length: number): Promise<HeardFrames> {
  const { decodeRecording } = await import('@zest-jaw/engine');
  const truth = await decodeRecording(readBytes(audio));
  if ('refusal' in truth) throw new CannotDo(`${audio}: ${truth.refusal}`);
  return heardFrames(floatsOf16Bit(truth.samples), frameRate, length);
}

function loudnessOf({ levels }: HeardFrames, { floorDb, peakDb }: FullRules): Float32Array {
  const own = rangeOfLoudness(levels);
  return betweenFloorAndPeak(levels, { floorDb: floorDb ?? own.floorDb, peakDb: peakDb ?? own.peakDb });
}

/** Why an exposure is there: the plan's reasons, or how loud it is. */
function reasonOf(job: KeyingJob, from: number, planned: PlannedTrack): object | null {
  const { plan, loudness } = explainExposure(job, { from, inked: false }, planned);
  return plan ?? (loudness === undefined ? null : { because: loudness });
}

export async function keyCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseCommandLine(args, {
    fps: { type: 'string', default: '24' },
    feel: { type: 'string', multiple: true, default: ['Natural'] },
    hold: { type: 'string' },
    lead: { type: 'string' },
    strict: { type: 'boolean' },
    chart: { type: 'string' },
    loudness: { type: 'string' },
    explain: { type: 'boolean', default: false },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new WrongUse('Name one reading to key.');
  const frameRate = maybeFrameRate(values.fps);
  if (!frameRate)
    throw new WrongUse(
      `--fps is “${values.fps}”. It may be ${FRAME_RATE_LIMITS.slowest} to ${FRAME_RATE_LIMITS.fastest}, such as 24, 29.97 or 30000/1001.`,
    );
  const { holdFrames, leadFrames } = RULE_LIMITS;
  const reading = readJson(file);
  const [fault] = checkReading(reading);
  if (fault) throw new CannotDo(`${file}: ${fault}`);
  const { durationSamples, phonemes } = reading as Reading;
  const length = Math.max(1, framesToHold(frameRate, durationSamples));
  const feels = askedFeels(values.feel, length);
  const withOptions = (rules: KeyingRules): KeyingRules => ({
    ...rules,
    ...(values.hold === undefined ? {} : { holdFrames: wholeNumber('hold', values.hold, holdFrames.least, holdFrames.most) }),
    ...(values.lead === undefined ? {} : { leadFrames: wholeNumber('lead', values.lead, leadFrames.least, leadFrames.most) }),
    ...(values.strict === undefined ? {} : { strict: values.strict }),
  });
  const asked = withOptions(feelOf(feels.whole));
  const heard = values.loudness === undefined ? undefined : await heardIn(values.loudness, frameRate, length);
  const phrases = feels.phrases.map(({ from, to, feel }) => {
    const own = withOptions(feelOf(feel));
    return {
      from: sampleAtFrame(frameRate, from),
      to: sampleAtFrame(frameRate, to),
      rules: own,
      ...(heard && { loudness: loudnessOf(heard, fullRules(own)) }),
    };
  });
  if (!heard && isKeyedByLoudness({ rules: asked, phrases }))
    throw new WrongUse('This feel keys by loudness. Name the recording with --loudness.');
  // Without sounds there is only the loudness to key by; with them it says how wide a mouth opens.
  const rules: KeyingRules = heard && phonemes.length === 0 ? { ...asked, source: 'loudness' } : asked;
  const loudness = heard && loudnessOf(heard, fullRules(rules));
  const job: KeyingJob = {
    sounds: phonemes,
    frameRate,
    lengthFrames: length,
    chart: chartOf(values.chart),
    rules,
    phrases,
    ...(heard && loudness ? { loudness, hiss: heard.hiss } : {}),
  };
  const keyed = keySounds(job);
  const planned = values.explain ? planTrack(ruledParts(job).rest) : undefined;
  const exposures = planned
    ? keyed.exposures.map((exposure) => ({ ...exposure, why: reasonOf(job, exposure.from, planned) }))
    : keyed.exposures;
  const { words } = reading as Reading;
  // What was keyed and by which rules goes with it: that is what it is checked by.
  const sounds = phonemes.map(({ symbol, stress, from, to, confidence, word }) => ({
    ...{ symbol, from, to, confidence, word },
    ...(stress !== undefined && { stress }),
  }));
  const ruled = feels.phrases.length > 0 ? { phrases: phrases.map(({ from, to, rules: own }) => ({ from, to, rules: own })) } : {};
  process.stdout.write(`${JSON.stringify({ frameRate, length, exposures, notShown: keyed.notShown, rules, ...ruled, words, sounds })}\n`);
}
