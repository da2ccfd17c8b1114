/** `zest key`: a reading to exposures. */
import {
  checkChart,
  checkReading,
  DEFAULT_RULES,
  FRAME_RATE_LIMITS,
  framesToHold,
  keySounds,
  maybeFrameRate,
  RULE_LIMITS,
  starterChart,
  upgradeChart,
  type ChartDocument,
  type Reading,
} from '@zest-jaw/core';
import { CannotDo, parseCommandLine, readJson, wholeNumber, WrongUse } from './outcome.js';

/** The chart of a file, or the starter chart. */
export function chartOf(file: string | undefined): ChartDocument {
  if (file === undefined) return starterChart('Thirteen mouths', 'brush');
  const read = readJson(file);
  // Charts exported before mouths could be drawn or placed are still good.
  const isOld = Array.isArray((read as Partial<ChartDocument> | null)?.drawings) && !Array.isArray((read as Partial<ChartDocument>).head);
  const chart = isOld ? upgradeChart(read as ChartDocument) : read;
  const [fault] = checkChart(chart);
  if (fault) throw new CannotDo(`${file}: ${fault}`);
  return chart as ChartDocument;
}

export async function keyCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseCommandLine(args, {
    fps: { type: 'string', default: '24' },
    hold: { type: 'string', default: String(DEFAULT_RULES.holdFrames) },
    lead: { type: 'string', default: String(DEFAULT_RULES.leadFrames) },
    strict: { type: 'boolean', default: false },
    chart: { type: 'string' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new WrongUse('Name one reading to key.');
  const frameRate = maybeFrameRate(values.fps);
  if (!frameRate)
    throw new WrongUse(
      `--fps is “${values.fps}”. It may be ${FRAME_RATE_LIMITS.slowest} to ${FRAME_RATE_LIMITS.fastest}, such as 24, 29.97 or 30000/1001.`,
    );
  const rules = {
    holdFrames: wholeNumber('hold', values.hold, RULE_LIMITS.holdFrames.least, RULE_LIMITS.holdFrames.most),
    leadFrames: wholeNumber('lead', values.lead, RULE_LIMITS.leadFrames.least, RULE_LIMITS.leadFrames.most),
    strict: values.strict,
  };
  const reading = readJson(file);
  const [fault] = checkReading(reading);
  if (fault) throw new CannotDo(`${file}: ${fault}`);
  const { durationSamples, phonemes } = reading as Reading;
  const length = Math.max(1, framesToHold(frameRate, durationSamples));
  const keyed = keySounds({ sounds: phonemes, frameRate, lengthFrames: length, chart: chartOf(values.chart), rules });
  process.stdout.write(`${JSON.stringify({ frameRate, length, exposures: keyed.exposures, notShown: keyed.notShown })}\n`);
}
