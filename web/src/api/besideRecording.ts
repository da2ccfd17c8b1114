/** A file of labels or captions that lies beside a recording: what it gives of what is said. */
import {
  givenLabels,
  isLabelFault,
  maybeLabelKind,
  readLabels,
  scriptOfLines,
  textOfLabels,
  type Reading,
  type TimedLine,
} from '@zest-jaw/core';
import { skipToken, useQuery } from '@tanstack/react-query';
import { count } from '../ui/count.js';

export interface Given {
  /** What a request says of it. */
  readonly request: { readonly lines: readonly TimedLine[] } | { readonly reading: Reading } | Record<string, never>;
  readonly script: string;
  /** What is taken of it, or why nothing is. */
  readonly sentence: string;
  readonly isFault: boolean;
}

async function readBeside(file: File, lengthSamples: number): Promise<Given> {
  const text = textOfLabels(new Uint8Array(await file.arrayBuffer()));
  const kind = maybeLabelKind(file.name)!;
  const tiers = readLabels(kind, text);
  if (isLabelFault(tiers)) {
    // A text that is no table of labels is the script.
    if (/\.txt$/i.test(file.name) && !text.includes('\t'))
      return { request: {}, script: text.trim(), sentence: `What is said comes from ${file.name}.`, isFault: false };
    return { request: {}, script: '', sentence: `${file.name}, line ${tiers.line}: ${tiers.sentence} It is left out.`, isFault: true };
  }
  const given = givenLabels(tiers, lengthSamples);
  if ('lines' in given)
    return {
      request: { lines: given.lines },
      script: scriptOfLines(given.lines),
      sentence: `${file.name}: ${count(given.lines.length, 'line', 'lines')} with their times; each is looked for around its own.`,
      isFault: false,
    };
  const { reading, unknown } = given;
  const left =
    unknown.length === 0
      ? ''
      : ` ${count(unknown.length, 'symbol is', 'symbols are')} no known sound and left out; bring it in on Listen to say what they are.`;
  return {
    request: { reading },
    script: reading.words.map(({ text: word }) => word).join(' '),
    sentence: `${file.name}: ${count(reading.words.length, 'word', 'words')} and ${count(reading.phonemes.length, 'sound', 'sounds')} are its reading.${left}`,
    isFault: false,
  };
}

/** What a file beside a recording gives, once it is known how long that is. */
export function useGiven(file: File | undefined, lengthSamples: number | undefined): Given | undefined {
  return useQuery({
    queryKey: ['beside', file?.name, file?.size, file?.lastModified, lengthSamples],
    queryFn: file && lengthSamples !== undefined ? () => readBeside(file, lengthSamples) : skipToken,
    gcTime: 0,
    staleTime: Infinity,
  }).data;
}
