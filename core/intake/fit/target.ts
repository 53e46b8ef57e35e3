/**
 * What a renderer can do and how it counts: `dusting.target/1`, plain JSON that people edit, keep and hand round.
 * Whatever a target leaves out it can do as we do. Described in `docs/intake.md`.
 *
 * @example
 * const target = parseTarget('{ "schema": "dusting.target/1", "name": "Plover", "floors": false }', 'plover.json');
 */
import { Type, type Static, type TSchema } from '@sinclair/typebox';
import { DIALS } from '../../document/dials.ts';
import { parseJson } from '../../document/json-text.ts';
import { InvalidInput, showValue } from '../../document/problem.ts';
import { checkSchema } from '../../document/schema-check.ts';

const closed = { additionalProperties: false } as const;
const oneOf = <T extends string>(values: readonly T[], description: string) =>
  Type.Unsafe<T>(Type.String({ enum: [...values], description }));
const orNone = <T extends TSchema>(type: T) => Type.Union([type, Type.Null()]);

/** Parts of our surfaces that a target may be without. */
export const SURFACE_PARTS = ['transmission', 'attenuation', 'coat', 'bump', 'displacement', 'normal map', 'cut-out', 'see-through', 'emission'] as const; // prettier-ignore
export type SurfacePart = (typeof SURFACE_PARTS)[number];

export const MAP_KINDS = ['gradient', 'checker', 'noise-uv', 'noise-object', 'waves'] as const;
export const LIGHT_KINDS = ['point', 'spot', 'distant', 'rectangle', 'disc', 'mesh'] as const;
export const LIGHT_FEATURES = ['linking', 'shadow linking', 'reach', 'shadow distance', 'shadow colour', 'groups', 'no shadows'] as const; // prettier-ignore
export type LightFeature = (typeof LIGHT_FEATURES)[number];

const PER = ['shot', 'material', 'million triangles', 'megatexel', 'light'] as const;
const Work = Type.Object(
  {
    what: Type.String({ minLength: 1, maxLength: 200 }),
    seconds: Type.Number({ minimum: 0 }),
    per: oneOf(PER, 'one-off work is so long for each'),
  },
  closed,
);

const Dial = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 100, description: 'as the target calls it' }),
    /** Pointers of our dials that it stands for. */
    ours: Type.Array(Type.String({ maxLength: 60 }), { minItems: 1, maxItems: 20 }),
    /** Its value is ours, its square or its square root. */
    counts: oneOf(['samples', 'root of samples'], 'how it counts'),
    /** Names of its other dials whose value multiplies it. */
    times: Type.Array(Type.String({ maxLength: 100 }), { maxItems: 10 }),
    least: orNone(Type.Number()),
    most: orNone(Type.Number()),
  },
  closed,
);

