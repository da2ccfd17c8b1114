/** The mouths of a raster picture: the picture, its frames, its separate figures or the cells of a grid. */
import { cropped, gridCells, maybePaperColour, separateFigures, withoutPaper, type Box, type Raster } from '@zest-jaw/core';
import { maybePlaced, stem, type Cut, type Found, type ImportOptions } from './foundMouth.js';
import { CannotUsePicture, PICTURE_FILE_LIMITS } from './limits.js';
import type { NamedFile } from './unpack.js';

/** The cells a sheet is cut into. */
function cellsOf(raster: Raster, cut: Cut): readonly Box[] {
  if (cut.how === 'figures') return separateFigures(raster);
  if (cut.how === 'grid') return gridCells(raster.width, raster.height, cut.columns, cut.rows);
  return [{ x: 0, y: 0, width: raster.width, height: raster.height }];
}

export async function mouthsOfRasters(
  file: NamedFile,
  frames: readonly Raster[],
  { cut, clearPaper }: ImportOptions,
  notePaper: () => void,
): Promise<Found[]> {
  const found: Found[] = [];
  const name = stem(file.name);
  const [first] = frames;
  if (frames.length > 1) {
    for (const [index, frame] of frames.entries()) {
      if (maybePaperColour(frame)) notePaper();
      const placed = await maybePlaced(clearPaper ? withoutPaper(frame) : frame, { x: 0, y: 0 });
      if (placed)
        found.push({ ...placed, name: `${name} ${index + 1}`, as: 'frame', index: index + 1, of: frames.length, pageKey: file.name });
    }
    return found;
  }
  if (maybePaperColour(first!)) notePaper();
  const sheet = clearPaper ? withoutPaper(first!) : first!;
  const cells = cellsOf(sheet, cut);
  if (cells.length > PICTURE_FILE_LIMITS.mouths)
    throw new CannotUsePicture(
      `${name} falls into ${cells.length} separate figures. An import may have ${PICTURE_FILE_LIMITS.mouths}: cut it by a grid, or clean its ground.`,
    );
  for (const [index, cell] of cells.entries()) {
    const placed = await maybePlaced(
      cells.length === 1 ? sheet : cropped(sheet, cell),
      cells.length === 1 ? { x: 0, y: 0 } : cell,
      cut.how === 'single',
    );
    if (!placed) continue;
    const many = cells.length > 1;
    found.push({
      ...placed,
      name: many ? `${name} ${index + 1}` : name,
      as: many ? (cut.how === 'grid' ? 'cell' : 'figure') : 'picture',
      index: index + 1,
      of: cells.length,
      // Pictures of one size are pages laid over one another; the mouths of a sheet are not.
      pageKey: many ? `${file.name}#${index}` : `${first!.width}x${first!.height}`,
    });
  }
  return found;
}
