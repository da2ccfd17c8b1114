/** The shape of a chart's records: every field, what it may hold, and how much. What records are to one another is `checkChart`'s. */
import {
  DRAWING_LIMITS,
  DRAWN_LIMITS,
  limitsOfParameter,
  MOST_NUMBER,
  JAW_LIMITS,
  PART_LIMITS,
  PART_ROLES,
  ALL_SOUNDS,
  PHONEMES,
  PLACEMENT_LIMITS,
  type ChartDocument,
  type MouthShape,
} from '@zest-jaw/core';
import { ArrayMaxSize, ArrayMinSize, IsArray, Matches } from 'class-validator';
import {
  Amount,
  Amounts,
  Colour,
  Flag,
  Hash,
  Id,
  Ids,
  Kinds,
  ListOf,
  Maybe,
  Nested,
  OneOf,
  OrNull,
  Rings,
  SomeOf,
  Text,
  Whole,
} from './fields.js';

/** Lengths and places of pictures. */
const FAR = 20_000;

function Parameter(key: keyof MouthShape): PropertyDecorator {
  const { least, most } = limitsOfParameter(key);
  return Amount(least, most);
}

class StyleShape {
  @Colour() line!: string;
  @Colour() lip!: string;
  @Colour() inside!: string;
  @Colour() teeth!: string;
  @Colour() tongue!: string;
  @Amount(0, 20) weight!: number;
  @Amount(0, 1) rim!: number;
}

/** A finish in part. */
class PartOfStyleShape {
  @Maybe() @Colour() line?: string;
  @Maybe() @Colour() lip?: string;
  @Maybe() @Colour() inside?: string;
  @Maybe() @Colour() teeth?: string;
  @Maybe() @Colour() tongue?: string;
  @Maybe() @Amount(0, 20) weight?: number;
  @Maybe() @Amount(0, 1) rim?: number;
}

class DiphthongShape {
  @OneOf(PHONEMES.filter(({ kind }) => kind === 'diphthong').map(({ symbol }) => symbol)) symbol!: string;
  @Maybe() @Id() first?: string;
  @Maybe() @OrNull() @Id() second?: string | null;
}

class SettingsShape {
  @OneOf(['chart']) id!: string;
  @Text(1, 80) name!: string;
  @Nested(() => StyleShape) style!: StyleShape;
  @Maybe() @ListOf(() => DiphthongShape, 5) diphthongs?: DiphthongShape[];
  @Maybe() @Flag() part?: boolean;
}

class PointShape {
  @Amount(-FAR, FAR) x!: number;
  @Amount(-FAR, FAR) y!: number;
}

class BoxShape extends PointShape {
  @Amount(0, FAR) width!: number;
  @Amount(0, FAR) height!: number;
}

/** Of a built mouth; each with the limits that its slider has. */
class ParametersShape {
  @Parameter('jaw') jaw!: number;
  @Parameter('width') width!: number;
  @Parameter('round') round!: number;
  @Parameter('upperLip') upperLip!: number;
  @Parameter('lowerLip') lowerLip!: number;
  @Parameter('press') press!: number;
  @Parameter('bite') bite!: number;
  @Parameter('teethUpper') teethUpper!: number;
  @Parameter('teethLower') teethLower!: number;
  @Parameter('tongue') tongue!: number;
  @Parameter('tipUp') tipUp!: number;
  @Parameter('tipOut') tipOut!: number;
  @Parameter('smile') smile!: number;
  @Parameter('skew') skew!: number;
}

class BuiltArtShape {
  @OneOf(['built']) kind!: string;
  @Nested(() => ParametersShape) shape!: ParametersShape;
  @Maybe() @Nested(() => PartOfStyleShape) style?: PartOfStyleShape;
}

class LineMarkShape {
  @Id() id!: string;
  @OneOf(['line']) kind!: string;
  @Amounts(-1000, 1000, DRAWN_LIMITS.numbers) points!: number[];
  @Amount(0.1, 40) size!: number;
  @Colour() colour!: string;
}

class FillMarkShape {
  @Id() id!: string;
  @OneOf(['fill']) kind!: string;
  @Rings(5000) rings!: number[][];
  @Colour() colour!: string;
}

class ReferenceShape {
  @Hash() picture!: string;
  @Nested(() => BoxShape) box!: BoxShape;
  @Amount(0, 1) opacity!: number;
}

class DrawnArtShape {
  @OneOf(['drawn']) kind!: string;
  @Kinds({ line: LineMarkShape, fill: FillMarkShape }, { listOf: DRAWN_LIMITS.marks }) marks!: object[];
  @Maybe() @Nested(() => ReferenceShape) reference?: ReferenceShape;
}

class MeasuresShape {
  @Amount(0, FAR) opening!: number;
  @Amount(0, FAR) width!: number;
  @Amount(0, 1) teeth!: number;
  @Amount(0, 1) darkness!: number;
}

class PlacedArtShape {
  @OneOf(['placed']) kind!: string;
  @Hash() picture!: string;
  @Hash() preview!: string;
  @Amount(1, FAR) width!: number;
  @Amount(1, FAR) height!: number;
  @Nested(() => BoxShape) ink!: BoxShape;
  @Maybe() @Nested(() => PointShape) page?: PointShape;
  @Nested(() => MeasuresShape) measures!: MeasuresShape;
}

