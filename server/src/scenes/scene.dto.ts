/** The bodies of the scene requests. Whatever is not declared here is refused. */
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { RULE_LIMITS } from '@zest-jaw/core';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
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
import { MAX_OPS_PER_PATCH } from './limits.js';

const ID = /^[\w.:-]{1,80}$/;

export class PatchOpDto {
  @ApiProperty({ enum: ['put', 'shift'] })
  @IsIn(['put', 'shift'])
  op!: 'put' | 'shift';

  @ApiProperty()
  @Matches(/^[a-z]{1,30}$/)
  table!: string;

  @ApiPropertyOptional()
  @IsOptional()
  @Matches(ID)
  id?: string;

  @ApiPropertyOptional({ type: Object, nullable: true })
  @IsOptional()
  @IsObject()
  before?: Record<string, unknown> | null;

  @ApiPropertyOptional({ type: Object, nullable: true })
  @IsOptional()
  @IsObject()
  after?: Record<string, unknown> | null;

  @ApiPropertyOptional()
  @IsOptional()
  @Matches(ID)
  track?: string;

  @ApiPropertyOptional()
  @IsOptional()
  @IsInt()
  at?: number;

  @ApiPropertyOptional()
  @IsOptional()
  @IsInt()
  by?: number;
}

export class PatchSceneDto {
  @ApiProperty({ description: 'The revision the change was made on.' })
  @IsInt()
  @Min(0)
  baseRevision!: number;

  @ApiProperty({ description: 'Made by the client; sending the same one again is harmless.' })
  @Matches(ID)
  patchId!: string;

  @ApiProperty({ example: 'exposure.put' })
  @Matches(/^[a-z]+(\.[a-z]+)*$/)
  @MaxLength(60)
  reason!: string;

  @ApiProperty({ type: [PatchOpDto] })
  @IsArray()
  @ArrayMaxSize(MAX_OPS_PER_PATCH)
  @ValidateNested({ each: true })
  @Type(() => PatchOpDto)
  ops!: PatchOpDto[];
}

export class NewSceneDto {
  @ApiPropertyOptional({ description: 'The recording’s file name when it is not given.' })
  @IsOptional()
  @IsString()
  @Length(1, 200)
  title?: string;

  @ApiProperty({ description: 'The line as it is spoken.' })
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

  @ApiPropertyOptional({ enum: ['en', 'fr'], default: 'en' })
  @IsOptional()
  @IsIn(['en', 'fr'])
  language?: 'en' | 'fr';
}

export class CopySceneDto {
  @ApiProperty()
  @IsString()
  @Length(1, 200)
  title!: string;

  @ApiProperty({ type: Object, description: 'The whole scene document.' })
  @IsObject()
  document!: Record<string, unknown>;
}

export class ReadClipDto {
  @ApiProperty()
  @Matches(ID)
  clipId!: string;
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
