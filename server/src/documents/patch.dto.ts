/** The body of a change of any document. */
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { MAX_SCENE_FRAMES, REASONS, type Reason } from '@zest-jaw/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { MAX_OPS_PER_PATCH } from '../scenes/limits.js';

export const ID = /^[\w.:-]{1,80}$/;

/** More changes than anybody makes in a life. */
const MOST_REVISIONS = 2 ** 31;

export class PatchOpDto {
  @ApiProperty({ enum: ['put', 'shift'] })
  @IsIn(['put', 'shift'])
  op!: 'put' | 'shift';

  @ApiProperty()
  @Matches(/^[a-zA-Z]{1,30}$/)
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
  @Min(0)
  @Max(MAX_SCENE_FRAMES)
  at?: number;

  @ApiPropertyOptional()
  @IsOptional()
  @IsInt()
  @Min(-MAX_SCENE_FRAMES)
  @Max(MAX_SCENE_FRAMES)
  by?: number;
}

export class PatchDocumentDto {
  @ApiProperty({ description: 'The revision the change was made on.' })
  @IsInt()
  @Min(0)
  @Max(MOST_REVISIONS)
  baseRevision!: number;

  @ApiProperty({ description: 'Made by the client; sending the same one again is harmless.' })
  @Matches(ID)
  patchId!: string;

  @ApiProperty({ enum: Object.keys(REASONS), example: 'exposure.put' })
  @IsIn(Object.keys(REASONS), { message: 'This change has a reason that is not known here. Reload the page: the application was updated.' })
  reason!: Reason;

  @ApiPropertyOptional({ description: 'The step of undo it is a part of.' })
  @IsOptional()
  @Matches(ID)
  step?: string;

  @ApiPropertyOptional({ description: 'The step it takes back.' })
  @IsOptional()
  @Matches(ID)
  undoes?: string;

  @ApiPropertyOptional({ description: 'The taken back step it does again.' })
  @IsOptional()
  @Matches(ID)
  redoes?: string;

  @ApiProperty({ type: [PatchOpDto] })
  @IsArray()
  @ArrayMaxSize(MAX_OPS_PER_PATCH)
  @ValidateNested({ each: true })
  @Type(() => PatchOpDto)
  ops!: PatchOpDto[];
}

export class CopyDocumentDto {
  @ApiProperty()
  @IsString()
  @Length(1, 200)
  title!: string;

  @ApiProperty({ type: Object, description: 'The whole document.' })
  @IsObject()
  document!: Record<string, unknown>;
}
