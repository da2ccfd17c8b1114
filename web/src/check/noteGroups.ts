/** Notes put together: by what they are, by phrase, or by how much they matter. */
import { kindInWords, NOTE_KINDS, NOTE_WEIGHTS, type Note, type NoteWeight } from '@zest-jaw/core';
import type { Span } from '@zest-jaw/core';

export type GroupedBy = 'kind' | 'phrase' | 'weight';

export interface NoteGroup {
  readonly id: string;
  readonly name: string;
  /** What they are, as a sentence. */
  readonly about: string;
  readonly notes: readonly Note[];
}

/** @param phrases the phrases of the scene with their words, in order */
export function noteGroups(notes: readonly Note[], by: GroupedBy, phrases: readonly (Span & { readonly text: string })[]): NoteGroup[] {
  const groups: NoteGroup[] =
    by === 'kind'
      ? NOTE_KINDS.map((id) => ({ id, ...kindInWords(id), notes: notes.filter(({ kind }) => kind === id) }))
      : by === 'weight'
        ? ([3, 2, 1] as const).map((weight: NoteWeight) => ({
            id: `weight ${weight}`,
            name: capital(NOTE_WEIGHTS[weight]),
            about: '',
            notes: notes.filter((note) => note.weight === weight),
          }))
        : byPhrase(notes, phrases);
  return groups.filter((group) => group.notes.length > 0);
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function byPhrase(notes: readonly Note[], phrases: readonly (Span & { readonly text: string })[]): NoteGroup[] {
  const groups = phrases.map(({ text, from }, index) => ({ id: `phrase ${from}`, name: text, about: '', index, notes: [] as Note[] }));
  const rest: Note[] = [];
  let at = 0;
  for (const note of notes) {
    const isWhole = note.from === 0 && note.weight === 1;
    while (at < phrases.length - 1 && phrases[at + 1]!.from <= note.from) at += 1;
    if (isWhole || phrases.length === 0) rest.push(note);
    else groups[at]!.notes.push(note);
  }
  return [...groups, { id: 'phrase none', name: 'The whole scene', about: '', notes: rest }];
}
