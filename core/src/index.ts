/** @zest-jaw/core: every computation of Zest Jaw. No DOM, no Node API, no framework. */
export {
  formatFrameRate,
  FRAME_RATE_LIMITS,
  framesPerSecond,
  isFrameRate,
  maybeFrameRate,
  sameFrameRate,
  SAMPLE_RATE,
  USUAL_FRAME_RATES,
  type FrameRate,
} from './time/frameRate.js';
export { frameAtSample, framePositionOfSample, framesToHold, sampleAtFrame, samplesToSeconds, secondsToSamples } from './time/samples.js';
export { formatTimecode, maybeFrameOfTimecode, nominalFramesPerSecond } from './time/timecode.js';
export { timeScale, type TimeScale } from './time/timeScale.js';
export { looksLikeWave, readWave, WAVE_LIMITS, writeWave, type Sound, type WaveRefusal } from './audio/wave.js';
export { ditherTo16Bit, floatsOf16Bit, mixDown, resample } from './audio/resample.js';
export { CLIP_LIMITS, RECOGNISER_RATE, truthForRecogniser, truthOfWave, truthToWave, type Truth } from './audio/truth.js';
export { waveBlocks, type WaveBlocks } from './audio/peaks.js';
export { decibels, findPauses, loudnessOfWindows, peakLevel, SILENT_BELOW_DB, type Pause } from './audio/loudness.js';
export {
  isVowel,
  maybeArpabet,
  maybePhoneme,
  PHONEMES,
  type Phoneme,
  type PhonemeKind,
  type PhonemeSymbol,
  type StressedSymbol,
} from './phonetics/phonemes.js';
export { ipaOf, maybeSymbolsOfIpa } from './phonetics/ipa.js';
export { checkReading, type Reading, type ReadPhoneme, type ReadWord } from './reading/reading.js';
export { MAX_SCRIPT_LETTERS, numberInWords, scriptWords, type ScriptWord } from './reading/scriptWords.js';
export { arpabetSymbol, assembleReading, type AlignedPhoneme, type AlignedWord, type SymbolMap } from './reading/assembleReading.js';
export { DEFAULT_SOUND_GROUPS, maybeGroupOfPhoneme, REST, type SoundGroup } from './chart/soundGroups.js';
export {
  CHART_KIND,
  chartSettings,
  checkChart,
  coverageOfChart,
  KEYCAPS,
  maybeDrawing,
  maybeDrawingOfGroup,
  restDrawing,
  type ChartDocument,
  type ChartSettings,
  type Coverage,
  type Drawing,
} from './chart/chart.js';
export { STARTER_STYLES, starterChart } from './chart/starterChart.js';
export { blendShapes, maybeFaultOfShape, STARTER_SHAPES, type MouthShape } from './draw/mouthShape.js';
export {
  mouthGeometry,
  movedNode,
  pathOfNodes,
  reversedNodes,
  type MouthGeometry,
  type Node,
  type Outline,
  type Point,
} from './draw/mouthGeometry.js';
export { MOUTH_BOX, MOUTH_FOCUS, mouthFigure, type Figure, type FigurePath, type MouthStyle } from './draw/mouthFigure.js';
export { figureToSvg } from './draw/figureToSvg.js';
export { measureShape, type MouthMeasures } from './draw/measures.js';
export {
  frozen,
  sameJson,
  type AnyDocument,
  type AnyKind,
  type DocumentKind,
  type DocumentRecord,
  type TableKind,
} from './document/documentKind.js';
export {
  applyPatch,
  invertPatch,
  mergePatches,
  PatchMismatch,
  recordsOfPatch,
  type Patch,
  type PatchOp,
  type PutOp,
  type ShiftOp,
} from './document/patch.js';
export { areOfOneGesture, JOIN_WITHIN_MS, maybeRedo, maybeUndo, NO_HISTORY, recordChange, type History } from './document/history.js';
export { checkRules, DEFAULT_RULES, RULE_LIMITS, type KeyingRules } from './keying/rules.js';
export { drawingForGroup } from './keying/drawingForGroup.js';
export {
  HELD_PAUSE_SECONDS,
  keySounds,
  type InkedSpan,
  type Keyed,
  type KeyedExposure,
  type KeyingJob,
  type NotShown,
  type SceneSound,
} from './keying/keySounds.js';
export { exposuresOfTrack, indexAtSorted, inkedShare, maybeExposureAt } from './sheet/exposures.js';
export {
  frameNumber,
  SCENE_KIND,
  sceneSettings,
  type Clip,
  type Exposure,
  type SceneDocument,
  type ScenePhoneme,
  type SceneSettings,
  type SceneWord,
  type Track,
} from './scene/sceneDocument.js';
export { checkScene, MAX_SCENE_FRAMES } from './scene/checkScene.js';
export { placedSounds, placedWords, type PlacedSound, type PlacedWord } from './scene/placedSounds.js';
export {
  isRefusal,
  keyPencil,
  putDrawing,
  readingRecords,
  setInk,
  setRules,
  setScript,
  setSettings,
  takeReading,
  type IdSource,
  type Refusal,
} from './scene/commands.js';
export { newScene, type NewScene } from './scene/newScene.js';
export { cutIntoSystems, type Span, type Stretch, type Systems, type SystemStretch } from './scene/phrases.js';
export { exposureSheetCsv, HOLD_BAR, type SheetTrack } from './formats/exposureSheetCsv.js';
export {
  checkPictureOptions,
  drawingOfEachFrame,
  mouthTransform,
  PICTURE_LIMITS,
  pictureName,
  pictureSvg,
  type Head,
  type PictureOptions,
} from './formats/pictures.js';
export { sceneOfKeyed } from './formats/keyedScene.js';
export { boundaryErrors, matchSymbols, shareWithin, type LabelledPhoneme } from './reading/boundaryErrors.js';
export {
  hasEnded,
  JOB_STATES,
  type ChartView,
  type CharacterView,
  type JobState,
  type JobView,
  type ProductionView,
  type RevisionView,
  type SceneCard,
  type SceneView,
} from './api/views.js';
export { drawingsUsed, duplicateDrawing, MAX_DRAWINGS, moveDrawing, removeDrawing, setDrawing, setShape } from './chart/commands.js';
