/** @zest-jaw/engine: what the job needs of Node but not of a server. */
export { type Language } from './reading/modelFiles.js';
export { openRecogniser, type Recogniser } from './reading/recogniser.js';
export { waysOfWord, type AskedWord } from './reading/waysOfWord.js';
export { readTrack, type ReadOptions, type ReportProgress } from './reading/readTrack.js';
export { svgToPng } from './rasterise.js';
export { importPictures, type ImportReport, type RefusedFile } from './pictures/importPictures.js';
export type { Cut, FoundAs, FoundMouth, ImportOptions } from './pictures/foundMouth.js';
export { CannotUsePicture, KEPT_SIDE, PREVIEW_SIDE } from './pictures/limits.js';
export type { NamedFile } from './pictures/unpack.js';
export { decodeRecording } from './audio/decodeRecording.js';
export { maybePronunciation } from './reading/pronounce.js';
