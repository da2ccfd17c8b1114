/** The bodies of the scene requests. Whatever is not declared here is refused. */
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { MOST_LINES, RULE_LIMITS, type PictureTemplate } from '@zest-jaw/core';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { ID } from '../documents/patch.dto.js';

export class ClipPartDto {
  @ApiProperty({ description: 'Samples at 48 000 Hz from the start of the recording.' })
  @IsInt()
  @Min(0)
  fromSample!: number;

  @ApiProperty()
  @IsInt()
  @Min(1)
  toSample!: number;
}

export class TimedLineDto extends ClipPartDto {
  @ApiProperty()
  @IsString()
  @MaxLength(2000)
  text!: string;
}

/** What lies beside a recording: lines with times, or a whole reading made of labels. */
class GivenDto {
  @ApiPropertyOptional({
    type: [TimedLineDto],
    description: 'Lines with times: words are looked for around theirs, in the place of the script.',
  })
  @IsOptional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_LINES)
  @ValidateNested({ each: true })
  @Type(() => TimedLineDto)
  lines?: TimedLineDto[];

  @ApiPropertyOptional({ description: 'A reading made of labels, taken as it is; see docs/formats.md.' })
  @IsOptional()
  @IsObject()
  reading?: object;
}

export class NewSceneDto extends GivenDto {
  @ApiProperty({ description: 'Of a recording that has been decoded.' })
  @Matches(ID)
  recordingId!: string;

  @ApiPropertyOptional({ description: 'The recording’s file name when it is not given.' })
  @IsOptional()
  @IsString()
  @Length(1, 200)
  title?: string;

  @ApiProperty({ description: 'The line as it is spoken; empty when nobody wrote it down.' })
  @IsString()
  @MaxLength(40_000)
  script!: string;

  @ApiProperty({ example: '24' })
  @IsString()
  @MaxLength(20)
  frameRate!: string;

  @ApiProperty()
  @Matches(ID)
  characterId!: string;

  @ApiPropertyOptional({ default: 2 })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(RULE_LIMITS.holdFrames.least)
  @Max(RULE_LIMITS.holdFrames.most)
  holdFrames?: number;

  @ApiPropertyOptional({ default: false })
  @IsOptional()
  @Transform(({ value }) => value === true || value === 'true')
  @IsBoolean()
  strict?: boolean;

  @ApiPropertyOptional({ default: 1 })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(9_999_999)
  firstFrame?: number;

  @ApiPropertyOptional({ enum: ['en', 'fr', 'ipa'], default: 'en' })
  @IsOptional()
  @IsIn(['en', 'fr', 'ipa'])
  language?: 'en' | 'fr' | 'ipa';
}

export class ReadClipDto extends GivenDto {
  @ApiProperty()
  @Matches(ID)
  clipId!: string;

  @ApiPropertyOptional({ type: [ClipPartDto], description: 'Only these parts; the rest of the reading stays. Everything when missing.' })
  @IsOptional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => ClipPartDto)
  parts?: ClipPartDto[];

  @ApiPropertyOptional({ default: false, description: 'A clip that has a reading keeps it: the new one is offered, to be taken or left.' })
  @IsOptional()
  @IsBoolean()
  offer?: boolean;
}

export class WordWaysDto extends ClipPartDto {
  @ApiProperty()
  @Matches(ID)
  clipId!: string;

  @ApiProperty({ description: 'What is said there.' })
  @IsString()
  @MaxLength(200)
  text!: string;

  @ApiPropertyOptional({ description: 'Its sounds, in IPA, ARPAbet or plain spelling: tried before those the dictionary knows.' })
  @IsOptional()
  @IsString()
  @MaxLength(200)
  said?: string;
}

export class ReadMarksDto {
  @ApiProperty()
  @Matches(ID)
  clipId!: string;

  @ApiPropertyOptional({ description: 'Only this part; the rest of the reading stays. The whole clip when missing.' })
  @IsOptional()
  @ValidateNested()
  @Type(() => ClipPartDto)
  part?: ClipPartDto;
}

export class PicturesDto {
  @ApiProperty()
  @Matches(ID)
  trackId!: string;

  @ApiProperty({ description: 'Letters, spaces, - and _; no digits.' })
  @IsString()
  @MaxLength(80)
  baseName!: string;

  @ApiProperty()
  @IsInt()
  firstNumber!: number;

  @ApiProperty()
  @IsInt()
  width!: number;

  @ApiProperty()
  @IsInt()
  height!: number;

  @ApiProperty()
  @IsBoolean()
  withHead!: boolean;

  @ApiPropertyOptional({ description: 'Digits of the number, 3 to 7; 4 when left out.' })
  @IsOptional()
  @IsInt()
  digits?: number;

  @ApiPropertyOptional({ enum: ['every', 'changes', 'chart'] })
  @IsOptional()
  @IsIn(['every', 'changes', 'chart'])
  which?: 'every' | 'changes' | 'chart';

  @ApiPropertyOptional({ enum: ['png', 'webp'] })
  @IsOptional()
  @IsIn(['png', 'webp'])
  format?: 'png' | 'webp';

  @ApiPropertyOptional({ description: 'A colour such as #f3ead6 under everything; transparent when left out.' })
  @IsOptional()
  @IsString()
  @MaxLength(7)
  ground?: string;
  @ApiPropertyOptional({ description: 'Each cut to its ink, with a table of places.' })
  @IsOptional()
  @IsBoolean()
  cut?: boolean;

  @ApiPropertyOptional({ description: 'A picture with a place for the mouth: picture, width, height, mouth, isSeen; see docs/formats.md.' })
  @IsOptional()
  @IsObject()
  template?: PictureTemplate;

  @ApiPropertyOptional({
    enum: ['this', 'each', 'together'],
    description: 'The lane that is named, each in a folder of its own, or all side by side on one picture.',
  })
  @IsOptional()
  @IsIn(['this', 'each', 'together'])
  lanes?: 'this' | 'each' | 'together';
}
