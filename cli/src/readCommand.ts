/** `zest read`: a recording to a reading. */
import {
  givenLabels,
  isLabelFault,
  LABEL_KINDS,
  maybeAccent,
  maybeLabelKind,
  PLAIN_ACCENT,
  readLabels,
  readPronunciations,
  scriptOfLines,
  textOfLabels,
  waysByWord,
  type Reading,
  type ScriptLanguage,
} from '@zest-jaw/core';
import { decodeRecording, openRecogniser, readTrack, type ReadOptions, type Recogniser } from '@zest-jaw/engine';
import { CannotDo, parseCommandLine, readBytes, readText, WrongUse } from './outcome.js';

interface Line {
  readonly audio: string;
  readonly script: string | undefined;
}

function languageOf(text: string): ScriptLanguage {
  if (text === 'en' || text === 'fr' || text === 'ipa') return text;
  throw new WrongUse(`--language is “${text}”. It may be en or fr, or ipa for any language whose script is spelled in IPA.`);
}

/** How it is spoken: the accent, and the words that are said otherwise than in the dictionary. */
function speechOf(accentText: string | undefined, file: string | undefined, spelling: ScriptLanguage): ReadOptions {
  const accent = accentText === undefined ? PLAIN_ACCENT : maybeAccent(accentText);
  if (!accent)
    throw new WrongUse(
      `--accent is “${accentText}”. It may be us or gb, and with it non-rhotic, dropped-h, flapped-t, th-fronting, with commas between.`,
    );
  const pronunciations = file === undefined ? [] : readPronunciations(readText(file));
  if ('fault' in pronunciations) throw new CannotDo(`${file}: ${pronunciations.fault}`);
  return { accent, pronunciations: waysByWord(pronunciations), spelling };
}

async function readOne(recogniser: Recogniser, { audio, script }: Line, speech: ReadOptions): Promise<Reading> {
  const truth = await decodeRecording(readBytes(audio));
  if ('refusal' in truth) throw new CannotDo(`${audio}: ${truth.refusal}`);
  const reading = await readTrack(recogniser, truth, script, () => undefined, speech);
  if ('refusal' in reading) throw new CannotDo(`${audio}: ${reading.refusal}`);
  return reading;
}

/** A reading made of labels, as long as its recording; captions hold the recogniser to the times of their lines. What is taken for no sound is said beside it. */
async function readByLabels(audio: string, file: string, language: ScriptLanguage, speech: ReadOptions): Promise<Reading> {
  const truth = await decodeRecording(readBytes(audio));
  if ('refusal' in truth) throw new CannotDo(`${audio}: ${truth.refusal}`);
  const kind = maybeLabelKind(file);
  if (!kind) throw new CannotDo(`${file} is no file of labels by its name. It may end in ${LABEL_KINDS.join(', ')}, lab or txt.`);
  const tiers = readLabels(kind, textOfLabels(readBytes(file)));
  if (isLabelFault(tiers)) throw new CannotDo(`${file}, line ${tiers.line}: ${tiers.sentence}`);
  const given = givenLabels(tiers, truth.samples.length);
  if ('lines' in given) {
    const recogniser = await openRecogniser(language === 'fr' ? 'fr' : 'en');
    const reading = await readTrack(recogniser, truth, scriptOfLines(given.lines), () => undefined, { ...speech, lines: given.lines });
    if ('refusal' in reading) throw new CannotDo(`${audio}: ${reading.refusal}`);
    return reading;
  }
  for (const [text, times] of given.unknown) process.stderr.write(`“${text}” is no sound that is known; left out ${times} times.\n`);
  return given.reading;
}

function lineOf(text: string): Line {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new CannotDo('This line is not JSON. It should be {"audio": path, "script": text}.');
  }
  const { audio, script } = (value ?? {}) as { audio?: unknown; script?: unknown };
  if (typeof audio !== 'string') throw new CannotDo('This line has no “audio” path. It should be {"audio": path, "script": text}.');
  if (script !== undefined && script !== null && typeof script !== 'string') throw new CannotDo('The “script” of this line is not text.');
  return { audio, script: script ?? undefined };
}

async function readBatch(list: string, language: ScriptLanguage, speech: ReadOptions): Promise<void> {
  const lines = readText(list)
    .split(/\r?\n/)
    .filter((line) => line.trim() !== '');
  const recogniser = await openRecogniser(language === 'fr' ? 'fr' : 'en');
  for (const text of lines) {
    let answer: Reading | { error: string };
    try {
      answer = await readOne(recogniser, lineOf(text), speech);
    } catch (error) {
      answer = { error: error instanceof CannotDo ? error.message : 'This line could not be read.' };
    }
    process.stdout.write(`${JSON.stringify(answer)}\n`);
  }
}

export async function readCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseCommandLine(args, {
    script: { type: 'string' },
    'script-file': { type: 'string' },
    language: { type: 'string', default: 'en' },
    batch: { type: 'string' },
    accent: { type: 'string' },
    pronunciations: { type: 'string' },
    labels: { type: 'string' },
  });
  const language = languageOf(values.language);
  const speech = speechOf(values.accent, values.pronunciations, language);
  if (values.batch !== undefined) {
    if (positionals.length > 0 || values.script !== undefined || values['script-file'] !== undefined)
      throw new WrongUse('With --batch the recordings and scripts come from the list, one a line.');
    return readBatch(values.batch, language, speech);
  }
  const [audio, ...more] = positionals;
  if (audio === undefined || more.length > 0) throw new WrongUse('Name one recording to read.');
  if (values.labels !== undefined) {
    if (values.script !== undefined || values['script-file'] !== undefined)
      throw new WrongUse('With --labels what is said comes from the labels: leave the script out.');
    const reading = await readByLabels(audio, values.labels, language, speech);
    process.stdout.write(`${JSON.stringify(reading)}\n`);
    return;
  }
  if (values.script !== undefined && values['script-file'] !== undefined)
    throw new WrongUse('Give the script with --script or with --script-file, not both.');
  const script = values['script-file'] === undefined ? values.script : readText(values['script-file']);
  const recogniser = await openRecogniser(language === 'fr' ? 'fr' : 'en');
  const reading = await readOne(recogniser, { audio, script }, speech);
  process.stdout.write(`${JSON.stringify(reading)}\n`);
}
