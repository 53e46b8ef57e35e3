/** Building blocks of the shot document's schema: ids, numbers with unit and range, files, ray kinds. */
import { FormatRegistry, Type, type Static, type TSchema } from '@sinclair/typebox';
import { isSafePath, SAFE_PATH } from '../safe-path.ts';

export const closed = { additionalProperties: false } as const;

/**
 * Ids are keys of maps, so that JSON pointers stay stable. Names that every JavaScript object has (`constructor`) are
 * none: a map would answer for them whether they are in it or not.
 */
const unlessReserved = `^(?!(?:${Object.getOwnPropertyNames(Object.prototype).join('|')})$)`;
export const ID_PATTERN = `${unlessReserved}[A-Za-z0-9_.-]+$`;
/** Codes of shots stand in addresses and names of files. */
export const CODE_PATTERN = `${unlessReserved}[A-Za-z0-9_-]+$`;
export const Id = Type.String({ pattern: ID_PATTERN, maxLength: 100 });
export const MaybeId = Type.Union([Id, Type.Null()]);
export const Name = Type.String({ maxLength: 200 });
export const mapOf = <T extends TSchema>(item: T) => Type.Record(Type.String({ pattern: ID_PATTERN }), item, closed);

export const number = (minimum: number, maximum: number, description: string) =>
  Type.Number({ minimum, maximum, description });
export const whole = (minimum: number, maximum: number, description: string) =>
  Type.Integer({ minimum, maximum, description });
export const triple = (minimum: number, maximum: number, description: string) =>
  Type.Array(Type.Number({ minimum, maximum }), { minItems: 3, maxItems: 3, description });
export const pair = (minimum: number, maximum: number, description: string) =>
  Type.Array(Type.Number({ minimum, maximum }), { minItems: 2, maxItems: 2, description });
export const flag = (description: string) => Type.Boolean({ description });
/** A number, or null for "no such bound". */
export const numberOrNone = (minimum: number, maximum: number, description: string) =>
  Type.Union([Type.Number({ minimum, maximum }), Type.Null()], { description });
export const wholeOrNone = (minimum: number, maximum: number, description: string) =>
  Type.Union([Type.Integer({ minimum, maximum }), Type.Null()], { description });
export const choice = <const T extends string>(values: readonly T[], description: string) =>
  Type.Unsafe<T>(
    Type.Union(
      values.map((v) => Type.Literal(v)),
      { description },
    ),
  );

FormatRegistry.Set(SAFE_PATH, isSafePath);
export const File = Type.String({ format: SAFE_PATH, maxLength: 500 });

export const Matrix = Type.Array(Type.Number({ minimum: -1e9, maximum: 1e9 }), {
  minItems: 16,
  maxItems: 16,
  description: 'affine transform to the world, column-major 4×4, metres',
});

/** Which of a set of objects are meant. */
export const Link = Type.Object(
  {
    mode: choice(['all', 'only', 'except'], 'all objects, only those listed, or all but those listed'),
    objects: Type.Array(Id, { maxItems: 10000, description: 'ids of objects' }),
  },
  closed,
);
export type LinkSpec = Static<typeof Link>;

/** A value at a place of a run from 0 to 1; between stops it is interpolated. */
export const Stops = Type.Array(
  Type.Object(
    { at: number(0, 1, 'position on the gradient, 0 to 1'), colour: triple(0, 1e9, 'value there, linear Rec.709') },
    closed,
  ),
  { minItems: 1, maxItems: 64, description: 'stops of a gradient, in rising order' },
);
export type StopsSpec = Static<typeof Stops>;
