/** What the check allows in a production: each limit with what it does, as the feel of the lane has it until it is changed. */
import { checkLimits, fullRules, LIMIT_WORDS, limitsOf, type CheckLimits } from '@zest-jaw/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { useSpeaker } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { limitsKey, useLimits } from './NotesRoom.js';

const NAMES = Object.keys(LIMIT_WORDS) as (keyof CheckLimits)[];

export function LimitsDialog({ productionId, onClose }: { productionId: string; onClose: () => void }): ReactElement {
  const client = useQueryClient();
  const { track } = useSpeaker();
  const kept = useLimits(productionId);
  const usual = limitsOf(fullRules(track.rules));
  const [typed, setTyped] = useState<Readonly<Partial<Record<keyof CheckLimits, string>>>>({});
  const save = useMutation({
    mutationFn: (limits: Partial<CheckLimits>) => sendJson<Partial<CheckLimits>>('PUT', `/productions/${productionId}/limits`, { limits }),
    onSuccess: (limits) => client.setQueryData(limitsKey(productionId), limits),
    onError: (error) => toast.error(sentenceOf(error)),
  });
  const change = (name: keyof CheckLimits, text: string): void => {
    setTyped((before) => ({ ...before, [name]: text }));
    const { [name]: _, ...others } = kept;
    const value = Number(text.replace(',', '.'));
    const next: Partial<CheckLimits> = text.trim() === '' ? others : { ...others, [name]: value };
    if (checkLimits(next).length === 0) save.mutate(next);
  };
  return (
    <Modal
      open
      wide
      title="What the check allows"
      description="For every scene of this production. Empty is as the feel of a lane has it."
      onClose={onClose}
    >
      <table className="mt-4 w-full text-left text-[15px]">
        <tbody>
          {NAMES.map((name) => {
            const { name: said, about, unit, least, most, step } = LIMIT_WORDS[name];
            const text = typed[name] ?? (kept[name] === undefined ? '' : String(kept[name]));
            const [fault] = text.trim() === '' ? [] : checkLimits({ [name]: Number(text.replace(',', '.')) });
            return (
              <tr key={name} className="border-t border-rule-soft align-baseline">
                <th scope="row" className="py-1.5 pr-3 font-semibold">
                  <label htmlFor={`limit-${name}`}>{said}</label>
                </th>
                <td className="py-1.5 pr-3 text-ink-soft">
                  {about}
                  {fault && (
                    <span role="alert" className="block text-bad">
                      {fault}
                    </span>
                  )}
                </td>
                <td className="whitespace-nowrap py-1.5">
                  <input
                    id={`limit-${name}`}
                    inputMode="decimal"
                    value={text}
                    placeholder={String(Math.round(usual[name] * 1000) / 1000)}
                    title={`${least} to ${most}, in steps of ${step}`}
                    aria-invalid={fault !== undefined}
                    onChange={({ target }) => change(name, target.value)}
                    className="w-[76px] rounded-lg border border-rule bg-lift px-2 py-1 text-right tabular-nums aria-[invalid=true]:border-bad"
                  />
                  <span className="ml-2 text-[14px] text-ink-soft">{unit}</span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div className="mt-5 flex justify-end gap-2">
        <Button
          disabled={Object.keys(kept).length === 0}
          onClick={() => {
            setTyped({});
            save.mutate({});
          }}
        >
          All as the feels have it
        </Button>
        <Button weight="main" onClick={onClose}>
          Done
        </Button>
      </div>
    </Modal>
  );
}
