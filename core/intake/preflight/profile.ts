/**
 * What a show expects of its shots: `dusting.preflight/1`, plain JSON that people edit, keep and hand round.
 * Described in `docs/intake.md`.
 */
import { Type, type Static } from '@sinclair/typebox';
import { DIALS } from '../../document/dials.ts';
import { checkSchema } from '../../document/schema-check.ts';
import { compilePattern, ours } from '../../data/pattern.ts';
import { parseJson } from '../../document/json-text.ts';
import { InvalidInput, showValue } from '../../document/problem.ts';

const closed = { additionalProperties: false } as const;
const orNone = <T extends ReturnType<typeof Type.Number> | ReturnType<typeof Type.String>>(type: T) =>
  Type.Union([type, Type.Null()]);
const figure = (description: string) => Type.Union([Type.Number(), Type.Null()], { description });

const Threshold = Type.Object(
  {
    caution: figure('from here on a caution; null: never'),
    stop: figure('from here on a stop; null: never'),
  },
  closed,
);

export const ProfileSchema = Type.Object(
  {
    schema: Type.Literal('dusting.preflight/1'),
    name: Type.String({ maxLength: 200 }),
    /** Null: whatever the shot has is right. */
    frameRate: orNone(Type.Number({ exclusiveMinimum: 0 })),
    firstFrame: orNone(Type.Number()),
    lastFrame: orNone(Type.Number()),
    width: orNone(Type.Number({ minimum: 1 })),
    height: orNone(Type.Number({ minimum: 1 })),
    pixelAspect: orNone(Type.Number({ exclusiveMinimum: 0 })),
    cameras: orNone(Type.Number({ minimum: 0 })),
    viewTransform: orNone(Type.String({ maxLength: 200 })),
    metresPerUnit: orNone(Type.Number({ exclusiveMinimum: 0 })),
    /** Name of the renderer that the shot is for. */
    renderer: orNone(Type.String({ maxLength: 200 })),
    /** Extensions that may be used. */
    extensions: Type.Union([Type.Array(Type.String({ maxLength: 200 }), { maxItems: 1000 }), Type.Null()]),
    /** What the final sheet starts from, by dial: `{ "/samples": 256, "/limits/transmission": 16 }`. */
    settings: Type.Record(Type.String({ pattern: '^(/[A-Za-z]+){1,2}$' }), Type.Unknown(), { maxProperties: 100 }),
    /** What its pictures are rendered with elsewhere, by that renderer's names: `{ "camera samples": 64 }`. */
    sampling: Type.Record(Type.String({ maxLength: 100 }), Type.Number(), { maxProperties: 100 }),
    /** Folders outside the shot that files may come from. */
    roots: Type.Array(Type.String({ maxLength: 1000 }), { maxItems: 100 }),
    /** Regular expressions of names that nobody chose. */
    placeholderNames: Type.Array(Type.String({ maxLength: 500 }), { maxItems: 100 }),
    thresholds: Type.Record(Type.String({ pattern: '^[a-z-]+$' }), Threshold),
    /** Ids of checks that this show does without. */
    off: Type.Array(Type.String({ pattern: '^[a-z-]+$' }), { maxItems: 200 }),
  },
  { ...closed, $id: 'dusting.preflight/1' },
);

export type Profile = Static<typeof ProfileSchema>;
export type Threshold = Static<typeof Threshold>;

const PLACEHOLDERS = ours([
  '^(mesh|object|node|group|material|light|camera|default|unnamed|untitled|new)[ _.-]?\\d*$',
  '^(cube|sphere|plane|cylinder|cone|torus|box|circle)[ _.-]?\\d*$',
  '^(copy|duplicate) of ',
  '[ _.-](copy|final|old|tmp|temp|test)\\d*$',
]);

export const defaultProfile = (): Profile => ({
  schema: 'dusting.preflight/1',
  name: 'No show',
  frameRate: null,
  firstFrame: null,
  lastFrame: null,
  width: null,
  height: null,
  pixelAspect: 1,
  cameras: null,
  viewTransform: null,
  metresPerUnit: null,
  renderer: null,
  extensions: null,
  settings: {},
  sampling: {},
  roots: [],
  placeholderNames: [...PLACEHOLDERS],
  thresholds: {},
  off: [],
});

/**
 * Text of a profile; what it leaves out is as without a show.
 * @throws InvalidInput naming the place
 */
export function parseProfile(text: string, what: string): Profile {
  const value = parseJson(text, what);
  const profile = value && typeof value === 'object' ? { ...defaultProfile(), ...value } : value;
  checkSchema(ProfileSchema, profile, what);
  const checked = profile as Profile;
  checked.placeholderNames.forEach((pattern, i) => {
    try {
      compilePattern(pattern, { ignoreCase: true });
    } catch {
      throw new InvalidInput(what, [
        {
          path: `/placeholderNames/${i}`,
          value: showValue(pattern),
          expected: 'a regular expression without look-around and back-references',
        },
      ]);
    }
  });
  for (const pointer of Object.keys(checked.settings))
    if (!DIALS.some((dial) => dial.pointer === pointer))
      throw new InvalidInput(what, [
        {
          path: `/settings/${pointer.replaceAll('/', '~1')}`,
          value: showValue(pointer),
          expected: 'a dial of a sheet',
        },
      ]);
  return checked;
}
