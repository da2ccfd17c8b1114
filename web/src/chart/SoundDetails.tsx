/** The sound that is looked at on the map: its word, its name, the mouth that plays it; heard, and a diphthong's ends. */
import {
  chartSettings,
  clipStart,
  framePositionOfSample,
  maybeDrawingOfGroup,
  maybeGroupOfPhoneme,
  maybeOwnGroup,
  maybePhoneme,
  nameOfSound,
  REST,
  sceneSettings,
  setDiphthong,
  type ChartDocument,
  type DiphthongEnds,
  type Patch,
  type Refusal,
  type SoundGroup,
} from '@zest-jaw/core';
import { Volume2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { Example } from '../ui/Example.js';
import { useDocumentOfScene, useSceneOfChart } from './sceneOfChart.js';

/** Shorter than this a sound cannot be made out, in samples: 60 ms. */
const LONG_ENOUGH = 2880;

/** How to play a sound as the open scene says it first; undefined where it does not, or beside no scene. */
export function useHeardInScene(): (symbol: string) => (() => void) | undefined {
  const open = useSceneOfChart();
  const scene = useDocumentOfScene();
  return (symbol) => {
    const phoneme = scene?.phonemes.find((one) => one.symbol === symbol && one.toSample - one.fromSample > LONG_ENOUGH);
    const clip = phoneme && scene?.clips.find(({ id }) => id === phoneme.clip);
    if (!open || !scene || !phoneme || !clip) return undefined;
    const frame = (sample: number): number => framePositionOfSample(sceneSettings(scene).frameRate, clipStart(scene, clip) + sample);
    return () => {
      open.playhead.stop();
      open.playhead.playRange({ from: Math.floor(frame(phoneme.fromSample)), to: Math.ceil(frame(phoneme.toSample)) });
    };
  };
}

interface SoundDetailsProps {
  readonly chart: ChartDocument;
  readonly symbol: string;
  readonly change: (make: (chart: ChartDocument) => Patch | Refusal) => boolean;
}

interface HeardProps {
  /** Says it; undefined where no voice can. */
  readonly onHear: (() => void) | undefined;
  /** Plays it as the open scene says it; undefined where it does not. */
  readonly onHearInScene: (() => void) | undefined;
}

/** What is seen of a sound, in words. */
function lookInWords(own: SoundGroup | undefined, isPlaced: boolean): string {
  if (!own) return 'in no group: silence is seen in its place';
  return isPlaced ? `placed with ${own.name} by how it looks; move it where you want it` : `looks like ${own.name}: ${own.look}`;
}

export function SoundDetails({ chart, symbol, change, onHear, onHearInScene }: SoundDetailsProps & HeardProps): ReactElement {
  const sound = maybePhoneme(symbol)!;
  const own = maybeGroupOfPhoneme(chart.groups, symbol);
  const drawn = own && maybeDrawingOfGroup(chart, own.id);
  return (
    <div className="mx-auto flex w-full max-w-[760px] items-center gap-4 rounded-[14px] border border-rule bg-lift px-4 py-2" role="status">
      <span className="w-[52px] text-center text-[30px] leading-none">{sound.ipa}</span>
      <span className="flex-1 leading-snug">
        as in <Example example={sound.example} />
        <span className="block text-[14px] text-ink-soft">{`${nameOfSound(symbol)}; ${lookInWords(own, !maybeOwnGroup(chart.groups, symbol))}`}</span>
      </span>
      {sound.kind === 'diphthong' && <Ends chart={chart} symbol={symbol} change={change} />}
      <span className="flex shrink-0 flex-col gap-1">
        <Button
          className="px-3! py-[3px]! text-[14px]!"
          onClick={onHear}
          disabled={!onHear}
          title={onHear ? undefined : 'No voice of the synthesiser says this one.'}
        >
          <Volume2 size={15} aria-hidden /> Hear it
        </Button>
        {onHearInScene && (
          <Button className="px-3! py-[2px]! text-[13px]!" onClick={onHearInScene}>
            In the scene
          </Button>
        )}
      </span>
      {drawn && <Mouth chart={chart} drawing={drawn} className="h-[52px] w-[76px] rounded-lg bg-ground" />}
    </div>
  );
}

const USUAL = 'usual';
const STAYS = 'stays';

interface EndProps {
  readonly label: string;
  readonly chart: ChartDocument;
  /** A group by id, or one of the two words above. */
  readonly value: string;
  readonly mayStay?: boolean;
  readonly onChoose: (value: string) => void;
}

function End({ label, chart, value, mayStay = false, onChoose }: EndProps): ReactElement {
  return (
    <label className="flex flex-col text-ink-soft">
      {label}
      <select className="field w-[92px]! px-1! py-0.5! text-ink" value={value} onChange={({ target }) => onChoose(target.value)}>
        <option value={USUAL}>as usual</option>
        {mayStay && <option value={STAYS}>one shape</option>}
        {chart.groups
          .filter(({ id }) => id !== REST)
          .map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
      </select>
    </label>
  );
}

/** What a diphthong begins and ends as. */
function Ends({ chart, symbol, change }: SoundDetailsProps): ReactElement {
  const { first, second } = chartSettings(chart).diphthongs?.find((one) => one.symbol === symbol) ?? {};
  const set = (ends: Omit<DiphthongEnds, 'symbol'>): void => void change((now) => setDiphthong(now, { symbol, ...ends }, newId));
  const [begins, ends] = [first === undefined ? {} : { first }, second === undefined ? {} : { second }];
  return (
    <span className="flex shrink-0 gap-2 text-[13px]">
      <End
        label="begins as"
        chart={chart}
        value={first ?? USUAL}
        onChoose={(value) => set({ ...ends, ...(value === USUAL ? {} : { first: value }) })}
      />
      <End
        label="ends as"
        chart={chart}
        mayStay
        value={second === null ? STAYS : (second ?? USUAL)}
        onChoose={(value) => set({ ...begins, ...(value === USUAL ? {} : { second: value === STAYS ? null : value }) })}
      />
    </span>
  );
}
