/** Which of some files is beside a recording: known without reading any of them. */
import { maybeLabelKind } from '@zest-jaw/core';

const baseName = (name: string): string => name.replace(/\.[^.]*$/, '').toLowerCase();

/** The labels among some files: those called like the recording, else the only ones. */
export function labelsBeside(files: Iterable<File>, recording: File): File | undefined {
  const labels = [...files].filter((file) => file !== recording && maybeLabelKind(file.name) !== undefined);
  return labels.find((file) => baseName(file.name) === baseName(recording.name)) ?? (labels.length === 1 ? labels[0] : undefined);
}
