/** The Listen step: the script beside the wave and what was read under it. */
import { type Clip, hasEnded, scriptWords, setScript } from '@zest-jaw/core';
import { useRef, useState, type ReactElement } from 'react';
import { flushSync } from 'react-dom';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import { SURE_WORD } from '../barSheet/sheetData.js';
import { mostHeard, Readout } from '../key/Readout.js';
import { Hint } from '../key/Transport.js';
import { SheetStep } from '../scene/SheetStep.js';
import { Pills } from '../ui/Pills.js';
import { ClipFactsPanel } from './ClipFactsPanel.js';
import { EarMarksPanel } from './EarMarksPanel.js';
import { useFrame, useOpenScene } from '../scene/sceneContext.js';
import { newId } from '../session/documentSession.js';
import { changeSoundSettings, soundSettings } from '../sound/soundSettings.js';
import { Button } from '../ui/Button.js';

function ScriptPanel({ clip }: { clip: Clip }): ReactElement {
  const { session, reading, readAgain } = useOpenScene();
  // What is being typed; undefined when the field shows the document.
  const [draft, setDraft] = useState<string>();
  const script = draft ?? clip.script;
  const isReading = reading !== undefined && !hasEnded(reading);
  const isEmpty = scriptWords(script, clip.language).length === 0;
  const save = (): void => {
    setDraft(undefined);
    if (script !== clip.script) session.change(setScript(session.store.getState().document, clip.id, script, newId));
  };
  const read = async (): Promise<void> => {
    save();
    try {
      await readAgain(clip.id);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <div className="flex flex-col gap-2">
      <label htmlFor="script" className="name text-[19px]">
        Script
      </label>
      <p className="text-[14px] text-ink-soft">The line as it is spoken in {clip.fileName}. What stands in brackets is not read.</p>
      <textarea
        id="script"
        value={script}
        rows={4}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={save}
        className="field resize-y leading-relaxed"
      />
      {isEmpty && <p className="text-[14px] text-bad">There are no words here to look for. Type the line as it is spoken.</p>}
      <Button weight="main" className="self-start" disabled={isReading || isEmpty} onClick={() => void read()}>
        Read the track again
      </Button>
      <p className="text-[14px] text-ink-soft">Words and sounds are read anew, and the pencil is keyed again. Ink stays.</p>
    </div>
  );
}

/** Every word that was read, the one at the playhead lit; pressing one goes there. */
function ReadWords(): ReactElement {
  const { data, playhead } = useOpenScene();
  const frame = useFrame();
  const here = mostHeard(data.words, frame);
  const doubtful = data.words.filter((word) => word.confidence < SURE_WORD).length;
  return (
    <div className="mt-2 flex min-h-0 flex-1 flex-col gap-2">
      <h2 className="name text-[19px]">What was read</h2>
      <p className="text-[14px] text-ink-soft">
        {data.words.length === 0
          ? 'No words yet.'
          : doubtful === 0
            ? 'Every word was found with confidence.'
            : doubtful === 1
              ? `1 of ${data.words.length} words is doubtful, marked by a wavy line: listen to it.`
              : `${doubtful} of ${data.words.length} words are doubtful, marked by wavy lines: listen to them.`}
      </p>
      <div className="flex flex-wrap gap-x-1 gap-y-1.5 overflow-y-auto pb-2">
        {data.words.map((word) => {
          const isHere = word === here;
          return (
            <button
              key={word.id}
              type="button"
              onClick={() => playhead.scrubTo(Math.round(word.from))}
              title={`confidence ${Math.round(word.confidence * 100)} %`}
              className={`rounded-md px-1.5 py-0.5 ${isHere ? 'bg-zest text-on-zest' : 'bg-word'} ${word.confidence < SURE_WORD ? 'underline decoration-zest decoration-wavy underline-offset-4' : ''}`}
            >
              {word.text}
            </button>
          );
        })}
      </div>
    </div>
  );
}

const Swatch = ({ colour, children }: { colour: string; children: string }): ReactElement => (
  <span className="flex items-center gap-1.5 text-[14px] text-ink-soft">
    <span className="size-3 rounded-sm" style={{ background: `var(--${colour})` }} /> {children}
  </span>
);

export function ListenStep(): ReactElement {
  const { document, track, facts } = useOpenScene();
  const clip = document.clips.find((candidate) => candidate.characterId === track.characterId);
  const [how, setHow] = useState<'script' | 'ear'>('script');
  const field = useRef<HTMLInputElement>(null);
  const found = clip && facts.get(clip.audio);
  const showsLoudness = useStore(soundSettings, (state) => state.showsLoudness);
  return (
    <SheetStep
      view="listen"
      keys={{
        KeyM: () => {
          flushSync(() => setHow('ear'));
          field.current?.focus();
        },
      }}
      label="Wave and reading"
      aside={
        <>
          <Pills
            label="How it is read"
            options={[
              ['script', 'From the script'],
              ['ear', 'By ear'],
            ]}
            value={how}
            onChange={setHow}
          />
          {clip && how === 'script' && <ScriptPanel key={clip.id} clip={clip} />}
          {clip && how === 'ear' && <EarMarksPanel key={clip.id} clip={clip} field={field} />}
          {how === 'script' && <ReadWords />}
          {found && <ClipFactsPanel facts={found} />}
          <Readout />
        </>
      }
      heading={
        <>
          <h2 className="name mr-auto text-[19px]">Wave and reading</h2>
          <button
            type="button"
            aria-pressed={showsLoudness}
            onClick={() => changeSoundSettings({ showsLoudness: !showsLoudness })}
            className="rounded-full border border-rule bg-lift px-3 py-0.5 text-[14px] text-ink-soft aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-on-ink"
          >
            Loudness
          </button>
          <Swatch colour="voice">voice</Swatch>
          <Swatch colour="hiss">hiss</Swatch>
        </>
      }
      hints={
        <>
          <Hint keys={['←', '→']}>a frame, heard</Hint>
          <Hint keys={['M']}>mark what you hear</Hint>
          <Hint keys={['L']}>loop the phrase</Hint>
        </>
      }
    />
  );
}
