/** The typeface of printed pages: text in runs, each in the first file of the typeface that has its letters. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { create, type Font } from 'fontkit';

export type Weight = 'plain' | 'bold';

interface Run {
  readonly text: string;
  /** Name under which the document knows the font. */
  readonly font: string;
}

const FILES = ['latin', 'latin-ext', 'greek'] as const;
const WEIGHTS: Readonly<Record<Weight, number>> = { plain: 400, bold: 600 };

interface Loaded {
  readonly name: string;
  readonly bytes: Buffer;
  readonly font: Font;
}

let loaded: Readonly<Record<Weight, readonly Loaded[]>> | undefined;

/** Read once. */
function fonts(): Readonly<Record<Weight, readonly Loaded[]>> {
  if (loaded) return loaded;
  const folder = join(dirname(createRequire(import.meta.url).resolve('@fontsource/source-sans-3/package.json')), 'files');
  const of = (weight: Weight): Loaded[] =>
    FILES.map((file) => {
      const bytes = readFileSync(join(folder, `source-sans-3-${file}-${WEIGHTS[weight]}-normal.woff`));
      return { name: `${weight} ${file}`, bytes, font: create(bytes) as Font };
    });
  return (loaded = { plain: of('plain'), bold: of('bold') });
}

/** Makes the typeface known to a document; only the letters that are used are put into it. */
export function registerFonts(document: PDFKit.PDFDocument): void {
  for (const all of Object.values(fonts())) for (const { name, bytes } of all) document.registerFont(name, bytes);
}

/** A letter that no file has is written as a question mark, so that nothing falls out of a line unseen. */
export function runsOf(text: string, weight: Weight): Run[] {
  const runs: { text: string; font: string }[] = [];
  const all = fonts()[weight];
  for (const letter of text.normalize('NFC')) {
    const own = all.find(({ font }) => font.hasGlyphForCodePoint(letter.codePointAt(0)!));
    const [font, written] = own ? [own.name, letter] : [all[0]!.name, '?'];
    const last = runs.at(-1);
    if (last?.font === font) last.text += written;
    else runs.push({ text: written, font });
  }
  return runs;
}
