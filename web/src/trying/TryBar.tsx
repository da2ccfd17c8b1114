/** How many mouths would change were the rules at hand taken, with the two ways on. */
import { clsx } from 'clsx';
import type { ReactElement } from 'react';
import { Button } from '../ui/Button.js';
import type { Proposal } from './useProposal.js';

const inWords = ({ isTrying, isPlanned, changes }: Pick<Proposal, 'isTrying' | 'isPlanned' | 'changes'>): string => {
  if (!isTrying) return 'As it is keyed.';
  if (!isPlanned) return 'Working it out…';
  if (changes === 0) return 'No mouth would change.';
  return changes === 1 ? '1 mouth would change.' : `${changes} mouths would change.`;
};

interface TryBarProps {
  readonly proposal: Pick<Proposal, 'isTrying' | 'isPlanned' | 'changes' | 'leave'> & { readonly take: () => void };
  readonly className?: string;
}

export function TryBar({ proposal, className }: TryBarProps): ReactElement {
  const { isTrying, isPlanned, take, leave } = proposal;
  return (
    <div className={clsx('flex items-center gap-2', className)}>
      <span className="flex-1 text-[14px] text-ink-soft" role="status">
        {inWords(proposal)}
      </span>
      <Button className="px-3! py-1! text-[14px]!" disabled={!isTrying} onClick={() => leave()}>
        Leave it
      </Button>
      <Button weight="main" className="px-3! py-1! text-[14px]!" disabled={!isTrying || !isPlanned} onClick={() => take()}>
        Take it
      </Button>
    </div>
  );
}