export const TargetSchema = Type.Object(
  {
    schema: Type.Literal('dusting.target/1'),
    name: Type.String({ minLength: 1, maxLength: 200 }),
    about: Type.String({ maxLength: 2000 }),
    surfaces: Type.Object(
      { without: Type.Array(oneOf(SURFACE_PARTS, 'parts of a surface'), { maxItems: 20 }) },
      closed,
    ),
    maps: Type.Object(
      {
        /** What becomes of maps that are computed: kinds not named are computed there, too. */
        baked: Type.Array(oneOf(MAP_KINDS, 'kinds that become images'), { maxItems: 10 }),
        dropped: Type.Array(oneOf(MAP_KINDS, 'kinds that are left out'), { maxItems: 10 }),
        uvSets: orNone(Type.Integer({ minimum: 1, maximum: 8 })),
      },
      closed,
    ),
    bake: Type.Object(
      {
        preview: Type.Integer({
          minimum: 1,
          maximum: 16384,
          description: 'texels per side where nothing else is said',
        }),
        final: Type.Integer({ minimum: 1, maximum: 16384 }),
        /** A map's own size, by its id. */
        own: Type.Record(Type.String(), Type.Integer({ minimum: 1, maximum: 16384 })),
        wins: oneOf(['own', 'sheet', 'smaller'], 'which size counts where a map has one of its own'),
        most: Type.Integer({ minimum: 1, maximum: 16384 }),
      },
      closed,
    ),
    floors: Type.Boolean({ description: 'knows endless floors' }),
    sides: oneOf(['both', 'front'], 'which sides of a surface are textured'),
    lights: Type.Object(
      {
        without: Type.Array(oneOf(LIGHT_KINDS, 'kinds of lights'), { maxItems: 10 }),
        features: Type.Array(oneOf(LIGHT_FEATURES, 'what its lights do not have'), { maxItems: 20 }),
        environmentImages: Type.Boolean(),
      },
      closed,
    ),
    fog: Type.Boolean(),
    background: Type.Boolean({ description: 'the camera may see something else than what lights' }),
    motion: oneOf(['none', 'transform', 'deforming'], 'the most that may move within a frame'),
    integrator: oneOf(['all bounces', 'direct light only'], 'what light it follows'),
    precision: oneOf(['double', 'single'], 'of positions'),
    depth: Type.Object(
      {
        /** What its diffuse limit is where only direct light is wanted. */
        direct: Type.Integer({ minimum: 0, maximum: 1 }),
        /** Whether a pane of glass counts as its two faces or once. */
        glass: oneOf(['faces', 'bodies'], 'what a transmission limit counts'),
        limits: oneOf(['by kind', 'one'], 'a limit for each kind, or one for all'),
        most: Type.Integer({ minimum: 1, maximum: 10000 }),
      },
      closed,
    ),
    /** Null: all of ours. */
    dials: Type.Union([Type.Array(Dial, { maxItems: 60 }), Type.Null()]),
    memory: Type.Object(
      {
        bytes: orNone(Type.Number({ exclusiveMinimum: 0 })),
        perTriangle: Type.Number({ minimum: 0 }),
        perTexel: Type.Number({ minimum: 0 }),
      },
      closed,
    ),
    before: Type.Array(Work, { maxItems: 40, description: 'one-off work before the first frame' }),
  },
  { ...closed, $id: 'dusting.target/1' },
);

export type Target = Static<typeof TargetSchema>;
export type TargetDial = Static<typeof Dial>;

/** A renderer that can do all that we can, and counts as we do. */
export const ableTarget = (): Target => ({
  schema: 'dusting.target/1',
  name: 'Dusting',
  about: '',
  surfaces: { without: [] },
  maps: { baked: [], dropped: [], uvSets: null },
  bake: { preview: 384, final: 1536, own: {}, wins: 'own', most: 6144 },
  floors: true,
  sides: 'both',
  lights: { without: [], features: [], environmentImages: true },
  fog: true,
  background: true,
  motion: 'deforming',
  integrator: 'all bounces',
  precision: 'double',
  depth: { direct: 1, glass: 'faces', limits: 'by kind', most: 64 },
  dials: null,
  memory: { bytes: null, perTriangle: 96, perTexel: 4 },
  before: [],
});

/**
 * Text of a target; what it leaves out is as we do it.
 * @throws InvalidInput naming the place
 */
export function parseTarget(text: string, what: string): Target {
  const value = parseJson(text, what);
  const target = value && typeof value === 'object' && !Array.isArray(value) ? completed(value) : value;
  checkSchema(TargetSchema, target, what);
  const checked = target as Target;
  checked.dials?.forEach(({ ours, times }, i) => {
    const wrong = (path: string, found: string, expected: string) =>
      new InvalidInput(what, [{ path, value: showValue(found), expected }]);
    const unknown = ours.findIndex((pointer) => !DIALS.some((dial) => dial.pointer === pointer));
    if (unknown >= 0) throw wrong(`/dials/${i}/ours/${unknown}`, ours[unknown], 'the pointer of a dial of ours');
    const other = times.findIndex((name) => !checked.dials!.some((dial) => dial.name === name));
    if (other >= 0) throw wrong(`/dials/${i}/times/${other}`, times[other], 'the name of another dial of the target');
  });
  return checked;
}

/** Groups of which only some keys are said take the others as we do them. */
function completed(value: object): object {
  const able = ableTarget() as unknown as Record<string, unknown>;
  const isGroup = (one: unknown): one is object => !!one && typeof one === 'object' && !Array.isArray(one);
  const own = Object.entries(value).map(([key, said]) => [
    key,
    isGroup(said) && isGroup(able[key]) ? { ...able[key], ...said } : said,
  ]);
  return { ...able, ...(Object.fromEntries(own) as object) };
}
