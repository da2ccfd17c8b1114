/** What is asked for of several scenes at once. */
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { FILE_KINDS, PICTURE_LIMITS, type FileKindId } from '@zest-jaw/core';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { ID } from '../documents/patch.dto.js';

/** Everything that can be wanted: a kind of file for each scene, or one bundle of all. */
const WANTED = [...FILE_KINDS.map(({ id }) => id), 'bundle'] as const;

export class SeveralDto {
  @ApiProperty({ type: [String], description: 'The scenes, in the order they are numbered.' })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(5000)
  @ArrayUnique()
  @Matches(ID, { each: true })
  sceneIds!: string[];

  @ApiProperty({ enum: WANTED, isArray: true })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayUnique()
  @IsIn(WANTED, { each: true })
  wanted!: (FileKindId | 'bundle')[];

  @ApiProperty({ description: 'What files are called: {production}, {scene}, {speaker}, {what}, {number}, and / for a folder.' })
  @IsString()
  @MaxLength(200)
  pattern!: string;

  @ApiPropertyOptional({ enum: ['A4', 'Letter'] })
  @IsOptional()
  @IsIn(['A4', 'Letter'])
  paper?: 'A4' | 'Letter';

  @ApiPropertyOptional({ description: 'The date as it is printed on sheets.' })
  @IsOptional()
  @IsString()
  @MaxLength(60)
  date?: string;

  @ApiPropertyOptional({ description: 'Of pictures, in pixels; 1920 when left out.' })
  @IsOptional()
  @IsInt()
  @Min(PICTURE_LIMITS.least)
  @Max(PICTURE_LIMITS.most)
  width?: number;

  @ApiPropertyOptional({ description: 'Of pictures, in pixels; 1080 when left out.' })
  @IsOptional()
  @IsInt()
  @Min(PICTURE_LIMITS.least)
  @Max(PICTURE_LIMITS.most)
  height?: number;

  @ApiPropertyOptional({ description: 'Pictures with the head behind the mouth.' })
  @IsOptional()
  @IsBoolean()
  withHead?: boolean;
}
