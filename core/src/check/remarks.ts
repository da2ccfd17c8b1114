/** What people say of a scene beside its mouths: notes of the checker they set aside, and remarks at a frame. */
import { putsOf, type Patch } from '../document/patch.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import type { Note } from './note.js';
import { sceneSettings, type Aside, type Remark, type SceneDocument } from '../scene/sceneDocument.js';

const put = putsOf<SceneDocument>();

export const REMARK_LIMITS = { name: 60, letters: 1000, remarks: 2000, asides: 5000, strokes: 60, numbers: 400 } as const;

/** Notes as the scene has them: those that were set aside, where nothing has changed since, apart from the others. */
export function notesAside<N extends Pick<Note, 'id' | 'look'>>(
  notes: readonly N[],
  asides: readonly Aside[],
): { open: N[]; aside: { note: N; aside: Aside }[] } {
  const byNote = new Map(asides.map((aside) => [aside.note, aside]));
  const open: N[] = [];
  const put: { note: N; aside: Aside }[] = [];
  for (const note of notes) {
    const aside = byNote.get(note.id);
    if (aside && aside.look === note.look) put.push({ note, aside });
    else open.push(note);
  }
  return { open, aside: put };
}

/** Sets notes aside; what was set aside before of the same ones is replaced. */
export function setNotesAside(
  scene: SceneDocument,
  notes: readonly Pick<Note, 'id' | 'look'>[],
  reason: string,
  newId: IdSource,
): Patch | Refusal {
  if (notes.length === 0) return { refusal: 'There is no note to set aside.' };
  if (scene.asides.length + notes.length > REMARK_LIMITS.asides)
    return { refusal: `A scene has ${REMARK_LIMITS.asides} notes set aside at most. Take some back first.` };
  const byNote = new Map(scene.asides.map((aside) => [aside.note, aside]));
  const said = reason.trim().slice(0, 300);
  return {
    id: newId(),
    reason: 'note.aside',
    ops: notes.map(({ id, look }) => {
      const before = byNote.get(id) ?? null;
      return put('asides', before, { id: before?.id ?? newId(), note: id, look, reason: said });
    }),
  };
}

/** Takes back what was set aside. */
export function takeNotesBack(scene: SceneDocument, asides: readonly Aside[], newId: IdSource): Patch | Refusal {
  const there = scene.asides.filter(({ id }) => asides.some((aside) => aside.id === id));
  if (there.length === 0) return { refusal: 'That note is not set aside any more.' };
  return { id: newId(), reason: 'note.back', ops: there.map((aside) => put('asides', aside, null)) };
}

export type RemarkWords = Pick<Remark, 'frame' | 'by' | 'text' | 'strokes'>;

export function addRemark(scene: SceneDocument, said: RemarkWords, newId: IdSource): Patch | Refusal {
  const { lengthFrames } = sceneSettings(scene);
  const [by, text] = [said.by.trim().slice(0, REMARK_LIMITS.name), said.text.trim().slice(0, REMARK_LIMITS.letters)];
  if (by === '') return { refusal: 'Say who you are first, so that others know whom to ask.' };
  if (text === '' && !said.strokes?.length) return { refusal: 'Write something, or draw on the picture.' };
  if (scene.remarks.length >= REMARK_LIMITS.remarks) return { refusal: `A scene has ${REMARK_LIMITS.remarks} remarks at most.` };
  const frame = Math.max(0, Math.min(lengthFrames - 1, said.frame));
  const remark: Remark = { id: newId(), frame, by, text, ...(said.strokes?.length ? { strokes: said.strokes } : {}) };
  return { id: newId(), reason: 'remark.put', ops: [put('remarks', null, remark)] };
}

/** Marks a remark as seen to, or not yet; null removes it. */
export function changeRemark(
  scene: SceneDocument,
  id: string,
  change: { readonly done: boolean } | null,
  newId: IdSource,
): Patch | Refusal {
  const remark = scene.remarks.find((one) => one.id === id);
  if (!remark) return { refusal: 'That remark is not there any more.' };
  if (change === null) return { id: newId(), reason: 'remark.remove', ops: [put('remarks', remark, null)] };
  const { done: _, ...bare } = remark;
  return { id: newId(), reason: 'remark.put', ops: [put('remarks', remark, change.done ? { ...bare, done: true } : bare)] };
}
