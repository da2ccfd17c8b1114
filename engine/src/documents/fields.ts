/** The fields that documents are made of, each with what it may be in words: `“…” is -3. It must be a whole number from 0 to 54000.` */
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateBy,
  ValidateIf,
  ValidateNested,
} from 'class-validator';

type Class = new () => object;

/** Several decorators of a property as one. */
const all =
  (...decorators: readonly PropertyDecorator[]): PropertyDecorator =>
  (target, key) =>
    decorators.forEach((decorate) => decorate(target, key));

export function Whole(least: number, most: number): PropertyDecorator {
  const says = { message: `a whole number from ${least} to ${most}` };
  return all(IsInt(says), Min(least, says), Max(most, says));
}

/** A finite number, fractions allowed. */
export function Amount(least: number, most: number): PropertyDecorator {
  const says = { message: `a number from ${least} to ${most}` };
  return all(IsNumber({ allowNaN: false, allowInfinity: false }, says), Min(least, says), Max(most, says));
}

export function Text(least: number, most: number): PropertyDecorator {
  const says = { message: `a text of ${least} to ${most} letters` };
  return all(IsString(says), Length(least, most, says));
}

/** What names a record, here or elsewhere. */
export const Id = (): PropertyDecorator => Text(1, 120);

/** A list of names. */
export function Ids(most: number, letters = 120): PropertyDecorator {
  const says = { message: `a list of at most ${most} texts of 1 to ${letters} letters` };
  return all(IsArray(says), ArrayMaxSize(most, says), IsString({ ...says, each: true }), Length(1, letters, { ...says, each: true }));
}

/** A list of finite numbers. */
export function Amounts(least: number, most: number, longest: number): PropertyDecorator {
  const says = { message: `a list of at most ${longest} numbers from ${least} to ${most}` };
  return all(
    IsArray(says),
    ArrayMaxSize(longest, says),
    IsNumber({ allowNaN: false, allowInfinity: false }, { ...says, each: true }),
    Min(least, { ...says, each: true }),
    Max(most, { ...says, each: true }),
  );
}

/** Closed rings of points, x and y one after the other. */
export function Rings(most: number): PropertyDecorator {
  const isPlace = (value: unknown): boolean => typeof value === 'number' && Math.abs(value) <= 1000;
  const isRing = (ring: unknown): boolean => Array.isArray(ring) && ring.length >= 6 && ring.length % 2 === 0 && ring.every(isPlace);
  return ValidateBy(
    {
      name: 'rings',
      validator: { validate: (value: unknown) => Array.isArray(value) && value.length > 0 && value.length <= most && value.every(isRing) },
    },
    { message: `a list of 1 to ${most} rings, each of three points or more, from -1000 to 1000` },
  );
}

/** Lines of points, x and y one after the other. */
export function Strokes(most: number, numbers: number): PropertyDecorator {
  const isPlace = (value: unknown): boolean => typeof value === 'number' && Math.abs(value) <= 1000;
  const isStroke = (stroke: unknown): boolean =>
    Array.isArray(stroke) && stroke.length >= 2 && stroke.length <= numbers && stroke.length % 2 === 0 && stroke.every(isPlace);
  return ValidateBy(
    {
      name: 'strokes',
      validator: { validate: (value: unknown) => Array.isArray(value) && value.length <= most && value.every(isStroke) },
    },
    { message: `a list of at most ${most} strokes, each of 1 to ${numbers / 2} points, from -1000 to 1000` },
  );
}

export const Flag = (): PropertyDecorator => IsBoolean({ message: 'true or false' });

export const OneOf = (values: readonly (string | number)[]): PropertyDecorator => IsIn([...values], { message: values.join(', ') });

/** A list of some of them. */
export function SomeOf(values: readonly string[]): PropertyDecorator {
  const says = { message: `a list of some of ${values.join(', ')}` };
  return all(IsArray(says), ArrayMaxSize(values.length, says), IsIn([...values], { ...says, each: true }));
}

/** A SHA-256 in hex. */
export const Hash = (): PropertyDecorator => Matches(/^[0-9a-f]{64}$/, { message: 'the hash of a picture or a recording' });

export const Colour = (): PropertyDecorator => Matches(/^#[0-9a-f]{6}$/i, { message: 'a colour such as #c8435a' });

/** It may be missing. What is missing is not null. */
export const Maybe = (): PropertyDecorator => ValidateIf((_, value) => value !== undefined);

export const OrNull = (): PropertyDecorator => ValidateIf((_, value) => value !== null);

/** A record in a record. */
export const Nested = (shape: () => Class): PropertyDecorator =>
  all(IsObject({ message: 'a record' }), Type(shape), ValidateNested({ message: 'a record' }));

/** A list of records. */
export function ListOf(shape: () => Class, most: number, least = 0): PropertyDecorator {
  const says = { message: `a list of ${least === 0 ? 'at most' : `${least} to`} ${most} records` };
  return all(
    IsArray(says),
    ArrayMaxSize(most, says),
    IsObject({ ...says, each: true }),
    Type(shape),
    ValidateNested({ ...says, each: true }),
  );
}

/** One of several kinds of record, told by its `kind`. */
export function Kinds(kinds: Readonly<Record<string, Class>>, options: { readonly listOf?: number } = {}): PropertyDecorator {
  const names = Object.keys(kinds);
  const says = {
    message:
      options.listOf === undefined
        ? `a record of the kind ${names.join(' or ')}`
        : `a list of at most ${options.listOf} records, each of the kind ${names.join(' or ')}`,
  };
  const each = options.listOf !== undefined;
  const type = Type(() => Object, {
    keepDiscriminatorProperty: true,
    discriminator: { property: 'kind', subTypes: names.map((name) => ({ name, value: kinds[name]! })) },
  });
  return all(
    ...(options.listOf === undefined ? [] : [IsArray(says), ArrayMaxSize(options.listOf, says)]),
    IsObject({ ...says, each }),
    type,
    ValidateNested({ ...says, each }),
  );
}
