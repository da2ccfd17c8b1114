/** The bodies of the requests about passes and notes. Whatever is not declared here is refused. */
import { ApiProperty } from '@nestjs/swagger';
import { MAX_SCENE_FRAMES, REMARK_LIMITS } from '@zest-jaw/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsBoolean, IsInt, IsObject, IsOptional, IsString, Length, Max, Min, ValidateNested } from 'class-validator';

const MOST = 1_000_000;

export class CountsDto {
  @ApiProperty({ description: 'Open notes that everybody sees.' })
  @IsInt()
  @Min(0)
  @Max(MOST)
  heavy!: number;

  @ApiProperty({ description: 'Open notes that are seen.' })
  @IsInt()
  @Min(0)
  @Max(MOST)
  seen!: number;

  @ApiProperty({ description: 'Open notes to know.' })
  @IsInt()
  @Min(0)
  @Max(MOST)
  small!: number;

  @ApiProperty({ description: 'Remarks of people that are not seen to.' })
  @IsInt()
  @Min(0)
  @Max(MOST)
  remarks!: number;
}

export class NotesDto extends CountsDto {
  @ApiProperty({ description: 'The revision that was checked.' })
  @IsInt()
  @Min(0)
  revision!: number;
}

export class NewPassDto {
  @ApiProperty({ example: 'Before the second key' })
  @IsString()
  @Length(1, 120)
  name!: string;

  @ApiProperty({ description: 'What it is for, a line.' })
  @IsString()
  @Length(0, 500)
  why!: string;

  @ApiProperty({ description: 'Kept before something large, not by a hand.' })
  @IsBoolean()
  byItself!: boolean;

  @ApiProperty({ required: false, type: CountsDto, description: 'What the checker found of it.' })
  @IsOptional()
  @ValidateNested()
  @Type(() => CountsDto)
  notes?: CountsDto;

  @ApiProperty({ required: false, description: 'The revision of the scene that is kept; the newest without it.' })
  @IsOptional()
  @IsInt()
  @Min(0)
  revision?: number;

  @ApiProperty({
    required: false,
    type: Object,
    description: 'A whole document other than the scene’s own, such as one that no longer fits it.',
  })
  @IsOptional()
  @IsObject()
  document?: Record<string, unknown>;
}

export class ChangePassDto {
  @ApiProperty({ description: 'Removed, or brought back.' })
  @IsBoolean()
  removed!: boolean;
}

export class LimitsDto {
  @ApiProperty({ type: Object, description: 'What the checker allows, by name; what is left out is as the feel has it.' })
  @IsObject()
  limits!: Record<string, unknown>;
}

export class RemarkDto {
  @ApiProperty({ description: 'The frame it is about, counted from 0.' })
  @IsInt()
  @Min(0)
  @Max(MAX_SCENE_FRAMES)
  frame!: number;

  @ApiProperty({ description: 'Who says it.', example: 'The director' })
  @IsString()
  @Length(1, REMARK_LIMITS.name)
  by!: string;

  @ApiProperty()
  @IsString()
  @Length(0, REMARK_LIMITS.letters)
  text!: string;

  @ApiProperty({ required: false, type: Object, description: 'Strokes over the picture: lists of x and y in hundredths of it, in turn.' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(REMARK_LIMITS.strokes)
  strokes?: number[][];
}
