/** The bodies of the production requests. Whatever is not declared here is refused. */
import { ApiProperty } from '@nestjs/swagger';
import { ACCENTS, FEEL_LIMITS, PRONUNCIATION_LIMITS, type FullRules } from '@zest-jaw/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsObject, IsString, Length, ValidateNested } from 'class-validator';

export class ProductionDto {
  @ApiProperty({ example: 'The tide-pool post office' })
  @IsString()
  @Length(1, 80)
  name!: string;
}

export class PronunciationDto {
  @ApiProperty({ example: 'bramble' })
  @IsString()
  @Length(1, PRONUNCIATION_LIMITS.letters)
  word!: string;

  @ApiProperty({ description: 'IPA, ARPAbet or a respelling.', example: 'BRAM-bul' })
  @IsString()
  @Length(1, 200)
  said!: string;
}

export class PronunciationsDto {
  @ApiProperty({ type: [PronunciationDto] })
  @IsArray()
  @ArrayMaxSize(PRONUNCIATION_LIMITS.entries)
  @ValidateNested({ each: true })
  @Type(() => PronunciationDto)
  entries!: PronunciationDto[];
}

export class FeelDto {
  @ApiProperty({ example: 'Night shift' })
  @IsString()
  @Length(1, FEEL_LIMITS.letters)
  name!: string;

  @ApiProperty({ description: 'What it does to the face.' })
  @IsString()
  @Length(0, 200)
  look!: string;

  @ApiProperty({ description: 'The rules, as docs/formats.md has them.' })
  @IsObject()
  rules!: FullRules;
}

export class FeelsDto {
  @ApiProperty({ type: [FeelDto] })
  @IsArray()
  @ArrayMaxSize(FEEL_LIMITS.feels)
  @ValidateNested({ each: true })
  @Type(() => FeelDto)
  feels!: FeelDto[];
}

export class AccentDto {
  @ApiProperty({ enum: ACCENTS })
  @IsIn(ACCENTS)
  base!: (typeof ACCENTS)[number];

  @ApiProperty({ description: 'r only before a vowel.' })
  @IsBoolean()
  nonRhotic!: boolean;

  @ApiProperty({ description: 'h may be left out.' })
  @IsBoolean()
  droppedH!: boolean;

  @ApiProperty({ description: 't between vowels may be tapped.' })
  @IsBoolean()
  flappedT!: boolean;

  @ApiProperty({ description: 'th as f or v.' })
  @IsBoolean()
  thFronting!: boolean;
}

/** A production keeps at most this many maps. */
const MOST_MAPS = 40;

export class MapsDto {
  @ApiProperty({ type: [Object], description: 'Maps of sounds, as a chart gives them out; see docs/formats.md.' })
  @IsArray()
  @ArrayMaxSize(MOST_MAPS)
  @IsObject({ each: true })
  maps!: object[];
}
