/** What reading again would change, in words and by phrase, with the ways on. */
import { clipStart, framePositionOfSample, framesPerSecond, sceneSettings, type OfferedPhrase } from '@zest-jaw/core';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useOpenScene, useSceneDocument } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import type { Offer } from './OfferRoom.js';

type Counts = Pick<OfferedPhrase, 'words' | 'sounds' | 'moved' | 'furthest'>;

const sumOf = (phrases: readonly OfferedPhrase[]): Counts => ({
  words: phrases.reduce((sum, { words }) => sum + words, 0),
  sounds: phrases.reduce((sum, { sounds }) => sum + sounds, 0),
  moved: phrases.reduce((sum, { moved }) => sum + moved, 0),
  furthest: phrases.reduce((most, { furthest }) => Math.max(most, furthest), 0),
});

function inWords({ words, sounds, moved, furthest }: Counts, samplesPerFrame: number): string {
  const others = [words > 0 && count(words, 'word', 'words'), sounds > 0 && count(sounds, 'sound', 'sounds')].filter(Boolean);
  const frames = Math.round((10 * furthest) / samplesPerFrame) / 10;
  return [
    others.length > 0 && `${others.join(' and ')} otherwise`,
    moved > 0 && `${moved} moved${frames > 0 ? `, ${count(frames, 'frame', 'frames')} at most` : ', by less than a tenth of a frame'}`,
  ]
    .filter(Boolean)
    .join('; ');
}

export function OfferStrip({ offer }: { offer: Offer }): ReactElement {
  const { playhead } = useOpenScene();
  const document = useSceneDocument();
  const [isOpen, setOpen] = useState(false);
  const { frameRate } = sceneSettings(document);
  const samplesPerFrame = 48_000 / framesPerSecond(frameRate);
  const { phrases } = offer.offered;
  const hear = ({ fromSample, toSample }: OfferedPhrase): void => {
    const frame = (sample: number): number => Math.round(framePositionOfSample(frameRate, clipStart(document, offer.clip) + sample));
    playhead.stop();
    playhead.moveTo(frame(fromSample));
    playhead.playRange({ from: frame(fromSample), to: frame(toSample) });
  };
  return (
    <section aria-label="Read again" className="mb-3 rounded-xl border border-zest bg-zest-soft px-4 py-2">
      <div className="flex flex-wrap items-center gap-3">
        <p className="min-w-[240px] flex-1 text-[15px]" role="status">
          <b className="font-semibold">Read again:</b> {inWords(sumOf(phrases), samplesPerFrame)}. Tinted below; nothing is taken yet.
        </p>
        {phrases.length > 1 && (
          <Button weight="bare" className="text-ink!" aria-expanded={isOpen} onClick={() => setOpen((before) => !before)}>
            {count(phrases.length, 'phrase', 'phrases')}{' '}
            {isOpen ? <ChevronUp size={15} aria-hidden /> : <ChevronDown size={15} aria-hidden />}
          </Button>
        )}
        <Button className="py-[3px]!" onClick={offer.leave}>
          Leave it
        </Button>
        <Button weight="main" className="py-[3px]!" onClick={() => offer.take()}>
          {phrases.length > 1 ? 'Take all of it' : 'Take it'}
        </Button>
      </div>
      {isOpen && (
        <ul className="mt-2 flex max-h-[176px] flex-col overflow-y-auto border-t border-rule">
          {phrases.map((phrase) => (
            <li key={phrase.fromSample} className="flex items-center gap-3 border-b border-rule-soft py-1">
              <button
                type="button"
                className="min-w-0 flex-1 truncate text-left underline-offset-2 hover:underline"
                title="Hear it"
                onClick={() => hear(phrase)}
              >
                {phrase.text || 'sounds without words'}
              </button>
              <span className="shrink-0 text-[14px] text-ink-soft">{inWords(phrase, samplesPerFrame)}</span>
              <Button className="px-3! py-[2px]! text-[14px]!" onClick={() => offer.take(phrase)}>
                Take
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
