/** The mouths of a raster picture: the picture, its frames, its separate figures or the cells of a grid. */
import { cropped, gridCells, maybePaperColour, separateFigures, withoutPaper, type Box, type Raster } from '@zest-jaw/core';
import { firstFrame, type OpenPicture } from './decode.js';
import { maybePlaced, stem, type Cut, type Found, type ImportOptions } from './foundMouth.js';
import { CannotUsePicture, PICTURE_FILE_LIMITS } from './limits.js';
import type { NamedFile } from './unpack.js';

/** The cells a sheet is cut into. */
function cellsOf(raster: Raster, cut: Cut): readonly Box[] {
  if (cut.how === 'figures') return separateFigures(raster);
  if (cut.how === 'grid') return gridCells(raster.width, raster.height, cut.columns, cut.rows);
  return [{ x: 0, y: 0, width: raster.width, height: raster.height }];
}

/** Whether a figure is the picture from edge to edge. */
const coversAll = ({ width, height }: Box, raster: Raster): boolean => width >= 0.98 * raster.width && height >= 0.98 * raster.height;

export async function mouthsOfRasters(
  file: NamedFile,
  picture: OpenPicture,
  { cut, clearPaper }: ImportOptions,
  warnings: string[],
  notePaper: () => void,
): Promise<Found[]> {
  const found: Found[] = [];
  const name = stem(file.name);
  const isWhole = cut.how === 'single' || cut.how === 'pages';
  if (picture.count > 1 && cut.how !== 'single') {
    let index = 0;
    for await (const frame of picture.frames()) {
      index += 1;
      if (maybePaperColour(frame)) notePaper();
      const placed = await maybePlaced(clearPaper ? withoutPaper(frame) : frame, { seen: frame, isWhole });
      if (placed) found.push({ ...placed, name: `${name} ${index}`, as: 'frame', index, of: picture.count, pageKey: file.name });
    }
    return found;
  }
  const first = await firstFrame(picture);
  if (maybePaperColour(first)) notePaper();
  const sheet = clearPaper ? withoutPaper(first) : first;
  const cells = cellsOf(sheet, cut);
  if (cells.length > PICTURE_FILE_LIMITS.mouths)
    throw new CannotUsePicture(
      `${name} falls into ${cells.length} separate figures. An import may have ${PICTURE_FILE_LIMITS.mouths}: cut it by a grid, or clean its ground.`,
    );
  if (cut.how === 'figures' && cells.length === 1 && coversAll(cells[0]!, sheet))
    warnings.push(
      `${name}: no figure can be told from its ground, which is too uneven or has a pattern. Cut it by a grid, or bring it on even paper or without a ground.`,
    );
  for (const [index, cell] of cells.entries()) {
    const placed = await (cells.length === 1
      ? maybePlaced(sheet, { seen: first, isWhole })
      : maybePlaced(cropped(sheet, cell), { seen: cropped(first, cell), origin: cell }));
    if (!placed) continue;
    const many = cells.length > 1;
    found.push({
      ...placed,
      name: many ? `${name} ${index + 1}` : name,
      as: many ? (cut.how === 'grid' ? 'cell' : 'figure') : 'picture',
      index: index + 1,
      of: cells.length,
      // Pictures of one size are pages laid over one another; the mouths of a sheet are not.
      pageKey: many ? `${file.name}#${index}` : `${first.width}x${first.height}`,
    });
  }
  return found;
}
