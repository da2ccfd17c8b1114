/** The bodies of the chart requests. */
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { PART_LIMITS, STARTER_SIZES, STARTER_STYLES, type NewPartOfFace, type StarterSize } from '@zest-jaw/core';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsIn, IsObject, IsOptional, IsString, Length, Matches } from 'class-validator';
import { ID } from '../documents/patch.dto.js';

export class NewChartDto {
  @ApiProperty({ example: 'Bramble, three-quarter' })
  @IsString()
  @Length(1, 80)
  name!: string;

  @ApiPropertyOptional({ description: 'Whose mouths these are; a new character when it is not given.' })
  @IsOptional()
  @Matches(ID)
  characterId?: string;

  @ApiPropertyOptional({ description: 'What a new character is called.' })
  @IsOptional()
  @IsString()
  @Length(1, 80)
  characterName?: string;

  @ApiPropertyOptional({ description: 'Of a new character; the first one when it is not given.' })
  @IsOptional()
  @Matches(ID)
  productionId?: string;

  @ApiPropertyOptional({ enum: [0, ...STARTER_SIZES], default: 13, description: '0 for an empty one: a resting mouth to be replaced.' })
  @IsOptional()
  @IsIn([0, ...STARTER_SIZES])
  size?: StarterSize | 0;

  @ApiPropertyOptional({ enum: Object.keys(STARTER_STYLES), default: 'brush' })
  @IsOptional()
  @IsIn(Object.keys(STARTER_STYLES))
  style?: string;

  @ApiPropertyOptional({ description: 'A chart to begin from instead of a starter.' })
  @IsOptional()
  @Matches(ID)
  copyOf?: string;
}

export class ReplaceDrawingDto {
  @ApiProperty()
  @Matches(ID)
  drawing!: string;

  @ApiProperty({ description: 'The drawing that takes its place.' })
  @Matches(ID)
  by!: string;
}

export class NewPartsDto {
  @ApiPropertyOptional({ description: 'The name of an empty part; brows, lids and eyes to begin with when it is not given.' })
  @IsOptional()
  @IsString()
  @Length(1, PART_LIMITS.nameLetters)
  name?: string;

  @ApiPropertyOptional({ description: 'Parts with their drawings, as they were found in a layered file.' })
  @IsOptional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(PART_LIMITS.most)
  @IsObject({ each: true })
  parts?: NewPartOfFace[];
}
