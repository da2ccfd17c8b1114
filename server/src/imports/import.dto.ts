/** The bodies of the import requests. */
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { GRID_LIMITS, PICTURE_FILE_LIMITS, type ImportRequest } from '@zest-jaw/core';
import { Transform, Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsIn, IsInt, IsOptional, Max, Min } from 'class-validator';

export class ImportDto implements ImportRequest {
  @ApiProperty({ enum: ['whole', 'single', 'pages', 'figures', 'grid'], description: 'How a picture with many mouths on it is taken.' })
  @IsIn(['whole', 'single', 'pages', 'figures', 'grid'])
  cut!: ImportRequest['cut'];

  @ApiPropertyOptional()
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(GRID_LIMITS.most)
  columns?: number;

  @ApiPropertyOptional()
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(GRID_LIMITS.most)
  rows?: number;

  @ApiPropertyOptional({ description: 'How often layers inside layers are opened; by their names when it is not given.' })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(11)
  level?: number;

  @ApiProperty({ description: 'Paper around a mouth becomes transparent.' })
  @Transform(({ value }) => value === true || value === 'true')
  @IsBoolean()
  clearPaper!: boolean;
}

export class AcceptImportDto {
  @ApiProperty({ type: [Number], description: 'Which of the found mouths are taken.' })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(PICTURE_FILE_LIMITS.mouths)
  @IsInt({ each: true })
  @Min(0, { each: true })
  mouths!: number[];
}
