/**
 * The shot document, version 1: one schema for validation (Ajv) and for types (TypeBox).
 * Every property is required: documents are complete, with defaults written out (see `defaults.ts`).
 * People read about it in `docs/shot-document.md`.
 */
import { Type, type Static, type TSchema } from '@sinclair/typebox';

const closed = { additionalProperties: false } as const;

/** Ids are keys of maps, so that JSON pointers stay stable. */
export const ID_PATTERN = '^[A-Za-z0-9_.-]+$';
const Id = Type.String({ pattern: ID_PATTERN, maxLength: 100 });
const MaybeId = Type.Union([Id, Type.Null()]);
const Name = Type.String({ maxLength: 200 });
const mapOf = <T extends TSchema>(item: T) => Type.Record(Type.String({ pattern: ID_PATTERN }), item, closed);

const number = (minimum: number, maximum: number, description: string) =>
  Type.Number({ minimum, maximum, description });
const whole = (minimum: number, maximum: number, description: string) =>
  Type.Integer({ minimum, maximum, description });
const triple = (minimum: number, maximum: number, description: string) =>
  Type.Array(Type.Number({ minimum, maximum }), { minItems: 3, maxItems: 3, description });

/** A path below the shot folder, with forward slashes, without `..`, drive or leading slash. */
export const FILE_PATTERN = '^(?!/)(?!.*(^|/)\\.\\.?(/|$))(?!.*//)[^\\\\:\\u0000]+$';
const File = Type.String({ pattern: FILE_PATTERN, maxLength: 500 });

const Matrix = Type.Array(Type.Number({ minimum: -1e9, maximum: 1e9 }), {
  minItems: 16,
  maxItems: 16,
  description: 'affine transform to the world, column-major 4×4, metres',
});

const Camera = Type.Object(
  {
    name: Name,
    transform: Matrix,
    fieldOfView: number(0.1, 170, 'vertical angle of view, degrees'),
  },
  closed,
);

const MeshRef = Type.Object(
  {
    file: File,
    mesh: whole(0, 1e6, 'which mesh of the file, from 0'),
    primitive: whole(0, 1e6, 'which part of that mesh, from 0'),
  },
  closed,
);

const TextureRef = Type.Object(
  {
    file: File,
    colourSpace: Type.Union([Type.Literal('srgb'), Type.Literal('linear')]),
  },
  closed,
);

const Material = Type.Object(
  {
    name: Name,
    baseColour: triple(0, 1, 'linear Rec.709; the filter of light that goes through, for glass'),
    baseColourTexture: MaybeId,
    metallic: number(0, 1, 'share of metal'),
    roughness: number(0, 1, 'perceptual; GGX alpha is its square; below 0.03 mirrors are sharp'),
    ior: number(1, 4, 'index of refraction of the inside'),
    transmission: number(0, 1, 'share of the light below the surface that goes through'),
    attenuationColour: triple(0, 1, 'colour that white light has after the attenuation distance'),
    attenuationDistance: Type.Union([number(1e-6, 1e9, 'metres'), Type.Null()], {
      description: 'null: the inside absorbs nothing',
    }),
    emission: triple(0, 1e9, 'emitted radiance, W/(sr m²) per channel'),
  },
  closed,
);

const SceneObject = Type.Object(
  {
    name: Name,
    mesh: Id,
    material: Id,
    transform: Matrix,
    priority: whole(-100, 100, 'where closed glass bodies overlap, the higher one is there'),
    hidden: Type.Boolean(),
  },
  closed,
);

const RectangleLight = Type.Object(
  {
    kind: Type.Literal('rectangle'),
    name: Name,
    transform: Matrix,
    width: number(1e-6, 1e6, 'metres, along local X'),
    height: number(1e-6, 1e6, 'metres, along local Y'),
    radiance: triple(0, 1e9, 'W/(sr m²) per channel, from the side that local −Z leaves'),
  },
  closed,
);

const Environment = Type.Object({ radiance: triple(0, 1e9, 'W/(sr m²) per channel, from everywhere') }, closed);

const Limits = Type.Object(
  {
    diffuse: whole(0, 64, 'scattering events; 1 is direct light only, 0 emission only'),
    specular: whole(0, 64, 'reflections, internal ones too'),
    transmission: whole(0, 64, 'glass faces passed'),
    overall: whole(0, 200, 'events of all kinds together'),
  },
  closed,
);

const ExtraSamples = Type.Object(
  {
    light: whole(1, 256, 'samples of every light at the first hit; 1 means none extra'),
    diffuse: whole(1, 256, 'diffuse directions at the first hit'),
    specular: whole(1, 256, 'reflections at the first hit'),
    transmission: whole(1, 256, 'transmissions at the first hit'),
  },
  closed,
);

const PixelFilter = Type.Object(
  {
    kind: Type.Union([Type.Literal('box'), Type.Literal('triangle'), Type.Literal('gaussian')]),
    width: number(0.1, 8, 'full width, pixels'),
  },
  closed,
);

const Sheet = Type.Object(
  {
    width: whole(1, 16384, 'pixels'),
    height: whole(1, 16384, 'pixels'),
    samples: Type.Integer({ minimum: 4, maximum: 65536, multipleOf: 4, description: 'per pixel, in fours' }),
    extraSamples: ExtraSamples,
    limits: Limits,
    filter: PixelFilter,
    roulette: Type.Boolean({ description: 'weak paths may end early, at no bias' }),
    seed: whole(0, 4294967295, 'another seed gives other grain'),
    grainTarget: number(0.1, 50, 'visible grain that is good enough, display steps of 255 after the lift'),
  },
  closed,
);

export const ShotDocumentSchema = Type.Object(
  {
    schema: Type.Literal('dusting.shot/1'),
    code: Type.String({ pattern: '^[A-Za-z0-9_-]+$', minLength: 1, maxLength: 40 }),
    name: Name,
    frame: whole(-1e6, 1e7, 'frame number'),
    camera: Id,
    cameras: mapOf(Camera),
    meshes: mapOf(MeshRef),
    textures: mapOf(TextureRef),
    materials: mapOf(Material),
    objects: mapOf(SceneObject),
    lights: mapOf(RectangleLight),
    environment: Environment,
    sheets: Type.Object({ preview: Sheet, final: Sheet }, closed),
  },
  { ...closed, $id: 'dusting.shot/1' },
);

export type ShotDocument = Static<typeof ShotDocumentSchema>;
export type Sheet = Static<typeof Sheet>;
export type SheetName = keyof ShotDocument['sheets'];
export type MaterialSpec = Static<typeof Material>;
export type ObjectSpec = Static<typeof SceneObject>;
export type RectangleLightSpec = Static<typeof RectangleLight>;
export type CameraSpec = Static<typeof Camera>;
export type LimitKind = keyof ShotDocument['sheets']['preview']['limits'];
export type ExtraKind = keyof ShotDocument['sheets']['preview']['extraSamples'];
export type FilterKind = Sheet['filter']['kind'];
