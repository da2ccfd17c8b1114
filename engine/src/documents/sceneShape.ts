/** The shape of a scene's records: every field, what it may hold, and how much. What records are to one another is `checkScene`'s. */
import {
  BLEND_LIMITS,
  BLINK_LIMITS,
  BOIL_LIMITS,
  CLIP_LIMITS,
  DRAWING_LIMITS,
  GAIN_LIMITS,
  IDLE_LIMITS,
  LIFT_LIMITS,
  LINK_LIMITS,
  MAX_MARK_LETTERS,
  MAX_SCENE_FRAMES,
  NOISES,
  ONES_FOR,
  PART_LIMITS,
  ALL_SOUNDS,
  PLACE_EASES,
  PLACE_LIMITS,
  REMARK_LIMITS,
  RULE_LIMITS,
  SAMPLE_RATE,
  MADE_LETTERS,
  type SceneDocument,
} from '@zest-jaw/core';
import { DrawingShape } from './chartShape.js';
import { Amount, Flag, Hash, Id, Ids, ListOf, Maybe, Nested, OneOf, OrNull, Strokes, Text, Whole } from './fields.js';

const MOST_SAMPLES = CLIP_LIMITS.maxMinutes * 60 * SAMPLE_RATE;

class FrameRateShape {
  @Whole(1, 240_000) num!: number;
  @Whole(1, 240_000) den!: number;
}

class SettingsShape {
  @OneOf(['scene']) id!: string;
  @Text(1, 200) title!: string;
  @Nested(() => FrameRateShape) frameRate!: FrameRateShape;
  @Whole(0, 9_999_999) firstFrame!: number;
  @Whole(1, MAX_SCENE_FRAMES) lengthFrames!: number;
}

const limits = (rule: keyof typeof RULE_LIMITS): [number, number] => [RULE_LIMITS[rule].least, RULE_LIMITS[rule].most];

export class RulesShape {
  @Whole(...limits('leadFrames')) leadFrames!: number;
  @Whole(...limits('holdFrames')) holdFrames!: number;
  @Flag() strict!: boolean;
  @Maybe() @OneOf(ONES_FOR) onesFor?: string;
  @Maybe() @Amount(...limits('calm')) calm?: number;
  @Maybe() @Whole(...limits('settleFrames')) settleFrames?: number;
  @Maybe() @Whole(...limits('anticipationFrames')) anticipationFrames?: number;
  @Maybe() @Amount(...limits('holdPause')) holdPause?: number;
  @Maybe() @Amount(...limits('restPause')) restPause?: number;
  @Maybe() @Amount(...limits('mostChanges')) mostChanges?: number;
  @Maybe() @Amount(...limits('betweens')) betweens?: number;
  @Maybe() @Amount(...limits('breathAfter')) breathAfter?: number;
  @Maybe() @Flag() settlesHolds?: boolean;
  @Maybe() @Flag() accents?: boolean;
  @Maybe() @OrNull() @Text(1, DRAWING_LIMITS.tagLetters) tag?: string | null;
  @Maybe() @OneOf(['sounds', 'loudness']) source?: string;
  @Maybe() @OrNull() @Amount(...limits('floorDb')) floorDb?: number | null;
  @Maybe() @OrNull() @Amount(...limits('peakDb')) peakDb?: number | null;
}

class SpanShape {
  @Whole(0, MOST_SAMPLES) from!: number;
  @Whole(0, MOST_SAMPLES) to!: number;
}

class NotSpeechShape extends SpanShape {
  @Maybe() @OneOf(NOISES) kind?: string;
  @Maybe() @Flag() inked?: boolean;
}

class PhraseShape extends SpanShape {
  @Nested(() => RulesShape) rules!: RulesShape;
}

class ClipShape {
  @Id() id!: string;
  @Id() characterId!: string;
  @Hash() audio!: string;
  @Text(0, 1000) fileName!: string;
  @Whole(0, MAX_SCENE_FRAMES) atFrame!: number;
  @Whole(1, MOST_SAMPLES) lengthSamples!: number;
  @Whole(0, MOST_SAMPLES) fromSample!: number;
  @Whole(1, MOST_SAMPLES) toSample!: number;
  @Amount(GAIN_LIMITS.least, GAIN_LIMITS.most) gainDb!: number;
  @Flag() muted!: boolean;
  @Flag() soloed!: boolean;
  @OrNull() @Hash() readOf!: string | null;
  @Text(0, 40_000) script!: string;
  @OneOf(['en', 'fr', 'ipa']) language!: string;
  @Maybe() @ListOf(() => NotSpeechShape, 5000) notSpeech?: NotSpeechShape[];
  @Maybe() @ListOf(() => PhraseShape, 2000) phrases?: PhraseShape[];
}

class WordShape {
  @Id() id!: string;
  @Id() clip!: string;
  @Text(0, 200) text!: string;
  @Whole(0, MOST_SAMPLES) fromSample!: number;
  @Whole(0, MOST_SAMPLES) toSample!: number;
  @Amount(0, 1) confidence!: number;
  @Maybe() @Flag() guessed?: boolean;
  @Maybe() @Flag() inked?: boolean;
}

