/** Several scenes of a production handed off at once: what can be wanted of each, and what the files are called. */
import { safeName } from '../formats/safeName.js';

export interface FileKind {
  readonly id: string;
  /** What it is called in the names of files. */
  readonly what: string;
  readonly ending: string;
  /** One for each lane; else one for the scene. */
  readonly ofLane: boolean;
  /** Of what is said: of mouths alone, not of other parts of a face. */
  readonly ofSpeech?: boolean;
  /** What it is, for the user. */
  readonly said: string;
}

/** Everything but films, which a browser encodes. Pictures are a folder of files. */
export const FILE_KINDS = [
  { id: 'pictures', what: 'pictures', ending: '', ofLane: true, said: 'Numbered pictures, PNG' },
  { id: 'timeline', what: 'timeline', ending: '.otio', ofLane: true, ofSpeech: true, said: 'Timeline, OpenTimelineIO' },
  { id: 'keys', what: 'keys', ending: '.csv', ofLane: true, said: 'Key list, CSV' },
  { id: 'weights', what: 'weights', ending: '.csv', ofLane: true, said: 'Weights, CSV' },
  { id: 'curves', what: 'curves', ending: '.csv', ofLane: true, ofSpeech: true, said: 'Curves, CSV' },
  { id: 'sheet-pdf', what: 'exposure sheet', ending: '.pdf', ofLane: false, said: 'Exposure sheet, PDF' },
  { id: 'sheet', what: 'exposure sheet', ending: '.csv', ofLane: false, said: 'Exposure sheet, CSV' },
  { id: 'captions', what: 'captions', ending: '.vtt', ofLane: true, ofSpeech: true, said: 'Captions, WebVTT' },
  { id: 'labels', what: 'labels', ending: '.TextGrid', ofLane: true, ofSpeech: true, said: 'Labels, TextGrid' },
  { id: 'shots-pdf', what: 'shooting list', ending: '.pdf', ofLane: true, said: 'Pull and shooting list, PDF' },
  { id: 'shots', what: 'shooting list', ending: '.csv', ofLane: true, said: 'Shooting list, CSV' },
] as const satisfies readonly FileKind[];
export type FileKindId = (typeof FILE_KINDS)[number]['id'];

/** What a pattern may hold, with what stands for it. */
export interface NameParts {
  readonly production: string;
  readonly scene: string;
  /** Empty for what is of the whole scene. */
  readonly speaker: string;
  readonly what: string;
  /** The scene's place in the list, from 1. */
  readonly number: number;
}

export const NAME_PARTS = ['production', 'scene', 'speaker', 'what', 'number'] as const satisfies readonly (keyof NameParts)[];
export const USUAL_PATTERN = '{scene}/{scene}, {speaker} {what}';
const MOST_LETTERS = 160;
const DIGITS = 3;

/** What is wrong with a pattern, as a sentence; undefined when nothing is. */
export function maybeFaultOfPattern(pattern: string): string | undefined {
  const unknown = [...pattern.matchAll(/\{([^{}]*)\}/g)].find(([, part]) => !(NAME_PARTS as readonly string[]).includes(part!));
  const may = NAME_PARTS.map((part) => `{${part}}`).join(', ');
  if (unknown) return `“${unknown[0]}” stands for nothing. A name may hold ${may}, letters, digits, spaces, - _ , and / for a folder.`;
  if (pattern.trim() === '' || pattern.length > MOST_LETTERS)
    return `The pattern has ${pattern.trim().length} letters. It may have 1 to ${MOST_LETTERS}; usual is ${USUAL_PATTERN}.`;
  if (/[{}]/.test(pattern.replace(/\{[^{}]*\}/g, '')))
    return `A brace of the pattern is left open. What stands for something is written ${may}.`;
  return undefined;
}

/** The path of a file in what is handed off, without its ending: folders and name such as every file system takes. */
export function fileNameOf(pattern: string, parts: NameParts): string {
  return pattern
    .split('/')
    .map((step) =>
      step
        .replace(/\{(\w+)\}/g, (_, part: keyof NameParts) => (part === 'number' ? String(parts.number).padStart(DIGITS, '0') : parts[part]))
        // Commas are kept, but not where what they parted is missing.
        .split(',')
        .map((piece) => piece.trim())
        .filter((piece) => piece !== '')
        .map(safeName)
        .join(', '),
    )
    .filter((step) => step !== '')
    .join('/');
}
