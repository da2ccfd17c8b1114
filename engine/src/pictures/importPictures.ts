/**
 * Many mouths from what an animator has: pictures one by one, archives of them, an SVG whose
 * groups are mouths, an OpenRaster file's layers, many mouths on one sheet, the frames of an
 * animated picture. Each file that cannot be used is answered with a sentence, and the others go on.
 */
import type { LayerChoice } from '@zest-jaw/core';
import { openPicture } from './decode.js';
import { baseName, type Found, type FoundMouth, type ImportOptions, type LayerOptions } from './foundMouth.js';
import { maybeKindOfFile } from './kindOfFile.js';
import { CannotUsePicture, PICTURE_FILE_LIMITS } from './limits.js';
import { mouthsOfOpenRaster } from './mouthsOfOpenRaster.js';
import { mouthsOfRasters } from './mouthsOfRasters.js';
import { mouthsOfSvg } from './mouthsOfSvg.js';
import { unpack, UnpacksToTooMuch, type NamedFile } from './unpack.js';

export interface RefusedFile {
  readonly file: string;
  readonly sentence: string;
}

export interface ImportReport {
  readonly refused: readonly RefusedFile[];
  readonly warnings: readonly string[];
  /** Some picture shows paper around its mouths. */
  readonly hasPaper: boolean;
  /** What there is at each depth of layers inside layers, where there is a choice. */
  readonly choice?: LayerChoice;
}

const inNaturalOrder = (a: NamedFile, b: NamedFile): number => a.name.localeCompare(b.name, 'en', { numeric: true, sensitivity: 'base' });

/** Files with archives in them unpacked; an OpenRaster file stays one. */
function expanded(files: readonly NamedFile[], refused: RefusedFile[]): { file: NamedFile; inside?: readonly NamedFile[] }[] {
  let room: number = PICTURE_FILE_LIMITS.unpackedBytes;
  return files.flatMap((file) => {
    if (maybeKindOfFile(file.bytes) !== 'zip') return [{ file }];
    try {
      const inside = unpack(file.bytes, baseName(file.name), room);
      room -= inside.reduce((sum, { bytes }) => sum + bytes.length, 0);
      if (inside.some((entry) => entry.name === 'stack.xml')) return [{ file, inside }];
      return inside.sort(inNaturalOrder).map((entry) => ({ file: entry }));
    } catch (error) {
      if (!(error instanceof CannotUsePicture)) throw error;
      // Nothing after it is unpacked either: each would have to be begun to be refused.
      if (error instanceof UnpacksToTooMuch) room = 0;
      refused.push({ file: baseName(file.name), sentence: error.message });
      return [];
    }
  });
}

const NAMED_FOR: Readonly<Record<string, string>> = {
  png: 'png',
  apng: 'png',
  jpg: 'jpeg',
  jpeg: 'jpeg',
  webp: 'webp',
  gif: 'gif',
  svg: 'svg',
};

async function mouthsOfFile(
  { file, inside }: { file: NamedFile; inside?: readonly NamedFile[] },
  options: ImportOptions,
  warnings: string[],
  notePaper: () => void,
  noteChoice: LayerOptions['noteChoice'],
): Promise<Found[]> {
  const name = baseName(file.name);
  const single = options.cut.how === 'single' || options.cut.how === 'pages';
  const layers: LayerOptions = { single, level: options.level, noteChoice };
  if (inside) return mouthsOfOpenRaster(file, inside, layers);
  const kind = maybeKindOfFile(file.bytes);
  if (!kind)
    throw new CannotUsePicture(
      `${name} is not a picture that can be used. It may be PNG, JPEG, WebP, GIF, SVG or OpenRaster, or a zip of those.`,
    );
  if (kind === 'zip') throw new CannotUsePicture(`${name} is an archive inside an archive. Unpack it and choose its pictures.`);
  const expected = NAMED_FOR[/\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? ''];
  if (expected && expected !== kind) warnings.push(`${name} is a ${kind.toUpperCase()} whatever its name says; it is taken as one.`);
  if (kind === 'svg') return mouthsOfSvg(file, layers, warnings);
  return mouthsOfRasters(file, await openPicture(file.bytes, kind, name), options, warnings, notePaper);
}

/**
 * Finds the mouths of some files.
 *
 * @param options how they are taken; `spoiled` names those that are not to be looked at, by the index that is reported, and what
 * is said of each
 * @param onMouth called for each in order, so that nothing need be kept
 * @param report share done, what is being done, and with which file: its index when archives are unpacked
 */
export async function importPictures(
  files: readonly NamedFile[],
  { spoiled, ...options }: ImportOptions & { readonly spoiled?: ReadonlyMap<number, string> },
  onMouth: (mouth: FoundMouth) => void | Promise<void>,
  report: (done: number, doing: string, index: number) => void = () => undefined,
): Promise<ImportReport> {
  const refused: RefusedFile[] = [];
  const warnings: string[] = [];
  let hasPaper = false;
  let choice: LayerChoice | undefined;
  const sources = expanded([...files].sort(inNaturalOrder), refused);
  const { files: most, mouths: mostMouths } = PICTURE_FILE_LIMITS;
  if (sources.length > most)
    return {
      refused: [
        { file: `${sources.length} files`, sentence: `These are ${sources.length} files. An import may have ${most}: choose fewer.` },
      ],
      warnings,
      hasPaper,
    };
  let count = 0;
  for (const [index, source] of sources.entries()) {
    const name = baseName(source.file.name);
    const before = spoiled?.get(index);
    if (before !== undefined) {
      refused.push({ file: name, sentence: before });
      continue;
    }
    report(index / sources.length, `${name}, ${index + 1} of ${sources.length}`, index);
    try {
      const found = await mouthsOfFile(
        source,
        options,
        warnings,
        () => (hasPaper = true),
        (own) => (choice ??= own),
      );
      if (found.length === 0) throw new CannotUsePicture(`${name} is empty: there is nothing on it but ground.`);
      if (count + found.length > mostMouths) throw new CannotUsePicture(`${name} brings more than ${mostMouths} mouths. Choose fewer.`);
      for (const mouth of found) await onMouth({ ...mouth, file: name });
      count += found.length;
    } catch (error) {
      if (!(error instanceof CannotUsePicture)) throw error;
      refused.push({ file: name, sentence: error.message });
    }
  }
  return { refused, warnings, hasPaper, ...(choice && { choice }) };
}