class PhonemeShape {
  @Id() id!: string;
  @Id() clip!: string;
  @OrNull() @Id() word!: string | null;
  @OneOf(ALL_SOUNDS.map(({ symbol }) => symbol)) symbol!: string;
  @Maybe() @OneOf([0, 1, 2]) stress?: number;
  @Maybe() @Flag() inked?: boolean;
  @Whole(0, MOST_SAMPLES) fromSample!: number;
  @Whole(0, MOST_SAMPLES) toSample!: number;
  @Amount(0, 1) confidence!: number;
}

class BlinkRulesShape {
  @Amount(BLINK_LIMITS.least, BLINK_LIMITS.most) perMinute!: number;
  @Whole(0, BLINK_LIMITS.seeds) seed!: number;
}

class LiftRulesShape {
  @Amount(LIFT_LIMITS.least, LIFT_LIMITS.most) share!: number;
}

class LinkShape {
  @OrNull() @Text(1, PART_LIMITS.nameLetters) of!: string | null;
  @Text(1, LINK_LIMITS.letters) shows!: string;
  @Text(1, LINK_LIMITS.letters) put!: string;
  @Maybe() @Amount(0, 1) opens?: number;
}

class TrackShape {
  @Id() id!: string;
  @OneOf(['mouth', 'part']) kind!: string;
  @Id() characterId!: string;
  @Id() chartId!: string;
  @Amount(-1000, 1000) order!: number;
  @Nested(() => RulesShape) rules!: RulesShape;
  @Maybe() @Text(1, PART_LIMITS.nameLetters) part?: string;
  @Maybe() @Nested(() => BlinkRulesShape) blinks?: BlinkRulesShape;
  @Maybe() @Nested(() => LiftRulesShape) lifts?: LiftRulesShape;
  @Maybe() @Amount(BOIL_LIMITS.least, BOIL_LIMITS.most) boil?: number;
  @Maybe() @Whole(BLEND_LIMITS.least, BLEND_LIMITS.most) blend?: number;
  @Maybe() @ListOf(() => LinkShape, LINK_LIMITS.most) links?: LinkShape[];
  @Maybe() @Whole(IDLE_LIMITS.least, IDLE_LIMITS.most) idle?: number;
  @Maybe() @Flag() hidden?: boolean;
  @Maybe() @Flag() muted?: boolean;
  @Maybe() @Flag() folded?: boolean;
  @Maybe() @Flag() locked?: boolean;
}

class ViewShape {
  @Id() id!: string;
  @Id() track!: string;
  @Whole(1, MAX_SCENE_FRAMES) from!: number;
  @Id() chartId!: string;
}

class MarkShape {
  @Id() id!: string;
  @Id() characterId!: string;
  @Whole(0, MAX_SCENE_FRAMES) frame!: number;
  @Text(1, MAX_MARK_LETTERS) text!: string;
}

class ExposureShape {
  @Id() id!: string;
  @Id() track!: string;
  @Whole(0, MAX_SCENE_FRAMES) from!: number;
  @Whole(1, MAX_SCENE_FRAMES) to!: number;
  @Text(1, MADE_LETTERS) drawing!: string;
  @Flag() inked!: boolean;
  @Ids(20_000) plays!: string[];
}

class OneOffShape {
  @Id() id!: string;
  @Id() chartId!: string;
  @Nested(() => DrawingShape) drawing!: DrawingShape;
}

class AsideShape {
  @Id() id!: string;
  @Text(1, 300) note!: string;
  @Text(1, 40) look!: string;
  @Text(0, 300) reason!: string;
}

class RemarkShape {
  @Id() id!: string;
  @Whole(0, MAX_SCENE_FRAMES) frame!: number;
  @Text(1, REMARK_LIMITS.name) by!: string;
  @Text(0, REMARK_LIMITS.letters) text!: string;
  @Maybe() @Strokes(REMARK_LIMITS.strokes, REMARK_LIMITS.numbers) strokes?: number[][];
  @Maybe() @Flag() done?: boolean;
}

class PlaceShape {
  @Id() id!: string;
  @Id() track!: string;
  @OneOf(['own', 'head']) of!: string;
  @Whole(0, MAX_SCENE_FRAMES) frame!: number;
  @Amount(-PLACE_LIMITS.offset, PLACE_LIMITS.offset) x!: number;
  @Amount(-PLACE_LIMITS.offset, PLACE_LIMITS.offset) y!: number;
  @Amount(PLACE_LIMITS.leastScale, PLACE_LIMITS.mostScale) scale!: number;
  @Amount(-PLACE_LIMITS.angle, PLACE_LIMITS.angle) angle!: number;
  @Amount(-PLACE_LIMITS.skew, PLACE_LIMITS.skew) skew!: number;
  @Flag() flip!: boolean;
  @OneOf(PLACE_EASES) ease!: string;
  @Maybe() @Flag() pencil?: boolean;
}

export const SCENE_SHAPES: Readonly<Record<keyof SceneDocument, new () => object>> = {
  settings: SettingsShape,
  clips: ClipShape,
  words: WordShape,
  phonemes: PhonemeShape,
  tracks: TrackShape,
  views: ViewShape,
  marks: MarkShape,
  oneOffs: OneOffShape,
  asides: AsideShape,
  remarks: RemarkShape,
  places: PlaceShape,
  exposures: ExposureShape,
};
