/** Numbers of drawings that come in: a sheet, a key list or a copied column, laid into the lane as ink. */
import {
  frameNumber,
  guessNumbers,
  isRefusal,
  mouthsOfNumbers,
  pasteFrames,
  readNumbers,
  sceneSettings,
  type ColumnRole,
  type NumbersChoice,
} from '@zest-jaw/core';
import { useMemo, useState, type ReactElement } from 'react';
import { keepBefore, savedRevision } from '../passes/usePasses.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { UndoRedo } from '../ui/UndoRedo.js';
import { useKeys } from '../ui/useKeys.js';
import { Card } from './Card.js';

/** Rows that are shown of a table. */
const SHOWN = 14;
const ROLES: readonly (readonly [ColumnRole, string])[] = [
  ['none', 'not wanted'],
  ['drawing', 'the drawing'],
  ['frame', 'frame'],
  ['seconds', 'seconds'],
  ['timecode', 'timecode'],
];

export function NumbersInCard(): ReactElement {
  const { session, sceneId } = useOpenScene();
  const document = useSceneDocument();
  const { track, chart, charts, character } = useSpeaker();
  const { frameRate, lengthFrames } = sceneSettings(document);
  const [text, setText] = useState('');
  useKeys({ 'Ctrl+KeyZ': () => void session.undo(), 'Ctrl+Shift+KeyZ': () => void session.redo() });
  const [own, setOwn] = useState<Partial<NumbersChoice>>({});
  const [done, setDone] = useState('');
  const chartId = [...charts].find(([, one]) => one === chart)?.[0] ?? track.chartId;
  const table = useMemo(() => (text.trim() === '' ? undefined : readNumbers(text, chart)), [text, chart]);
  const choice = useMemo(() => (table && !isRefusal(table) ? { ...guessNumbers(table, chart), ...own } : undefined), [table, chart, own]);
  const found = useMemo(
    () => (table && !isRefusal(table) && choice ? mouthsOfNumbers(table, choice, { chart, chartId, frameRate, lengthFrames }) : undefined),
    [table, choice, chart, chartId, frameRate, lengthFrames],
  );
  const refusal = table && isRefusal(table) ? table.refusal : found && isRefusal(found) ? found.refusal : undefined;
  const take = (given: string): void => {
    setText(given);
    setOwn({});
    setDone('');
  };
  const lay = async (): Promise<void> => {
    if (!found || isRefusal(found)) return;
    const revision = await savedRevision(session);
    const document = session.store.getState().document;
    keepBefore(sceneId, revision, 'a sheet was brought in');
    const { patch } = pasteFrames(document, { track: track.id, from: found.from, pushing: false }, found.copied, { chartId, chart }, newId);
    if (session.change(patch))
      setDone(`${count(found.copied.mouths.length, 'mouth', 'mouths')} laid into the lane in ink, in one step of undo.`);
  };
  const setRole = (column: number, role: ColumnRole): void => {
    if (!choice) return;
    // One column has the drawings, one at most says where.
    const isSame = (other: ColumnRole): boolean =>
      role === 'drawing' ? other === 'drawing' : role !== 'none' && other !== 'drawing' && other !== 'none';
    setOwn({ ...own, roles: choice.roles.map((other, index) => (index === column ? role : isSame(other) ? 'none' : other)) });
  };
  return (
    <Card
      title="Numbers brought in"
      says={`An exposure sheet or a key list as CSV, or a column that was copied, laid over the lane of ${character.name}.`}
      counts={
        found && !isRefusal(found)
          ? `${count(found.copied.mouths.length, 'mouth', 'mouths')} over frames ${frameNumber(document, found.from)} to ${frameNumber(document, Math.min(lengthFrames, found.from + found.copied.frames) - 1)}.`
          : undefined
      }
    >
      <div className="mb-3 flex items-start gap-3">
        <textarea
          className="field h-[92px] flex-1 resize-none font-mono text-[13px]"
          aria-label="Numbers, pasted"
          placeholder={'Paste here: a number a row, or a table with headings.'}
          value={text.length > 20_000 ? `${text.slice(0, 20_000)}…` : text}
          onChange={({ target }) => take(target.value)}
        />
        <label className="cursor-pointer rounded-full border border-rule bg-lift px-4 py-1.5 font-semibold hover:border-graphite">
          Choose a file
          <input
            type="file"
            accept=".csv,.tsv,.txt"
            className="sr-only"
            aria-label="Sheet or key list to bring in"
            onChange={({ target }) => {
              const [file] = target.files ?? [];
              target.value = '';
              if (file) void file.text().then(take);
            }}
          />
        </label>
      </div>
      {table && !isRefusal(table) && choice && (
        <>
          <div className="mb-3 flex flex-wrap items-end gap-4">
            <label className="flex flex-col gap-1 font-semibold">
              Numbers are
              <select
                className="field font-normal"
                value={choice.numbers}
                onChange={({ target }) => setOwn({ ...own, numbers: target.value as NumbersChoice['numbers'] })}
              >
                <option value="own">the drawings’ own</option>
                <option value="from 0">places in the tray from 0</option>
                <option value="from 1">places in the tray from 1</option>
              </select>
            </label>
            <label className="flex flex-col gap-1 font-semibold">
              The first frame is
              <input
                className="field w-[110px] font-normal"
                type="number"
                value={choice.firstNumber}
                onChange={({ target }) => setOwn({ ...own, firstNumber: Math.round(Number(target.value)) })}
              />
            </label>
            <label className="flex items-center gap-2 pb-2">
              <input
                type="checkbox"
                checked={choice.emptyHolds}
                onChange={({ target }) => setOwn({ ...own, emptyHolds: target.checked })}
              />
              an empty cell holds
            </label>
          </div>
          <div
            className="mb-3 min-h-[120px] flex-1 overflow-auto rounded-lg border border-rule-soft"
            tabIndex={0}
            role="region"
            aria-label="What was read"
          >
            <table className="w-full text-[13px]">
              <thead className="sticky top-0 bg-word text-left">
                <tr>
                  {choice.roles.map((role, column) => (
                    <th key={column} className="px-2 py-1 font-semibold">
                      <span className="block truncate">{table.headings?.[column] || `column ${column + 1}`}</span>
                      <select
                        aria-label={`Column ${column + 1} is`}
                        className="field mt-0.5 px-1! py-0! text-[13px] font-normal"
                        value={role}
                        onChange={({ target }) => setRole(column, target.value as ColumnRole)}
                      >
                        {ROLES.map(([value, said]) => (
                          <option key={value} value={value}>
                            {said}
                          </option>
                        ))}
                      </select>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {table.rows.slice(0, SHOWN).map((row, index) => (
                  <tr key={index} className="border-t border-rule-soft text-ink-soft">
                    {choice.roles.map((role, column) => (
                      <td key={column} className={`h-[24px] px-2 whitespace-nowrap ${role === 'none' ? '' : 'font-semibold text-ink'}`}>
                        {row[column]}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
      {found && !isRefusal(found) && found.unknown.length > 0 && (
        <p role="status" className="mb-2 text-[14px] text-bad">
          {`No drawing of this chart: ${found.unknown.slice(0, 8).join(', ')}${found.unknown.length > 8 ? ' …' : ''}. What was there stays.`}
        </p>
      )}
      {refusal && <p className="mb-2 text-[14px] text-bad">{refusal}</p>}
      <div className="flex min-h-[40px] items-center gap-3">
        <Button weight="main" disabled={!found || isRefusal(found)} onClick={() => void lay()}>
          Lay them into the lane
        </Button>
        <UndoRedo session={session} />
        <span className="text-[14px] text-ink-soft" role="status">
          {done}
        </span>
      </div>
    </Card>
  );
}
