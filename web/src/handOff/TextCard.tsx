/** A file of text made of a lane: shown as it will be written, saved with one press. */
import type { TextFormat, TextRequest } from '@zest-jaw/core';
import { Download } from 'lucide-react';
import Papa from 'papaparse';
import { useMemo, type ReactElement, type ReactNode } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { useHeard } from '../trying/useProposal.js';
import { Button } from '../ui/Button.js';
import { saveText } from '../ui/saveText.js';
import { keyer } from '../workers/keyer.js';
import { useAnswer } from '../workers/useAnswer.js';
import { Card } from './Card.js';

/** Rows and columns that are shown before it is saved. */
const SHOWN_ROWS = 24;
const SHOWN_COLUMNS = 14;
/** Enough of a file to show its first rows. */
const SHOWN_LETTERS = 12_000;

interface TextCardProps {
  readonly title: string;
  readonly says: string;
  readonly counts?: string | undefined;
  /** What is asked for, by format; a timeline has one of its own. */
  readonly request: (format: TextFormat) => TextRequest;
  readonly formats: readonly TextFormat[];
  /** What the file is called, without its ending. */
  readonly fileName: string;
  /** In the place of that of the format. */
  readonly ending?: string;
  /** Beside the buttons that save. */
  readonly also?: ReactNode;
  readonly children?: ReactNode;
}

export function TextCard({ title, says, counts, request, formats, fileName, ending, also, children }: TextCardProps): ReactElement {
  const scene = useSceneDocument();
  const { track, charts } = useSpeaker();
  const heard = useHeard();
  const shown = request(formats[0]!);
  const on = { scene, trackId: track.id, charts, heard };
  const text = useAnswer('hand-off', [scene, charts, heard, track.id, JSON.stringify(shown)], () => keyer.handOff(on, shown));
  const save = async (format: TextFormat): Promise<void> => {
    try {
      saveText(`${fileName}${ending ?? `.${format}`}`, await keyer.handOff(on, request(format)));
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <Card title={title} says={says} counts={counts}>
      <div className="mb-4 grid grid-cols-3 gap-x-4 gap-y-3">{children}</div>
      <div
        className="mb-4 min-h-[120px] flex-1 overflow-auto rounded-lg border border-rule-soft"
        tabIndex={0}
        role="region"
        aria-label="As it will be written"
      >
        {ending === undefined ? (
          <Table csv={text ?? ''} />
        ) : (
          <pre className="px-3 py-2 text-[13px] leading-snug text-ink-soft">{text?.slice(0, SHOWN_LETTERS)}</pre>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-2">
        {formats.map((format, index) => (
          <Button key={format} weight={index === 0 ? 'main' : 'quiet'} onClick={() => void save(format)}>
            <Download size={17} aria-hidden /> {`Save as ${(ending ?? format).replace('.', '').toUpperCase()}`}
          </Button>
        ))}
        {also}
      </div>
    </Card>
  );
}

/** The first rows of a file. */
function Table({ csv }: { csv: string }): ReactElement {
  const [head = [], ...rows] = useMemo(
    () => Papa.parse<string[]>(csv.slice(0, SHOWN_LETTERS), { preview: SHOWN_ROWS + 1, skipEmptyLines: true }).data,
    [csv],
  );
  return (
    <table className="w-full text-[13px]">
      <thead className="sticky top-0 bg-word text-left">
        <tr>
          {head.slice(0, SHOWN_COLUMNS).map((cell, column) => (
            <th key={column} className="px-2 py-1 font-semibold">
              {cell}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, index) => (
          <tr key={index} className="border-t border-rule-soft text-ink-soft">
            {row.slice(0, SHOWN_COLUMNS).map((cell, column) => (
              <td key={column} className="h-[24px] px-2 whitespace-nowrap">
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
