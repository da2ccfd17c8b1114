/** The Listen step: the script beside the wave and what was read under it. */
import { besideScript, type Clip, type ClipPart, framesPerSecond, hasEnded, sceneSettings, scriptWords } from '@zest-jaw/core';
import { clsx } from 'clsx';
import { memo, useCallback, useEffect, useMemo, useRef, useState, type ReactElement } from 'react';
import { flushSync } from 'react-dom';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import { phraseAt } from '../barSheet/phraseAt.js';
import type { Span } from '@zest-jaw/core';
import { SURE_WORD } from '../barSheet/sheetData.js';
import { useFirstOf } from '../barSheet/useSheetPointer.js';
import { mostHeard, Readout } from '../scene/Readout.js';
import { Hint } from '../ui/Hint.js';
import { SheetStep } from '../scene/SheetStep.js';
import { Pills } from '../ui/Pills.js';
import { ClipsPanel } from './ClipsPanel.js';
import { partOfClip } from './partOfClip.js';
import { ScriptField, useSaveScript } from './ScriptField.js';
import { SpeechMenu } from './SpeechMenu.js';
import { LabelsMenu } from './LabelsMenu.js';
import { useReadingDialogs } from './useReadingDialogs.js';
import { useReadingHolds } from './useReadingHolds.js';
import { isDoubtful } from './useDoubtfulCommands.js';
import { useReadingCommands } from './useReadingCommands.js';
import { useClipCommands } from './useClipCommands.js';
import { useListenHolds } from './useListenHolds.js';
import { SpeakerSwitch } from '../scene/SpeakerSwitch.js';
import { EarMarksPanel } from './EarMarksPanel.js';
import { droppedRecording } from '../scene/droppedRecording.js';
import { useOffer } from './OfferRoom.js';
import { useOfferedSheet } from './useOfferedSheet.js';
import { SheetContext, useOpenScene, useReadingJob, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { changeSoundSettings, soundSettings } from '../sound/soundSettings.js';
import { Button } from '../ui/Button.js';
import { Toggle } from '../ui/Toggle.js';

function ScriptPanel({ clip }: { clip: Clip }): ReactElement {
  const { readAgain, playhead } = useOpenScene();
  const saveScript = useSaveScript(clip);
  const document = useSceneDocument();
  const { data } = useSheet();
  const reading = useReadingJob();
  // What is being typed; undefined when the field shows the document.
  const [draft, setDraft] = useState<string>();
  const script = draft ?? clip.script;
  const isReading = reading !== undefined && !hasEnded(reading);
  const { frameRate, lengthFrames } = sceneSettings(document);
  const own = data.words.filter((word) => word.clip === clip.id);
  const phraseOf = (frame: number): Span => phraseAt(own, frame, framesPerSecond(frameRate), lengthFrames);
  const phraseHere = (): Span => playhead.store.getState().selection ?? phraseOf(playhead.store.getState().frame);
  const partOf = (range: Span): ClipPart => partOfClip(document, clip, range);
  const doubtfulPhrases = new Map(own.filter(isDoubtful).map((word) => [phraseOf(word.from).from, phraseOf(word.from)]));
  const doubtful = [...doubtfulPhrases.values()].map(partOf);
  const isEmpty = scriptWords(script, clip.language).length === 0;
  const save = (): void => {
    setDraft(undefined);
    if (script !== clip.script) saveScript(script);
  };
  const read = async (parts?: readonly ClipPart[]): Promise<void> => {
    save();
    try {
      await readAgain(clip.id, parts);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <div className="flex flex-col gap-2">
      <label htmlFor="script" className="name text-[19px]">
        Script
      </label>
      <p className="text-[14px] text-ink-soft">
        The line as it is spoken in {clip.fileName}. Brackets are not read; a word pressed is gone to, one changed is read anew.
      </p>
      <ScriptField clip={clip} script={script} onType={setDraft} onLeave={save} />
      <SpeechMenu clip={clip} />
      {isEmpty && <p className="text-[14px] text-ink-soft">There are no words here to look for: only sounds will be read.</p>}
      <Button weight="main" className="self-start" disabled={isReading} onClick={() => void read()}>
        Read the track again
      </Button>
      {own.length > 0 && (
        <div className="flex flex-wrap gap-2">
          <Button className="py-[3px]! text-[14px]!" disabled={isReading} onClick={() => void read([partOf(phraseHere())])}>
            Only this phrase
          </Button>
          <Button className="py-[3px]! text-[14px]!" disabled={isReading || doubtful.length === 0} onClick={() => void read(doubtful)}>
            Only what is doubtful
          </Button>
        </div>
      )}
      <LabelsMenu clip={clip} disabled={isReading} />
      <p className="text-[14px] text-ink-soft">Words and sounds are read anew, and the pencil is keyed again. Ink stays.</p>
    </div>
  );
}

/** How the reading went, in a sentence or two. */
function wordsInWords(words: number, doubtful: number, missed: number): string {
  if (words === 0) return 'No words yet.';
  const found =
    doubtful > 0
      ? doubtful === words
        ? `${words === 1 ? 'The only word is' : `All ${words} words are`} doubtful: listen to ${words === 1 ? 'it' : 'them'}.`
        : `${doubtful} of ${words} words ${doubtful === 1 ? 'is' : 'are'} doubtful, marked by ${doubtful === 1 ? 'a wavy line: listen to it' : 'wavy lines: listen to them'}.`
      : missed > 0
        ? ''
        : 'Every word was found with confidence.';
  const lost =
    missed > 0
      ? `${missed === 1 ? '1 word of the script was' : `${missed} words of the script were`} not heard, struck through below.`
      : '';
  return [found, lost].filter((sentence) => sentence !== '').join(' ');
}

interface ReadWordProps {
  readonly id: string;
  readonly text: string;
  readonly confidence: number;
  readonly guessed: boolean;
  readonly inked: boolean;
  readonly isHere: boolean;
  readonly onGoTo: (id: string) => void;
}

/** A word of a long line: shown again only when it is another, not when it moves. */
const ReadWord = memo(function ReadWord({ id, text, confidence, guessed, inked, isHere, onGoTo }: ReadWordProps): ReactElement {
  return (
    <button
      type="button"
      onClick={() => onGoTo(id)}
      title={inked ? 'set by hand' : `confidence ${Math.round(confidence * 100)} %${guessed ? ', sounds guessed from the spelling' : ''}`}
      className={clsx(
        'rounded-md px-1.5 py-0.5',
        isHere ? 'bg-zest text-on-zest' : 'bg-word',
        inked && 'ring-1 ring-inset ring-ink',
        (guessed || confidence < SURE_WORD) && 'underline decoration-zest underline-offset-4',
        guessed ? 'decoration-dotted decoration-2' : confidence < SURE_WORD && 'decoration-wavy',
      )}
    >
      {text}
    </button>
  );
});

/** Every word that was read, the one at the playhead lit; pressing one goes there. What the script says and nobody said is struck through. */
function ReadWords({ clip }: { clip: Clip | undefined }): ReactElement {
  const { playhead } = useOpenScene();
  const document = useSceneDocument();
  const { data } = useSheet();
  const here = useStore(playhead.store, ({ frame }) => mostHeard(data.words, frame)?.id);
  const doubtful = data.words.filter(isDoubtful).length;
  const { id: clipId, script = '', language } = clip ?? {};
  // By the records and not by where they lie: a clip that is slid is said by the same words.
  const line = useMemo(() => {
    const own = document.words.filter((word) => word.clip === clipId);
    const written = own.length > 0 ? scriptWords(script, language).map((word) => word.text) : [];
    const beside = besideScript(
      written,
      own.map((word) => word.text),
    );
    return beside.map(({ text, read }) => ({ text, word: read === undefined ? undefined : own[read] }));
  }, [clipId, script, language, document.words]);
  const words = useRef(data.words);
  useEffect(() => {
    words.current = data.words;
  }, [data.words]);
  const goTo = useCallback(
    (id: string) => {
      const word = words.current.find((candidate) => candidate.id === id);
      if (word) playhead.scrubTo(Math.round(word.from));
    },
    [playhead],
  );
  return (
    <div className="mt-2 flex min-h-0 flex-1 flex-col gap-2">
      <h2 className="name text-[19px]">What was read</h2>
      <p className="text-[14px] text-ink-soft">{wordsInWords(data.words.length, doubtful, line.filter(({ word }) => !word).length)}</p>
      <div className="flex flex-wrap gap-x-1 gap-y-1.5 overflow-y-auto pb-2">
        {line.map(({ text, word }, index) =>
          word ? (
            <ReadWord
              key={word.id}
              id={word.id}
              text={text}
              confidence={word.inked ? 1 : word.confidence}
              guessed={word.guessed === true && !word.inked}
              inked={word.inked === true}
              isHere={word.id === here}
              onGoTo={goTo}
            />
          ) : (
            <s key={`missed ${index}`} className="px-1 py-0.5 text-ink-soft" title="Not heard in the recording">
              {text}
            </s>
          ),
        )}
      </div>
    </div>
  );
}

const Swatch = ({ colour, children }: { colour: string; children: string }): ReactElement => (
  <span className="flex items-center gap-1.5 text-[14px] text-ink-soft">
    <span className="size-3 rounded-sm" style={{ background: `var(--${colour})` }} /> {children}
  </span>
);

/** A reading that waits is shown in the place of the one there is. */
export function ListenStep(): ReactElement {
  const offer = useOffer();
  return (
    <SheetContext.Provider value={useOfferedSheet(offer)}>
      <ListenSheet isOffered={offer !== undefined} />
    </SheetContext.Provider>
  );
}

function ListenSheet({ isOffered }: { isOffered: boolean }): ReactElement {
  const { session, showTrack } = useOpenScene();
  const document = useSceneDocument();
  const { track } = useSpeaker();
  const [chosenClip, chooseClip] = useState<string>();
  const own = document.clips.filter((candidate) => candidate.characterId === track.characterId);
  const clip = own.find((candidate) => candidate.id === chosenClip) ?? own[0];
  const [how, setHow] = useState<'script' | 'ear' | 'clips'>(() => (droppedRecording.getState().file ? 'clips' : 'script'));
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => droppedRecording.subscribe(({ file }) => file && setHow('clips')), []);
  const showsLoudness = useStore(soundSettings, (state) => state.showsLoudness);
  const choose = useCallback(
    (id: string): void => {
      chooseClip(id);
      // As it is now: the clip may have been placed just before.
      const { clips, tracks } = session.store.getState().document;
      const speaker = clips.find((candidate) => candidate.id === id)?.characterId;
      const lane = tracks.find((candidate) => candidate.characterId === speaker);
      if (lane) showTrack(lane.id);
    },
    [session, showTrack],
  );
  const { opens, dialogs } = useReadingDialogs();
  const readingCommands = useReadingCommands(opens);
  const readingHolds = useReadingHolds(opens);
  const holds = useFirstOf(isOffered ? undefined : readingHolds, useListenHolds(choose));
  const clipCommands = useClipCommands(clip);
  return (
    <>
      {dialogs}
      <SheetStep
        view="listen"
        commands={[
          ...clipCommands,
          ...(isOffered ? [] : readingCommands),
          {
            id: 'mark',
            title: 'Write down what you hear',
            group: 'Look',
            keys: ['KeyM'],
            also: 'ear mark note',
            run: () => {
              flushSync(() => setHow('ear'));
              field.current?.focus();
            },
          },
        ]}
        holds={holds}
        chosenClip={clip?.id}
        label="Wave and reading"
        aside={
          <>
            <Pills
              label="How it is read"
              options={[
                ['script', 'Script'],
                ['ear', 'By ear'],
                ['clips', 'Recordings'],
              ]}
              value={how}
              onChange={setHow}
            />
            {clip && how === 'script' && <ScriptPanel key={clip.id} clip={clip} />}
            {clip && how === 'ear' && <EarMarksPanel key={clip.id} clip={clip} field={field} />}
            {how === 'clips' && <ClipsPanel chosen={clip} onChoose={choose} />}
            {how === 'script' && <ReadWords clip={clip} />}
            <Readout />
          </>
        }
        heading={
          <>
            <h2 className="name text-[19px]">Wave and reading</h2>
            <SpeakerSwitch />
            <span className="flex-1" />
            <Toggle on={showsLoudness} onToggle={() => changeSoundSettings({ showsLoudness: !showsLoudness })}>
              Loudness
            </Toggle>
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
    </>
  );
}
