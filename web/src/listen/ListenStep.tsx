/** The Listen step: the script beside the wave and what was read under it. */
import { scriptWords, setScript, type Clip } from '@zest-jaw/core';
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { hasEnded } from '../api/job.js';
import { BarSheet } from '../barSheet/BarSheet.js';
import { SURE_WORD } from '../barSheet/sheetData.js';
import { KeysDialog } from '../key/KeysDialog.js';
import { mostHeard, Readout } from '../key/Readout.js';
import { Hint, Transport } from '../key/Transport.js';
import { ReadingStrip } from '../scene/ReadingStrip.js';
import { useFrame, useOpenScene } from '../scene/sceneContext.js';
import { useTransportKeys } from '../scene/useTransportKeys.js';
import { newId } from '../session/sceneSession.js';
import { Button } from '../ui/Button.js';
import { useKeys } from '../ui/useKeys.js';

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
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <h2 className="name text-[19px]">What was read</h2>
      <p className="text-[14px] text-ink-soft">
        {data.words.length === 0
          ? 'No words yet.'
          : doubtful === 0
            ? 'Every word was found with confidence.'
            : `${doubtful} of ${data.words.length} words are doubtful, marked by a wave: listen to them.`}
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

export function ListenStep(): ReactElement {
  const { document, data, sprites, palette, playhead, track } = useOpenScene();
  const { keys, loopPhrase } = useTransportKeys();
  const [helping, setHelping] = useState(false);
  useKeys({ ...keys, '?': () => setHelping(true) });
  const clip = document.clips.find((candidate) => candidate.characterId === track.characterId);
  return (
    <>
      <main className="grid min-h-0 flex-1 grid-cols-[334px_1fr]">
        <aside className="flex min-h-0 flex-col gap-4 overflow-y-auto p-[14px_0_14px_18px]">
          {clip && <ScriptPanel key={clip.id} clip={clip} />}
          <ReadWords />
          <Readout />
        </aside>
        <section className="flex min-h-0 flex-col p-[14px_18px]" aria-label="Wave and reading">
          <ReadingStrip />
          <div className="flex min-h-0 flex-1 flex-col rounded-[14px] border border-rule bg-sheet px-[14px] pt-2.5">
            <div className="mb-2 flex items-center gap-4 text-[14px] text-ink-soft">
              <h2 className="name mr-auto text-[19px] text-ink">Wave and reading</h2>
              <span className="flex items-center gap-1.5">
                <span className="size-3 rounded-sm bg-[var(--voice)]" /> voice
              </span>
              <span className="flex items-center gap-1.5">
                <span className="size-3 rounded-sm bg-[var(--hiss)]" /> hiss
              </span>
            </div>
            <BarSheet
              scene={document}
              data={data}
              view="listen"
              sprites={sprites}
              palette={palette}
              playhead={playhead}
              drawingLabel={(drawing) => drawing}
            />
          </div>
        </section>
      </main>
      <Transport
        onLoop={loopPhrase}
        onHelp={() => setHelping(true)}
        hints={
          <>
            <Hint keys={['←', '→']}>a frame, heard</Hint>
            <Hint keys={['L']}>loop the phrase</Hint>
          </>
        }
      />
      <KeysDialog open={helping} onClose={() => setHelping(false)} />
    </>
  );
}
