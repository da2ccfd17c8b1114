/** What is in a recording, at a glance, and what to do about it. */
import type { ClipFacts } from '@zest-jaw/core';
import type { ReactElement } from 'react';

/** Decibels from here to full scale are shown as a bar. */
const LOWEST_DB = -60;

const GROUNDS: Readonly<Record<ClipFacts['ground'], string>> = { quiet: 'quiet', noise: 'noise', tones: 'music or hum' };

function Level({ label, db }: { label: string; db: number }): ReactElement {
  const share = Math.max(0, Math.min(1, 1 - db / LOWEST_DB));
  return (
    <div className="flex items-center gap-2 text-[13px] text-ink-soft">
      <span className="w-[52px]">{label}</span>
      <div className="h-1.5 flex-1 rounded-full bg-rule-soft">
        <div className="h-full rounded-full bg-ink-soft" style={{ width: `${share * 100}%` }} />
      </div>
      <span className="w-[52px] text-right">{Math.round(db)} dB</span>
    </div>
  );
}

export function ClipFactsPanel({ facts }: { facts: ClipFacts }): ReactElement {
  const { peakDb, speechDb, floorDb, clipped, speech, ground, advice } = facts;
  return (
    <section className="flex flex-col gap-1" aria-label="What is in the recording" data-testid="clip-facts">
      <h2 className="name text-[19px]">In the recording</h2>
      <Level label="loudest" db={peakDb} />
      <Level label="voice" db={speechDb} />
      <Level label="under it" db={floorDb} />
      <p className="text-[14px] text-ink-soft">
        {`${Math.round(speech * 100)} % speech · ${GROUNDS[ground]} under it · ${clipped > 0.0005 ? `${(clipped * 100).toFixed(1)} % cut off` : 'nothing cut off'}`}
      </p>
      {advice.map((sentence) => (
        <p key={sentence} className="text-[14px] leading-snug">
          {sentence}
        </p>
      ))}
    </section>
  );
}