class PlacementShape {
  @Amount(-PLACEMENT_LIMITS.offset, PLACEMENT_LIMITS.offset) x!: number;
  @Amount(-PLACEMENT_LIMITS.offset, PLACEMENT_LIMITS.offset) y!: number;
  @Amount(PLACEMENT_LIMITS.leastScale, PLACEMENT_LIMITS.mostScale) scale!: number;
}

class LookShape {
  @Kinds({ built: BuiltArtShape, drawn: DrawnArtShape, placed: PlacedArtShape }) art!: object;
  @Nested(() => PlacementShape) placement!: PlacementShape;
  @Maybe() @Nested(() => PointShape) cross?: PointShape;
}

export class DrawingShape extends LookShape {
  @Id() id!: string;
  @Whole(0, MOST_NUMBER) number!: number;
  @Whole(0, 100_000) place!: number;
  @Text(1, 80) label!: string;
  @Matches(/^[A-Z]?$/, { message: 'one capital letter, or nothing' }) keycap!: string;
  @Ids(200) groups!: string[];
  @Ids(DRAWING_LIMITS.tags, DRAWING_LIMITS.tagLetters) tags!: string[];
  @ListOf(() => LookShape, DRAWING_LIMITS.variants) variants!: LookShape[];
  @OneOf(['boil', 'cycle']) motion!: string;
  @Whole(1, DRAWING_LIMITS.every) every!: number;
}

class GroupShape {
  @Id() id!: string;
  @Text(1, 80) name!: string;
  @SomeOf(ALL_SOUNDS.map(({ symbol }) => symbol)) phonemes!: string[];
  @Text(0, 200) look!: string;
  @Flag() must!: boolean;
  @Colour() colour!: string;
  @Maybe() @Flag() inked?: boolean;
  @Maybe() @Flag() follows?: boolean;
  @Maybe() @Flag() rounds?: boolean;
  @Maybe() @Flag() inTurn?: boolean;
}

class PictureHeadShape {
  @OneOf(['picture']) kind!: string;
  @Hash() picture!: string;
}

class HeadParametersShape {
  @Amount(0, 1) breadth!: number;
  @Amount(0, 1) chin!: number;
  @Amount(0, 1) cheeks!: number;
  @Amount(0, 1) eyeSize!: number;
  @Amount(0, 1) eyeSpacing!: number;
  @Amount(0, 1) nose!: number;
  @Amount(0, 1) ears!: number;
  @Colour() skin!: string;
  @Colour() line!: string;
}

class BuiltHeadShape {
  @OneOf(['built']) kind!: string;
  @Nested(() => HeadParametersShape) shape!: HeadParametersShape;
}

class MouthPlaceShape extends PointShape {
  @Amount(0.01, 200) scale!: number;
  @Amount(-180, 180) angle!: number;
}

class PartShape {
  @Id() id!: string;
  @Text(1, PART_LIMITS.nameLetters) name!: string;
  @Id() chartId!: string;
  @Whole(-PART_LIMITS.depth, PART_LIMITS.depth) order!: number;
  @Nested(() => MouthPlaceShape) at!: MouthPlaceShape;
  @Maybe() @Id() follows?: string;
  @Maybe() @Amount(-JAW_LIMITS.travel, JAW_LIMITS.travel) jaw?: number;
  @Maybe() @OneOf(PART_ROLES) role?: string;
}

class PoseDrawingShape {
  @Id() part!: string;
  @Id() drawing!: string;
}

class PoseShape {
  @Id() id!: string;
  @Text(1, PART_LIMITS.nameLetters) name!: string;
  @ListOf(() => PoseDrawingShape, PART_LIMITS.most) drawings!: PoseDrawingShape[];
}

class JawShape {
  @Hash() picture!: string;
  @Nested(() => BoxShape) box!: BoxShape;
  @Amount(0, FAR) travel!: number;
}

class JawMotionShape {
  @Whole(0, JAW_LIMITS.lead) lead!: number;
  @Whole(0, JAW_LIMITS.ease) ease!: number;
  @Amount(0, JAW_LIMITS.share) share!: number;
}

const backdrop = { message: 'three colours such as #dce9e6, or transparent' };

class HeadRecordShape {
  @OneOf(['head']) id!: string;
  @Kinds({ picture: PictureHeadShape, built: BuiltHeadShape }) art!: object;
  @Amount(1, FAR) width!: number;
  @Amount(1, FAR) height!: number;
  @Nested(() => MouthPlaceShape) mouth!: MouthPlaceShape;
  @Maybe() @Nested(() => JawShape) jaw?: JawShape;
  @Maybe() @Nested(() => JawMotionShape) jawMotion?: JawMotionShape;
  @Maybe() @ListOf(() => PartShape, PART_LIMITS.most) parts?: PartShape[];
  @Maybe() @ListOf(() => PoseShape, PART_LIMITS.poses) poses?: PoseShape[];
  @IsArray(backdrop)
  @ArrayMinSize(3, backdrop)
  @ArrayMaxSize(3, backdrop)
  @Matches(/^(#[0-9a-f]{6}|transparent)$/i, { ...backdrop, each: true })
  backdrop!: string[];
}

export const CHART_SHAPES: Readonly<Record<keyof ChartDocument, new () => object>> = {
  settings: SettingsShape,
  head: HeadRecordShape,
  groups: GroupShape,
  drawings: DrawingShape,
};
