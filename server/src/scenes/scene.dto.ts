/** The bodies of the scene requests. Whatever is not declared here is refused. */
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { RULE_LIMITS } from '@zest-jaw/core';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
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

export class NewSceneDto {
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

export class ReadClipDto {
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
}
