/**
 * Importing mouths: what was found, and a table of what was taken for what, before anything
 * is kept. Names are matched to sounds by spelling; the table says by which.
 */
import {
  areLettersInOrder,
  GRID_LIMITS,
  hasEnded,
  maybeFaceOfImport,
  maybeMatchOfName,
  placementsOfImport,
  takeImported,
  withoutCommonBeginning,
  type ChartDocument,
  type FoundMouthView,
  type ImportRequest,
  type ImportRow,
  type ImportView,
} from '@zest-jaw/core';
import { useEffect, useEffectEvent, useMemo, useRef, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { acceptImport, beginImport, foundByImport, giveUpImport, importAgain, type ChosenFile } from '../api/imports.js';
import { useJob } from '../api/job.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { Pills } from '../ui/Pills.js';
import { count } from '../ui/count.js';
import { FaceFound } from './FaceFound.js';
import { useTakeFace } from './useTakeFace.js';
import { ImportTable, type Decision } from './ImportTable.js';
import { LayerLevels } from './LayerLevels.js';
import { useOpenChart } from './openChart.js';
import { Progress } from '../ui/Progress.js';

/** What each mouth is taken for at first: by its name alone, in the place of the drawing that plays the same. */
export function firstDecisions(mouths: readonly FoundMouthView[], chart: ChartDocument): Decision[] {
  const numbered = areLettersInOrder(mouths.map((mouth) => mouth.name));
  const labels = withoutCommonBeginning(mouths.map((mouth) => mouth.name));
  const claimed = new Set<string>();
  return mouths.map(({ name }, index) => {
    const match = numbered ? undefined : maybeMatchOfName(name, chart.groups);
    // What a name only looks like is asked, and takes no drawing's place by itself.
    const groups = match?.isWeak ? [] : (match?.groups ?? []).filter((group) => !claimed.has(group));
    groups.forEach((group) => claimed.add(group));
    const held = groups.length > 0 ? chart.drawings.find((drawing) => drawing.groups.includes(groups[0]!)) : undefined;
    const free = held && !claimed.has(`#${held.id}`) ? held : undefined;
    if (free) claimed.add(`#${free.id}`);
    return {
      label: labels[index]!.slice(0, 40) || 'Mouth',
      groups,
      because: match && !match.isWeak ? match.because : numbered ? 'letters in order number the mouths' : '',
      as: free ? free.id : 'new',
      ...(match?.isWeak && { perhaps: match.groups }),
    };
  });
}

const CUTS: readonly (readonly [ImportRequest['cut'], string])[] = [
  ['whole', 'One mouth'],
  ['figures', 'Separate figures'],
  ['grid', 'A grid'],
];

/** A request for layers opened so deep; by their names without a level. */
function atLevel({ level: _, ...rest }: ImportRequest, level: number | undefined): ImportRequest {
  return level === undefined ? rest : { ...rest, level };
}

interface ImportDialogProps {
  readonly files: readonly ChosenFile[];
  readonly onClose: () => void;
}

export function ImportDialog({ files, onClose }: ImportDialogProps): ReactElement {
  const { chart, change, choose } = useOpenChart();
  const [request, setRequest] = useState<ImportRequest>({ cut: 'whole', clearPaper: true });
  const [importId, setImportId] = useState<string>();
  const job = useJob(importId);
  const [fault, setFault] = useState<string>();
  const [view, setView] = useState<ImportView>();
  const [decisions, setDecisions] = useState<readonly Decision[]>([]);
  const [accepting, setAccepting] = useState(false);
  /** A layered file with parts is taken as a face unless one says otherwise. */
  const [wanted, setWanted] = useState<'face' | 'mouths'>('face');
  /** What is on the server and would stay there if the dialog were closed. */
  const pending = useRef<string | undefined>(undefined);

  useEffect(() => {
    let wanted = true;
    beginImport(files, { cut: 'whole', clearPaper: true })
      .then(({ id }) => {
        pending.current = id;
        if (wanted) setImportId(id);
        else void giveUpImport(id).catch(() => undefined);
      })
      .catch((error: unknown) => wanted && setFault(sentenceOf(error)));
    return () => {
      wanted = false;
      if (pending.current) void giveUpImport(pending.current).catch(() => undefined);
    };
  }, [files]);

  const done = job !== undefined && hasEnded(job) && job.state === 'done';
  const failed = job && hasEnded(job) && job.state !== 'done' ? job.message : undefined;
  // On the chart as it is when they are found: what is decided here is not decided again by itself.
  const onFound = useEffectEvent((found: ImportView) => {
    setView(found);
    setDecisions(firstDecisions(found.mouths, chart));
  });
  useEffect(() => {
    if (!done || !importId) return;
    foundByImport(importId)
      .then(onFound)
      .catch((error: unknown) => setFault(sentenceOf(error)));
  }, [done, importId]);

  const look = async (next: ImportRequest): Promise<void> => {
    setRequest(next);
    if (!importId || (next.cut === 'grid' && !(next.columns && next.rows))) return;
    setView(undefined);
    try {
      const { id } = await importAgain(importId, next);
      pending.current = id;
      setImportId(id);
    } catch (error) {
      setFault(sentenceOf(error));
    }
  };

  const face = useMemo(() => (view ? maybeFaceOfImport(view.mouths, chart.groups) : undefined), [view, chart.groups]);
  const asFace = face !== undefined && wanted === 'face';
  const takeFace = useTakeFace();
  const acceptFace = async (): Promise<void> => {
    if (!face || !importId) return;
    setAccepting(true);
    try {
      pending.current = undefined;
      const others = await takeFace(importId, face);
      toast.success(`The face is here: its mouths${face.head ? ', its head' : ''} and ${count(others, 'part', 'parts')}.`);
      onClose();
    } catch (error) {
      toast.error(sentenceOf(error));
      setAccepting(false);
    }
  };
  const chosen = decisions.filter((decision) => decision.as !== 'out').length;
  const placements = useMemo(() => placementsOfImport(view?.mouths ?? []), [view]);
  const accept = async (): Promise<void> => {
    if (!view || !importId) return;
    setAccepting(true);
    const indexes = view.mouths.map((mouth) => mouth.index).filter((index) => decisions[index]!.as !== 'out');
    try {
      const arts = await acceptImport(importId, indexes);
      pending.current = undefined;
      const rows = indexes.map((index, place): ImportRow => {
        const { label, groups, as } = decisions[index]!;
        return { art: arts[place]!, placement: placements[index]!, label, groups, ...(as === 'new' ? {} : { inPlaceOf: as }) };
      });
      const before = new Set(chart.drawings.map((drawing) => drawing.id));
      if (change((now) => takeImported(now, rows, newId))) {
        const first = rows[0]?.inPlaceOf;
        choose(first ?? [...before][0]);
        toast.success(`${rows.length === 1 ? 'One mouth is' : `${rows.length} mouths are`} in the chart. Undo takes them out again.`);
      }
      onClose();
    } catch (error) {
      toast.error(sentenceOf(error));
      setAccepting(false);
    }
  };

  const isOnePicture = files.length === 1 && /\.(png|jpe?g|webp)$/i.test(files[0]!.path);
  const sentence = fault ?? failed;
  return (
    <Modal
      open
      wide
      title={
        sentence
          ? 'These cannot be used'
          : view
            ? asFace
              ? 'A whole face found'
              : `${view.mouths.length === 1 ? 'One mouth' : `${view.mouths.length} mouths`} found`
            : 'Looking for mouths…'
      }
      onClose={onClose}
    >
      {sentence && <p className="mt-2 text-ink-soft">{sentence}</p>}
      {!sentence && !view && (
        <Progress className="mt-4" label="Looking for mouths" done={job?.done ?? 0} message={job?.message ?? 'Sending the files'} />
      )}
      {view && (isOnePicture || view.hasPaper) && (
        <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
          {isOnePicture && (
            <Pills
              label="Take the picture as"
              options={CUTS}
              value={request.cut}
              onChange={(cut) =>
                void look({ ...request, cut, ...(cut === 'grid' ? { columns: request.columns ?? 4, rows: request.rows ?? 3 } : {}) })
              }
            />
          )}
          {request.cut === 'grid' && isOnePicture && (
            <span className="flex items-center gap-2 text-ink-soft">
              {(['columns', 'rows'] as const).map((side) => (
                <label key={side} className="flex items-center gap-1.5">
                  <input
                    type="number"
                    className="field w-[60px]! px-2! py-[3px]!"
                    min={1}
                    max={GRID_LIMITS.most}
                    value={request[side] ?? ''}
                    onChange={(event) => void look({ ...request, [side]: Number(event.target.value) })}
                  />
                  {side}
                </label>
              ))}
            </span>
          )}
          {view.hasPaper && (
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={request.clearPaper}
                onChange={(event) => void look({ ...request, clearPaper: event.target.checked })}
                className="accent-[var(--zest)]"
              />
              Take the paper away around them
            </label>
          )}
        </div>
      )}
      {view?.choice && <LayerLevels choice={view.choice} level={request.level} onChoose={(level) => void look(atLevel(request, level))} />}
      {face && (
        <div className="mt-3">
          <Pills
            label="Take it as"
            value={wanted}
            options={[
              ['face', 'A whole face'],
              ['mouths', 'Mouths only'],
            ]}
            onChange={(value: 'face' | 'mouths') => setWanted(value)}
          />
        </div>
      )}
      {view && asFace && <FaceFound importId={importId!} face={face} />}
      {view && !asFace && (
        <ImportTable importId={importId!} mouths={view.mouths} decisions={decisions} chart={chart} onDecide={setDecisions} />
      )}
      {view && (view.refused.length > 0 || view.warnings.length > 0) && (
        <ul className="mt-3 max-h-[110px] list-disc overflow-y-auto pl-5 text-[14px]">
          {view.refused.map(({ file, sentence: why }) => (
            <li key={file + why} className="text-bad">
              {why}
            </li>
          ))}
          {view.warnings.map((warning) => (
            <li key={warning} className="text-ink-soft">
              {warning}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>{sentence ? 'Close' : 'Cancel'}</Button>
        {view && (
          <Button weight="main" disabled={accepting || (!asFace && chosen === 0)} onClick={() => void (asFace ? acceptFace() : accept())}>
            {asFace ? 'Take the face' : chosen === 1 ? 'Take this mouth' : `Take ${chosen} mouths`}
          </Button>
        )}
      </div>
    </Modal>
  );
}
