/** The Hand off step: numbered pictures and the exposure sheet, each with a preview. */
import {
  checkPictureOptions,
  looksOfFrames,
  exposureSheetCells,
  exposureSheetHeadings,
  exposureSheetRows,
  hasEnded,
  type JobView,
  maybeDrawing,
  pictureName,
  sceneSettings,
} from '@zest-jaw/core';
import { Download } from 'lucide-react';
import { useEffect, useEffectEvent, useMemo, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { cancelJob, useJob } from '../api/job.js';
import { Easel } from '../mouth/Easel.js';
import { Mouth } from '../mouth/Mouth.js';
import { SpeakerSwitch } from '../scene/SpeakerSwitch.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { keyer } from '../workers/keyer.js';

const SIZES = [
  ['1920x1080', '1920 × 1080'],
  ['1280x720', '1280 × 720'],
  ['1080x1080', '1080 × 1080'],
  ['512x512', '512 × 512'],
] as const;

function save(url: string, name: string): void {
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
}

function PicturesCard(): ReactElement {
  const { session, sceneId } = useOpenScene();
  const document = useSceneDocument();
  const { track, charts, character } = useSpeaker();
  const { lengthFrames, firstFrame } = sceneSettings(document);
  const [baseName, setBaseName] = useState(character.name.toLowerCase().replace(/[^\p{L}_-]/gu, ''));
  const [firstNumber, setFirstNumber] = useState(String(firstFrame));
  const [size, setSize] = useState<string>(SIZES[0][0]);
  const [withHead, setWithHead] = useState(false);
  const [jobId, setJobId] = useState<string>();
  const job = useJob(jobId);
  const [width, height] = size.split('x').map(Number) as [number, number];
  const options = { baseName: baseName.trim(), firstNumber: firstNumber.trim() === '' ? Number.NaN : Number(firstNumber), width, height };
  const [fault] = checkPictureOptions(options, lengthFrames);
  const frames = looksOfFrames(document, track.id, charts);
  const isBusy = jobId !== undefined && (job === undefined || !hasEnded(job));

  // Once, under the name of then.
  const onDone = useEffectEvent((id: string) => save(`/api/jobs/${id}/result`, `${baseName}.zip`));
  const doneId = job?.state === 'done' ? job.id : undefined;
  useEffect(() => {
    if (doneId !== undefined) onDone(doneId);
  }, [doneId]);

  const render = async (): Promise<void> => {
    try {
      await session.flush();
      const begun = await sendJson<JobView>('POST', `/scenes/${sceneId}/pictures`, { ...options, trackId: track.id, withHead });
      setJobId(begun.id);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const shown = frames.slice(0, 12);
  return (
    <section className="flex flex-col rounded-[14px] border border-rule bg-sheet p-5" aria-labelledby="pictures-title">
      <h2 id="pictures-title" className="name text-[21px]">
        Numbered pictures
      </h2>
      <SpeakerSwitch />
      <p className="mb-4 text-ink-soft">{`One PNG a frame with transparency, ${lengthFrames} in a zip file, every mouth's cross in the same place.`}</p>
      <div className="mb-4 grid grid-cols-4 gap-2">
        {shown.map((look, index) => {
          const chart = charts.get(look?.chartId ?? track.chartId)!;
          const drawing = look && maybeDrawing(chart, look.drawing);
          return (
            <figure
              key={index}
              className="overflow-hidden rounded-lg border border-rule-soft bg-[repeating-conic-gradient(var(--rule-soft)_0_25%,transparent_0_50%)] bg-[length:14px_14px]"
            >
              {withHead ? (
                <Easel name={character.name} bare chart={chart} drawing={drawing} className="h-[92px] border-0!" />
              ) : (
                drawing && <Mouth chart={chart} drawing={drawing} lookIndex={look.look} className="mx-auto h-[92px]" />
              )}
              <figcaption className="truncate bg-lift px-1.5 py-0.5 text-center text-[12px] text-ink-soft">
                {fault ? '–' : pictureName(options.baseName, options.firstNumber + index)}
              </figcaption>
            </figure>
          );
        })}
      </div>
      <form
        className="grid grid-cols-2 gap-x-4 gap-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          void render();
        }}
      >
        <label className="flex flex-col gap-1 font-semibold">
          Base name
          <input className="field font-normal" value={baseName} onChange={(event) => setBaseName(event.target.value)} spellCheck={false} />
        </label>
        <label className="flex flex-col gap-1 font-semibold">
          First number
          <input
            className="field font-normal"
            inputMode="numeric"
            value={firstNumber}
            onChange={(event) => setFirstNumber(event.target.value)}
          />
        </label>
        <label className="flex flex-col gap-1 font-semibold">
          Size
          <select className="field font-normal" value={size} onChange={(event) => setSize(event.target.value)}>
            {SIZES.map(([value, text]) => (
              <option key={value} value={value}>
                {text}
              </option>
            ))}
          </select>
        </label>
        <fieldset className="flex flex-col gap-1">
          <legend className="mb-1 font-semibold">Picture</legend>
          <label className="flex items-center gap-2">
            <input type="radio" name="content" checked={!withHead} onChange={() => setWithHead(false)} className="accent-[var(--zest)]" />{' '}
            mouth alone
          </label>
          <label className="flex items-center gap-2">
            <input type="radio" name="content" checked={withHead} onChange={() => setWithHead(true)} className="accent-[var(--zest)]" />{' '}
            mouth on the head
          </label>
        </fieldset>
        <div className="col-span-2 flex min-h-[40px] items-center gap-3">
          <Button type="submit" weight="main" disabled={isBusy || fault !== undefined}>
            <Download size={17} aria-hidden /> Save pictures
          </Button>
          {isBusy && (
            <>
              <progress className="h-2 flex-1 accent-[var(--zest)]" value={job?.done ?? 0} aria-label="Rendering pictures" />
              <Button weight="bare" onClick={() => jobId && void cancelJob(jobId)}>
                Cancel
              </Button>
            </>
          )}
          <span className={`text-[14px] ${fault || job?.state === 'failed' ? 'text-bad' : 'text-ink-soft'}`} role="status">
            {fault ??
              (job?.state === 'done'
                ? `${lengthFrames} pictures saved.`
                : job?.state === 'failed' || job?.state === 'cancelled'
                  ? job.message
                  : '')}
          </span>
        </div>
      </form>
    </section>
  );
}

/** Rows of the sheet that are shown before it is saved. */
const PREVIEWED = 21;

function SheetCard(): ReactElement {
  const { characters } = useOpenScene();
  const document = useSceneDocument();
  const { allCharts } = useSpeaker();
  const { title, lengthFrames } = sceneSettings(document);
  // Everybody who speaks, beside one another.
  const tracks = useMemo(
    () =>
      document.tracks.map(({ id, characterId }) => {
        const name = characters.find((character) => character.id === characterId)?.name ?? 'Somebody';
        return { trackId: id, name, charts: allCharts };
      }),
    [document.tracks, characters, allCharts],
  );
  const rows = useMemo(
    () => exposureSheetRows(document, tracks, { to: Math.min(lengthFrames, PREVIEWED) }),
    [document, tracks, lengthFrames],
  );
  const download = async (): Promise<void> => {
    try {
      const csv = await keyer.sheet(
        document,
        allCharts,
        tracks.map(({ trackId, name }) => [trackId, name] as const),
      );
      const url = URL.createObjectURL(new Blob([csv], { type: 'text/csv' }));
      save(url, `${title}.csv`);
      // The browser reads the blob after the click has returned.
      setTimeout(() => URL.revokeObjectURL(url), 10_000);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <section className="flex min-h-0 flex-col rounded-[14px] border border-rule bg-sheet p-5" aria-labelledby="sheet-title">
      <h2 id="sheet-title" className="name text-[21px]">
        Exposure sheet
      </h2>
      <p className="mb-4 text-ink-soft">One row a frame as CSV: what is said, and which mouth. A bar holds the drawing above it.</p>
      <div className="mb-4 min-h-0 flex-1 overflow-hidden rounded-lg border border-rule-soft">
        <table className="w-full text-[13px]">
          <thead className="bg-word text-left">
            <tr>
              {exposureSheetHeadings(tracks).map((cell) => (
                <th key={cell} className="px-2 py-1 font-semibold">
                  {tracks.length === 1 ? cell.replace(`${tracks[0]!.name} `, '') : cell}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.frame} className="border-t border-rule-soft text-ink-soft">
                {exposureSheetCells(row).map((cell, column) => (
                  <td key={column} className="h-[24px] px-2">
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Button weight="main" className="self-start" onClick={() => void download()}>
        <Download size={17} aria-hidden /> Save sheet
      </Button>
    </section>
  );
}

export function HandOffStep(): ReactElement {
  const { track } = useSpeaker();
  return (
    <main className="grid min-h-0 flex-1 grid-cols-2 gap-4 overflow-y-auto p-[16px_18px]">
      <PicturesCard key={track.id} />
      <SheetCard />
    </main>
  );
}
