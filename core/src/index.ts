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
export { formatTimecode, hasDropFrame, maybeFrameOfTimecode, nominalFramesPerSecond } from './time/timecode.js';
export { timeScale, type TimeScale } from './time/timeScale.js';
export {
  partOfWave,
  brokenOff,
  looksLikeWave,
  openWave,
  readWave,
  WAVE_LIMITS,
  waveHeader,
  writeWave,
  type OpenWave,
  type Sound,
} from './audio/wave.js';
export { measureChannels, mixByPlan, mixChannels, type ChannelMeasure, type ChannelPlan, type Mixed } from './audio/channels.js';
export { ditherTo16Bit, floatsOf16Bit, openDitherer, openResampler, resample, type Ditherer, type Resampler } from './audio/resample.js';
export {
  CLIP_LIMITS,
  maybeUnfit,
  openTruth,
  type TruthMaker,
  RECOGNISER_RATE,
  truthForRecogniser,
  truthOfSound,
  truthOfWave,
  truthToWave,
  type Truth,
} from './audio/truth.js';
export { extremesOf, PYRAMID_STEP, waveBlocks, wavePyramid, type WaveBlocks, type WaveExtremes, type WavePyramid } from './audio/peaks.js';
export { decibels, findPauses, loudnessOfWindows, peakLevel, SILENT_BELOW_DB, type Pause } from './audio/loudness.js';
export {
  isVowel,
  maybeArpabet,
  maybePhoneme,
  ALL_SOUNDS,
  FURTHER_SOUNDS,
  nearestEnglish,
  PHONEMES,
  type Phoneme,
  type PhonemeKind,
  type PhonemeSymbol,
  type StressedSymbol,
} from './phonetics/phonemes.js';
export { ipaOf, maybeSymbolsOfIpa } from './phonetics/ipa.js';
export { checkReading, readingWithin, type Reading, type ReadPhoneme, type ReadWord } from './reading/reading.js';
export {
  MAX_SCRIPT_LETTERS,
  placedScriptWords,
  scriptWords,
  type PlacedScriptWord,
  type ScriptLanguage,
  type ScriptWord,
} from './reading/scriptWords.js';
export { currencyInWords, numberInWords, ordinalInWords, yearInWords } from './reading/numberWords.js';
export { ACCENTS, inAccent, isPlainAccent, maybeAccent, PLAIN_ACCENT, type Accent } from './phonetics/accents.js';
export {
  arpabetOf,
  ipaOfSounds,
  maybePronunciationFault,
  maybeSounds,
  PRONUNCIATION_LIMITS,
  readPronunciations,
  waysByWord,
  wordToLookUp,
  writePronunciations,
  type Pronunciation,
  type PronunciationFault,
} from './phonetics/pronunciations.js';
export { arpabetSymbol, assembleReading, type AlignedPhoneme, type AlignedWord, type SymbolMap } from './reading/assembleReading.js';
export {
  DEFAULT_SOUND_GROUPS,
  maybeGroupOfPhoneme,
  maybeOwnGroup,
  REST,
  SIXTEEN_SOUND_GROUPS,
  type SoundGroup,
} from './chart/soundGroups.js';
export {
  CHART_KIND,
  chartSettings,
  checkChart,
  coverageOfChart,
  DRAWING_LIMITS,
  isPartChart,
  jawDropOf,
  KEYCAPS,
  lookIndexAt,
  lookOf,
  seenOf,
  maybeDrawing,
  writtenNumber,
  MOST_NUMBER,
  hasSizes,
  maybeDrawingOfGroup,
  maybeHead,
  picturesOfChart,
  PLAIN_DRAWING,
  restDrawing,
  type ChartDocument,
  type ChartSettings,
  type DiphthongEnds,
  type Coverage,
  type Drawing,
  type Motion,
} from './chart/chart.js';
export { STARTER_SIZES, STARTER_STYLE_WORDS, STARTER_STYLES, emptyChart, starterChart, type StarterSize } from './chart/starterChart.js';
export {
  AS_IT_IS,
  DRAWN_LIMITS,
  maybeFaultOfLook,
  picturesOfLook,
  PLACEMENT_LIMITS,
  type Art,
  type Box,
  type BuiltArt,
  type DrawnArt,
  type FillMark,
  type LineMark,
  type Look,
  type Mark,
  type PlacedArt,
  type Placement,
  type Reference,
} from './draw/art.js';
export {
  BUILT_HEAD,
  picturesOfHead,
  type ChartHead,
  type HeadArt,
  type HeadPart,
  PART_ROLES,
  type PartRole,
  type HeadPose,
  type JawPiece,
  type MouthPlace,
  JAW_LIMITS,
  type JawMotion,
} from './chart/head.js';
export { maybeFaultOfParts, PART_LIMITS } from './chart/faultsOfParts.js';
export {
  focusOfChart,
  partChartIds,
  partsInDepth,
  partsOfHead,
  isHeadReplaced,
  type PartDepth,
  carriersOf,
  placeOnHead,
  placesOfPart,
  shownParts,
  type PartLook,
  type ShownPart,
} from './chart/headParts.js';
export { faceToSvg, headToSvg, headTransform, lookToSvg, mouthTransform, partToSvg, type Moved } from './chart/headToSvg.js';
export { emptyPart, eyesOfHead, starterParts, type HeadEyes, type StarterPart } from './chart/starterParts.js';
export { faceAt, facesOfFrames, placeOfFace } from './face/faces.js';
export {
  addPictures,
  followPictures,
  layPictures,
  NAMES_OF_ROLES,
  partOfPictures,
  picturesOnHead,
  PICTURES_LIMITS,
  type PictureMark,
  type PicturesLaid,
  USUAL_PICTURES,
} from './face/headPictures.js';
export { FOLLOW_LIMITS, maybeFaultOfPatch, openFollower, type Followed } from './stage/followPatch.js';
export { poseOfFace, putPose } from './face/poses.js';
export { LIFT_LIMITS, planLifts, USUAL_LIFTS, type LiftRules, type StressedWord } from './keying/lifts.js';
export {
  canBeMadeOf,
  drawingsIn,
  isMade,
  MADE_LETTERS,
  madeOf,
  mixId,
  PUSH_LIMITS,
  pushId,
  sharesOf,
  shareInWords,
  withDrawings,
  type MadeOf,
  type Push,
} from './draw/madeDrawings.js';
export { maybeBetween, maybeDrawingBetween } from './keying/afterPlan.js';
export {
  EASES,
  eased,
  LEAST_SHARE,
  pushMouths,
  putInBetween,
  putInBetweens,
  setShare,
  smearMouth,
  type Between,
  type Ease,
} from './sheet/inBetweens.js';
export { BLEND_LIMITS, blendedDrawing, seenAt, setBlend, type SeenAt } from './scene/blend.js';
export { sharedEnds } from './document/sharedEnds.js';
export { LINK_LIMITS, maybeFaultOfLinks, OPENINGS, saidOfLink, type LaneLink } from './keying/links.js';
export {
  chartOfPart,
  headOfFace,
  maybeFaceOfImport,
  placedFace,
  type FoundFace,
  type FoundPart,
  type NewPartOfFace,
  type PlacedPart,
} from './face/faceOfImport.js';
export { jawAt, jawCurve, jawOf, PLAIN_JAW } from './face/jaw.js';
export {
  maybePlaceAt,
  movePlace,
  movePlacesAt,
  NO_PLACE,
  PLACE_EASES,
  PLACE_LIMITS,
  placesOf,
  placeTransform,
  removePlace,
  setPlace,
  type PlaceOf,
  type PlaceValue,
} from './scene/places.js';
export { maybeWhyAdded, whyOfPart } from './scene/whyPencil.js';
export { canMix, mixOfLooks } from './draw/mixLooks.js';
export { BOIL_LIMITS, boilAt, boiledLook, REDRAWS, type Boil } from './draw/boil.js';
export { BLINK_LIMITS, planBlinks, USUAL_BLINKS, type Blink, type BlinkJob, type BlinkRules } from './keying/blinks.js';
export {
  addPartLane,
  ruledDrawings,
  type RuledDrawings,
  blinkJobOf,
  maybePartLane,
  nameOfLane,
  removePartLane,
  setBlinks,
  setBoil,
  setLifts,
  stressedWords,
  IDLE_LIMITS,
  maybeLocked,
  setIdle,
  setLaneState,
  setLinks,
  type LaneState,
} from './scene/partLanes.js';
export { upgradeChart, upgradeDrawing } from './chart/upgradeChart.js';
export { lineUp, maybeCross, type LinedUp, type LineUp, type LineUpWay } from './chart/lineUp.js';
export { areLettersInOrder, maybeMatchOfName, withoutCommonBeginning, wordsOfName, type NameMatch } from './chart/matchName.js';
export { measureLook } from './chart/measureLook.js';
export { headFigure, PLAIN_HEAD, type HeadShape } from './draw/headShape.js';
export { artFigure, boxOfArt, boxOfLook, maybeBoxOfPoints } from './draw/artFigure.js';
export { outlineOfLine, pathOfMark, pathOfRing, ringsOfMark } from './draw/penLine.js';
export { maybeFillAt, simplifiedRing } from './picture/fillArea.js';
export { eraseMarks, maybeMarkAt, movedMark } from './draw/eraseMarks.js';
export { cropped, maybeBoxOfMask, shrunk, type Mask, type Raster } from './picture/raster.js';
export { figureOf, groundOf, maybePaperColour, withoutPaper } from './picture/ground.js';
export { GRID_LIMITS, gridCells, inReadingOrder, separateFigures } from './picture/separateFigures.js';
export { measurePicture } from './picture/measurePicture.js';
export { maskOfRings, rasterOfMarks, type Grid } from './picture/paintMarks.js';
export { isHash, isNumberWithin } from './document/checks.js';
export { blendShapes, limitsOfParameter, maybeFaultOfShape, STARTER_SHAPES, type MouthShape } from './draw/mouthShape.js';
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
export {
  MOUTH_BOX,
  MOUTH_FOCUS,
  mouthFigure,
  type Figure,
  type FigurePart,
  type FigurePath,
  type FigurePicture,
  type MouthStyle,
} from './draw/mouthFigure.js';
export { dragHandle, handlesOfShape, MOUTH_HANDLES, type MouthHandle } from './draw/mouthHandles.js';
export { figureToSvg, placedFigureToSvg, type SvgOptions } from './draw/figureToSvg.js';
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
  stepOf,
  type Patch,
  type PatchOp,
  type PutOp,
  type ShiftOp,
} from './document/patch.js';
export { isRefusal, type IdSource, type Refusal } from './document/refusal.js';
export { isReason, REASONS, reasonInWords, type Reason } from './document/reasons.js';
export {
  areOfOneGesture,
  JOIN_WITHIN_MS,
  joinedToLast,
  maybeRedo,
  maybeUndo,
  NO_HISTORY,
  NO_PAST,
  recordChange,
  withoutStep,
  withNewer,
  withOlder,
  withOthers,
  type History,
  type PastSteps,
} from './document/history.js';
export {
  checkFeels,
  checkRules,
  DEFAULT_RULES,
  FEEL_LIMITS,
  FEELS,
  fullRules,
  maybeFeel,
  ONES_FOR,
  RULE_LIMITS,
  type Feel,
  type FullRules,
  type KeyingRules,
  type OnesFor,
} from './keying/rules.js';
export {
  articulationByPlace,
  articulationOf,
  AT_REST,
  FEATURES,
  lookDistance,
  meanArticulation,
  type Articulation,
  type Feature,
} from './phonetics/articulation.js';
export { lookOfChart, type ChartLook } from './keying/chartLook.js';
export { shapesOf, type MustBeSeen, type RuledShape, type Shape } from './keying/shapes.js';
export { holdOf, lostCost, lostTable, MUST_COST, planCost, timingCost, type Plan, type PlanJob } from './keying/planCost.js';
export { solvePlan, startsOf } from './keying/solvePlan.js';
export { explainExposure, explainFrame, type Alternative, type Dropped, type Explanation, type ExposureReason } from './keying/explain.js';
export { putOver } from './sheet/putOver.js';
export { startExposure } from './sheet/startExposure.js';
export { compareWithCrib, type CribComparison } from './sheet/compareWithCrib.js';
export { greedyPlan } from './keying/greedyPlan.js';
export { planTrack, type PlannedStretch, type PlannedTrack } from './keying/planTrack.js';
export { betweenFloorAndPeak, rangeOfLoudness, type LoudnessRange } from './keying/loudnessCurve.js';
export { keyLoudness } from './keying/keyLoudness.js';
export { isKeyedByLoudness, ruledParts, rulesOfSounds } from './keying/ruledParts.js';
export { drawingForGroup } from './keying/drawingForGroup.js';
export { openLiveMouth, type LiveMouth } from './keying/liveMouth.js';
export { keyedOf, keySounds } from './keying/keySounds.js';
export {
  type InkedSpan,
  type Keyed,
  type KeyedExposure,
  type KeyingJob,
  type NotShown,
  type RuledPhrase,
  type SceneSound,
} from './keying/keyingJob.js';
export { exposuresOfTrack, indexAtSorted, inkedShare, maybeExposureAt } from './scene/exposures.js';
export {
  frameNumber,
  mouthLaneOf,
  mouthLanes,
  SCENE_KIND,
  sceneSettings,
  type Clip,
  type EarMark,
  type Exposure,
  type Aside,
  type Remark,
  type RemarkStroke,
  type SceneDocument,
  type ScenePhoneme,
  type SceneSettings,
  type SettingsOf,
  type SoundsOf,
  type SceneWord,
  type Track,
  type TrackView,
  type PlaceEase,
  type PlaceKey,
} from './scene/sceneDocument.js';
export { changeFrameRate, type RateChange } from './scene/changeFrameRate.js';
export { checkScene, MAX_SCENE_FRAMES } from './scene/checkScene.js';
export { clipEnd, clipGains, clipOfRecording, clipsPastEnd, clipStart, GAIN_LIMITS, type Recording } from './scene/clipPlace.js';
export {
  addClip,
  changeClip,
  hasLinks,
  linkedKeyed,
  pencilKeyed,
  removeClip,
  replaceTake,
  setLength,
  slideClip,
  trimClip,
  withPencilKeyed,
  type ClipChanges,
  type HeardOf,
} from './scene/clips.js';
export { placedNotSpeech, placedPhrases, placedSounds, placedWords, type PlacedSound, type PlacedWord } from './scene/placedSounds.js';
export { inkSpan, putDrawing, readingRecords, setInk, setRules, setScript, setSettings, takeReading } from './scene/commands.js';
export { erasePencil, keyingJobOf, keyPencil, listensToLoudness, type KeyingScope } from './scene/pencil.js';
export { maybePhraseRules, setPhraseRules } from './scene/phraseRules.js';
export { HEARD_BLOCK, heardWaves, maybeHeard, maybeLevelAt, type HeardWave, type PyramidOf } from './scene/heardScene.js';
export { newScene, type NewScene } from './scene/newScene.js';
export { cutIntoSystems, type Systems, type SystemStretch } from './scene/phrases.js';
export { joined, maybeCutTo, overlapOf, overlaps, spansWithin, without, type Span } from './time/span.js';
export {
  countedRow,
  exposureSheetCells,
  exposureSheetCsv,
  exposureSheetHeadings,
  HOLD_BAR,
  type SheetCounting,
} from './formats/exposureSheetCsv.js';
export { exposureSheetRows, type SheetCell, type SheetRow, type SheetTrack } from './sheet/exposureSheet.js';
export {
  checkPictureOptions,
  keyOfLook,
  looksOfFrames,
  PICTURE_LIMITS,
  pictureName,
  holdsCsv,
  plannedPictures,
  type PictureFormat,
  type PlannedPicture,
  type WhichPictures,
  pictureOfLanesSvg,
  pictureSvg,
  type FrameLook,
  headOfTemplate,
  placesCsv,
  type PictureOptions,
  type PicturePlace,
  type PictureTemplate,
} from './formats/pictures.js';
export { sceneOfKeyed } from './formats/keyedScene.js';
export { offeredChanges, takeOffered, type Offered, type OfferedPhrase } from './scene/readingOffer.js';
export { partOfScript, readingOfClip, readingInPart, withPartRead, type ClipPart } from './scene/readingParts.js';
export { evenly, type TimedSymbol, type WaySource, type WordWay } from './reading/wordWays.js';
export { LINE_MARGIN, MOST_LINES, placesOfWords, scriptOfLines, type TimedLine } from './reading/timedLines.js';
export { withNoises } from './reading/withNoises.js';
export { hearNoises, type HeardNoise } from './reading/hearNoises.js';
export { cutAtPauses } from './reading/cutAtPauses.js';
export { outsideOf, steadySound } from './reading/steadySound.js';
export { refineBoundaries, soundChanges, type SoundChange, type TimedSound } from './reading/refineBoundaries.js';
export { besideScript, type ScriptLineWord } from './reading/wordsNotSaid.js';
export { readAcousticModel, type AcousticModel, type ModelFiles } from './acoustic/acousticModel.js';
export { FEATURE_RATE, featuresOf, featuresWithin, melSpectra, type Features } from './acoustic/cepstra.js';
export { maybeAlignGraph, STRICT, WIDER, type AlignedNode, type AlignSettings } from './acoustic/alignGraph.js';
export { type FramePlace, type Network } from './acoustic/network.js';
export { wordGraph, type Extent, type Looseness, type Ways, type WordGraph, type WordGraphOptions } from './acoustic/wordGraph.js';
export { LOOP, soundLoop, type SoundLoop, type SoundLoopSettings } from './acoustic/soundLoop.js';
export { boundaryErrors, matchSymbols, shareWithin, type LabelledPhoneme } from './reading/boundaryErrors.js';
export {
  hasEnded,
  JOB_STATES,
  type ChartView,
  type CharacterView,
  type FoundMouthView,
  type ImportRequest,
  type ImportView,
  type JobState,
  type JobView,
  type OfferView,
  type ProductionView,
  type RecordingView,
  type NoteCounts,
  type PassFacts,
  type PassView,
  type ShotPictureView,
  type SceneCard,
  type SceneView,
  type CompanyNews,
  type CompanyView,
  type DocumentChange,
  type RoomLinkView,
  type RoomMember,
  type RoomSessionView,
  type RoomView,
} from './api/views.js';
export {
  addDrawings,
  addVariant,
  copyIntoOthers,
  duplicateDrawing,
  MAX_DRAWINGS,
  moveDrawing,
  moveDrawingTo,
  orderByOpenness,
  removeDrawing,
  removeVariant,
  scaledAbout,
  setChart,
  setDrawing,
  setHead,
  setLook,
  setOwnStyle,
  setPlacement,
  setPlacements,
  setShape,
  type DrawingChanges,
  type NewDrawing,
} from './chart/commands.js';
export { drawingsUsed, replaceDrawing } from './scene/drawingsUsed.js';
export { readSvg, SVG_LIMITS, type SvgNode, type SvgTree } from './formats/svg/svgTree.js';
export {
  drawingsAmong,
  levelsOf,
  maybeLayerChoice,
  type FoundLayer,
  type Layer,
  type LayerChoice,
  type LayerLevel,
  type LayerLine,
} from './formats/layerLevels.js';
export { svgParts, type SvgPart, type SvgParts } from './formats/svg/svgParts.js';
export { stackOfOpenRaster, type OpenRasterLayer, type OpenRasterMouth } from './formats/openRaster.js';
export { fittedPlacement, placementsOfImport, takeImported, type ImportRow } from './chart/takeImport.js';
export { PICTURE_FILE_LIMITS } from './formats/pictureFileLimits.js';
export { chartIdsOfScene, chartStretchAt, chartStretches, type ChartStretch } from './scene/trackCharts.js';
export { counterpart, switchChart } from './scene/switchChart.js';
export { maybeFilmKind, maybeKindOfRecording, maybeNameOfFile, type FilmKind, type RecordingKind } from './audio/recordingKind.js';
export { powerSpectrum } from './audio/fourier.js';
export { CLIPPED_BEYOND_USE, factsOfClip, SILENT_DB, type ClipFacts, type Ground } from './audio/clipFacts.js';
export { heardFrames, type HeardFrames } from './audio/frameLevels.js';
export { openStretcher, stretched, type Stretcher } from './audio/stretch.js';
export { voicePitch } from './audio/voicePitch.js';
export { roundedSpeed, SPEED_LIMITS, speedForPitch } from './reading/voiceRegister.js';
export { maybeHeardSounds } from './phonetics/spelledSounds.js';
export {
  MAX_MARK_LETTERS,
  mergeEarMarks,
  moveEarMark,
  putEarMark,
  copyReadingToMarks,
  readingOfMarks,
  removeEarMark,
  SILENCE_MARK,
  wordsOfMarks,
} from './scene/earMarks.js';
export { copyFrames, pasteFrames, type CopiedMouths } from './sheet/copyMouths.js';
export {
  accentMouths,
  deleteMouths,
  exchangeDrawing,
  holdMouth,
  joinMouth,
  maybeMouthSpan,
  reverseFrames,
  slideFrames,
  slideMouth,
  spanInWords,
  splitMouth,
  stepDrawing,
} from './sheet/laneEdits.js';
export { deleteChosen, exchangeChosen, inkChosen, type ChosenMouths } from './sheet/chosenMouths.js';
export {
  layPlayed,
  meantAt,
  playedMouths,
  reactionTo,
  type KeyPress,
  type PlayedMouth,
  type PlayInRules,
  type Reaction,
} from './sheet/playIn.js';
export {
  addOneOff,
  changeOneOff,
  chartsWithOneOffs,
  chartWithOneOffs,
  MOST_ONE_OFFS,
  moveIntoChart,
  removeOneOff,
  type NewOneOff,
} from './scene/oneOffs.js';
export type { RevisionView } from './document/revision.js';
export { SHORTEST_SOUND, type WordAt } from './scene/openReading.js';
export { moveSoundEdge, moveWordEdge, placeWords, slideWord, type EdgeMove } from './scene/readingEdits.js';
export { deleteWord, inkWords, insertWord, joinWords, maybeRoomAt, retypeWord, splitWord, type NewWord } from './scene/readingWords.js';
export {
  deleteSound,
  joinSounds,
  retypeSound,
  setNotSpeech,
  setPause,
  setSpeech,
  splitSound,
  type ClipSpan,
} from './scene/readingSounds.js';
export { rewrittenWords, scriptWith, scriptWithWordAfter, writtenWords } from './scene/scriptEdits.js';
export { NOISES, soundsOfNoise, type NoiseKind, type NoiseSound, type NotSpeech } from './reading/noises.js';
export { partsBesideInk, withInkKept } from './scene/readingParts.js';
export { patchBetween } from './document/between.js';
export { sittingsOf, type Sitting, type ToldStep } from './scene/sittings.js';
export { insertTime, removeTime } from './scene/sceneTime.js';
export { insertFrames, removeFrames, retimeFrames, setHolds } from './sheet/laneTime.js';
export {
  inTime,
  isLabelFault,
  LABEL_KINDS,
  maybeLabelKind,
  MOST_LABELS,
  textOfLabels,
  type Label,
  type LabelFault,
  type LabelKind,
  type LabelTier,
} from './formats/labels/labels.js';
export {
  givenLabels,
  guessedTiers,
  maybeSoundOfLabel,
  readingOfLabels,
  readLabels,
  timedLines,
  writeLabels,
  type GivenLabels,
  type LabelsAsReading,
  type SoundWriting,
} from './formats/labels/labelsOfReading.js';
export {
  CONSONANT_PLACES,
  isRoundedVowel,
  MANNERS,
  nameOfSound,
  PLACE_WORDS,
  placeOfSound,
  type ConsonantPlace,
  type ConsonantSound,
  type Manner,
  type SoundPlace,
  type VowelPlace,
  type VowelSound,
} from './phonetics/soundPlaces.js';
export { frequencyOfSound } from './phonetics/soundFrequencies.js';
export { featuresOfDrawing, featuresOfGroup, featuresOfShape } from './fit/drawingFeatures.js';
export { fitChart, type FitChoice, type FitProposal } from './fit/fitChart.js';
export { costOfChoice, solveFit, type FitCosts, type SolvedFit } from './fit/solveFit.js';
export {
  addGroup,
  changeGroup,
  freeGroup,
  MAX_GROUPS,
  mergeGroups,
  moveSounds,
  removeDrawingOfGroup,
  removeGroup,
  setDiphthong,
  setDrawingOfGroup,
  takeFit,
  type GroupChanges,
} from './chart/groupCommands.js';
export { checkMap, mapChange, mapOfChart, putMap, readMap, type MapChange, type SoundMap } from './chart/soundMap.js';
export {
  counted,
  countingInWords,
  firstCounted,
  PLAIN_COUNTING,
  type Counting,
  type CountsFrom,
  type CountsIn,
} from './handOff/counting.js';
export { keyListCsv, keyListJson, keysOf, type Key, type KeyListOptions, type KeyNumbers } from './handOff/keyList.js';
export { EASE_LIMITS, weightsCsv, weightsJson, weightsOf, type Weights } from './handOff/weights.js';
export { curvesCsv, curvesJson, curvesOf, type CurveFrame } from './handOff/curves.js';
export { phrasesOfWords, timelineOfScene, type TimelineFiles } from './handOff/timeline.js';
export { pullListOf, shootingListCsv, type Pulled, type PullList, type Shot } from './handOff/pullList.js';
export { sceneWave, type SceneWave } from './handOff/sceneWave.js';
export { textOfHandOff, type TextFormat, type TextRequest } from './handOff/texts.js';
export { readingOfLane } from './handOff/readingOfLane.js';
export { sceneSound } from './handOff/sceneSound.js';
export {
  countShot,
  isShootingState,
  isShot,
  markAgain,
  markAllAgain,
  NOT_BEGUN,
  picturesOfPull,
  shootNow,
  stepShoot,
  type ShootingState,
  type ShotPicture,
} from './handOff/shooting.js';
export {
  guessNumbers,
  mouthsOfNumbers,
  NUMBERS_LIMITS,
  readNumbers,
  type ColumnRole,
  type NumbersChoice,
  type NumbersIn,
  type NumbersTable,
} from './handOff/numbersIn.js';
export { COMPARED_WIDTH, greyOf, type GreyPicture } from './stage/picture.js';
export { chance, mouthReallyOn, seenByCamera, USUAL_CONDITIONS, type StageConditions } from './stage/practiceCamera.js';
export {
  doubtedShots,
  openMouthChecker,
  type DoubtedShot,
  type MouthCheck,
  type MouthChecker,
  type MouthDoubt,
  type TakenPicture,
} from './stage/rightMouth.js';
export { swapPlansOf, takeSwapPlan, type SwapPlan, type SwapSpan } from './handOff/fewerSwaps.js';
export { distinctNames, safeName } from './formats/safeName.js';
export {
  FILE_KINDS,
  fileNameOf,
  maybeFaultOfPattern,
  NAME_PARTS,
  USUAL_PATTERN,
  type FileKind,
  type FileKindId,
  type NameParts,
} from './handOff/severalScenes.js';
export { laneLevels } from './handOff/laneLevels.js';
export {
  NOTE_KINDS,
  NOTE_WEIGHTS,
  type Found,
  type Mend,
  type MendPiece,
  type Note,
  type NoteKindId,
  type NoteWeight,
} from './check/note.js';
export { addRemark, changeRemark, notesAside, REMARK_LIMITS, setNotesAside, takeNotesBack, type RemarkWords } from './check/remarks.js';
export { laneFacts, type LaneFacts } from './scene/laneFacts.js';
export { upgradeScene } from './scene/upgradeScene.js';
export { checkLimits, LIMIT_WORDS, limitsOf, type CheckLimits, type LimitWords } from './check/limits.js';
export { checkNotes, kindInWords, LANE_KINDS, SCENE_KINDS } from './check/checkNotes.js';
export type { CheckJob } from './check/checkedScene.js';
export { mendAll, mendInWords, mendOfNote, mendPatch, type MendedAll, type TriedMend } from './check/mends.js';
export { compareLanes, type LaneComparison } from './passes/comparePasses.js';
export { takeFromPass } from './passes/takeFromPass.js';
export {
  measuresOf,
  type DrawingUse,
  type HoldCount,
  type JawFrame,
  type LaneMeasures,
  type OffsetCount,
  type PhraseScore,
} from './check/measures.js';
