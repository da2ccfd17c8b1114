/** A reading as labels, and labels as a reading. */
import { maybeSymbolsOfIpa, ipaOf } from '../../phonetics/ipa.js';
import { maybeArpabet, type StressedSymbol } from '../../phonetics/phonemes.js';
import { checkReading, type ReadPhoneme, type Reading, type ReadWord } from '../../reading/reading.js';
import type { TimedLine } from '../../reading/timedLines.js';
import { SAMPLE_RATE } from '../../time/frameRate.js';
import { isInSampa, maybeSampa } from './sampa.js';
import { readTextGrid, writeTextGrid } from './textGrid.js';
import type { Label, LabelFault, LabelKind, LabelTier } from './labels.js';
import { LINES, readCaptions, readCtm, readTabbed, writeCtm, writeSrt, writeTabbed, writeVtt } from './timedText.js';

export function readLabels(kind: LabelKind, text: string): readonly LabelTier[] | LabelFault {
  if (kind === 'TextGrid') return readTextGrid(text);
  if (kind === 'ctm') return readCtm(text);
  if (kind === 'json') return readOwn(text);
  return kind === 'tsv' ? readTabbed(text) : readCaptions(text);
}

/** Our own: a reading as `zest read` prints it. */
function readOwn(text: string): readonly LabelTier[] | LabelFault {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return { line: 1, sentence: 'This is not JSON: a reading was expected, as zest read prints it.' };
  }
  const [fault] = checkReading(value);
  if (fault !== undefined) return { line: 1, sentence: fault };
  const { words, phonemes } = value as Reading;
  return [
    { name: 'words', labels: words.map((word) => asLabel(word, word.text)) },
    { name: 'phones', labels: phonemes.map((sound) => asLabel(sound, `${sound.symbol}${sound.stress ?? ''}`)) },
  ];
}

const asLabel = ({ from, to }: { readonly from: number; readonly to: number }, text: string): Label => ({
  from: from / SAMPLE_RATE,
  to: to / SAMPLE_RATE,
  text,
});

/** A gap between words this long begins another cue, in seconds. */
const PAUSE = 0.4;

function phrasesOf(words: readonly Label[]): Label[][] {
  const phrases: Label[][] = [];
  for (const word of words) {
    const last = phrases.at(-1);
    if (last && word.from - last.at(-1)!.to < PAUSE) last.push(word);
    else phrases.push([word]);
  }
  return phrases;
}

/** How sounds are written: ARPAbet with the digit of a vowel's stress, or IPA. */
export type SoundWriting = 'arpabet' | 'ipa';

/**
 * A reading in a format of labels; formats of one tier have its words.
 *
 * @param name of the recording, for formats that say it
 */
export function writeLabels(
  kind: LabelKind,
  reading: Reading,
  { name, sounds = 'arpabet' }: { readonly name: string; readonly sounds?: SoundWriting },
): string {
  if (kind === 'json') return `${JSON.stringify(reading, null, 1)}\n`;
  const words = reading.words.map((word) => asLabel(word, word.text));
  if (kind === 'TextGrid') {
    const written = ({ symbol, stress }: ReadPhoneme): string => (sounds === 'ipa' ? ipaOf(symbol) : `${symbol}${stress ?? ''}`);
    const phones = reading.phonemes.map((sound) => asLabel(sound, written(sound)));
    return writeTextGrid(
      [
        { name: 'words', labels: words },
        { name: 'phones', labels: phones },
      ],
      reading.durationSamples / SAMPLE_RATE,
    );
  }
  if (kind === 'vtt') return writeVtt(phrasesOf(words));
  if (kind === 'srt') return writeSrt(phrasesOf(words));
  if (kind === 'ctm')
    return writeCtm(
      words.map((word, index) => ({ ...word, sure: reading.words[index]!.confidence })),
      name.replace(/\s+/g, '_'),
    );
  return writeTabbed(words);
}

/** Usual names of tiers, in lower case. */
const WORD_TIERS = ['words', 'word', 'ort', 'orthography', 'utterance'];
const SOUND_TIERS = ['phones', 'phone', 'phonemes', 'phoneme', 'segments', 'sounds', 'mau', 'kan'];

/** What silence is called (common practice, no source). */
const SILENCE = new Set(['', 'sil', 'sp', 'spn', 'pau', '#', '##', '<eps>', '<sil>', '<p:>', '_', '-', '...', '[silence]', '(pause)']);

const isSilence = ({ text }: Label): boolean => SILENCE.has(text.trim().toLowerCase());

/** What a label of a sound says; undefined where it is no sound that is known. */
export function maybeSoundOfLabel(text: string): StressedSymbol | undefined {
  const bare = text.trim().replace(/^\/|\/$/g, '');
  const arpabet = maybeArpabet(bare.toUpperCase());
  if (arpabet && /^[A-Za-z]{1,2}[012]?$/.test(bare)) return arpabet;
  const ipa = maybeSymbolsOfIpa(bare);
  return ipa?.length === 1 ? ipa[0] : undefined;
}

