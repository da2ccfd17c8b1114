/** How the reading stands, above the bar sheet: under way, gone wrong, or with something to listen to again. */
import { AlertTriangle, Loader } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { Link } from 'react-router';
import { cancelJob } from '../api/job.js';
import { hasEnded } from '@zest-jaw/core';
import { Button } from '../ui/Button.js';
import { useOffer } from '../listen/OfferRoom.js';
import { OfferStrip } from '../listen/OfferStrip.js';
import { useReadingJob, useSceneDocument } from './sceneContext.js';
import { Progress } from '../ui/Progress.js';

export function ReadingStrip(): ReactElement | null {
  const document = useSceneDocument();
  const reading = useReadingJob();
  const offer = useOffer();
  const [dismissed, setDismissed] = useState<string>();
  if (offer) return <OfferStrip offer={offer} />;
  if (!reading || dismissed === reading.id) return null;
  if (!hasEnded(reading)) {
    return (
      <div
        className="mb-3 flex items-center gap-4 rounded-xl border border-rule bg-lift px-4 py-2.5"

        data-testid="reading-progress"
      >
        <Loader size={16} className="animate-spin text-ink-soft" aria-hidden />
        <span className="w-[230px] font-semibold">Reading the track</span>
        <Progress label="Reading the track" done={reading.done} message={reading.message} className="flex-1" />
        <Button weight="bare" onClick={() => void cancelJob(reading.id)}>
          Cancel
        </Button>
      </div>
    );
  }
  const failed = reading.state === 'failed' || (reading.state === 'cancelled' && document.phonemes.length === 0);
  const text = failed
    ? reading.state === 'cancelled'
      ? 'The reading was cancelled; nothing has been read yet.'
      : reading.message
    : reading.warnings.join(' ');
  if (text === '') return null;
  return (
    <div
      className={`mb-3 flex items-center gap-3 rounded-xl border px-4 py-2 ${failed ? 'border-bad bg-bad-soft' : 'border-zest bg-zest-soft'}`}
      role={failed ? 'alert' : 'status'}
    >
      <AlertTriangle size={17} className="shrink-0" aria-hidden />
      <p className="flex-1 text-[14px]">{text}</p>
      <Link to="../listen" relative="path" className="shrink-0 font-semibold underline underline-offset-2">
        Go to Listen
      </Link>
      {!failed && (
        <Button weight="bare" className="text-ink!" onClick={() => setDismissed(reading.id)}>
          Dismiss
        </Button>
      )}
    </div>
  );
}
