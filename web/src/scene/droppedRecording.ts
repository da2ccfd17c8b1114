/** A recording dropped anywhere on a scene: it goes to Listen, where recordings are placed. */
import { createStore } from 'zustand/vanilla';

export const droppedRecording = createStore<{ readonly file: File | undefined; readonly labels?: File | undefined }>(() => ({
  file: undefined,
}));

const RECORDING = /\.(wav|flac|mp3|og[ga]|opus|m4a|aac|mp4|mov|webm|mkv|aiff?|wma)$/i;

/** The first recording of what was dropped, told by its type or its name; what it really is shows when it is read. */
export function maybeRecordingOf(files: FileList | readonly File[]): File | undefined {
  return [...files].find((file) => file.type.startsWith('audio/') || file.type.startsWith('video/') || RECORDING.test(file.name));
}
