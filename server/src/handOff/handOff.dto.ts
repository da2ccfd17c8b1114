/** What a hand-off asks for. */
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { SPRITE_LIMITS } from '@zest-jaw/engine/hand-off';
import { Type } from 'class-transformer';
import { IsBoolean, IsIn, IsInt, IsOptional, IsString, Matches, Max, MaxLength, Min, ValidateNested } from 'class-validator';
import { ID } from '../documents/patch.dto.js';

export const HAND_OFFS = ['sheet', 'shots', 'sprites', 'bundle'] as const;
export type HandOffKind = (typeof HAND_OFFS)[number];

class CountingDto {
  @ApiProperty({ enum: ['0', '1', 'scene'] })
  @IsIn(['0', '1', 'scene'])
  from!: '0' | '1' | 'scene';

  @ApiProperty({ enum: ['frames', 'seconds', 'timecode'] })
  @IsIn(['frames', 'seconds', 'timecode'])
  unit!: 'frames' | 'seconds' | 'timecode';

  @ApiProperty({ description: 'Drop-frame timecode, where the rate has it.' })
  @IsBoolean()
  drop!: boolean;
}

export class HandOffDto {
  @ApiProperty({ enum: HAND_OFFS })
  @IsIn(HAND_OFFS)
  kind!: HandOffKind;

  @ApiPropertyOptional({ enum: ['A4', 'Letter'], description: 'Of a sheet; A4 when left out.' })
  @IsOptional()
  @IsIn(['A4', 'Letter'])
  paper?: 'A4' | 'Letter';

  @ApiPropertyOptional({ type: CountingDto, description: 'Of a sheet; as the scene counts when left out.' })
  @IsOptional()
  @ValidateNested()
  @Type(() => CountingDto)
  counting?: CountingDto;

  @ApiPropertyOptional({ description: 'The date as it is to be printed on a sheet.' })
  @IsOptional()
  @IsString()
  @MaxLength(60)
  date?: string;

  @ApiPropertyOptional({ description: 'Of a shooting list: the lane.' })
  @IsOptional()
  @Matches(ID)
  trackId?: string;

  @ApiPropertyOptional({ enum: [1, 2], description: 'Of a shooting list: a camera on ones, or on twos.' })
  @IsOptional()
  @IsIn([1, 2])
  cameraOn?: 1 | 2;

  @ApiPropertyOptional({ description: 'Of sprites: the chart.' })
  @IsOptional()
  @Matches(ID)
  chartId?: string;

  @ApiPropertyOptional({ description: 'Of sprites: pixels that the chart’s square is wide; 256 when left out.' })
  @IsOptional()
  @IsInt()
  @Min(SPRITE_LIMITS.least)
  @Max(SPRITE_LIMITS.most)
  cell?: number;

  @ApiPropertyOptional({ description: 'Of sprites: sides that are powers of two.' })
  @IsOptional()
  @IsBoolean()
  powersOfTwo?: boolean;
}