/** How the labels of a tier are read: as SAMPA where one of them can be nothing else, and more of them are sounds in it than otherwise. */
function soundReader(labels: readonly Label[]): (text: string) => StressedSymbol | undefined {
  const texts = labels.map(({ text }) => text);
  const known = (read: (text: string) => StressedSymbol | undefined): number => texts.filter((text) => read(text) !== undefined).length;
  return isInSampa(texts) && known(maybeSampa) > known(maybeSoundOfLabel) ? maybeSampa : maybeSoundOfLabel;
}

/** Which tiers are words and sounds, by their names, else by what is in them. */
export function guessedTiers(tiers: readonly LabelTier[]): { readonly words: number | undefined; readonly sounds: number | undefined } {
  const named = (names: readonly string[]): number =>
    tiers.findIndex(({ name }) =>
      names.some((one) =>
        name
          .toLowerCase()
          .split(/[\s_-]+/)
          .includes(one),
      ),
    );
  const byName = { words: named(WORD_TIERS), sounds: named(SOUND_TIERS) };
  const soundShare = ({ labels }: LabelTier): number => {
    const said = labels.filter((label) => !isSilence(label));
    const soundOf = soundReader(said);
    return said.length === 0 ? 0 : said.filter(({ text }) => soundOf(text)).length / said.length;
  };
  const sounds = byName.sounds >= 0 ? byName.sounds : tiers.findIndex((tier, index) => index !== byName.words && soundShare(tier) > 0.8);
  const words = byName.words >= 0 ? byName.words : tiers.findIndex((tier, index) => index !== sounds && tier.labels.length > 0);
  return { words: words < 0 ? undefined : words, sounds: sounds < 0 ? undefined : sounds };
}

export interface LabelsAsReading {
  readonly reading: Reading;
  /** What is in the tier of sounds and is no sound that is known, each once, with how often. */
  readonly unknown: readonly (readonly [text: string, times: number])[];
}

/**
 * Labels as a reading: sounds belong to the word they lie in. Words without sounds in their tier
 * have none.
 *
 * @param taken what an unknown label is taken for, by its text; one that is not there is left out
 */
export function readingOfLabels(
  { words = [], sounds = [] }: { readonly words?: readonly Label[]; readonly sounds?: readonly Label[] },
  durationSamples: number,
  taken: ReadonlyMap<string, string> = new Map(),
): LabelsAsReading {
  const inSamples = ({ from, to }: Label): { from: number; to: number } => ({
    from: Math.min(durationSamples, Math.round(from * SAMPLE_RATE)),
    to: Math.min(durationSamples, Math.round(to * SAMPLE_RATE)),
  });
  const said = words
    .filter((label) => !isSilence(label))
    .map((label): ReadWord => ({ ...inSamples(label), text: label.text.slice(0, 200), confidence: 1 }))
    .filter(({ from, to }) => from < to);
  const unknown = new Map<string, number>();
  const soundOf = soundReader(sounds);
  let end = 0;
  const phonemes = sounds
    .filter((label) => !isSilence(label))
    .flatMap((label): ReadPhoneme[] => {
      const mapped = taken.get(label.text);
      const sound = mapped === undefined ? soundOf(label.text) : { symbol: mapped };
      if (!sound) unknown.set(label.text, (unknown.get(label.text) ?? 0) + 1);
      const span = inSamples(label);
      const from = Math.max(end, span.from);
      if (!sound || from >= span.to) return [];
      end = span.to;
      const middle = (from + span.to) / 2;
      const word = said.findIndex((one) => one.from <= middle && middle < one.to);
      const { symbol, stress } = sound as StressedSymbol;
      return [{ symbol, ...(stress === undefined ? {} : { stress }), from, to: span.to, confidence: 1, word: word < 0 ? null : word }];
    });
  return {
    reading: { sampleRate: SAMPLE_RATE, durationSamples, words: said, phonemes, warnings: [] },
    unknown: [...unknown],
  };
}

/** What a file of labels gives a recording beside which it lies: a reading, or lines that hold one to their times. */
export type GivenLabels = { readonly lines: readonly TimedLine[] } | LabelsAsReading;

/** Captions without the times of their words are lines; everything else is words and sounds. */
export function givenLabels(tiers: readonly LabelTier[], durationSamples: number): GivenLabels {
  const { words, sounds } = guessedTiers(tiers);
  const [first] = tiers;
  if (sounds === undefined && first?.name === LINES && (words === undefined || tiers[words] === first))
    return { lines: timedLines(first, durationSamples) };
  const labels = (index: number | undefined): readonly Label[] => (index === undefined ? [] : tiers[index]!.labels);
  return readingOfLabels({ words: labels(words), sounds: labels(sounds) }, durationSamples);
}

/** A tier as lines of a script; those past the recording's end are left out. */
export function timedLines({ labels }: LabelTier, durationSamples: number): TimedLine[] {
  return labels.flatMap(({ from, to, text }) => {
    const [fromSample, toSample] = [Math.round(from * SAMPLE_RATE), Math.min(durationSamples, Math.round(to * SAMPLE_RATE))];
    return fromSample < toSample ? [{ fromSample, toSample, text }] : [];
  });
}
