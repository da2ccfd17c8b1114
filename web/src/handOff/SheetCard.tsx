/** The exposure sheet: as CSV, or on paper. */
import {
  nameOfLane,
  countedRow,
  exposureSheetCells,
  exposureSheetHeadings,
  exposureSheetRows,
  firstCounted,
  sceneSettings,
} from '@zest-jaw/core';
import { Download } from 'lucide-react';
import { useMemo, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { saveText } from '../ui/saveText.js';
import { keyer } from '../workers/keyer.js';
import { Card } from './Card.js';
import { CountingFields, countingOf, useCountingInWords, USUAL_COUNTING } from './CountingFields.js';
import { SaveRow } from './SaveRow.js';
import { useHandOff } from './useHandOff.js';
import { useKeptChoices } from './useKeptChoices.js';

/** Rows of the sheet that are shown before it is saved. */
const PREVIEWED = 21;

export function SheetCard(): ReactElement {
  const { characters } = useOpenScene();
  const document = useSceneDocument();
  const { allCharts } = useSpeaker();
  const { title, lengthFrames } = sceneSettings(document);
  const [choices, choose] = useKeptChoices('sheet', { ...USUAL_COUNTING, paper: 'A4' as 'A4' | 'Letter' });
  const handOff = useHandOff();
  const counts = useCountingInWords(choices);
  // Everybody who speaks, beside one another.
  const tracks = useMemo(
    () =>
      document.tracks.map((track) => {
        const speaker = characters.find((character) => character.id === track.characterId)?.name ?? 'Somebody';
        return { trackId: track.id, name: nameOfLane(track, speaker), charts: allCharts };
      }),
    [document.tracks, characters, allCharts],
  );
  const counting = countingOf(choices);
  const asCounted = { firstNumber: firstCounted(document, counting), drop: counting.drop };
  const listed = useMemo(
    () => exposureSheetRows(document, tracks, { to: Math.min(lengthFrames, PREVIEWED) }),
    [document, tracks, lengthFrames],
  );
  const rows = listed.map((row, frame) => countedRow(document, row, frame, asCounted));
  const download = async (): Promise<void> => {
    try {
      const names = tracks.map(({ trackId, name }) => [trackId, name] as const);
      saveText(`${title}.csv`, await keyer.sheet(document, allCharts, names, asCounted));
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const date = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' }).format(new Date());
  return (
    <Card
      title="Exposure sheet"
      says="One row a frame: what is said, and which mouth; a bar holds the drawing above it. As CSV, or laid out to be printed."
      counts={counts}
      ofLane={false}
    >
      <div className="mb-4 grid grid-cols-3 gap-x-4 gap-y-3">
        <label className="flex flex-col gap-1 font-semibold">
          Paper
          <select
            className="field font-normal"
            value={choices.paper}
            onChange={({ target }) => choose({ paper: target.value as 'A4' | 'Letter' })}
          >
            <option>A4</option>
            <option>Letter</option>
          </select>
        </label>
        <CountingFields value={choices} onChange={choose} />
      </div>
      <div
        tabIndex={0}
        role="region"
        aria-label="As it will be written"
        className="mb-4 min-h-[120px] flex-1 overflow-auto rounded-lg border border-rule-soft"
      >
        <table className="w-full text-[13px]">
          <thead className="sticky top-0 bg-word text-left">
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
      <div className="flex flex-wrap items-center gap-2">
        <Button className="self-start" onClick={() => void download()}>
          <Download size={17} aria-hidden /> Save sheet as CSV
        </Button>
        <SaveRow
          handOff={handOff}
          label="Save sheet as PDF"
          request={{ kind: 'sheet', paper: choices.paper, counting: countingOf(choices), date }}
        />
      </div>
    </Card>
  );
}
