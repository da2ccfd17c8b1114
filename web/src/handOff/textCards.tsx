/** Key lists, weights, curves, timelines and shooting lists: what is chosen of each. */
import {
  EASE_LIMITS,
  LABEL_KINDS,
  looksOfFrames,
  pullListOf,
  sceneSettings,
  writtenNumber,
  type KeyNumbers,
  type LabelKind,
} from '@zest-jaw/core';
import { useMemo, type ReactElement } from 'react';
import { Link } from 'react-router';
import { Mouth } from '../mouth/Mouth.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { CountingFields, countingOf, useCountingInWords, USUAL_COUNTING } from './CountingFields.js';
import { SaveRow } from './SaveRow.js';
import { TextCard } from './TextCard.js';
import { useHandOff } from './useHandOff.js';
import { useKeptChoices } from './useKeptChoices.js';

/** `The wet stamp, Bramble keys`. */
function useFileName(what: string): string {
  const document = useSceneDocument();
  const { character } = useSpeaker();
  return `${sceneSettings(document).title}, ${character.name} ${what}`;
}

interface CheckProps {
  readonly checked: boolean;
  readonly onChange: (checked: boolean) => void;
  readonly children: string;
}

function Check({ checked, onChange, children }: CheckProps): ReactElement {
  return (
    <label className="flex items-center gap-2">
      <input type="checkbox" checked={checked} onChange={({ target }) => onChange(target.checked)} />
      {children}
    </label>
  );
}

export function KeysCard(): ReactElement {
  const [choices, choose] = useKeptChoices('keys', { ...USUAL_COUNTING, numbers: 'own' as KeyNumbers, everyFrame: false, guards: false });
  const { numbers, everyFrame, guards } = choices;
  return (
    <TextCard
      title="Key list"
      says="The drawing’s number where each mouth begins, for any program that holds a drawing by its number."
      counts={useCountingInWords(choices)}
      fileName={useFileName('keys')}
      formats={['csv', 'json']}
      request={(format) => ({ kind: 'keys', format, counting: countingOf(choices), numbers, everyFrame, guards })}
    >
      <CountingFields value={choices} onChange={choose} />
      <label className="flex flex-col gap-1 font-semibold">
        Numbers
        <select className="field font-normal" value={numbers} onChange={({ target }) => choose({ numbers: target.value as KeyNumbers })}>
          <option value="own">the drawings’ own</option>
          <option value="from 0">places in the tray from 0</option>
          <option value="from 1">places in the tray from 1</option>
        </select>
      </label>
      <Check checked={everyFrame} onChange={(checked) => choose({ everyFrame: checked })}>
        every frame, not only changes
      </Check>
      <Check checked={guards} onChange={(checked) => choose({ guards: checked })}>
        a guard key at the end of each hold
      </Check>
    </TextCard>
  );
}

export function WeightsCard(): ReactElement {
  const [choices, choose] = useKeptChoices('weights', { ...USUAL_COUNTING, ease: 1 });
  const { least, most } = EASE_LIMITS;
  return (
    <TextCard
      title="Weights"
      says="One weight a drawing and frame, 0 to 1, for those who blend: a mouth is whole on the frame it begins on."
      counts={useCountingInWords(choices)}
      fileName={useFileName('weights')}
      formats={['csv', 'json']}
      request={(format) => ({ kind: 'weights', format, counting: countingOf(choices), easeFrames: choices.ease })}
    >
      <CountingFields value={choices} onChange={choose} />
      <label className="flex flex-col gap-1 font-semibold">
        {choices.ease === 1 ? 'Comes in at once' : `Comes in over ${choices.ease} frames`}
        <input type="range" min={least} max={most} value={choices.ease} onChange={({ target }) => choose({ ease: Number(target.value) })} />
      </label>
    </TextCard>
  );
}

export function CurvesCard(): ReactElement {
  const [choices, choose] = useKeptChoices('curves', USUAL_COUNTING);
  return (
    <TextCard
      title="Curves"
      says="How far the keyed mouths are open, how wide and how round, and how loud it is, a value a frame: for jaws and rigs."
      counts={useCountingInWords(choices)}
      fileName={useFileName('curves')}
      formats={['csv', 'json']}
      request={(format) => ({ kind: 'curves', format, counting: countingOf(choices) })}
    >
      <CountingFields value={choices} onChange={choose} />
    </TextCard>
  );
}

export function TimelineCard(): ReactElement {
  const document = useSceneDocument();
  const { character } = useSpeaker();
  const { firstFrame } = sceneSettings(document);
  const [choices, choose] = useKeptChoices('timeline', { pictures: 'pictures/', sounds: 'sound/' });
  const baseName = character.name.toLowerCase().replace(/[^\p{L}_-]/gu, '');
  return (
    <TextCard
      title="Timeline"
      says="The numbered pictures, the recordings where they are heard, and a marker for each phrase, as OpenTimelineIO."
      counts={`Pictures ${baseName}${String(firstFrame).padStart(4, '0')}.png on, in frames; recordings in samples at 48 000 Hz.`}
      fileName={sceneSettings(document).title}
      formats={['json']}
      ending=".otio"
      request={() => ({ kind: 'timeline', files: { ...choices, baseName, firstNumber: firstFrame, digits: 4 } })}
    >
      <label className="flex flex-col gap-1 font-semibold">
        Pictures lie in
        <input className="field font-normal" value={choices.pictures} onChange={({ target }) => choose({ pictures: target.value })} />
      </label>
      <label className="flex flex-col gap-1 font-semibold">
        Recordings lie in
        <input className="field font-normal" value={choices.sounds} onChange={({ target }) => choose({ sounds: target.value })} />
      </label>
    </TextCard>
  );
}

