/** What a shoot sends. */
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { IsIn, IsObject, IsOptional, Matches } from 'class-validator';
import { ID } from '../documents/patch.dto.js';

/** A picture of the camera: more than forty megapixels as JPEG. */
export const MAX_SHOT_BYTES = 24 * 1_048_576;

export class ShootingDto {
  @ApiProperty({ description: 'How far a lane is shot: `at`, `shot`, `again`; see docs/formats.md.' })
  @IsObject()
  state!: object;
}

export class ShotPictureDto {
  @ApiPropertyOptional({ description: 'The chart of the mouth that was asked for; none where no mouth is on.' })
  @IsOptional()
  @Matches(ID)
  chartId?: string;

  @ApiPropertyOptional({ description: 'The mouth that was asked for.' })
  @IsOptional()
  @Matches(ID)
  drawing?: string;

  @ApiPropertyOptional({ enum: ['yes', 'no'], description: 'Taken by the practice camera.' })
  @IsOptional()
  @IsIn(['yes', 'no'])
  practice?: 'yes' | 'no';
}
