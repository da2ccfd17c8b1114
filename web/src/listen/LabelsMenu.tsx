/** Labels out of a clip's reading, and into it. */
import { LABEL_KINDS, readingOfClip, writeLabels, type Clip, type LabelKind } from '@zest-jaw/core';
import { ChevronDown } from 'lucide-react';
import { lazy, Suspense, useRef, useState, type ReactElement } from 'react';
import { useOpenScene } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { Menu, MenuItem } from '../ui/Menu.js';
import { saveText } from '../ui/saveText.js';

const LabelsDialog = lazy(async () => ({ default: (await import('./LabelsDialog.js')).LabelsDialog }));

const NAMES: Readonly<Record<LabelKind, string>> = {
  TextGrid: 'TextGrid, words and sounds',
  vtt: 'WebVTT captions, with the times of words',
  srt: 'SubRip captions',
  ctm: 'CTM, words',
  tsv: 'Words with tabs between, in seconds',
  json: 'The reading as JSON',
};

export function LabelsMenu({ clip, disabled }: { clip: Clip; disabled: boolean }): ReactElement {
  const { session } = useOpenScene();
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File>();
  const takeOut = (kind: LabelKind): void => {
    const reading = readingOfClip(session.store.getState().document, clip);
    const name = clip.fileName.replace(/\.[^.]+$/, '') || 'line';
    saveText(`${name}.${kind}`, writeLabels(kind, reading, { name }));
  };
  return (
    <>
      <Menu
        trigger={
          <Button className="self-start py-[3px]! text-[14px]!">
            Labels <ChevronDown size={14} aria-hidden />
          </Button>
        }
      >
        {LABEL_KINDS.map((kind) => (
          <MenuItem key={kind} onSelect={() => takeOut(kind)}>
            Take out: {NAMES[kind]}
          </MenuItem>
        ))}
        <MenuItem disabled={disabled} onSelect={() => input.current?.click()}>
          Bring in…
        </MenuItem>
      </Menu>
      <input
        ref={input}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-label="A file of labels"
        accept=".TextGrid,.textgrid,.vtt,.srt,.ctm,.tsv,.lab,.txt,.json"
        onChange={(event) => {
          setFile(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      {file && (
        <Suspense>
          <LabelsDialog clip={clip} file={file} onClose={() => setFile(undefined)} />
        </Suspense>
      )}
    </>
  );
}