export function ShotsCard(): ReactElement {
  const document = useSceneDocument();
  const { sceneId } = useOpenScene();
  const { track, charts } = useSpeaker();
  const handOff = useHandOff();
  const date = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' }).format(new Date());
  const [choices, choose] = useKeptChoices('shots', { ...USUAL_COUNTING, twos: false, paper: 'A4' as 'A4' | 'Letter' });
  const cameraOn = choices.twos ? 2 : 1;
  const { pulled, swaps } = useMemo(
    () => pullListOf(looksOfFrames(document, track.id, charts, 'keyed'), charts, cameraOn),
    [document, track.id, charts, cameraOn],
  );
  return (
    <TextCard
      title="Pull list and shooting list"
      says={`${pulled.length} mouths to pull from the tray, ${swaps} swaps. Each shot in order, with how long it stays and what comes next.`}
      counts={useCountingInWords(choices)}
      fileName={useFileName('shots')}
      formats={['csv']}
      request={() => ({ kind: 'shots', counting: countingOf(choices), cameraOn })}
      also={
        <>
          <SaveRow
            handOff={handOff}
            label="Save as PDF"
            request={{ kind: 'shots', trackId: track.id, cameraOn, counting: countingOf(choices), paper: choices.paper, date }}
          />
          <select
            aria-label="Paper"
            className="field py-1!"
            value={choices.paper}
            onChange={({ target }) => choose({ paper: target.value as 'A4' | 'Letter' })}
          >
            <option>A4</option>
            <option>Letter</option>
          </select>
        </>
      }
    >
      <CountingFields value={choices} onChange={choose} />
      <label className="flex flex-col gap-1 font-semibold">
        The camera is
        <select
          className="field font-normal"
          value={choices.twos ? 'twos' : 'ones'}
          onChange={({ target }) => choose({ twos: target.value === 'twos' })}
        >
          <option value="ones">on ones</option>
          <option value="twos">on twos</option>
        </select>
      </label>
      <Link
        to={`/scenes/${sceneId}/shoot/${track.id}?on=${cameraOn}`}
        className="col-span-3 justify-self-start rounded-full border border-rule bg-lift px-4 py-1 font-semibold hover:border-graphite"
      >
        Shoot it
      </Link>
      <ul aria-label="Mouths to pull" tabIndex={0} className="col-span-3 flex gap-2 overflow-x-auto pb-1">
        {pulled.map(({ drawing, chartId, times, longest }) => (
          <li key={`${chartId} ${drawing.id}`} className="shrink-0 rounded-lg border border-rule-soft px-2 py-1 text-center text-[13px]">
            <Mouth
              chart={charts.get(chartId)!}
              drawing={drawing}
              className="mx-auto h-[38px] w-[58px] rounded-md bg-ground"
              lineWeight={1.5}
            />
            <span className="block font-semibold">{`${writtenNumber(drawing)} ${drawing.label}`}</span>
            <span className="text-ink-soft">{`${times} ×, ${longest} at most`}</span>
          </li>
        ))}
      </ul>
    </TextCard>
  );
}

const LABEL_WORDS: Readonly<Record<LabelKind, string>> = {
  TextGrid: 'words and sounds as tiers',
  vtt: 'captions (WebVTT)',
  srt: 'captions (SubRip)',
  ctm: 'words, one a line (CTM)',
  tsv: 'words between tabs',
  json: 'a reading, as it is read',
};

export function LabelsCard(): ReactElement {
  const [choices, choose] = useKeptChoices('labels', { format: 'vtt' as LabelKind, ipa: false });
  const { format, ipa } = choices;
  const fileName = useFileName('words');
  return (
    <TextCard
      title="Captions and labels"
      says="What is said and when, from the reading, for captions and for whoever measures speech."
      counts="Seconds from the start of the scene."
      fileName={fileName}
      formats={[format]}
      ending={`.${format}`}
      request={() => ({ kind: 'labels', format, name: fileName, sounds: ipa ? 'ipa' : 'arpabet' })}
    >
      <label className="flex flex-col gap-1 font-semibold">
        Format
        <select className="field font-normal" value={format} onChange={({ target }) => choose({ format: target.value as LabelKind })}>
          {LABEL_KINDS.map((kind) => (
            <option key={kind} value={kind}>{`${kind}: ${LABEL_WORDS[kind]}`}</option>
          ))}
        </select>
      </label>
      {format === 'TextGrid' && (
        <Check checked={ipa} onChange={(checked) => choose({ ipa: checked })}>
          sounds in IPA, not ARPAbet
        </Check>
      )}
    </TextCard>
  );
}
