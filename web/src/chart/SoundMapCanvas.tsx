/** The map of the mouth: vowels from front to back and close to open, diphthongs as arrows, consonants from the lips to the throat. */
import { maybeGroupOfPhoneme, PLACE_WORDS, type ChartDocument, type Phoneme } from '@zest-jaw/core';
import { useRef, type KeyboardEvent, type ReactElement } from 'react';
import { SoundChip } from './SoundChip.js';
import { MAP_WIDTH, nextChip, pointOfVowel, VOWELS_HEIGHT, type MapPlaces, type PlacedSound } from './soundMapPlaces.js';

/** Letters typed within so long of one another are one word, in milliseconds. */
const TYPING = 800;

interface SoundMapCanvasProps {
  /** The sounds that are shown, where they are. */
  readonly places: MapPlaces;
  readonly chart: ChartDocument;
  readonly chosen: ReadonlySet<string>;
  readonly current: string;
  readonly onPress: (symbol: string, adds: boolean) => void;
  readonly onCurrent: (symbol: string) => void;
  readonly onClear: () => void;
  /** Asks where the chosen ones go. */
  readonly onMove: () => void;
}

/** The sound that is written so, or that a word begins with. */
function soundTyped(shown: readonly Phoneme[], typed: string): string | undefined {
  const wanted = typed.toLowerCase();
  const sound =
    shown.find(({ ipa, symbol }) => ipa === typed || symbol.toLowerCase() === wanted) ??
    shown.find(({ symbol }) => symbol.toLowerCase().startsWith(wanted)) ??
    shown.find(({ example }) => example.replaceAll('*', '').toLowerCase().startsWith(wanted));
  return sound?.symbol;
}

const corner = (back: number, open: number): string => {
  const { x, y } = pointOfVowel({ back, open });
  return `${x},${y}`;
};

export function SoundMapCanvas({ places, chart, chosen, current, onPress, onCurrent, onClear, onMove }: SoundMapCanvasProps): ReactElement {
  const { vowels, consonants, columns, rows, consonantsHeight } = places;
  const shown = [...vowels, ...consonants];
  const whole = useRef<HTMLDivElement>(null);
  const typed = useRef({ text: '', at: 0 });
  const goTo = (symbol: string | undefined): void => {
    if (symbol === undefined) return;
    onCurrent(symbol);
    whole.current?.querySelector<HTMLElement>(`[data-sound="${symbol}"]`)?.focus();
  };
  const onKey = (event: KeyboardEvent): void => {
    const { key } = event;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (key === 'ArrowLeft' || key === 'ArrowRight' || key === 'ArrowUp' || key === 'ArrowDown') goTo(nextChip(places, current, key));
    else if (key === 'Escape') onClear();
    else if (key === 'Enter') {
      if (!chosen.has(current)) onPress(current, false);
      onMove();
    } else if (key === ' ') onPress(current, true);
    else if (key.length === 1 && /\S/.test(key)) {
      const now = event.timeStamp;
      typed.current = { text: now - typed.current.at < TYPING ? typed.current.text + key : key, at: now };
      goTo(soundTyped(shown, typed.current.text) ?? soundTyped(shown, key));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const chip = (sound: PlacedSound): ReactElement => (
    <SoundChip
      key={sound.symbol}
      sound={sound}
      group={maybeGroupOfPhoneme(chart.groups, sound.symbol)}
      isChosen={chosen.has(sound.symbol)}
      isCurrent={sound.symbol === current}
      onPress={onPress}
    />
  );
  return (
    <div ref={whole} data-keeps-keys onKeyDown={onKey} className="mx-auto flex flex-col gap-1" style={{ width: MAP_WIDTH }}>
      <section aria-label="Vowels, from front to back and close to open" className="relative" style={{ height: VOWELS_HEIGHT }}>
        <svg className="absolute inset-0" width={MAP_WIDTH} height={VOWELS_HEIGHT} aria-hidden>
          <polygon
            points={[corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)].join(' ')}
            fill="none"
            stroke="var(--rule)"
            strokeWidth={1.5}
          />
          {[1 / 3, 2 / 3].map((open) => (
            <polyline key={open} points={`${corner(0, open)} ${corner(1, open)}`} stroke="var(--rule-soft)" strokeWidth={1.5} />
          ))}
          <polyline points={`${corner(0.5, 0)} ${corner(0.5, 1)}`} stroke="var(--rule-soft)" strokeWidth={1.5} />
          <defs>
            <marker id="sound-arrow" viewBox="0 0 8 8" refX={7} refY={4} markerWidth={8} markerHeight={8} orient="auto">
              <path d="M0 0L8 4L0 8z" fill="var(--graphite)" />
            </marker>
          </defs>
          {vowels.map(
            ({ symbol, arrow }) =>
              arrow && (
                <line
                  key={symbol}
                  x1={arrow.from.x}
                  y1={arrow.from.y}
                  x2={arrow.to.x}
                  y2={arrow.to.y}
                  stroke="var(--graphite)"
                  strokeWidth={1.4}
                  strokeDasharray="5 4"
                  markerEnd="url(#sound-arrow)"
                />
              ),
          )}
        </svg>
        <span className="absolute top-0 left-[40px] text-[13px] text-ink-soft">front</span>
        <span className="absolute top-0 right-[40px] text-[13px] text-ink-soft">back</span>
        <span className="absolute top-[20px] left-0 text-[13px] text-ink-soft">close</span>
        <span className="absolute bottom-[20px] left-0 text-[13px] text-ink-soft">open</span>
        {vowels.map(chip)}
      </section>
      <section
        aria-label="Consonants, from the lips to the throat"
        className="relative border-t border-rule-soft"
        style={{ height: consonantsHeight }}
      >
        {columns.map(({ place, x }) => (
          <span
            key={place}
            title={place}
            className="absolute top-1.5 w-[76px] -translate-x-1/2 text-center text-[12px] leading-[13px] text-ink-soft"
            style={{ left: x }}
          >
            {PLACE_WORDS[place]}
          </span>
        ))}
        {rows.map(({ name, y }) => (
          <span key={name} className="absolute inset-x-0 border-b border-rule-soft" style={{ top: y }} title={name} aria-hidden />
        ))}
        {consonants.map(chip)}
      </section>
    </div>
  );
}
