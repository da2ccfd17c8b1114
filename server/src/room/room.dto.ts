/** Bodies of what is asked of a room. */
import { ApiProperty } from '@nestjs/swagger';
import { Transform } from 'class-transformer';
import { IsString, Length } from 'class-validator';

/** Without what surrounds it; the rules say what else is wrong. */
const trimmed = ({ value }: { value: unknown }): unknown => (typeof value === 'string' ? value.trim() : value);

const NAME_LENGTH = { message: 'The name must have 1 to 40 letters' };
/** Longer than any that can be right is not even looked at. */
const PASSPHRASE_LENGTH = { message: 'The passphrase must have 1 to 1000 letters' };

export class NameDto {
  @ApiProperty()
  @IsString()
  @Transform(trimmed)
  @Length(1, 40, NAME_LENGTH)
  name!: string;
}

export class EnterDto extends NameDto {
  @ApiProperty()
  @IsString()
  @Length(1, 1000, PASSPHRASE_LENGTH)
  passphrase!: string;
}

export class EnterByLinkDto {
  @ApiProperty()
  @IsString()
  @Length(1, 100)
  code!: string;
}

export class NewPassphraseDto {
  @ApiProperty()
  @IsString()
  @Length(1, 1000, PASSPHRASE_LENGTH)
  now!: string;

  @ApiProperty()
  @IsString()
  @Length(1, 1000, PASSPHRASE_LENGTH)
  next!: string;
}
