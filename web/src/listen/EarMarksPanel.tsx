/** Marking by ear: type what is heard, even while it plays; the marks can be made into a reading. */
import {
  copyReadingToMarks,
  frameNumber,
  mergeEarMarks,
  moveEarMark,
  putEarMark,
  removeEarMark,
  type Clip,
  type ClipPart,
  type EarMark,
  type Patch,
  type Refusal,
  type SceneDocument,
} from '@zest-jaw/core';
import { ChevronLeft, ChevronRight, Merge, X } from 'lucide-react';
import { useState, type ReactElement, type ReactNode, type RefObject } from 'react';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { useFrame, useOpenScene, useSceneDocument, useSheet } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { MarksDialog } from './MarksDialog.js';

function Small({ label, onClick, children }: { label: string; onClick: () => void; children: ReactNode }): ReactElement {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={onClick}
      className="grid size-6 place-items-center rounded-full text-ink-soft hover:bg-rule-soft hover:text-ink"
    >
      {children}
    </button>
  );
}

export function EarMarksPanel({ clip, field }: { clip: Clip; field: RefObject<HTMLInputElement | null> }): ReactElement {
  const { session, playhead, sceneId } = useOpenScene();
  const document = useSceneDocument();
  const { data } = useSheet();
  const frame = useFrame();
  const [text, setText] = useState('');
  const [busy, setBusy] = useState(false);
  const [asking, setAsking] = useState(false);
  /** The frame the playhead was at when typing began: it may be playing on. */
  const [begunAt, setBegunAt] = useState(0);
  const change = (make: (scene: SceneDocument) => Patch | Refusal): boolean => session.change(make(session.store.getState().document));
  const at = text === '' ? frame : begunAt;
  const type = (next: string): void => {
    if (text === '') setBegunAt(playhead.store.getState().frame);
    setText(next);
  };
  const add = (): void => {
    if (change((scene) => putEarMark(scene, { characterId: clip.characterId, frame: at, text }, newId))) setText('');
  };
  const read = async (part?: ClipPart): Promise<void> => {
    setAsking(false);
    setBusy(true);
    try {
      await session.flush();
      const body = { clipId: clip.id, ...(part && { part }) };
      const { warnings } = await sendJson<{ warnings: string[] }>('POST', `/scenes/${sceneId}/marks/reading`, body);
      await session.refresh();
      if (warnings.length > 0) toast.warning(warnings.join(' '));
      else toast.success('The marks are the reading now, and the pencil is keyed by it. Ink stays, and undo takes it back.');
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  const replaced = (part: ClipPart): number =>
    document.words.filter((word) => word.clip === clip.id && word.fromSample < part.toSample && word.toSample > part.fromSample).length;
  const copy = (): void => void change((scene) => copyReadingToMarks(scene, clip, newId));
  const row = (mark: EarMark): ReactElement => (
    <li key={mark.id} className="flex items-center gap-1 border-b border-rule-soft py-0.5">
      <button
        type="button"
        onClick={() => playhead.scrubTo(mark.frame)}
        className="w-[52px] rounded text-left text-[14px] text-ink-soft hover:text-ink"
      >
        {frameNumber(document, mark.frame)}
      </button>
      <span className="min-w-0 flex-1 truncate font-semibold">{mark.text}</span>
      <Small label={`${mark.text}: a frame earlier`} onClick={() => change((scene) => moveEarMark(scene, mark.id, mark.frame - 1, newId))}>
        <ChevronLeft size={15} />
      </Small>
      <Small label={`${mark.text}: a frame later`} onClick={() => change((scene) => moveEarMark(scene, mark.id, mark.frame + 1, newId))}>
        <ChevronRight size={15} />
      </Small>
      <Small label={`${mark.text}: merge with the next`} onClick={() => change((scene) => mergeEarMarks(scene, mark.id, newId))}>
        <Merge size={14} />
      </Small>
      <Small label={`Remove ${mark.text}`} onClick={() => change((scene) => removeEarMark(scene, mark.id, newId))}>
        <X size={14} />
      </Small>
    </li>
  );
  return (
    <section className="flex min-h-0 flex-col gap-2" aria-label="Ear marks">
      <label className="flex flex-col gap-1 font-semibold">
        {`What do you hear at frame ${frameNumber(document, at)}?`}
        <input
          ref={field}
          className="field font-normal"
          value={text}
          maxLength={40}
          placeholder="a word, ee, mm, sh, /ʃ/, – for silence"
          onChange={(event) => type(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') add();
            else if (event.key === 'Escape') event.currentTarget.blur();
          }}
        />
      </label>
      <p className="text-[14px] leading-snug text-ink-soft">
        M brings you here, also while it plays; Enter writes it down where you began to type. A mark lasts until the next one.
      </p>
      <ul className="max-h-[240px] min-h-0 overflow-y-auto" aria-label="Marks">
        {data.marks.map(row)}
      </ul>
      <div className="flex flex-wrap gap-2">
        <Button
          weight="main"
          disabled={busy || data.marks.length === 0}
          onClick={() => (replaced(clip) > 0 ? setAsking(true) : void read())}
        >
          Make these the reading
        </Button>
        {data.marks.length === 0 && replaced(clip) > 0 && <Button onClick={copy}>Begin with what was read</Button>}
      </div>
      {asking && <MarksDialog clip={clip} replaced={replaced} onRead={(part) => void read(part)} onClose={() => setAsking(false)} />}
    </section>
  );
}
