/** What people who looked at the scene say, beside what the checker says: gone to, seen to, removed. */
import { changeRemark, frameNumber, type Remark } from '@zest-jaw/core';
import { clsx } from 'clsx';
import { Check, Trash2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { useOpenScene, useSceneDocument } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';

export function RemarkList({ remarks }: { remarks: readonly Remark[] }): ReactElement | null {
  const { session, playhead } = useOpenScene();
  const document = useSceneDocument();
  if (remarks.length === 0) return null;
  const change = (id: string, to: { readonly done: boolean } | null): void =>
    void session.change(changeRemark(session.store.getState().document, id, to, newId));
  return (
    <section aria-label="What people say" className="mt-3 border-t border-rule pt-2">
      <h3 className="px-1 font-semibold">What people say</h3>
      <ul className="mt-0.5 text-[14px]">
        {remarks.map(({ id, frame, by, text, strokes, done }) => (
          <li key={id} className="flex items-start gap-1 rounded-[10px] hover:bg-lift" data-testid="remark">
            <button
              type="button"
              onClick={() => playhead.scrubTo(frame)}
              className="flex min-w-0 flex-1 gap-2 px-2 py-1 text-left leading-snug"
            >
              <span className="w-[38px] shrink-0 text-right tabular-nums text-ink-soft">{frameNumber(document, frame)}</span>
              <span className={clsx('min-w-0 flex-1', done && 'text-ink-soft line-through')}>
                <b className="font-semibold">{by}</b> {text === '' ? (strokes ? 'drew on the picture' : '') : text}
              </span>
            </button>
            <button
              type="button"
              aria-pressed={done ?? false}
              aria-label={`Seen to: ${by}, frame ${frameNumber(document, frame)}`}
              onClick={() => change(id, { done: !done })}
              className="rounded-full p-1 text-ink-soft hover:text-ink aria-pressed:text-good"
            >
              <Check size={16} aria-hidden />
            </button>
            <button
              type="button"
              aria-label={`Remove: ${by}, frame ${frameNumber(document, frame)}`}
              onClick={() => change(id, null)}
              className="rounded-full p-1 text-ink-soft hover:text-ink"
            >
              <Trash2 size={15} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
